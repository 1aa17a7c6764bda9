package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Direction the dial points in.
type Direction string

// Along the pitch circle, or square to the tooth's flank.
const (
	Tangential Direction = "tangential"
	Square     Direction = "square"
)

// Geometry of the ring: normal pressure angle, mean spiral angle, pitch angle.
type Geometry struct {
	PressureDeg float64 `json:"pressure_deg"`
	SpiralDeg   float64 `json:"spiral_deg"`
	PitchDeg    float64 `json:"pitch_deg"`
}

// Shift is a trial: how far the ring was moved away from the pinion, and by
// how much the mean backlash grew.
type Shift struct {
	Moved Length `json:"moved"`
	Grew  Length `json:"grew"`
}

// BacklashIn asks what backlash readings round the ring mean.
type BacklashIn struct {
	Readings []Length              `json:"readings"` // at three places or more
	Gauge    *metrology.Instrument `json:"instrument,omitempty"`
	Radius   Length                `json:"radius,omitzero"`       // where the dial stood
	Outer    Length                `json:"outer_radius,omitzero"` // of the ring's teeth
	// Ratio, where the dial is at the pinion's flange and the ring held: teeth of ring
	// over pinion.
	Ratio     *float64  `json:"flange_ratio,omitempty"`
	Direction Direction `json:"direction" enum:"tangential,square"`
	Geometry  *Geometry `json:"geometry,omitempty"`
	Learned   *Learned  `json:"learned,omitempty"` // by earlier axles of the family
	TargetMin Length    `json:"target_min"`
	TargetMax Length    `json:"target_max"`
	Variation Length    `json:"variation_limit,omitzero"`
	Trials    []Shift   `json:"trials,omitempty"`
	RingSide  string    `json:"ring_side,omitempty" enum:"left,right"` // left, right: which side pack the ring sits at
	Left      Length    `json:"left,omitzero"`
	Right     Length    `json:"right,omitzero"`
}

// Factor k: backlash gained per shift of the ring, with its spread.
type Factor struct {
	Value  float64 `json:"value"`
	Spread float64 `json:"spread"` // standard
	From   string  `json:"from"`
}

// BacklashOut is the answer.
type BacklashOut struct {
	Mean        Length            `json:"mean"`
	Uncertainty Length            `json:"uncertainty,omitzero"`
	Variation   Length            `json:"variation"`
	Verdict     metrology.Verdict `json:"verdict"`
	VariationV  metrology.Verdict `json:"variation_verdict"`
	K           Factor            `json:"k"`
	Shift       Length            `json:"shift"` // of the ring, away from the pinion positive
	Left        Length            `json:"left,omitzero"`
	Right       Length            `json:"right,omitzero"`
	Expected    Length            `json:"expected"`
	ExpectedU   Length            `json:"expected_spread"` // of the next reading, one standard
	Chance      float64           `json:"chance"`          // of the next mean in the target
	Findings    []string          `json:"findings"`
	Says        string            `json:"says"`
}

// usualFactor where the angles are unknown. Common practice.
const usualFactor = 0.7

// factor is 2·tan φ·sin Γ/cos ψ along the pitch circle, 2·sin φ·sin Γ square to
// the flank. Source: bevel gear geometry as in ANSI/AGMA 2005 (from memory).
func (g Geometry) factor(d Direction) float64 {
	rad := func(deg float64) float64 { return float64(quantity.Angle(deg) * quantity.Degree) }
	phi, psi, gamma := rad(g.PressureDeg), rad(g.SpiralDeg), rad(g.PitchDeg)
	if d == Square {
		return 2 * math.Sin(phi) * math.Sin(gamma)
	}
	return 2 * math.Tan(phi) * math.Sin(gamma) / math.Cos(psi)
}

// Uncertainties before any trial: geometry is known to a tenth, the rule of
// thumb to a quarter. A change of mean backlash is read to about 0.007 mm.
const (
	geometryShare = 0.10
	thumbShare    = 0.25
	changeSigma   = 7e-6
)

// learn refines k by the rebuild's own trials: recursive least squares with
// the first guess as its prior.
func learn(guess Factor, trials []Shift) Factor {
	precision := 1 / (guess.Spread * guess.Spread)
	sum := guess.Value * precision
	for _, t := range trials {
		moved, grew := t.Moved.DifferenceSI(), t.Grew.DifferenceSI()
		precision += moved * moved / (changeSigma * changeSigma)
		sum += moved * grew / (changeSigma * changeSigma)
	}
	from := guess.From
	if len(trials) > 0 {
		from = fmt.Sprintf("%s, refined by %d trials here", from, len(trials))
	}
	return Factor{sum / precision, 1 / math.Sqrt(precision), from}
}

