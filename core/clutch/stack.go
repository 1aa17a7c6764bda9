package clutch

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Side of a plate-type limited slip: the thicknesses of its plates, discs and
// spacers in order.
type Side struct {
	Plates []Length `json:"plates"`
	Depth  Length   `json:"depth"` // room from cover face to seat
}

// StackIn asks how a plate stack sits and what it holds.
type StackIn struct {
	Left    Side    `json:"left"`
	Right   *Side   `json:"right,omitempty"`
	Springs int     `json:"springs,omitempty"` // in series on top of each stack
	Spring  *Spring `json:"spring,omitempty"`
	MaxDiff Length  `json:"max_difference,omitzero"` // left to right, default 0.1 mm
	Mu      float64 `json:"mu,omitempty"`            // with faces and radius: breakaway
	Faces   int     `json:"faces,omitempty"`
	Radius  Length  `json:"mean_radius,omitzero"`
	Lever   Length  `json:"lever,omitzero"` // breakaway test: weight on a lever
	Weight  Force   `json:"weight,omitzero"`
	Min     Torque  `json:"breakaway_min,omitzero"`
	Max     Torque  `json:"breakaway_max,omitzero"`
}

// StackOut is the answer.
type StackOut struct {
	LeftHeight  Length            `json:"left_height"`
	RightHeight Length            `json:"right_height,omitzero"`
	Difference  Length            `json:"difference,omitzero"`
	DiffVerdict metrology.Verdict `json:"difference_verdict"`
	Stands      Length            `json:"stands_proud"` // before bolting: springs free
	Press       Length            `json:"precompression,omitzero"`
	Force       Force             `json:"spring_force,omitzero"`
	Computed    Torque            `json:"breakaway_computed,omitzero"`
	Measured    Torque            `json:"breakaway_measured,omitzero"`
	Verdict     metrology.Verdict `json:"verdict"`
	Says        string            `json:"says"`
}

// PlateStack adds the stack up against the depth of its room. What stands
// proud is what the springs are pressed when the cover is bolted down (about
// 6 mm or 1/4 in, common practice); their force by the disc-spring curve,
// shared in series. Breakaway: N·μ·F·r computed, lever times weight measured.
func PlateStack(in StackIn) (StackOut, error) {
	var c input.Checks
	left, depth := in.Left.height(&c, "left")
	unit := quantity.Named("mm")
	if len(in.Left.Plates) > 0 && in.Left.Plates[0].IsSaid() {
		unit = in.Left.Plates[0].Unit
	}
	say := func(v float64) Length { return quantity.SayDifference(quantity.Length(v), unit) }
	out := StackOut{LeftHeight: say(left), DiffVerdict: metrology.None, Verdict: metrology.None}
	if in.Right != nil {
		right, _ := in.Right.height(&c, "right")
		out.RightHeight, out.Difference = say(right), say(left-right)
		limit := 0.1 * quantity.Millimetre
		if in.MaxDiff.IsSaid() {
			limit = input.NotNegative(&c, "max_difference", in.MaxDiff, 10*quantity.Millimetre)
		}
		out.DiffVerdict = metrology.Judge(math.Abs(left-right), 0,
			metrology.Limits{Lower: math.Inf(-1), Upper: float64(limit)})
	}
	out.Stands = say(left - depth)
	in.springs(&c, &out, left, depth, say)
	in.breakaway(&c, &out)
	if err := c.Err(); err != nil {
		return StackOut{}, err
	}
	out.Says = fmt.Sprintf("the cover stands %.2f %s proud", out.Stands.Value, unit.Symbol)
	if out.DiffVerdict == metrology.Out {
		out.Says += "; left and right differ too much: swap plates before you bolt it"
	}
	return out, nil
}

