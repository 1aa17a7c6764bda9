package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Packs are the three packs of an assembly.
type Packs struct {
	PinionShim Length `json:"pinion_shim"`
	Left       Length `json:"left"`
	Right      Length `json:"right"`
}

// Learned is how the earlier axles of a family answered a shift of the ring.
type Learned struct {
	Value  float64 `json:"value"`
	Spread float64 `json:"spread"` // standard, of the next axle
	// Gives is how far the ring is let go for each unit of preload.
	Gives *Given `json:"gives,omitempty"`
}

// Given is a figure with its standard spread.
type Given struct {
	Value  float64 `json:"value"`
	Spread float64 `json:"spread"` // standard
}

// firstAway is how far the ring is first set from where it was: flanks that touch
// read no backlash, and then nobody knows how far to go. Found by trials on
// simulated axles, where it saves one assembly in fourteen.
const firstAway = 200e-6

// differs is how far axles of one family differ, as a share of k: each has its own
// housing and pair. Found by trials on simulated axles.
const (
	differs      = 0.03
	givesDiffers = 0.02 // of how far a housing gives
)

// Teach is what an axle that is right, its k and what its housing gives, tells of the next of its family: what it knew,
// which its own first guess is part of, and how far they differ; a step of a Kalman
// filter. Source: R. E. Kalman (1960), from memory.
func Teach(k Factor, gives *Factor) Learned {
	taught := Learned{Value: k.Value, Spread: math.Hypot(k.Spread, differs*k.Value)}
	if gives != nil {
		taught.Gives = &Given{gives.Value, math.Hypot(gives.Spread, givesDiffers)}
	}
	return taught
}

func (l *Learned) check(c *input.Checks) {
	if l != nil {
		input.Number(c, "learned.value", l.Value, 0.1, 5)
		input.Number(c, "learned.spread", l.Spread, 1e-4, 2)
	}
	if l != nil && l.Gives != nil {
		input.Number(c, "learned.gives.value", l.Gives.Value, -1, 2)
		input.Number(c, "learned.gives.spread", l.Gives.Spread, 1e-4, 2)
	}
}

// over is the first guess, with what the family's axles taught in its place.
func (l *Learned) over(guess Factor) Factor {
	if l == nil {
		return guess
	}
	return Factor{l.Value, l.Spread, "earlier axles of this family"}
}

func (p *Packs) check(c *input.Checks) {
	for _, one := range []struct {
		name string
		said Length
	}{{"pinion_shim", p.PinionShim}, {"left", p.Left}, {"right", p.Right}} {
		input.NotNegative(c, "as_found."+one.name, one.said, 50*quantity.Millimetre)
	}
}

// first is the assembly to begin with: as it was found, the ring a little away.
func (in TogetherIn) first(s sides, grid func(float64) float64) (TogetherOut, error) {
	as, unit := in.AsFound, in.AsFound.PinionShim.Unit
	away := s.ring * grid(firstAway)
	left, right := float64(as.Left.SI())-away, float64(as.Right.SI())+away
	if left < 0 || right < 0 {
		return TogetherOut{}, input.At("as_found", "packs from which a little can be moved",
			"a pack would come out below zero")
	}
	say := func(v float64) Length { return quantity.SayDifference(quantity.Length(v), unit) }
	out := TogetherOut{
		Stands: metrology.None, PinionShim: as.PinionShim, Left: say(left), Right: say(right),
		K: in.guess(), Findings: []string{},
	}
	out.Packs = in.made(out)
	out.Says = fmt.Sprintf("begin with pinion shim %s, left %s, right %s: the ring a little away, "+
		"for flanks that touch tell nothing", short(out.PinionShim), short(out.Left), short(out.Right))
	return out, nil
}
