package gearing

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// The kinds of what is wanted.
const (
	EngineSpeedAt     = "engine_speed_at"
	SpeedAt           = "speed_at"
	CrawlAtLeast      = "crawl_at_least"
	SpeedometerWithin = "speedometer_within"
)

// NamedSet is a set of forward gears of the shop's list, ratio falling.
type NamedSet struct {
	Name  string `json:"name"`
	Gears []Gear `json:"gears"`
}

// Case is a transfer case of the list, high and low range.
type Case struct {
	Name string   `json:"name"`
	High *float64 `json:"high,omitempty"` // default 1
	Low  *float64 `json:"low,omitempty"`  // default as high
}

// NamedTyre is a tyre of the list.
type NamedTyre struct {
	Name string `json:"name"`
	Tyre
}

// Picked names one of each list.
type Picked struct {
	Set   string `json:"set"`
	Final string `json:"final"`
	Range string `json:"range,omitempty"`
	Tyre  string `json:"tyre"`
}

// Wanted is one thing that is aimed at; which fields it has depends on its kind.
type Wanted struct {
	Kind    string   `json:"kind" enum:"engine_speed_at,speed_at,crawl_at_least,speedometer_within"`
	Gear    string   `json:"gear,omitempty"`        // default the last of each set
	Road    Speed    `json:"road_speed,omitzero"`   // of engine_speed_at and speed_at
	Engine  Rotation `json:"engine_speed,omitzero"` // of engine_speed_at and speed_at
	Ratio   float64  `json:"ratio,omitempty"`       // of crawl_at_least
	Percent float64  `json:"percent,omitempty"`     // of speedometer_within
}

// ChoiceIn asks which of the shop's list comes nearest to what is wanted.
type ChoiceIn struct {
	Sets    []NamedSet  `json:"sets"`
	Finals  []Gear      `json:"finals"`
	Ranges  []Case      `json:"ranges,omitempty"`
	Tyres   []NamedTyre `json:"tyres"`
	Present Picked      `json:"present"`
	Wanted  []Wanted    `json:"wanted"`
}

// Figure is what a combination gives of one thing wanted, and by how much it misses.
type Figure struct {
	Kind    string   `json:"kind"`
	Engine  Rotation `json:"engine_speed,omitzero"`
	Road    Speed    `json:"road_speed,omitzero"`
	Ratio   float64  `json:"ratio,omitempty"`
	Percent *float64 `json:"percent,omitempty"` // shown error, 100·(shown/true − 1)
	Miss    float64  `json:"miss_percent"`
}

// Choice is one combination.
type Choice struct {
	Picked
	Score   float64  `json:"score_percent"` // its worst miss
	Sum     float64  `json:"sum_percent"`
	Figures []Figure `json:"figures"` // in the order of what is wanted
	Changes []string `json:"changes"` // set, final, range, tyre
}

// ChoiceOut is the answer.
type ChoiceOut struct {
	Best    []Choice `json:"best"`
	Present *Choice  `json:"present,omitempty"`
	Tried   int      `json:"tried"`
	LeftOut []string `json:"left_out"` // sets without a gear that is wanted
	Met     bool     `json:"met"`
	Says    string   `json:"says"`
}

const (
	mostWanted       = 12
	mostCombinations = 10000
	bestChoices      = 10
	alike            = 1e-12 // misses that differ by less are equal
)

// ChooseGears tries every combination of the list and ranks them by their worst miss,
// the sum of misses, the fewest changes, and the order of the lists.
// Source: kinematics, tried in full.
func ChooseGears(in ChoiceIn) (ChoiceOut, error) {
	var c input.Checks
	r := in.read(&c)
	if err := c.Err(); err != nil {
		return ChoiceOut{}, err
	}
	out := ChoiceOut{Best: []Choice{}, LeftOut: r.leftOut}
	tried := r.tryAll()
	out.Tried = len(tried)
	slices.SortStableFunc(tried, nearer)
	for _, t := range tried[:min(bestChoices, len(tried))] {
		out.Best = append(out.Best, r.choice(t))
	}
	if r.sets[r.present.set].usable {
		now := r.choice(r.try(r.present))
		out.Present = &now
	}
	out.conclude()
	return out, nil
}

