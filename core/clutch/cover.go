package clutch

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// CoverIn is what is measured of a flywheel and the cover bolted to it. The step is how
// far the friction face lies below the face that carries the cover; above it, it is
// negative. What is missing is not judged.
type CoverIn struct {
	Fingers   []Length `json:"fingers,omitempty"`   // height of each fingertip, bolted down
	SpreadMax Length   `json:"spread_max,omitzero"` // highest to lowest
	Step      Length   `json:"step,omitzero"`
	StepMin   Length   `json:"step_min,omitzero"`         // by the sheet
	StepMax   Length   `json:"step_max,omitzero"`         // by the sheet
	Thick     Length   `json:"thickness,omitzero"`        // of the flywheel at its friction face
	Least     Length   `json:"least,omitzero"`            // as thin as it may get
	Cut       Length   `json:"cut,omitzero"`              // taken off the friction face
	CutCover  Length   `json:"cut_cover,omitzero"`        // taken off the cover's face with it
	Spring    *Spring  `json:"spring,omitempty"`          // the diaphragm, with its fitted deflection
	Diaphragm *float64 `json:"diaphragm_ratio,omitempty"` // bearing travel over lift
	// Dual is the free turn and rock of a dual-mass flywheel.
	Dual *DualMass `json:"dual_mass,omitempty"`
}

// DualMass is what two halves give by hand, against the sheet.
type DualMass struct {
	Turn    *quantity.Number `json:"turn_deg,omitempty"`     // at the rim, either way together
	TurnMax *quantity.Number `json:"turn_max_deg,omitempty"` // by the sheet
	Rock    Length           `json:"rock,omitzero"`          // at the rim
	RockMax Length           `json:"rock_max,omitzero"`      // by the sheet
}

// CoverOut is the answer.
type CoverOut struct {
	Spread        Length            `json:"spread,omitzero"`             // highest to lowest fingertip
	High          int               `json:"high,omitempty"`              // which stands highest, from 1
	SpreadVerdict metrology.Verdict `json:"spread_verdict"`              // of the fingertips
	StepVerdict   metrology.Verdict `json:"step_verdict"`                // of the step as it is
	StepAfter     Length            `json:"step_after,omitzero"`         // with both cuts
	AfterVerdict  metrology.Verdict `json:"step_after_verdict"`          // of that step
	CutCover      Length            `json:"cut_cover_for_step,omitzero"` // that brings the step to its middle
	Allowance     Length            `json:"allowance,omitzero"`          // that may still come off
	ThickVerdict  metrology.Verdict `json:"thickness_verdict"`           // after the cut
	Clamp         *float64          `json:"clamp_percent,omitempty"`     // by the cut, of what it was
	Fingers       Length            `json:"fingers_move,omitzero"`       // toward the release bearing; negative away
	TurnVerdict   metrology.Verdict `json:"turn_verdict"`                // of the dual mass
	RockVerdict   metrology.Verdict `json:"rock_verdict"`                // of the dual mass
	Verdict       metrology.Verdict `json:"verdict"`                     // of all together
	Says          string            `json:"says"`
}

// Cover judges flywheel and cover, and says what refacing changes. Cutting the friction
// face by c alone lets the diaphragm out by c, as wear does: the clamp follows its
// curve and the fingertips come toward the bearing by c times the diaphragm's ratio.
// What comes off the cover's face takes the whole cover with it: the tips go away.
// Source: geometry and lever law; the clamp by EN 16984 / DIN 2092.
func Cover(in CoverIn) (CoverOut, error) {
	var c input.Checks
	out := CoverOut{SpreadVerdict: metrology.None, StepVerdict: metrology.None, AfterVerdict: metrology.None,
		ThickVerdict: metrology.None, TurnVerdict: metrology.None, RockVerdict: metrology.None}
	in.fingers(&c, &out)
	in.reface(&c, &out)
	in.Dual.judge(&c, &out)
	if len(in.Fingers) == 0 && !in.Step.IsSaid() && !in.Thick.IsSaid() && in.Dual == nil {
		c.Add("fingers", "fingertips, the step, the thickness or a dual-mass flywheel", "nothing is measured")
	}
	if err := c.Err(); err != nil {
		return CoverOut{}, err
	}
	out.conclude()
	return out, nil
}

