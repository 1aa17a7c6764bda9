package gearing

import (
	"math"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// readSet is a set with its ratios; of each thing wanted, the ratio of its gear.
type readSet struct {
	largest float64
	wanted  []float64
	usable  bool
}

// place is a combination by the places in the lists.
type place struct{ set, final, rng, tyre int }

// shopList is what was asked, read: turns in metres, ratios bare.
type shopList struct {
	in        ChoiceIn
	sets      []readSet
	finals    []float64
	high, low []float64
	turns     []float64
	present   place
	leftOut   []string
}

func (in ChoiceIn) read(c *input.Checks) shopList {
	r := shopList{in: in, leftOut: []string{}}
	n := len(in.Sets) * len(in.Finals) * max(1, len(in.Ranges)) * len(in.Tyres)
	for _, l := range []struct {
		path string
		n    int
	}{{"sets", len(in.Sets)}, {"finals", len(in.Finals)}, {"tyres", len(in.Tyres)}} {
		if l.n == 0 {
			c.Add(l.path, "one or more", "none to choose from")
		}
	}
	if n > mostCombinations || len(in.Sets) > mostCombinations || len(in.Finals) > mostCombinations {
		c.Add("sets", "up to 10 000 combinations in all", "%d combinations", n)
		return r
	}
	r.readRatios(c)
	r.present.set = pick(c, "set", in.Sets, func(x NamedSet) string { return x.Name }, in.Present.Set)
	r.present.final = pick(c, "final", in.Finals, func(x Gear) string { return x.Name }, in.Present.Final)
	r.present.tyre = pick(c, "tyre", in.Tyres, func(x NamedTyre) string { return x.Name }, in.Present.Tyre)
	if len(in.Ranges) > 0 {
		r.present.rng = pick(c, "range", in.Ranges, func(x Case) string { return x.Name }, in.Present.Range)
	} else if in.Present.Range != "" {
		c.Add("present.range", "nothing: there are no ranges", "%q", in.Present.Range)
	}
	in.checkWanted(c)
	for i, x := range in.Sets {
		set := x.read(c, input.Index("sets", i), in.Wanted)
		if !set.usable {
			r.leftOut = append(r.leftOut, x.Name)
		}
		r.sets = append(r.sets, set)
	}
	return r
}

// pick checks that the names of a list are unlike and not empty, and finds the present one.
func pick[T any](c *input.Checks, of string, list []T, name func(T) string, present string) int {
	seen := map[string]int{}
	for i, x := range list {
		n := name(x)
		_, twice := seen[n]
		switch {
		case strings.TrimSpace(n) == "":
			c.Add(input.Index(of+"s", i)+".name", "a name", "missing")
		case twice:
			c.Add(input.Index(of+"s", i)+".name", "names that differ", "%q is there twice", n)
		default:
			seen[n] = i
		}
	}
	at, there := seen[present]
	if !there {
		c.Add("present."+of, "a name of the list", "%q is none", present)
	}
	return at
}

func (r *shopList) readRatios(c *input.Checks) {
	for i, g := range r.in.Finals {
		r.finals = append(r.finals, g.within(c, input.Index("finals", i)))
	}
	for i, x := range r.in.Ranges {
		at := input.Index("ranges", i)
		high := input.Number(c, at+".high", input.OrNumber(x.High, 1), 0.1, 100)
		r.high = append(r.high, high)
		r.low = append(r.low, input.Number(c, at+".low", input.OrNumber(x.Low, high), 0.1, 100))
	}
	if len(r.in.Ranges) == 0 {
		r.high, r.low = []float64{1}, []float64{1}
	}
	for i, t := range r.in.Tyres {
		turn, _ := t.rolling(c, input.Index("tyres", i))
		r.turns = append(r.turns, float64(turn))
	}
}

// within is a ratio of 0.1 to 100.
func (g Gear) within(c *input.Checks, path string) float64 {
	before := len(c.Fields)
	ratio, _ := g.ratio(c, path)
	if len(c.Fields) == before {
		input.Number(c, path+".ratio", ratio, 0.1, 100)
	}
	return ratio
}

func (in ChoiceIn) checkWanted(c *input.Checks) {
	if len(in.Wanted) < 1 || len(in.Wanted) > mostWanted {
		c.Add("wanted", "1 to 12 things", "%d", len(in.Wanted))
	}
	for i, w := range in.Wanted {
		at := input.Index("wanted", i)
		switch w.Kind {
		case EngineSpeedAt, SpeedAt:
			input.Positive(c, at+".road_speed", w.Road, 150)
			input.Positive(c, at+".engine_speed", w.Engine, quantity.Rotation(20000*2*math.Pi/60))
		case CrawlAtLeast:
			input.Number(c, at+".ratio", w.Ratio, 0.1, 1e5)
		case SpeedometerWithin:
			input.Number(c, at+".percent", w.Percent, 0, 100)
		default:
			c.Add(at+".kind", "engine_speed_at, speed_at, crawl_at_least, speedometer_within", "%q is none", w.Kind)
		}
	}
}

// read reads a set's gears, each longer than the one before, and finds those that are
// wanted; usable unless one of them is missing.
func (s NamedSet) read(c *input.Checks, at string, wanted []Wanted) readSet {
	if len(s.Gears) < 1 || len(s.Gears) > 24 {
		c.Add(at+".gears", "1 to 24 gears", "%d gears", len(s.Gears))
	}
	set, ratios, last := readSet{usable: true}, map[string]float64{}, 0.0
	for i, g := range s.Gears {
		path := input.Index(at+".gears", i)
		ratio := g.within(c, path)
		if i > 0 && !input.Under(ratio, last) {
			c.Add(path, "ratios falling from gear to gear", "%s follows a gear that is as long or longer", g.Name)
		}
		if _, twice := ratios[g.Name]; twice || strings.TrimSpace(g.Name) == "" {
			c.Add(path+".name", "a name of its own", "%q", g.Name)
		}
		ratios[g.Name], last = ratio, ratio
		set.largest = math.Max(set.largest, ratio)
	}
	for _, w := range wanted {
		ratio, there := ratios[w.Gear]
		if w.Gear == "" || (w.Kind != EngineSpeedAt && w.Kind != SpeedAt) {
			ratio, there = last, true
		}
		set.usable = set.usable && there
		set.wanted = append(set.wanted, ratio)
	}
	return set
}
