package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
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

// Cutting is how the teeth were cut: it tells which way the pattern wanders.
type Cutting string

// Face-milled teeth taper in depth from heel to toe; face-hobbed ones are as
// deep at the heel as at the toe.
const (
	FaceMilled Cutting = "face_milled"
	FaceHobbed Cutting = "face_hobbed"
)

// PatternIn asks what a contact pattern asks for.
type PatternIn struct {
	Drive     Dab     `json:"drive"`
	Coast     Dab     `json:"coast"`
	Cutting   Cutting `json:"cutting,omitempty" enum:"face_milled,face_hobbed"` // default face_milled
	Reversals int     `json:"reversals,omitempty"`                              // moves so far that overshot; each halves the step
	FirstStep Length  `json:"first_step,omitzero"`                              // default 3 thou
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
// face. On teeth of even depth the pinion moves it mostly between root and
// face, the ring mostly along the tooth. Rows: drive u, drive v, coast u, coast
// v; columns: pinion, ring. Common practice; the sizes are our judgement.
var patternModels = map[Cutting][][]float64{
	FaceMilled: {{0.5, 0.7}, {0.8, 0.25}, {-0.5, 0.7}, {0.8, 0.25}},
	FaceHobbed: {{0.2, 0.8}, {0.8, 0.1}, {-0.2, 0.8}, {0.8, 0.1}},
}

// The drive flank leads, the coast flank confirms: how much each counts. Our judgement.
var flankWeights = []float64{1, 1, 0.5, 0.5}

// centred is how far from the middle a dab may stand; unloaded it may stand
// towardToe, for load moves it to the heel. Common practice.
const (
	centred   = 0.2
	towardToe = 0.35
)

// Pattern finds pinion and ring error by weighted least squares from the four
// numbers of both flanks, names the one shim to change first, which way, and a
// first step (2 to 4 thou, halved on each reversal). Crossed is what no move
// mends: one flank bears at the face and the other at the root, while every
// move sends both the same way.
func Pattern(in PatternIn) (PatternOut, error) {
	step, err := in.check()
	if err != nil {
		return PatternOut{}, err
	}
	model := patternModels[in.cutting()]
	seen := in.seen()
	rows, values := make([][]float64, len(seen)), make([]float64, len(seen))
	for i, at := range seen {
		rows[i], values[i] = solve.Weighted(model[i], at, flankWeights[i])
	}
	fit, err := solve.LeastSquares(rows, values)
	if err != nil {
		return PatternOut{}, err
	}
	out := PatternOut{PinionOut: fit.Params[0], RingOut: fit.Params[1], Confidence: 1, Shim: "none",
		Verdict: metrology.In, Says: in.good()}
	if size := norm(values); size > 0 {
		out.Confidence = math.Max(0, 1-norm(fit.Residuals)/math.Max(size, centred))
	}
	in.decide(&out, step)
	return out, nil
}

// PatternMethod is Pattern as the catalogue lists it.
var PatternMethod = calculator.Define(examples, calculator.About{
	Name: "pattern", Version: 3,
	Purpose: "what a contact pattern asks for: which shim, which way, a first step",
	Formula: "weighted least squares of pinion and ring error from the middles of both flanks' patterns, the " +
		"drive flank leading",
	Assumes: "u from toe −1 to heel +1, v from root −1 to face +1; slightly to the toe is good unloaded; " +
		"tapering and even tooth depth move differently; crossed is face on one flank and root on the other",
	Sources: []string{calculator.Practice + ", qualitative charts agree"},
}, Pattern)

func (in PatternIn) cutting() Cutting {
	if in.Cutting == "" {
		return FaceMilled
	}
	return in.Cutting
}

func (in PatternIn) seen() []float64 {
	return []float64{in.Drive.U, in.Drive.V, in.Coast.U, in.Coast.V}
}

// check refuses what is no dab and gives the size of the next step.
func (in PatternIn) check() (Length, error) {
	var c input.Checks
	for i, at := range []string{"drive.u", "drive.v", "coast.u", "coast.v"} {
		input.Number(&c, at, in.seen()[i], -1, 1)
	}
	for i, at := range []string{"drive.length", "drive.width", "coast.length", "coast.width"} {
		input.Number(&c, at, []float64{in.Drive.Length, in.Drive.Width, in.Coast.Length, in.Coast.Width}[i], 0, 1)
	}
	if _, ok := patternModels[in.cutting()]; !ok {
		c.Add("cutting", string(FaceMilled)+", "+string(FaceHobbed), "%q is not a way of cutting teeth", in.Cutting)
	}
	input.Number(&c, "reversals", float64(in.Reversals), 0, 10)
	step := input.Or(in.FirstStep, 3*quantity.Thou)
	if step <= 0 || step > quantity.Millimetre {
		c.Add("first_step", "some thou, usually 2 to 4", "%s is no first step", in.FirstStep)
	}
	unit := quantity.Named("thou")
	if in.FirstStep.IsSaid() {
		unit = in.FirstStep.Unit
	}
	return quantity.Say(step/quantity.Length(math.Pow(2, float64(in.Reversals))), unit), c.Err()
}

func norm(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x * x
	}
	return math.Sqrt(sum)
}