func (in BacklashIn) guess() Factor {
	if in.Geometry == nil {
		return in.Learned.over(Factor{usualFactor, usualFactor * thumbShare, "0.7, common practice"})
	}
	k := in.Geometry.factor(in.Direction)
	return in.Learned.over(Factor{k, k * geometryShare, "geometry of the pair"})
}

// Backlash gives mean and variation, corrected to the ring's outer radius, and
// the shift of the carrier Δ = (target - mean)/k, taken from one side pack and
// given to the other, so that their sum, the preload, stays.
func Backlash(in BacklashIn) (BacklashOut, error) {
	set, scale, err := in.read()
	if err != nil {
		return BacklashOut{}, err
	}
	unit := in.Readings[0].Unit
	mean := set.Mean.SI() * scale
	low, high := float64(in.TargetMin.SI()), float64(in.TargetMax.SI())
	k := learn(in.guess(), in.Trials)
	shift := ((low+high)/2 - mean) / k.Value
	say := func(v float64) Length { return quantity.SayDifference(quantity.Length(v), unit) }
	out := BacklashOut{
		Mean: say(mean), Variation: say(set.Range.DifferenceSI() * scale), K: k, Findings: []string{},
		Expected: say((low + high) / 2), VariationV: metrology.None,
	}
	u := set.ByTheMean() * scale
	if set.Uncertainty.IsSaid() {
		out.Uncertainty = say(u)
	}
	// Round the ring the readings differ because the ring does; what is judged
	// is their mean, and the uncertainty is that of the mean already.
	out.Verdict = metrology.Judge(mean, u, metrology.Limits{Lower: low, Upper: high})
	if out.Verdict == metrology.In {
		shift = 0
		out.Expected = out.Mean
	}
	out.Shift = say(shift)
	out.ExpectedU = say(math.Hypot(math.Abs(shift)*k.Spread, changeSigma))
	out.Chance = metrology.Chance(out.Expected.DifferenceSI(), out.ExpectedU.DifferenceSI(),
		metrology.Limits{Lower: low, Upper: high})
	in.findings(&out)
	in.packs(&out, shift)
	return out, nil
}

const agma = "bevel gear geometry as in ANSI/AGMA 2005 (from memory)"

// BacklashMethod is Backlash as the catalogue lists it.
var BacklashMethod = calculator.Define(examples, calculator.About{
	Name: "backlash", Version: 3,
	Purpose: "backlash round the ring, and how far to move the carrier from one side pack to the other",
	Formula: "Δ = (target − mean)/k; k = 2·tan φ·sin Γ/cos ψ along the pitch circle, 2·sin φ·sin Γ square to " +
		"the flank, or 0.7; refined by the rebuild's own trials",
	Assumes: "three places or more; small moves; the packs' sum, the preload, stays",
	Schools: "0.7 where the angles are unknown",
	Sources: []string{agma, "0.7: " + calculator.Practice},
}, Backlash)

func (in BacklashIn) read() (metrology.ReadingSetOut, float64, error) {
	var c input.Checks
	if len(in.Readings) < 3 {
		c.Add("readings", "three places or more round the ring", "%d places", len(in.Readings))
	}
	for i, r := range in.Readings {
		input.NotNegative(&c, input.Index("readings", i), r, 5*quantity.Millimetre)
	}
	if in.Direction != Tangential && in.Direction != Square {
		c.Add(
			"direction",
			string(Tangential)+", "+string(Square),
			"choose which way the dial points, not %q",
			in.Direction,
		)
	}
	low, high := input.NotNegative(
		&c, "target_min", in.TargetMin, 5*quantity.Millimetre,
	), input.Positive(&c, "target_max", in.TargetMax, 5*quantity.Millimetre)
	if input.Over(low, high) {
		c.Add("target_min", "not above the upper limit", "%s lies above %s", in.TargetMin, in.TargetMax)
	}
	in.checkAxle(&c)
	scale := in.atTheRim(&c)
	if err := c.Err(); err != nil {
		return metrology.ReadingSetOut{}, 0, err
	}
	set := metrology.ReadingSetIn{Instrument: in.Gauge}
	for _, r := range in.Readings {
		set.Readings = append(set.Readings, r.Any)
	}
	got, err := metrology.ReadingSet(set)
	return got, scale, err
}

