package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/core/solve"
)

// Range of a torque on the sheet.
type Range struct {
	Min Torque `json:"min"`
	Max Torque `json:"max"`
}

// SleevePoint is one step of the nut on a crush sleeve, with the turning
// torque after it.
type SleevePoint struct {
	NutDeg float64 `json:"nut_deg"` // since the first contact, growing
	Torque Torque  `json:"torque"`
}

// PreloadIn asks what the turning torque of a pinion means.
type PreloadIn struct {
	Readings []Torque              `json:"readings,omitempty"` // over a full turn
	Gauge    *metrology.Instrument `json:"instrument,omitempty"`
	SealDrag Torque                `json:"seal_drag,omitzero"`
	Bearings string                `json:"bearings" enum:"new,used"` // new, used
	New      Range                 `json:"range_new"`
	Used     Range                 `json:"range_used"`
	Sleeve   []SleevePoint         `json:"sleeve,omitempty"`
	NextStep *float64              `json:"next_step_deg,omitempty"` // default 10
	// Trials are the packs tried, the last as it stands; what each turned at. In place of readings.
	Trials []PackTried      `json:"trials,omitempty"`
	Sense  shim.Sense       `json:"sense,omitempty" enum:"pack_reduces_float,pack_increases_float"` // the first, where missing
	Stock  []shim.StockItem `json:"stock,omitempty"`
}

// PreloadOut is the answer.
type PreloadOut struct {
	Preload     Torque            `json:"preload"`
	Uncertainty Torque            `json:"uncertainty,omitzero"`
	Range       Range             `json:"range"`
	Verdict     metrology.Verdict `json:"verdict"`
	Rise        Torque            `json:"rise_per_deg,omitzero"` // of turning torque, for each degree of the nut
	Expected    Torque            `json:"expected_at_next_step,omitzero"`
	ExpectedU   Torque            `json:"expected_uncertainty,omitzero"`
	Step        float64           `json:"next_step_deg,omitempty"`
	Pack        *PackWanted       `json:"pack,omitempty"` // with trials: what to put in
	Says        string            `json:"says"`
}

// maxTurning torque of a pinion in its bearings.
const maxTurning = 50 * quantity.NewtonMetre

// BearingPreload takes the seal's drag off the mean turning torque and judges
// it against the range for new or used bearings. With a crush sleeve it fits
// the rise over the last steps of the nut (a line, or a parabola from four
// points on) and tells the torque to expect at the next small step, so that
// nobody runs past the limit: a crushed sleeve is never backed off.
// Source: GUM for the mean; least squares; common practice.
func BearingPreload(in PreloadIn) (PreloadOut, error) {
	var c input.Checks
	limits := in.limits(&c)
	drag := quantity.Torque(0)
	if in.SealDrag.IsSaid() {
		drag = input.NotNegative(&c, "seal_drag", in.SealDrag, maxTurning)
	}
	if len(in.Readings) == 0 && len(in.Sleeve) == 0 && len(in.Trials) == 0 {
		c.Add("readings", "turning torque over a full turn, or a sleeve log", "nothing was measured")
	}
	for i, r := range in.Readings {
		input.NotNegative(&c, input.Index("readings", i), r, maxTurning)
	}
	in.checkSleeve(&c)
	in.checkTrials(&c)
	if err := c.Err(); err != nil {
		return PreloadOut{}, err
	}
	if n := len(in.Trials); n > 0 {
		in.Readings, in.Sleeve = in.Trials[n-1].Readings, nil
	}
	out, err := in.answer(limits, drag)
	if err != nil || len(in.Trials) == 0 {
		return out, err
	}
	return out, in.wantPack(&out, drag)
}

// BearingPreloadMethod is BearingPreload as the catalogue lists it.
var BearingPreloadMethod = calculator.Define(examples, calculator.About{
	Name:    "bearing-preload",
	Version: 2,
	Purpose: "turning torque of tapered bearings: in the range, how far the nut may go on a crush sleeve, or which pack to fit",
	Formula: "preload = mean − seal drag; the sleeve's rise by least squares over its last steps; " +
		"pack = trial + (middle − preload) / rise of torque with the pack",
	Assumes: "turned slowly and smoothly; a sleeve over the limit is scrap",
	Sources: []string{calculator.GUM, calculator.Practice},
}, BearingPreload)

func (in PreloadIn) limits(c *input.Checks) Range {
	switch in.Bearings {
	case "new":
		in.Used.checkIfSaid(c, "range_used")
		return in.New.check(c, "range_new")
	case "used":
		in.New.checkIfSaid(c, "range_new")
		return in.Used.check(c, "range_used")
	}
	c.Add("bearings", "new, used", "%q does not say which range counts", in.Bearings)
	return in.New
}

func (r Range) check(c *input.Checks, at string) Range {
	low := input.NotNegative(c, at+".min", r.Min, maxTurning)
	if high := input.Positive(c, at+".max", r.Max, maxTurning); input.Over(low, high) {
		c.Add(at+".min", "not above max", "%s lies above %s", r.Min, r.Max)
	}
	return r
}

// checkIfSaid looks at the range that does not count this time.
func (r Range) checkIfSaid(c *input.Checks, at string) {
	if r.Min.IsSaid() || r.Max.IsSaid() {
		r.check(c, at)
	}
}