// ChooseGearsMethod is ChooseGears as the catalogue lists it.
var ChooseGearsMethod = calculator.Define(examples, calculator.About{
	Name:    "gear-choice",
	Version: 1,
	Purpose: "which gears, final drive, ranges and tyres of a list come nearest to what is wanted",
	Formula: "miss by miss: worst, then sum, then fewest changes; shown speed by final drive and tyre against the present",
	Assumes: "the speedometer is driven before the final drive and is right at present",
	Sources: []string{"kinematics", "every combination is tried"},
}, ChooseGears)

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
		c.Add("sets", "up to 10,000 combinations in all", "%d combinations", n)
		return r
	}
	r.readRatios(c)
	names := func(path string, n int, name func(int) string, present string) int {
		return namedOnce(c, path, n, name, present)
	}
	r.present = place{
		names("sets", len(in.Sets), func(i int) string { return in.Sets[i].Name }, in.Present.Set),
		names("finals", len(in.Finals), func(i int) string { return in.Finals[i].Name }, in.Present.Final),
		0,
		names("tyres", len(in.Tyres), func(i int) string { return in.Tyres[i].Name }, in.Present.Tyre),
	}
	if len(in.Ranges) > 0 {
		r.present.rng = names(
			"ranges",
			len(in.Ranges),
			func(i int) string { return in.Ranges[i].Name },
			in.Present.Range,
		)
	} else if in.Present.Range != "" {
		c.Add("present.range", "nothing: there are no ranges", "%q", in.Present.Range)
	}
	in.checkWanted(c)
	if len(c.Fields) == 0 {
		r.lookUp()
	}
	return r
}

// presentField is where the present one of a list is named.
var presentField = map[string]string{"sets": "set", "finals": "final", "ranges": "range", "tyres": "tyre"}