// CoverMethod is Cover as the catalogue lists it.
var CoverMethod = calculator.Define(examples, calculator.About{
	Name:    "clutch-cover",
	Version: 1,
	Purpose: "flywheel and cover: finger spread, step, what may come off and what refacing changes in clamp and release, dual-mass play",
	Formula: "a cut c of the friction face lets the diaphragm out by c; fingertips move by c·ratio, less what comes off the cover's face",
	Assumes: "the cover seats flat; fitted deflection as new",
	Sources: []string{"geometry", "EN 16984 / DIN 2092", calculator.Practice},
}, Cover)

func (in CoverIn) fingers(c *input.Checks, out *CoverOut) {
	if len(in.Fingers) == 0 {
		return
	}
	if len(in.Fingers) > 60 {
		c.Add("fingers", "up to 60 fingertips", "%d", len(in.Fingers))
	}
	var heights []float64
	for i, f := range in.Fingers {
		heights = append(heights, float64(input.NotNegative(c, input.Index("fingers", i), f, 300*quantity.Millimetre)))
	}
	if len(heights) < 2 { // one alone tells nothing yet
		return
	}
	spread := slices.Max(heights) - slices.Min(heights)
	out.High = slices.Index(heights, slices.Max(heights)) + 1
	out.Spread = quantity.SayDifference(quantity.Length(spread), in.Fingers[0].Unit)
	out.SpreadVerdict = upTo(c, "spread_max", spread, in.SpreadMax)
}

// upTo judges a length against a limit that may be missing.
func upTo(c *input.Checks, path string, v float64, most Length) metrology.Verdict {
	if !most.IsSaid() {
		return metrology.None
	}
	return metrology.Judge(v, 0, metrology.Limits{Lower: math.Inf(-1),
		Upper: float64(input.NotNegative(c, path, most, 50*quantity.Millimetre))})
}

// reface judges the step and the thickness, and what the cuts change.
func (in CoverIn) reface(c *input.Checks, out *CoverOut) {
	bound := func(path string, l Length) float64 {
		if !l.IsSaid() {
			return 0
		}
		return float64(input.Within(c, path, l, -100*quantity.Millimetre, 100*quantity.Millimetre, true))
	}
	cut, cover := bound("cut", in.Cut), bound("cut_cover", in.CutCover)
	if cut < 0 || cover < 0 {
		c.Add("cut", "what comes off, above zero", "metal does not grow")
	}
	limits := metrology.Open()
	if in.StepMin.IsSaid() {
		limits.Lower = bound("step_min", in.StepMin)
	}
	if in.StepMax.IsSaid() {
		limits.Upper = bound("step_max", in.StepMax)
	}
	if input.Over(limits.Lower, limits.Upper) {
		c.Add("step_min", "not above the upper limit", "%s lies above %s", in.StepMin, in.StepMax)
	}
	if in.Step.IsSaid() {
		step, unit := bound("step", in.Step), in.Step.Unit
		out.StepVerdict = metrology.Judge(step, 0, limits)
		out.StepAfter = quantity.SayDifference(quantity.Length(step+cut-cover), unit)
		out.AfterVerdict = metrology.Judge(step+cut-cover, 0, limits)
		if middle := (limits.Lower + limits.Upper) / 2; !math.IsInf(middle, 0) && !math.IsNaN(middle) {
			out.CutCover = quantity.SayDifference(quantity.Length(math.Max(0, step+cut-middle)), unit)
		}
	}
	in.thickness(c, out, cut)
	in.changes(c, out, cut, cover)
}

func (in CoverIn) thickness(c *input.Checks, out *CoverOut, cut float64) {
	if !in.Thick.IsSaid() {
		return
	}
	thick := float64(input.Positive(c, "thickness", in.Thick, 300*quantity.Millimetre))
	if !input.Under(cut, thick) {
		c.Add("cut", "less than the flywheel's thickness", "%s of %s", in.Cut, in.Thick)
	}
	if in.Least.IsSaid() {
		least := float64(input.Positive(c, "least", in.Least, 300*quantity.Millimetre))
		out.Allowance = quantity.SayDifference(quantity.Length(math.Max(0, thick-least)), in.Thick.Unit)
		out.ThickVerdict = metrology.Judge(thick-cut, 0, metrology.Limits{Lower: least, Upper: math.Inf(1)})
	}
}