// PlateStackMethod is PlateStack as the catalogue lists it.
var PlateStackMethod = calculator.Define(examples, calculator.About{
	Name: "plate-stack", Version: 1,
	Purpose: "how a limited slip's plates stack up: pre-compression, spring force, left against right, " +
		"breakaway",
	Formula: "height = Σ plates; pressed = height + springs − depth; force by the disc-spring curve; " +
		"breakaway N·μ·F·r against lever·weight",
	Assumes: "springs in series, pressed short of flat",
	Sources: []string{"EN 16984 / DIN 2092", "the cover stands about 6 mm proud: " + calculator.Practice},
}, PlateStack)

func (s Side) height(c *input.Checks, at string) (height, depth float64) {
	if len(s.Plates) < 1 || len(s.Plates) > 60 {
		c.Add(at+".plates", "1 to 60 plates and discs", "%d plates", len(s.Plates))
	}
	for i, p := range s.Plates {
		height += float64(input.Positive(c, input.Index(at+".plates", i), p, 50*quantity.Millimetre))
	}
	return height, float64(input.Positive(c, at+".depth", s.Depth, 500*quantity.Millimetre))
}

// pressed is how far a cover presses n disc springs that stand free on a stack,
// each as high as its cone and thick: height + n·(h0 + t) - depth, in metres.
func pressed(height, depth, h0, t float64, n int) float64 { return height + float64(n)*(h0+t) - depth }

func (in StackIn) springs(c *input.Checks, out *StackOut, height, depth float64, say func(float64) Length) {
	if in.Spring == nil {
		return
	}
	de, di, t, h0 := in.Spring.check(c, "spring")
	n := in.Springs
	if n == 0 {
		n = 1
	}
	if n < 1 || n > 20 {
		c.Add("springs", "1 to 20", "%d springs", n)
	}
	if len(c.Fields) > 0 {
		return
	}
	press := pressed(height, depth, h0, t, n)
	out.Stands = say(press)
	if !input.Over(height+float64(n)*(h0+t), depth) {
		c.Add(
			"left.depth",
			"a depth that presses the springs",
			"the plates do not reach the springs: the stack is too thin",
		)
		return
	}
	each := press / float64(n)
	if input.Over(height+float64(n)*t, depth) {
		c.Add("left.depth", "a depth that leaves the springs short of flat",
			"the springs would go flat and burst: the stack is too thick")
		return
	}
	out.Press = say(press)
	out.Force = quantity.In(quantity.Force(springForce(de, di, t, h0, each)), quantity.Family(in.Spring.De.Unit))
}

func (in StackIn) breakaway(c *input.Checks, out *StackOut) {
	unit := torqueUnit(in.Lever.Unit, in.Min, in.Max)
	if in.Mu != 0 && in.Radius.IsSaid() && out.Force.IsSaid() {
		mu, r := input.Number(c, "mu", in.Mu, 0.02,
			1), float64(input.Positive(c, "mean_radius", in.Radius, quantity.Length(1)))
		if in.Faces < 1 || in.Faces > 60 {
			c.Add("faces", "1 to 60", "%d faces", in.Faces)
		}
		out.Computed = quantity.Say(frictionTorque(in.Faces, mu, float64(out.Force.SI()), r), unit)
	}
	if !in.Lever.IsSaid() && !in.Weight.IsSaid() {
		return
	}
	arm, w := float64(input.Positive(c, "lever", in.Lever, quantity.Length(5))), float64(input.Positive(c, "weight",
		in.Weight, 1e5))
	out.Measured = quantity.Say(quantity.Torque(arm*w), unit)
	limits := metrology.Open()
	if in.Min.IsSaid() {
		limits.Lower = float64(in.Min.SI())
	}
	if in.Max.IsSaid() {
		limits.Upper = float64(in.Max.SI())
	}
	if input.Over(limits.Lower, limits.Upper) {
		c.Add("breakaway_min", "not above the upper limit", "%s lies above %s", in.Min, in.Max)
	}
	out.Verdict = metrology.Judge(arm*w, 0, limits)
}