// namedOnce checks that names are unlike and not empty, and finds the present one.
func namedOnce(c *input.Checks, path string, n int, name func(int) string, present string) (at int) {
	seen := map[string]bool{}
	at = -1
	for i := range n {
		switch {
		case strings.TrimSpace(name(i)) == "":
			c.Add(input.Index(path, i)+".name", "a name", "missing")
		case seen[name(i)]:
			c.Add(input.Index(path, i)+".name", "names that differ", "%q is there twice", name(i))
		}
		seen[name(i)] = true
		if name(i) == present && at < 0 {
			at = i
		}
	}
	if at < 0 {
		c.Add("present."+presentField[path], "a name of the list", "%q is none", present)
		return 0
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
	for i, s := range in.Sets {
		in.checkGears(c, input.Index("sets", i), s)
	}
}

// checkGears checks that each gear is longer than the one before.
func (in ChoiceIn) checkGears(c *input.Checks, at string, s NamedSet) {
	if len(s.Gears) < 1 || len(s.Gears) > 24 {
		c.Add(at+".gears", "1 to 24 gears", "%d gears", len(s.Gears))
	}
	before := 0.0
	seen := map[string]bool{}
	for i, g := range s.Gears {
		path := input.Index(at+".gears", i)
		ratio := g.within(c, path)
		if i > 0 && !input.Under(ratio, before) {
			c.Add(path, "ratios falling from gear to gear", "%s follows a gear that is as long or longer", g.Name)
		}
		if strings.TrimSpace(g.Name) == "" || seen[g.Name] {
			c.Add(path+".name", "a name of its own", "%q", g.Name)
		}
		seen[g.Name], before = true, ratio
	}
}

// lookUp finds in each set the gears that are wanted.
func (r *shopList) lookUp() {
	var ignored input.Checks
	for _, s := range r.in.Sets {
		set := readSet{usable: true}
		ratios := map[string]float64{}
		last := 0.0
		for i, g := range s.Gears {
			last = g.within(&ignored, input.Index("gears", i))
			ratios[g.Name], set.largest = last, math.Max(set.largest, last)
		}
		for _, w := range r.in.Wanted {
			ratio, there := ratios[w.Gear]
			if w.Gear == "" || (w.Kind != EngineSpeedAt && w.Kind != SpeedAt) {
				ratio, there = last, true
			}
			set.usable = set.usable && there
			set.wanted = append(set.wanted, ratio)
		}
		if !set.usable {
			r.leftOut = append(r.leftOut, s.Name)
		}
		r.sets = append(r.sets, set)
	}
}

// combination is one with how it misses.
type combination struct {
	at         place
	worst, sum float64
	changes    int
}

func (r shopList) tryAll() []combination {
	var all []combination
	for s, set := range r.sets {
		if !set.usable {
			continue
		}
		for f := range r.finals {
			for g := range r.high {
				for t := range r.turns {
					all = append(all, r.try(place{s, f, g, t}))
				}
			}
		}
	}
	return all
}

func (r shopList) try(at place) combination {
	t := combination{at: at}
	for i := range r.in.Wanted {
		_, miss := r.figure(at, i)
		t.worst, t.sum = math.Max(t.worst, miss), t.sum+miss
	}
	p := r.present
	for _, other := range []bool{at.set != p.set, at.final != p.final, at.rng != p.rng, at.tyre != p.tyre} {
		if other {
			t.changes++
		}
	}
	return t
}

// nearer ranks two combinations; those that are alike stay in the order of the lists.
func nearer(a, b combination) int {
	if math.Abs(a.worst-b.worst) > alike {
		return cmp.Compare(a.worst, b.worst)
	}
	if math.Abs(a.sum-b.sum) > alike {
		return cmp.Compare(a.sum, b.sum)
	}
	return cmp.Compare(a.changes, b.changes)
}

// figure is what a combination gives of one thing wanted, in SI units or bare, and its miss.
func (r shopList) figure(at place, i int) (value, miss float64) {
	w, turn, final := r.in.Wanted[i], r.turns[at.tyre], r.finals[at.final]
	overall := r.sets[at.set].wanted[i] * r.high[at.rng] * final
	switch w.Kind {
	case EngineSpeedAt:
		n := float64(w.Road.SI()) / turn * overall * 2 * math.Pi
		return n, math.Abs(n/float64(w.Engine.SI()) - 1)
	case SpeedAt:
		v := float64(w.Engine.SI()) / (2 * math.Pi) / overall * turn
		return v, math.Abs(v/float64(w.Road.SI()) - 1)
	case CrawlAtLeast:
		crawl := r.sets[at.set].largest * r.low[at.rng] * final
		return crawl, math.Max(0, 1-crawl/w.Ratio)
	}
	p := r.present
	s := turn / final / (r.turns[p.tyre] / r.finals[p.final])
	return 100 * (1/s - 1), math.Max(0, math.Abs(s-1)-w.Percent/100)
}

// choice is a combination as it is answered.
func (r shopList) choice(t combination) Choice {
	in, p := r.in, r.present
	c := Choice{Picked: Picked{Set: in.Sets[t.at.set].Name, Final: in.Finals[t.at.final].Name,
		Tyre: in.Tyres[t.at.tyre].Name}, Score: 100 * t.worst, Sum: 100 * t.sum, Changes: []string{}}
	if len(in.Ranges) > 0 {
		c.Range = in.Ranges[t.at.rng].Name
	}
	for _, x := range []struct {
		name  string
		other bool
	}{{"set", t.at.set != p.set}, {"final", t.at.final != p.final}, {"range", t.at.rng != p.rng}, {"tyre", t.at.tyre != p.tyre}} {
		if x.other {
			c.Changes = append(c.Changes, x.name)
		}
	}
	for i, w := range in.Wanted {
		value, miss := r.figure(t.at, i)
		f := Figure{Kind: w.Kind, Miss: 100 * miss}
		switch w.Kind {
		case EngineSpeedAt:
			f.Engine = quantity.Say(quantity.Rotation(value), w.Engine.Unit)
		case SpeedAt:
			f.Road = quantity.Say(quantity.Speed(value), w.Road.Unit)
		case CrawlAtLeast:
			f.Ratio = value
		default:
			f.Percent = &value
		}
		c.Figures = append(c.Figures, f)
	}
	return c
}

func (o *ChoiceOut) conclude() {
	if len(o.Best) == 0 {
		o.Says = "no set of the list has the gear that is wanted"
		return
	}
	best := o.Best[0]
	o.Met = best.Score <= 100*alike
	var parts []string
	for _, name := range []string{best.Set, best.Final, best.Range, best.Tyre} {
		if name != "" {
			parts = append(parts, name)
		}
	}
	what := strings.Join(parts, ", ")
	switch {
	case o.Met && len(best.Changes) == 0:
		o.Says = "what is in it meets all that is wanted"
	case o.Met:
		o.Says = what + ": meets all that is wanted"
	default:
		o.Says = fmt.Sprintf("nearest: %s, %.1f %% off at worst", what, best.Score)
	}
}
