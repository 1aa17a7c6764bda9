package gearing

import (
	"fmt"
	"math"
	"slices"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// GateGear is the gap that was read with a gear in.
type GateGear struct {
	Gear   string `json:"gear"`
	End    string `json:"end" enum:"front,rear"`            // where the lever stands
	Side   string `json:"side,omitempty" enum:"left,right"` // of the gate; needed with across
	Along  Length `json:"along"`                            // lever to the stop at that end; below nought it strikes first
	Across Length `json:"across,omitzero"`                  // lever to the stop at that side
}

// GateLever is the lever's two arms.
type GateLever struct {
	Above Length `json:"above"` // pivot to where the gap is read
	Below Length `json:"below"` // pivot to the rod
}

// GateIn is a gate measured gear by gear, and what moves the lever in it: its
// arms, or what a trial of the clamp has shown.
type GateIn struct {
	Gears    []GateGear `json:"gears"`
	MinGap   Length     `json:"min_gap,omitzero"` // that a lever needs; without it there is no verdict
	Lever    GateLever  `json:"lever,omitzero"`
	Arm      Length     `json:"arm,omitzero"`            // of the rod's cross arm
	PerShift *float64   `json:"per_shift,omitempty"`     // lever's travel over the rod's, by a trial
	PerTurn  Length     `json:"per_turn_deg,omitzero"`   // lever's travel across for a degree of the rod, by a trial
	Step     Length     `json:"shift_step,omitzero"`     // the clamp holds only multiples of it
	TurnStep *float64   `json:"turn_step_deg,omitempty"` // likewise of a turn
}

// GateGaps are the gaps of a gear after the move.
type GateGaps struct {
	Gear   string `json:"gear"`
	Along  Length `json:"along"`           // lever to the stop at its end
	Across Length `json:"across,omitzero"` // lever to the stop at its side
}

// GateSpread is the largest less the smallest gap, each way.
type GateSpread struct {
	Along  Length `json:"along"`           // of the gaps to front and rear
	Across Length `json:"across,omitzero"` // of the gaps to left and right
}

// GateOut is the clamp's move that evens the gaps.
type GateOut struct {
	Shift        Length            `json:"shift,omitzero"`     // of the rod; above nought the lever goes forward
	Turn         *float64          `json:"turn_deg,omitempty"` // of the rod; above nought the lever goes to the right
	Predicted    []GateGaps        `json:"predicted"`
	SpreadBefore GateSpread        `json:"spread_before"` // largest less smallest gap as read
	SpreadAfter  GateSpread        `json:"spread_after"`  // and after the move
	Smallest     Length            `json:"smallest"`      // of all gaps after the move
	Verdict      metrology.Verdict `json:"verdict"`
	Says         string            `json:"says"`
}

// Gate evens the gaps between lever and stops over all gears. A lever moved c
// forward loses c in the front gears and gains it in the rear ones; moved d to
// the right it loses d there. Least squares about a common gap:
// c = (mean of front - mean of rear)/2, and d likewise with right and left. The
// rod moves c/(above/below); turned, it moves the lever by its cross arm.
//
// Source: least squares, and the lever law for small angles.
func Gate(in GateIn) (GateOut, error) {
	if err := in.check(); err != nil {
		return GateOut{}, err
	}
	perShift, perTurn := in.ratios()
	along, ahead := in.gaps(func(g GateGear) (Length, bool) { return g.Along, g.End == "front" })
	across, rightward := in.gaps(func(g GateGear) (Length, bool) { return g.Across, g.Side == "right" })
	unit := in.Gears[0].Along.Unit
	var out GateOut
	forward, evensAlong := evening(along, ahead)
	if evensAlong {
		rod := nearest(forward/perShift, float64(in.Step.SI()))
		forward = rod * perShift
		out.Shift = quantity.SayDifference(quantity.Length(rod), unit)
	}
	right, evensAcross := evening(across, rightward)
	evensAcross = evensAcross && perTurn != 0
	if evensAcross {
		turn := nearest(right/perTurn, input.OrNumber(in.TurnStep, 0))
		right = turn * perTurn
		out.Turn = &turn
	} else {
		right = 0
	}
	in.predict(&out, forward, right)
	in.judge(&out)
	out.Says = in.say(out, perTurn != 0)
	return out, nil
}

// GateMethod is Gate as the catalogue lists it.
var GateMethod = calculator.Define(examples, calculator.About{
	Name:    "gate",
	Version: 1,
	Purpose: "how far to shift and turn the linkage's clamp so that the lever stands clear of its stops in every gear",
	Formula: "c = (mean of front − mean of rear)/2; shift = c/(above/below); turn = d/(π/180·arm·above/below), d likewise with right and left",
	Assumes: "small angles; the gap is read with the gear in, between lever and stop; bushes without play",
	Schools: "others pin the linkage in one gear through its alignment holes; the gaps are read afterwards all the same",
	Sources: []string{"least squares; lever law", calculator.Practice},
}, Gate)

// gaps are those that were read, in metres, and whether each is at the end that
// a positive move closes.
func (in GateIn) gaps(of func(GateGear) (Length, bool)) (gaps []float64, closes []bool) {
	for _, g := range in.Gears {
		if gap, is := of(g); gap.IsSaid() {
			gaps, closes = append(gaps, gap.DifferenceSI()), append(closes, is)
		}
	}
	return gaps, closes
}

// evening is the move that evens the gaps; not ok when only one end was read.
func evening(gaps []float64, closes []bool) (move float64, ok bool) {
	var sum, n [2]float64
	for i, g := range gaps {
		end := 0
		if closes[i] {
			end = 1
		}
		sum[end] += g
		n[end]++
	}
	if n[0] == 0 || n[1] == 0 {
		return 0, false
	}
	return (sum[1]/n[1] - sum[0]/n[0]) / 2, true
}

// nearest multiple of a step, the smaller of two that are equally near; any
// value where there is no step. What is left is a parabola about v, so the
// nearest is the best.
func nearest(v, step float64) float64 {
	if step == 0 {
		return v
	}
	n := math.Abs(v) / step
	whole := math.Floor(n)
	if input.Over(n-whole, 0.5) {
		whole++
	}
	if whole == 0 {
		return 0
	}
	return math.Copysign(whole*step, v)
}

// ratios of the lever: its travel over the rod's, and in metres for a degree of turn.
func (in GateIn) ratios() (perShift, perTurn float64) {
	perShift = 1
	if in.Lever.Above.IsSaid() {
		perShift = float64(in.Lever.Above.SI() / in.Lever.Below.SI())
	}
	perTurn = math.Pi / 180 * float64(in.Arm.SI()) * perShift
	if in.PerShift != nil {
		perShift = *in.PerShift
	}
	if in.PerTurn.IsSaid() {
		perTurn = in.PerTurn.DifferenceSI()
	}
	return perShift, perTurn
}

func (in GateIn) predict(out *GateOut, forward, right float64) {
	var before, after, beforeAcross, afterAcross extent
	for _, g := range in.Gears {
		gap := g.Along.DifferenceSI()
		moved := gap - toward(forward, g.End == "front")
		before.take(gap)
		after.take(moved)
		p := GateGaps{Gear: g.Gear, Along: quantity.SayDifference(quantity.Length(moved), g.Along.Unit)}
		if g.Across.IsSaid() {
			gap := g.Across.DifferenceSI()
			moved := gap - toward(right, g.Side == "right")
			beforeAcross.take(gap)
			afterAcross.take(moved)
			p.Across = quantity.SayDifference(quantity.Length(moved), g.Across.Unit)
		}
		out.Predicted = append(out.Predicted, p)
	}
	unit := in.Gears[0].Along.Unit
	say := func(v float64) Length { return quantity.SayDifference(quantity.Length(v), unit) }
	out.SpreadBefore.Along, out.SpreadAfter.Along = say(before.size()), say(after.size())
	smallest := after.least
	if afterAcross.any {
		out.SpreadBefore.Across, out.SpreadAfter.Across = say(beforeAcross.size()), say(afterAcross.size())
		smallest = min(smallest, afterAcross.least)
	}
	out.Smallest = say(smallest)
}

// toward is a move as the gap at one end loses it.
func toward(move float64, closes bool) float64 {
	if closes {
		return move
	}
	return -move
}

// extent is the smallest and the largest of some figures.
type extent struct {
	least, most float64
	any         bool
}

func (e *extent) take(v float64) {
	if !e.any {
		e.least, e.most, e.any = v, v, true
	}
	e.least, e.most = min(e.least, v), max(e.most, v)
}

func (e extent) size() float64 { return e.most - e.least }

func (in GateIn) judge(out *GateOut) {
	out.Verdict = metrology.None
	if in.MinGap.IsSaid() {
		out.Verdict = metrology.Judge(out.Smallest.DifferenceSI(), 0,
			metrology.Limits{Lower: in.MinGap.DifferenceSI(), Upper: math.Inf(1)})
	}
	if out.Smallest.Value < 0 {
		out.Verdict = metrology.Out
	}
}

func (in GateIn) check() error {
	var c input.Checks
	if len(in.Gears) < 1 || len(in.Gears) > maxShiftGears {
		c.Add("gears", fmt.Sprintf("1 to %d gears", maxShiftGears), "%d gears", len(in.Gears))
		return c.Err()
	}
	for i, g := range in.Gears {
		at := input.Index("gears", i)
		ownName(
			&c,
			at+".gear",
			g.Gear,
			slices.IndexFunc(in.Gears, func(x GateGear) bool { return x.Gear == g.Gear }) < i,
		)
		oneOf(&c, at+".end", g.End, []string{"front", "rear"})
		if g.Side != "" || g.Across.IsSaid() {
			oneOf(&c, at+".side", g.Side, []string{"left", "right"})
		}
		input.Within(&c, at+".along", g.Along, -50*quantity.Millimetre, 200*quantity.Millimetre, true)
		if g.Across.IsSaid() {
			input.Within(&c, at+".across", g.Across, -50*quantity.Millimetre, 200*quantity.Millimetre, true)
		}
	}
	in.checkLever(&c)
	return c.Err()
}

func (in GateIn) checkLever(c *input.Checks) {
	if in.MinGap.IsSaid() {
		input.NotNegative(c, "min_gap", in.MinGap, 100*quantity.Millimetre)
	}
	if in.PerShift != nil {
		input.Number(c, "per_shift", *in.PerShift, 0.05, 50)
	}
	if in.PerShift == nil || in.Lever.Above.IsSaid() || in.Lever.Below.IsSaid() {
		input.Positive(c, "lever.above", in.Lever.Above, 2000*quantity.Millimetre)
		input.Positive(c, "lever.below", in.Lever.Below, 2000*quantity.Millimetre)
	}
	if in.Arm.IsSaid() {
		input.Positive(c, "arm", in.Arm, 1000*quantity.Millimetre)
		if !in.Lever.Above.IsSaid() && !in.PerTurn.IsSaid() {
			c.Add(
				"per_turn_deg",
				"what a degree moves the lever, or the lever's arms",
				"the cross arm alone does not tell it",
			)
		}
	}
	if in.PerTurn.IsSaid() {
		input.Positive(c, "per_turn_deg", in.PerTurn, 50*quantity.Millimetre)
	}
	if in.Step.IsSaid() {
		input.Positive(c, "shift_step", in.Step, 50*quantity.Millimetre)
	}
	if in.TurnStep != nil {
		input.Number(c, "turn_step_deg", *in.TurnStep, 0.01, 90)
	}
}
