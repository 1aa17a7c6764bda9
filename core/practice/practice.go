// Package practice sets up things whose truth only it knows: an axle, a bell
// housing, a driveline with a fault. An apprentice reads and assembles; at the
// end the truth is told, with the best way there. The models are written from
// geometry, apart from the solvers that advise at a bench, so that who follows
// the advice learns how good it is.
package practice

import (
	"embed"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

//go:embed examples
var examples embed.FS // a worked input for each calculator of the chapter

// Length is a length as somebody said it.
type Length = quantity.Said[quantity.Length]

// Kinds of practice.
const (
	AxleKind    = "axle"
	HousingKind = "housing"
	FaultKind   = "fault"
)

// Levels of practice.
const (
	Clean = "clean" // no noise
	Noisy = "noisy"
	Trap  = "trap" // noisy, and something is wrong that no shim mends
)

// In is a practice and all that was done so far: the same acts have the same answers.
type In struct {
	Kind   string `json:"kind" enum:"axle,housing,fault"`
	Seed   uint64 `json:"seed"`                          // which of its kind
	Level  string `json:"level" enum:"clean,noisy,trap"` // clean has no noise; trap has a fault that no shim mends
	Acts   []Act  `json:"acts,omitempty"`                // from the start
	Reveal bool   `json:"reveal,omitempty"`              // tell the truth
}

// Act is one thing done: a reading, an assembly, or a part ordered and fitted.
type Act struct {
	Read     string           `json:"read,omitempty"`     // an instrument, or the test of a fault
	At       *quantity.Number `json:"at,omitempty"`       // clock position at which it is read
	Assemble *Assembly        `json:"assemble,omitempty"` // put together so
	Order    string           `json:"order,omitempty"`    // a part, ordered and fitted
}

// Assembly is how it is put together; what is not said stays as it is.
type Assembly struct {
	PinionShim Length  `json:"pinion_shim,omitzero"`
	Left       Length  `json:"left,omitzero"`
	Right      Length  `json:"right,omitzero"`
	Dowels     []Dowel `json:"dowels,omitempty"`    // both, in the order of the given ones
	Clean      bool    `json:"clean,omitempty"`     // faces and seats washed and deburred first
	SwapCaps   bool    `json:"swap_caps,omitempty"` // bearing caps put to the other side
}

// Dowel is an offset dowel of a size, turned to a clock position; size 0 is a plain one.
type Dowel struct {
	Size  Length  `json:"size"`
	Clock float64 `json:"clock"`
}

// Answer is what an act gave. The readings of a pattern are in Drive and Coast.
type Answer struct {
	Reading quantity.Any `json:"reading,omitzero"`
	Drive   *Mark        `json:"drive,omitempty"` // pattern on the drive side
	Coast   *Mark        `json:"coast,omitempty"` // and on the coast side
	Says    string       `json:"says,omitempty"`
	Minutes float64      `json:"minutes"`         // it took
	Money   float64      `json:"money,omitempty"` // it cost
}

// Mark is a contact pattern: u from toe -1 to heel 1, v from root -1 to face 1.
type Mark struct {
	U      float64 `json:"u"`
	V      float64 `json:"v"`
	Length float64 `json:"length"` // of the tooth's length, 0 to 1
	Width  float64 `json:"width"`  // of its height, 0 to 1
}

// Tally counts what was done.
type Tally struct {
	Readings   int `json:"readings"`   // or tests
	Assemblies int `json:"assemblies"` // how often it was put together
	Orders     int `json:"orders"`     // parts ordered and fitted
}

// Better is what would have been better than an act, and why.
type Better struct {
	Act  int    `json:"act"`  // of the list, from 0
	Move Act    `json:"move"` // the better one
	Why  string `json:"why"`
}

// Out is what is known, and with reveal the truth.
type Out struct {
	Given    Given    `json:"given"`               // what the sheet says
	Answers  []Answer `json:"answers"`             // of each act, in order
	Minutes  float64  `json:"minutes"`             // all acts together
	Money    float64  `json:"money"`               // for the parts ordered
	SoFar    Tally    `json:"done_so_far"`         // how much was done
	Truth    *Truth   `json:"truth,omitempty"`     // with reveal
	BestPath []Act    `json:"best_path,omitempty"` // the acts that end right soonest; with reveal
	Better   []Better `json:"better,omitempty"`    // acts that could have been better; with reveal
	Says     string   `json:"says"`
}

const maxActs = 400

// bench is a thing set up: it answers acts and knows its truth.
type bench interface {
	given() Given
	// check names what cannot be done; at is the act's path.
	check(c *input.Checks, at string, a Act)
	do(a Act, noise *rand.Rand) Answer
	// better is asked before an act is done.
	better(a Act) (Act, string)
	truth() Truth
	bestPath() []Act
	done() bool
}

// Practice answers a list of acts. Source: rigid bodies, bevel gear geometry and
// the logic of a driveline; see the models of this package.
func Practice(in In) (Out, error) {
	var c input.Checks
	b := in.setUp(&c)
	if len(in.Acts) > maxActs {
		c.Add("acts", fmt.Sprintf("up to %d acts", maxActs), "%d acts", len(in.Acts))
	}
	if err := c.Err(); err != nil {
		return Out{}, err
	}
	for i, a := range in.Acts {
		at := input.Index("acts", i)
		if a.kinds() != 1 {
			c.Add(at, "one of read, assemble, order", "%d of them", a.kinds())
			continue
		}
		b.check(&c, at, a)
	}
	if err := c.Err(); err != nil {
		return Out{}, err
	}
	out := Out{Given: b.given(), Answers: []Answer{}}
	for i, a := range in.Acts {
		if move, why := b.better(a); in.Reveal && why != "" {
			out.Better = append(out.Better, Better{i, move, why})
		}
		answer := b.do(a, rand.New(rand.NewPCG(in.Seed, uint64(i)+1)))
		out.Answers = append(out.Answers, answer)
		out.Minutes, out.Money = out.Minutes+answer.Minutes, out.Money+answer.Money
		out.SoFar.count(a)
	}
	out.Says = fmt.Sprintf("%.0f minutes so far", out.Minutes)
	if in.Reveal {
		truth := b.truth()
		out.Truth, out.BestPath = &truth, in.fresh().bestPath()
		out.Says += ": not right yet"
		if b.done() {
			out.Says = fmt.Sprintf("right, after %.0f minutes", out.Minutes)
		}
	}
	return out, nil
}

// PracticeMethod is Practice as the catalogue lists it.
var PracticeMethod = calculator.Define(examples, calculator.About{
	Name:    "practice",
	Version: 1,
	Purpose: "practise on an axle, a housing or a fault whose truth only the program knows",
	Formula: "housing: r = r0 − (x·sin t + y·cos t) + sag·(1 − cos t)/2, moved as a rigid body; axle: gap between curved flanks along their normal; fault: which branch carries torque",
	Assumes: "the same acts give the same answers; clean has no noise, trap has a fault that no shim mends",
	Sources: []string{"rigid bodies, bevel gear geometry", calculator.Practice},
}, Practice)

func (a Act) kinds() (n int) {
	for _, is := range []bool{a.Read != "", a.Assemble != nil, a.Order != ""} {
		if is {
			n++
		}
	}
	return n
}

func (t *Tally) count(a Act) {
	switch {
	case a.Read != "":
		t.Readings++
	case a.Assemble != nil:
		t.Assemblies++
	default:
		t.Orders++
	}
}

// setUp makes the thing of this kind, seed and level.
func (in In) setUp(c *input.Checks) bench {
	if in.Level != Clean && in.Level != Noisy && in.Level != Trap {
		c.Add("level", "clean, noisy, trap", "%q is none", in.Level)
	}
	if in.Kind != AxleKind && in.Kind != HousingKind && in.Kind != FaultKind {
		c.Add("kind", "axle, housing, fault", "%q is none", in.Kind)
	}
	return in.fresh()
}

// fresh is the thing as it came.
func (in In) fresh() bench {
	draw := rand.New(rand.NewPCG(in.Seed, 0))
	switch in.Kind {
	case HousingKind:
		return newHousing(draw, in.Level)
	case FaultKind:
		return newFault(draw, in.Level)
	}
	return newAxle(draw, in.Level)
}

var millimetre = quantity.Named("mm")

// mm says millimetres.
func mm(v float64) Length { return quantity.SayDifference(quantity.Length(v*1e-3), millimetre) }

// inMM reads a length in millimetres, to the nanometre: what was said in inches is the same.
func inMM(l Length) float64 { return math.Round(l.DifferenceSI()*1e9) / 1e6 }

// toStep is a value as a dial of this step shows it.
func toStep(v, step float64) float64 { return math.Round(v/step) * step }

// between draws evenly.
func between(draw *rand.Rand, low, high float64) float64 { return low + (high-low)*draw.Float64() }

// only refuses what an instrument or a name is not.
func only(c *input.Checks, at, said string, names []string) {
	for _, n := range names {
		if n == said {
			return
		}
	}
	c.Add(at, strings.Join(names, "; "), "%q is none of them", said)
}
