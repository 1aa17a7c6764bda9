// Package runout reads circles: where a bore or a face stands against the
// axis an indicator turns round, and which offset dowels bring it home.
//
// The picture: seen from behind the engine, looking forward. A clock position
// is a number, 12 at the top, clockwise; x points right, y up. The indicator
// sits on the crankshaft and its plunger rides on the bore. Where the bore's
// wall is near, the plunger goes in and the reading is larger, so
//
//	r(t) = r0 - (x·sin t + y·cos t),  t = clock · 30°
//
// and the bore stands toward the smaller readings.
package runout

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/solve"
)

// Length is a length as said.
type Length = quantity.Said[quantity.Length]

// Reading is one indicated value at a clock position.
type Reading struct {
	Clock   float64 `json:"clock"`
	Reading Length  `json:"reading"`
}

// Sense of the dial.
type Sense string

// Most dials count up when the plunger goes in.
const (
	PlungerIn  Sense = "plunger_in"
	PlungerOut Sense = "plunger_out"
)

// Surface that the plunger rides on.
type Surface string

// A bore, or the outside of a register.
const (
	Inside  Surface = "inside"
	Outside Surface = "outside"
)

// In asks where a circle stands. Sag is the indicator arm's own reading at 6
// on a true ring, zeroed at 12, measured on an inside surface.
type In struct {
	Readings []Reading       `json:"readings"`
	Sag      Length          `json:"sag,omitzero"`
	Positive Sense           `json:"positive" enum:"plunger_in,plunger_out"`
	Surface  Surface         `json:"surface,omitempty" enum:"inside,outside"`
	Units    quantity.System `json:"units,omitempty" enum:"metric,inch,both"`
}

// Offset of a centre, in components and as a pointer.
type Offset struct {
	Right     Length  `json:"right"`
	Up        Length  `json:"up"`
	Magnitude Length  `json:"magnitude"`
	Clock     float64 `json:"clock"`
}

// Out is what the readings say.
type Out struct {
	Offset      Offset   `json:"offset"`
	TIR         Length   `json:"tir"`
	Closure     Length   `json:"closure,omitzero"`   // largest difference between a position and the return to it within a turn
	Opposites   Length   `json:"opposites,omitzero"` // 12 + 6 against 3 + 9
	ResidualRMS Length   `json:"residual_rms"`
	Repeat      Length   `json:"repeat,omitzero"` // standard deviation of the same position between turns
	Uncertainty Length   `json:"uncertainty,omitzero"`
	Confidence  float64  `json:"confidence"`
	Findings    []string `json:"findings"`
}

// Bounds of one set.
const (
	minReadings = 3
	maxReadings = 400
	maxRunout   = 10 * quantity.Millimetre
	confidence  = 0.95
)

// Runout fits r = r0 + a·sin t + b·cos t by least squares and gives the centre
// (-a, -b) of an inside surface, (a, b) of an outside one. Sag S is taken off
// first: S·(1 - cos t)/2 inside, the same with the other sign outside. The
// uncertainty is that of the centre in its worst direction, from the residuals
// (n - 3 degrees of freedom), at 95 %.
// Source: least squares circle by its first harmonic (common metrology
// practice); total reading is twice the offset.
func Runout(in In) (Out, error) {
	c, err := in.fit()
	if err != nil {
		return Out{}, err
	}
	return c.out(), nil
}

// RunoutMethod is Runout as the catalogue lists it.
var RunoutMethod = calculator.Define(examples, calculator.About{
	Name: "runout", Version: 2,
	Purpose: "where a bore or register stands against the axis the indicator turns round",
	Formula: "r = r0 + a·sin t + b·cos t by least squares; inside the centre is (−a, −b); sag S·(1 − cos " +
		"t)/2 off first",
	Assumes: "clock positions seen from behind the engine; offsets small against the radius; three places at " +
		"least",
	Sources: []string{"least squares circle, first harmonic",
		"total reading is twice the offset: " + calculator.Practice},
}, Runout)

