package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/solve"
)

// Dab is where the compound was wiped off a flank: its middle, u from toe (-1)
// to heel (+1), v from root (-1) to face (+1), with length and width as shares
// of the flank.
type Dab struct {
	U      float64 `json:"u"`
	V      float64 `json:"v"`
	Length float64 `json:"length,omitempty"`
	Width  float64 `json:"width,omitempty"`
}

// PatternIn asks what a contact pattern asks for.
type PatternIn struct {
	Drive     Dab    `json:"drive"`
	Coast     Dab    `json:"coast"`
	Reversals int    `json:"reversals,omitempty"` // moves so far that overshot; each halves the step
	FirstStep Length `json:"first_step,omitzero"` // default 3 thou
}

// PatternOut is the answer.
type PatternOut struct {
	PinionOut  float64           `json:"pinion_out"` // P: +1 is much too far out
	RingOut    float64           `json:"ring_out"`   // G: +1 is much too far out, backlash large
	Confidence float64           `json:"confidence"`
	Crossed    bool              `json:"crossed,omitempty"`
	Shim       string            `json:"shim"` // pinion, ring, none
	Way        string            `json:"way"`  // in, out
	Step       Length            `json:"step,omitzero"`
	Verdict    metrology.Verdict `json:"verdict"`
	Says       string            `json:"says"`
}

// The linear model of two errors, as the charts of the trade agree: a pinion
// too far out sends the drive pattern to face and heel, the coast pattern to
// face and toe; too much backlash sends both to the heel, slightly to the
// face. Rows: drive u, drive v, coast u, coast v; columns: pinion, ring.
// Common practice; the sizes are our judgement.
var patternModel = [][]float64{{0.5, 0.7}, {0.8, 0.25}, {-0.5, 0.7}, {0.8, 0.25}}

// centred is how far from the middle a dab may stand.
const centred = 0.2

// crossedShare of the pattern that no move explains makes it contradictory.
const crossedShare = 0.6

// Pattern finds pinion and ring error by least squares from the four numbers
// of both flanks, names the one shim to change first, which way, and a first
// step (2 to 4 thou, halved on each reversal). What no move mends is crossed.
func Pattern(in PatternIn) (PatternOut, error) {
	var c input.Checks
	for _, d := range []struct {
		at string
		v  float64
	}{{"drive.u", in.Drive.U}, {"drive.v", in.Drive.V}, {"coast.u", in.Coast.U}, {"coast.v", in.Coast.V}} {
		input.Number(&c, d.at, d.v, -1, 1)
	}
	for _, d := range []struct {
		at string
		v  float64
	}{{"drive.length", in.Drive.Length}, {"drive.width", in.Drive.Width}, {"coast.length", in.Coast.Length}, {"coast.width", in.Coast.Width}} {
		input.Number(&c, d.at, d.v, 0, 1)
	}
	input.Number(&c, "reversals", float64(in.Reversals), 0, 10)
	step := input.Or(in.FirstStep, 3*quantity.Thou)
	if step <= 0 || step > quantity.Millimetre {
		c.Add("first_step", "some thou, usually 2 to 4", "%s is no first step", in.FirstStep)
	}
	if err := c.Err(); err != nil {
		return PatternOut{}, err
	}
	seen := []float64{in.Drive.U, in.Drive.V, in.Coast.U, in.Coast.V}
	fit, err := solve.LeastSquares(patternModel, seen)
	if err != nil {
		return PatternOut{}, err
	}
	size, left := norm(seen), norm(fit.Residuals)
	out := PatternOut{PinionOut: fit.Params[0], RingOut: fit.Params[1], Confidence: 1, Shim: "none", Verdict: metrology.In, Says: "in the middle on both flanks: good"}
	if size > 0 {
		out.Confidence = math.Max(0, 1-left/math.Max(size, centred))
	}
	unit := quantity.Named("thou")
	if in.FirstStep.IsSaid() {
		unit = in.FirstStep.Unit
	}
	in.decide(&out, size, left, quantity.Say(step/quantity.Length(math.Pow(2, float64(in.Reversals))), unit))
	return out, nil
}

func norm(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x * x
	}
	return math.Sqrt(sum)
}

func (in PatternIn) decide(out *PatternOut, size, left float64, step Length) {
	off := math.Max(math.Max(math.Abs(in.Drive.U), math.Abs(in.Drive.V)), math.Max(math.Abs(in.Coast.U), math.Abs(in.Coast.V)))
	switch {
	case off <= centred:
		return
	case left > crossedShare*size:
		out.Crossed, out.Verdict = true, metrology.Out
		out.Says = "crossed: no shim mends this. A wrong pair, caps swapped or turned, a bent housing, or dabs of the wrong flank: check those first"
		return
	}
	out.Verdict, out.Step = metrology.Out, step
	if math.Abs(out.PinionOut) >= math.Abs(out.RingOut)*0.6 {
		out.Shim, out.Way = "pinion", "in"
		if out.PinionOut < 0 {
			out.Way = "out"
		}
		out.Says = fmt.Sprintf("move the pinion %s by %s, then set the backlash again and look", out.Way, short(step))
		return
	}
	out.Shim, out.Way = "ring", "in"
	if out.RingOut < 0 {
		out.Way = "out"
	}
	toward := map[string]string{"in": "toward", "out": "away from"}[out.Way]
	out.Says = fmt.Sprintf("move the ring %s the pinion by %s, within the backlash on the sheet", toward, short(step))
}