// Series is what stands in line with a viscous coupling.
type Series string

// Nothing: it creeps alike both ways. A freewheel: it creeps one way and is
// free the other. A speed-dependent disconnect: at rest it is engaged, so it
// creeps alike both ways, and lets go only at speed.
const (
	SeriesNothing    Series = "nothing"
	SeriesFreewheel  Series = "freewheel"
	SeriesDisconnect Series = "speed_disconnect"
)

// SlipIn asks what a creeping coupling or a breakaway test says: force on an
// arm, each way round. A force of zero is a way that turns free.
type SlipIn struct {
	Arm     Length   `json:"arm"`
	Forward []Force  `json:"forward"`
	Reverse []Force  `json:"reverse,omitempty"`
	Series  Series   `json:"series,omitempty" enum:"nothing,freewheel,speed_disconnect"` // default nothing
	Min     Torque   `json:"min,omitzero"`
	Max     Torque   `json:"max,omitzero"`
	Alike   *float64 `json:"alike_percent,omitempty"` // both ways within, default 15
}

// SlipOut is the answer.
type SlipOut struct {
	Forward     Torque            `json:"forward"`
	Reverse     Torque            `json:"reverse,omitzero"`
	Uncertainty Torque            `json:"uncertainty,omitzero"`
	Alike       metrology.Verdict `json:"alike"`
	Verdict     metrology.Verdict `json:"verdict"`
	Says        string            `json:"says"`
}

// freeShare of the way that creeps is what a free way may still drag by its
// seals and bearings. Our judgement.
const freeShare = 0.2

// SlipTorque is force times arm. A viscous coupling creeps at about 50 to 60
// N·m. Which way depends on what stands in series: nothing, or a disconnect
// that only speed opens, creeps alike both ways; with a freewheel one way
// creeps and the other is free (common practice).
func SlipTorque(in SlipIn) (SlipOut, error) {
	var c input.Checks
	arm := float64(input.Positive(&c, "arm", in.Arm, quantity.Length(5)))
	limits, share := in.limits(&c)
	pull := input.NotNegative[quantity.Force] // an empty coupling turns free, a freewheel one way
	forward := meanForce(&c, "forward", in.Forward, pull)
	reverse := forward
	if len(in.Reverse) > 0 {
		reverse = meanForce(&c, "reverse", in.Reverse, pull)
	}
	if err := c.Err(); err != nil {
		return SlipOut{}, err
	}
	unit := torqueUnit(in.Arm.Unit, in.Min, in.Max)
	torque := func(f quantity.Force) Torque { return quantity.Say(quantity.Torque(arm*float64(f)), unit) }
	carries := forward
	if in.Series == SeriesFreewheel && reverse.Mean > forward.Mean {
		carries = reverse
	}
	out := SlipOut{Forward: torque(forward.Mean), Alike: metrology.None}
	u := zero(float64(carries.Expanded))
	if !math.IsNaN(float64(carries.Expanded)) {
		out.Uncertainty = torque(carries.Expanded)
	}
	out.Verdict = metrology.Judge(arm*float64(carries.Mean), arm*u, limits)
	out.Says = creepWords[out.Verdict]
	if len(in.Reverse) > 0 {
		out.Reverse = torque(reverse.Mean)
		in.bothWays(&out, float64(forward.Mean), float64(reverse.Mean), share/100)
	}
	switch {
	case in.Series != SeriesFreewheel && len(in.Reverse) > 0 && forward.Mean == 0 && reverse.Mean == 0:
		out.Verdict, out.Says = metrology.Out, "turns free: empty"
	case out.Alike == metrology.Out:
		out.Verdict = metrology.Out
	}
	return out, nil
}