// changes are what the cuts do to the clamp and to the fingertips.
func (in CoverIn) changes(c *input.Checks, out *CoverOut, cut, cover float64) {
	if in.Spring != nil && (cut > 0 || cover > 0) {
		de, di, t, h0 := in.Spring.check(c, "spring")
		fitted := float64(input.Positive(c, "spring.fitted_deflection", in.Spring.Fitted, 100*quantity.Millimetre))
		if len(c.Fields) > 0 {
			return
		}
		before, after := springForce(de, di, t, h0, fitted), springForce(de, di, t, h0, fitted-cut+cover)
		if before <= 0 || after < 0 || fitted-cut+cover < 0 {
			c.Add("cut", "a cut after which the diaphragm still presses", "the spring would be free")
			return
		}
		share := 100 * after / before
		out.Clamp = &share
	}
	if in.Diaphragm != nil && (cut > 0 || cover > 0) {
		ratio := input.Number(c, "diaphragm_ratio", *in.Diaphragm, 0.5, 20)
		unit := cmp.Or(in.Cut.Unit, in.CutCover.Unit)
		// The plate goes out by cut − cover against the cover, and the cover in by its own cut.
		out.Fingers = quantity.SayDifference(quantity.Length((cut-cover)*ratio-cover), unit)
	}
}

func (d *DualMass) judge(c *input.Checks, out *CoverOut) {
	if d == nil {
		return
	}
	if d.Turn != nil {
		turn := input.Number(c, "dual_mass.turn_deg", float64(*d.Turn), 0, 180)
		if d.TurnMax != nil {
			out.TurnVerdict = metrology.Judge(turn, 0, metrology.Limits{Lower: math.Inf(-1),
				Upper: input.Number(c, "dual_mass.turn_max_deg", float64(*d.TurnMax), 0, 180)})
		}
	}
	if d.Rock.IsSaid() {
		out.RockVerdict = upTo(c, "dual_mass.rock_max",
			float64(input.NotNegative(c, "dual_mass.rock", d.Rock, 50*quantity.Millimetre)), d.RockMax)
	}
}

// conclude joins the verdicts and says what to do.
func (o *CoverOut) conclude() {
	o.Verdict = metrology.None
	var says []string
	plain := func(text string) func() string { return func() string { return text } }
	for _, one := range []struct {
		verdict metrology.Verdict
		out     func() string
	}{
		{o.SpreadVerdict, o.spreadWords},
		{o.AfterVerdict, o.stepWords},
		{o.ThickVerdict, plain("too thin to cut: another flywheel")},
		{o.TurnVerdict, plain("the dual-mass flywheel turns too far: replace it")},
		{o.RockVerdict, plain("the dual-mass flywheel rocks too far: replace it")},
	} {
		switch {
		case one.verdict == metrology.Out:
			o.Verdict, says = metrology.Out, append(says, one.out())
		case one.verdict == metrology.In && o.Verdict == metrology.None:
			o.Verdict = metrology.In
		}
	}
	if o.Clamp != nil {
		says = append(says, fmt.Sprintf("the cut leaves %.0f %% of the clamp", *o.Clamp))
	}
	if len(says) == 0 && o.Verdict == metrology.In {
		says = append(says, "all within the sheet")
	}
	if len(says) == 0 {
		says = append(says, "nothing to judge it by: the sheet's limits are missing")
	}
	o.Says = strings.Join(says, "; ")
}

func (o *CoverOut) spreadWords() string {
	return fmt.Sprintf("fingertips differ by %s: slacken the cover and tighten it evenly; if they stay so, replace it",
		short(o.Spread))
}

func (o *CoverOut) stepWords() string {
	if o.CutCover.IsSaid() && o.CutCover.Value > 0 {
		return fmt.Sprintf(
			"the step would be %s: take %s off the cover's face as well",
			short(o.StepAfter),
			short(o.CutCover),
		)
	}
	return fmt.Sprintf("the step is %s, shallower than the sheet: cut the friction face", short(o.StepAfter))
}
