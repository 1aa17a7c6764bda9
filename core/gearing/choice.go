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
	Set   string `json:"set"`   // name in the list
	Final string `json:"final"` // name in the list
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
	Sets    []NamedSet  `json:"sets"`             // gears of the list
	Finals  []Gear      `json:"finals"`           // final drives of the list
	Ranges  []Case      `json:"ranges,omitempty"` // transfer cases of the list
	Tyres   []NamedTyre `json:"tyres"`            // of the list
	Present Picked      `json:"present"`          // what is in it now
	Wanted  []Wanted    `json:"wanted"`
}

// Figure is what a combination gives of one thing wanted, and by how much it misses.
type Figure struct {
	Kind    string   `json:"kind"`
	Engine  Rotation `json:"engine_speed,omitzero"` // of engine_speed_at
	Road    Speed    `json:"road_speed,omitzero"`
	Ratio   float64  `json:"ratio,omitempty"`
	Percent *float64 `json:"percent,omitempty"` // shown error, 100·(shown/true − 1)
	Miss    float64  `json:"miss_percent"`      // by which it misses
}

// Choice is one combination.
type Choice struct {
	Picked
	Score   float64  `json:"score_percent"` // its worst miss
	Sum     float64  `json:"sum_percent"`   // of all its misses
	Figures []Figure `json:"figures"`       // in the order of what is wanted
	Changes []string `json:"changes"`       // set, final, range, tyre
}

// ChoiceOut is the answer.
type ChoiceOut struct {
	Best    []Choice `json:"best"`              // up to ten, the nearest first
	Present *Choice  `json:"present,omitempty"` // what is in it, judged alike
	Tried   int      `json:"tried"`
	LeftOut []string `json:"left_out"` // sets without a gear that is wanted
	Met     bool     `json:"met"`      // the best misses nothing
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