// checkAxle looks at what is known of gears, packs and trials before.
func (in BacklashIn) checkAxle(c *input.Checks) {
	if g := in.Geometry; g != nil {
		input.Number(c, "geometry.pressure_deg", g.PressureDeg, 10, 30)
		input.Number(c, "geometry.spiral_deg", g.SpiralDeg, 0, 60)
		input.Number(c, "geometry.pitch_deg", g.PitchDeg, 30, 89)
	}
	if len(in.Trials) > 50 {
		c.Add("trials", "up to 50", "%d trials", len(in.Trials))
	}
	if in.RingSide != "" && in.RingSide != "left" && in.RingSide != "right" {
		c.Add("ring_side", "left, right", "%q is not a side", in.RingSide)
	}
	optional := func(name string, l Length, most quantity.Length) {
		if l.IsSaid() {
			input.NotNegative(c, name, l, most)
		}
	}
	optional("left", in.Left, 50*quantity.Millimetre)
	optional("right", in.Right, 50*quantity.Millimetre)
	optional("variation_limit", in.Variation, 5*quantity.Millimetre)
}

// atTheRim is what a reading at the dial's radius is multiplied by to stand at
// the teeth's outer end: outer over radius, and at the pinion's flange, which
// turns ratio times as far as the ring would, that over the ratio.
func (in BacklashIn) atTheRim(c *input.Checks) float64 {
	scale := 1.0
	if in.Radius.IsSaid() != in.Outer.IsSaid() {
		alone := map[bool]string{true: "outer_radius", false: "radius"}[in.Radius.IsSaid()]
		c.Add(alone, "both radii, or neither when the dial stood at the teeth's outer end",
			"one radius alone is no use")
	} else if in.Radius.IsSaid() {
		r := input.Within(c, "radius", in.Radius, 10*quantity.Millimetre, quantity.Length(1), true)
		o := input.Within(c, "outer_radius", in.Outer, 10*quantity.Millimetre, quantity.Length(1), true)
		scale = float64(o / r)
	}
	if in.Ratio != nil {
		ratio := input.Number(c, "flange_ratio", *in.Ratio, 1, 20)
		if !in.Radius.IsSaid() {
			c.Add(
				"radius", "with a flange ratio: the radius of the dial on the flange, and the outer radius of the ring",
				"play at the flange is not backlash at the teeth",
			)
		}
		scale /= ratio
	}
	return scale
}

func (in BacklashIn) findings(out *BacklashOut) {
	if in.Variation.IsSaid() {
		out.VariationV = metrology.Judge(out.Variation.DifferenceSI(), 0,
			metrology.Limits{Lower: math.Inf(-1), Upper: in.Variation.DifferenceSI()})
		if out.VariationV == metrology.Out {
			out.Findings = append(
				out.Findings,
				"it varies too much round the ring: dirt or a burr under the gear, a bent flange, "+
					"or uneven bolts; put that right before you move anything",
			)
		}
	}
	for _, t := range in.Trials {
		moved, grew := t.Moved.DifferenceSI(), t.Grew.DifferenceSI()
		if math.Abs(moved) > 4*changeSigma && moved*grew < 0 && math.Abs(grew) > 2*changeSigma {
			out.Findings = append(
				out.Findings,
				"a trial moved the backlash the wrong way: check which side pack was thickened, and the sign of the reading",
			)
			break
		}
	}
}

// packs moves shim from one side to the other. With the ring on the left, away
// from the pinion is to the left: the left pack gets thinner.
func (in BacklashIn) packs(out *BacklashOut, shift float64) {
	sign := map[string]float64{"left": -1, "right": 1}[in.RingSide]
	if sign != 0 && in.Left.IsSaid() && in.Right.IsSaid() {
		left, right := in.Left.SI()+quantity.Length(sign*shift), in.Right.SI()-quantity.Length(sign*shift)
		if min(left, right) < 0 {
			out.Says = "the move would need a pack thinner than zero: the pair, a bearing or a reading is wrong; " +
				"check before you move anything"
			return
		}
		out.Left, out.Right = quantity.Say(left, in.Left.Unit), quantity.Say(right, in.Right.Unit)
	}
	way := "away from"
	if shift < 0 {
		way = "toward"
	}
	move := fmt.Sprintf("move the ring %s %s the pinion, from one pack to the other; expect %s",
		short(quantity.SayDifference(quantity.Length(math.Abs(shift)), out.Shift.Unit)), way, short(out.Expected))
	switch out.Verdict {
	case metrology.In:
		out.Says = "in: leave the carrier where it is"
	case metrology.Undecided:
		out.Says = "too close to a limit to call: read at more places round the ring. To be sure, " + move
	default:
		out.Says = move
	}
}