// circle is a fitted set, in metres.
type circle struct {
	in       In
	unit     *quantity.Unit
	x, y     float64
	values   []float64 // plunger in positive, sag taken off
	fit      solve.Fit
	turns    map[float64][]float64
	expanded float64 // NaN when nothing is known of the noise
}

// angle of a clock position; 12 and 0 are the same place.
func angle(clock float64) float64 { return clock * math.Pi / 6 }

// clockOf is the clock position a direction points to, in (0, 12].
func clockOf(right, up float64) float64 {
	c := math.Mod(math.Atan2(right, up)*6/math.Pi+12, 12)
	if c < 1e-9 {
		return 12
	}
	return c
}

func (in In) fit() (circle, error) {
	faults := in.check()
	if len(faults) > 0 {
		return circle{}, faults
	}
	c := circle{in: in, unit: in.Readings[0].Reading.Unit.For(in.Units), turns: map[float64][]float64{}}
	sign := 1.0
	if in.Positive == PlungerOut {
		sign = -1
	}
	side := 1.0 // an outside surface gives way where it stands off
	if in.Surface == Outside {
		side = -1
	}
	var rows [][]float64
	for _, r := range in.Readings {
		t := angle(r.Clock)
		v := sign*float64(r.Reading.SI()) - side*sign*in.Sag.DifferenceSI()*(1-math.Cos(t))/2
		rows = append(rows, []float64{1, math.Sin(t), math.Cos(t)})
		c.values = append(c.values, v)
		at := math.Mod(r.Clock, 12)
		c.turns[at] = append(c.turns[at], v)
	}
	if len(c.turns) < minReadings {
		return c, input.At(
			"readings", "at least three places round the circle, usually 12, 3, 6, 9 and back at 12",
			"all readings are at %d places", len(c.turns),
		)
	}
	fit, err := solve.LeastSquares(rows, c.values)
	if err != nil {
		return c, input.At("readings", "places spread round the circle",
			"the places stand too close together to see a circle")
	}
	c.fit = fit
	c.x, c.y = -side*fit.Params[1], -side*fit.Params[2]
	c.expanded = c.uncertainty()
	return c, nil
}

// uncertainty of the centre in its worst direction, whichever that is: the
// root of the larger eigenvalue of the centre's 2×2 covariance.
func (c circle) uncertainty() float64 {
	if c.fit.DOF == 0 {
		return math.NaN()
	}
	xx, yy, xy := c.fit.Spread[1][1], c.fit.Spread[2][2], c.fit.Spread[1][2]
	worst := math.Sqrt((xx+yy)/2 + math.Hypot((xx-yy)/2, xy))
	t := distuv.StudentsT{Sigma: 1, Nu: float64(c.fit.DOF)}.Quantile((1 + confidence) / 2)
	return t * worst * c.fit.Sigma
}

func (c circle) say(v float64) Length { return quantity.SayDifference(quantity.Length(v), c.unit) }

func (c circle) offset(x, y float64) Offset {
	return Offset{c.say(x), c.say(y), c.say(math.Hypot(x, y)), round(clockOf(x, y), 2)}
}

func (c circle) out() Out {
	out := Out{Offset: c.offset(c.x, c.y), ResidualRMS: c.say(c.fit.RMS), Confidence: confidence, Findings: []string{}}
	low, high := math.Inf(1), math.Inf(-1)
	for _, r := range c.in.Readings {
		low, high = math.Min(low, float64(r.Reading.SI())), math.Max(high, float64(r.Reading.SI()))
	}
	out.TIR = c.say(high - low)
	if closure, ok := c.closure(); ok {
		out.Closure = c.say(closure)
	}
	if opposites, ok := c.opposites(); ok {
		out.Opposites = c.say(opposites)
	}
	repeat, ok := c.repeat()
	if ok {
		out.Repeat = c.say(repeat)
	}
	if !math.IsNaN(c.expanded) {
		out.Uncertainty = c.say(c.expanded)
	}
	out.Findings = append(out.Findings, c.findings(repeat, ok)...)
	return out
}