// SlipTorqueMethod is SlipTorque as the catalogue lists it.
var SlipTorqueMethod = calculator.Define(examples, calculator.About{
	Name: "slip-torque", Version: 2,
	Purpose: "creep or breakaway torque from force and arm, both ways round",
	Formula: "T = F·arm; both ways alike within 15 %, or one free, by what stands in series",
	Assumes: "turned slowly by hand, square to the arm",
	Sources: []string{calculator.GUM, "a viscous coupling creeps at 50 to 60 N·m: " + calculator.Practice},
}, SlipTorque)

var creepWords = map[metrology.Verdict]string{
	metrology.Out:       "outside the sheet: the fluid has aged, or the plates have worn",
	metrology.Undecided: "too close to a limit to call: pull again, slowly and steadily",
	metrology.None:      "no limit given: compare with a sound one",
	metrology.In:        "within the sheet",
}

func (in SlipIn) limits(c *input.Checks) (limits metrology.Limits, share float64) {
	limits = metrology.Open()
	if in.Min.IsSaid() {
		limits.Lower = float64(input.NotNegative(c, "min", in.Min, 1e5))
	}
	if in.Max.IsSaid() {
		limits.Upper = float64(input.Positive(c, "max", in.Max, 1e5))
	}
	if input.Over(limits.Lower, limits.Upper) {
		c.Add("min", "not above max", "%s lies above %s", in.Min, in.Max)
	}
	switch in.Series {
	case "", SeriesNothing, SeriesFreewheel, SeriesDisconnect:
	default:
		c.Add("series", fmt.Sprintf("%s, %s, %s", SeriesNothing, SeriesFreewheel, SeriesDisconnect),
			"%q is not something fitted in line", in.Series)
	}
	return limits, input.Number(c, "alike_percent", input.OrNumber(in.Alike, 15), 1, 100)
}

// bothWays judges one way against the other by what stands in series. Alike is
// in when they are as they should be to each other.
func (in SlipIn) bothWays(out *SlipOut, forward, reverse, share float64) {
	low, high := math.Min(forward, reverse), math.Max(forward, reverse)
	if in.Series == SeriesFreewheel {
		out.Alike = metrology.Judge(low, 0, metrology.Limits{Lower: math.Inf(-1), Upper: high * freeShare})
		switch {
		case high == 0:
			out.Alike, out.Says = metrology.Out, "free both ways: the freewheel slips, or the coupling is empty"
		case out.Alike == metrology.Out:
			out.Says = "it drags both ways: the freewheel is locked"
		}
		return
	}
	out.Alike = metrology.Judge(high-low, 0, metrology.Limits{Lower: math.Inf(-1), Upper: (high + low) / 2 * share})
	if out.Alike == metrology.Out {
		out.Says = "it creeps differently each way: its freewheel has failed"
		if in.Series != "" {
			out.Says = "it creeps differently each way, which should not happen here: pull again; then look for a freewheel not on the sheet, or a bearing binding one way"
		}
	}
}

func meanForce(
	c *input.Checks, at string, list []Force,
	read func(*input.Checks, string, input.Said[quantity.Force], quantity.Force) quantity.Force,
) metrology.Estimate[quantity.Force] {
	if len(list) < 1 || len(list) > 200 {
		c.Add(at, "1 to 200 readings", "%d readings", len(list))
		return metrology.Estimate[quantity.Force]{}
	}
	var values []quantity.Force
	for i, f := range list {
		values = append(values, read(c, input.Index(at, i), f, 1e5))
	}
	return metrology.Evaluate(values, metrology.Errors[quantity.Force]{}, metrology.DefaultConfidence)
}

func zero(v float64) float64 {
	if math.IsNaN(v) {
		return 0
	}
	return v
}

// torqueUnit answers in the unit of the limits, else in the family of the arm.
func torqueUnit(arm *quantity.Unit, limits ...Torque) *quantity.Unit {
	for _, l := range limits {
		if l.IsSaid() {
			return l.Unit
		}
	}
	return quantity.Named("N·m").For(quantity.Family(arm))
}