// shortest part of a tooth that a dab covers and still tells where it bears. Our judgement.
const shortest = 0.2

// isSmall tells of a dab too short to go by; one whose length nobody said is not.
func (d Dab) isSmall() bool { return d.Length > 0 && d.Length < shortest }

// inPlace tells whether a dab stands where it should.
func (d Dab) inPlace() bool {
	return math.Abs(d.V) <= centred && d.U <= centred && d.U >= -towardToe
}

func (in PatternIn) good() string {
	if in.Drive.U < -centred || in.Coast.U < -centred {
		return "slightly to the toe: good unloaded, under load it moves to the middle"
	}
	return "in the middle on both sides: good"
}

// pullApart tells that the flanks ask for opposite moves of the pinion, and the
// ring moves neither of them from root to face.
func (in PatternIn) pullApart() bool {
	return in.Drive.V*in.Coast.V < 0 && math.Min(math.Abs(in.Drive.V), math.Abs(in.Coast.V)) > centred
}

func (in PatternIn) decide(out *PatternOut, step Length) {
	switch {
	case in.Drive.isSmall() || in.Coast.isSmall():
		out.Verdict = metrology.Undecided
		out.Says = "a dab this short says little: more compound, load the ring by hand, dab again"
		return
	case in.Drive.inPlace() && in.Coast.inPlace():
		return
	case in.pullApart():
		out.Crossed, out.Verdict = true, metrology.Out
		out.Says = "crossed: one side bears at the face, the other at the root, and no shim cures both. " +
			"First check for a wrong pair, swapped or turned caps, a bent housing, or marks on the wrong side"
		return
	}
	out.Verdict, out.Step = metrology.Out, step
	if math.Abs(out.PinionOut) >= math.Abs(out.RingOut)*0.6 {
		out.Shim, out.Way = "pinion", way(out.PinionOut)
		out.Says = fmt.Sprintf(
			"move the pinion %s by %s, set the backlash again, check the pattern",
			out.Way,
			short(step),
		)
	} else {
		out.Shim, out.Way = "ring", way(out.RingOut)
		toward := map[string]string{"in": "toward", "out": "away from"}[out.Way]
		out.Says = fmt.Sprintf("move the ring %s the pinion by %s, within the backlash on the sheet", toward,
			short(step))
	}
	switch {
	case out.Confidence < tooFaint:
		out.Verdict, out.Shim, out.Way, out.Step = metrology.Undecided, "none", "", Length{}
		out.Says = "both sides together fit no single move: dab again, thin, and load the ring by hand; " +
			"a good drive side with a quiet coast side may stay as it is"
	case in.Drive.inPlace():
		out.Says += "; the drive side is good and leads: stop when it starts to leave the middle"
	case out.Confidence < halfSure:
		out.Says += "; the coast side does not quite agree: take a small step and check both again"
	}
}

// tooFaint is where no move is said at all. Our judgement.
const tooFaint = 0.15

// halfSure is where the move is said with a reserve.
const halfSure = 0.5

// way back from an error: what is too far out goes in.
func way(errorOut float64) string {
	if errorOut < 0 {
		return "out"
	}
	return "in"
}