// closure is the largest jump from a position to the next reading of it when
// a whole turn lies between.
func (c circle) closure() (float64, bool) {
	last := map[float64]int{}
	worst, seen := 0.0, false
	for i, r := range c.in.Readings {
		at := math.Mod(r.Clock, 12)
		if j, before := last[at]; before && i-j > 1 {
			worst, seen = math.Max(worst, math.Abs(c.values[i]-c.values[j])), true
		}
		last[at] = i
	}
	return worst, seen
}

// opposites compares (12 + 6) with (3 + 9): equal on a true circle.
func (c circle) opposites() (float64, bool) {
	mean := func(clock float64) (float64, bool) {
		values := c.turns[clock]
		sum := 0.0
		for _, v := range values {
			sum += v
		}
		return sum / float64(len(values)), len(values) > 0
	}
	top, a := mean(0)
	right, b := mean(3)
	bottom, d := mean(6)
	left, e := mean(9)
	return top + bottom - right - left, a && b && d && e
}

// repeat pools the spread of positions that were read more than once.
func (c circle) repeat() (float64, bool) {
	sum, dof := 0.0, 0
	for _, values := range c.turns {
		mean := 0.0
		for _, v := range values {
			mean += v / float64(len(values))
		}
		for _, v := range values {
			sum += (v - mean) * (v - mean)
		}
		dof += len(values) - 1
	}
	if dof == 0 {
		return 0, false
	}
	return math.Sqrt(sum / float64(dof)), true
}

// findings: a circle leaves residuals like its repeatability. Three times as
// much means that the bore is not round, or that a reading slipped.
func (c circle) findings(repeat float64, repeated bool) []string {
	var out []string
	floor := float64(quantity.Thou) / 2
	if c.fit.DOF > 0 && c.fit.Sigma > math.Max(3*repeat, floor) && (repeated || c.fit.Sigma > 4*floor) {
		out = append(
			out,
			fmt.Sprintf(
				"the readings do not fit a circle (%s off): look for a burr, dirt in the bore, a loose dial or a misreading",
				sayShort(c.say(c.fit.Sigma)),
			),
		)
	}
	if closure, ok := c.closure(); ok && closure > math.Max(4*floor, math.Hypot(c.x, c.y)/2) {
		out = append(
			out,
			fmt.Sprintf(
				"back at the start the dial is %s out: its base has moved; read again",
				sayShort(c.say(closure)),
			),
		)
	}
	if c.fit.DOF == 0 {
		out = append(
			out,
			"three readings prove nothing: read a fourth place or go round again",
		)
	}
	return out
}

func (in In) check() input.Fields {
	var faults input.Fields
	if n := len(in.Readings); n < minReadings || n > maxReadings {
		return input.At("readings", fmt.Sprintf("%d to %d readings round the circle", minReadings, maxReadings),
			"%d readings were given", n)
	}
	for i, r := range in.Readings {
		at := input.Index("readings", i)
		if !(r.Clock >= 0 && r.Clock <= 12) {
			faults.Add(at+".clock", "0 to 12, 12 at the top", "%g is not on the clock", r.Clock)
		}
		if math.Abs(float64(r.Reading.SI())) > float64(maxRunout) {
			faults.Add(at+".reading", "up to "+quantity.Say(maxRunout, r.Reading.Unit).String(),
				"%s is too large for a runout", r.Reading)
		}
	}
	if in.Positive != PlungerIn && in.Positive != PlungerOut {
		faults.Add("positive", string(PlungerIn)+", "+string(PlungerOut),
			"%q is not a dial direction", in.Positive)
	}
	if in.Surface != "" && in.Surface != Inside && in.Surface != Outside {
		faults.Add("surface", string(Inside)+", "+string(Outside), "%q is not a surface", in.Surface)
	}
	if math.Abs(in.Sag.DifferenceSI()) > float64(maxRunout) {
		faults.Add("sag", "some hundredths", "%s is too large for a sag", in.Sag)
	}
	metrology.CheckUnits(in.Units, &faults)
	return faults
}

func round(v float64, digits int) float64 {
	p := math.Pow10(digits)
	return math.Round(v*p) / p
}

func sayShort(l Length) string {
	return fmt.Sprintf("%.*f %s", l.Unit.Decimals, l.Value, l.Unit.Symbol)
}