func (in PreloadIn) checkSleeve(c *input.Checks) {
	if len(in.Sleeve) > 200 {
		c.Add("sleeve", "up to 200 steps", "%d steps", len(in.Sleeve))
	}
	last := -1e-9
	for i, p := range in.Sleeve {
		at := input.Index("sleeve", i)
		input.NotNegative(c, at+".torque", p.Torque, maxTurning)
		if !(p.NutDeg > last && p.NutDeg < 3600) {
			c.Add(
				at+".nut_deg", "growing from step to step, up to 3600 degrees",
				"%s degrees: never turn back the nut on a sleeve", input.Plain(p.NutDeg),
			)
		}
		last = p.NutDeg
	}
	if in.NextStep != nil {
		input.Number(c, "next_step_deg", *in.NextStep, 0.5, 90)
	}
}

func (in PreloadIn) answer(r Range, drag quantity.Torque) (PreloadOut, error) {
	out := PreloadOut{Range: r}
	var unit *quantity.Unit
	var mean quantity.Torque
	var u float64
	if len(in.Readings) > 0 {
		set := metrology.ReadingSetIn{Instrument: in.Gauge}
		for _, x := range in.Readings {
			set.Readings = append(set.Readings, x.Any)
		}
		got, err := metrology.ReadingSet(set)
		if err != nil {
			return out, err
		}
		unit = in.Readings[0].Unit
		mean = quantity.Torque(got.Mean.SI())
		u, out.Uncertainty.Any = got.ByTheMean(), got.Uncertainty
	} else {
		unit = in.Sleeve[0].Torque.Unit
		mean = in.Sleeve[len(in.Sleeve)-1].Torque.SI()
	}
	if mean < drag {
		return out, input.At("seal_drag", "below the turning torque, which it is part of",
			"%s is more than the pinion takes to turn", in.SealDrag)
	}
	out.Preload = quantity.Say(mean-drag, unit)
	out.Verdict = metrology.Judge(float64(mean-drag), u,
		metrology.Limits{Lower: float64(r.Min.SI()), Upper: float64(r.Max.SI())})
	if len(in.Sleeve) >= 2 && in.turnsOn(out.Verdict, float64(mean-drag), u, r) {
		in.rise(&out, drag, unit)
		return out, nil
	}
	out.Says = in.says(out.Verdict, float64(mean-drag), u, r)
	return out, nil
}

// turnsOn tells whether the nut may go on: below the range, and the upper limit
// outside what the readings leave open.
func (in PreloadIn) turnsOn(v metrology.Verdict, preload, u float64, r Range) bool {
	switch v {
	case metrology.In:
		return false
	case metrology.Undecided:
		return len(in.Readings) == 0 && preload+u <= float64(r.Max.SI())
	}
	return preload <= float64(r.Max.SI())
}

// says is the next move on nut or sleeve.
func (in PreloadIn) says(v metrology.Verdict, preload, u float64, r Range) string {
	over := v == metrology.Out && preload > float64(r.Max.SI())
	// The upper limit is within what the readings leave open, or they leave all
	// open: nobody turns on.
	near := v == metrology.Undecided && !(preload+u <= float64(r.Max.SI()))
	switch {
	case over && len(in.Sleeve) > 0:
		return "over the limit: fit a new sleeve; never back off a crushed one"
	case over:
		return "over the limit: a thicker spacer or shim between the bearings"
	case v == metrology.In:
		return "stake the nut and go on"
	case near && len(in.Sleeve) > 0:
		return "too close to the upper limit: do not tighten; seat the rollers and read again over a full turn"
	case v == metrology.Undecided && len(in.Readings) > 0:
		return "too close to call: leave the nut; read again over a full turn, or use a finer gauge"
	}
	return "below the range: tighten a little, turn the pinion to seat the rollers, read again"
}

func zeroNaN(v float64) float64 {
	if math.IsNaN(v) {
		return 0
	}
	return v
}

// rise fits the last steps and looks one ahead.
func (in PreloadIn) rise(out *PreloadOut, drag quantity.Torque, unit *quantity.Unit) {
	points := in.Sleeve[max(0, len(in.Sleeve)-5):]
	degree := 1
	if len(points) >= 4 {
		degree = 2
	}
	end := points[len(points)-1].NutDeg
	var rows [][]float64
	var values []float64
	for _, p := range points {
		x := p.NutDeg - end
		rows = append(rows, []float64{1, x, x * x}[:degree+1])
		values = append(values, float64(p.Torque.SI()-drag))
	}
	fit, err := solve.LeastSquares(rows, values)
	if err != nil || fit.Params[1] <= 0 {
		out.Says = "the torque does not rise with the nut yet: the sleeve has not begun to crush, or the rollers are not seated"
		return
	}
	limit := out.Range.Max.SI()
	at := func(step float64) float64 {
		v := fit.Params[0] + fit.Params[1]*step
		if degree == 2 {
			v += fit.Params[2] * step * step
		}
		return v
	}
	step := input.OrNumber(in.NextStep, 10)
	spread := 2 * zeroNaN(fit.Sigma)
	for step > 0.5 && at(step)+spread > float64(limit) {
		step /= 2
	}
	out.Rise = quantity.SayDifference(quantity.Torque(fit.Params[1]), unit)
	if at(step)+spread > float64(limit) {
		out.Says = "the next step could pass the limit: stop here and read again carefully"
		return
	}
	out.Step = step
	out.Expected = quantity.Say(quantity.Torque(at(step)), unit)
	out.ExpectedU = quantity.SayDifference(quantity.Torque(spread), unit)
	out.Says = fmt.Sprintf("tighten the nut %.1f degrees, seat the rollers, expect %.2f %s", step, out.Expected.Value,
		unit.Symbol)
}
