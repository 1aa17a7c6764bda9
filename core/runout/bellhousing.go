package runout

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Point is a place from the bore's centre: right and up, seen from behind.
type Point struct {
	X Length `json:"x"`
	Y Length `json:"y"`
}

// Dowel is an offset dowel of a size, turned to a clock position.
type Dowel struct {
	Size  Length  `json:"size"`
	Clock float64 `json:"clock"`
}

// HousingIn asks which dowels bring a housing's bore onto the crankshaft.
type HousingIn struct {
	In
	Dowels     []Point  `json:"dowels,omitempty"` // both; none: no plan is made
	DowelSizes []Length `json:"dowel_sizes"`
	// StepDeg is the coarsest step wanted, 5 to 90; the search always takes 5 and refines.
	StepDeg     float64   `json:"step_deg,omitempty"`
	MaxBind     Length    `json:"max_bind,omitzero"`
	LimitOffset Length    `json:"limit_offset,omitzero"`
	Face        []Reading `json:"face,omitempty"`
	FaceRadius  Length    `json:"face_radius,omitzero"`
	Try         []Dowel   `json:"try,omitempty"`
	Before      *Before   `json:"before,omitempty"`
	Pilot       *PilotIn  `json:"pilot,omitempty"` // with the housing off
	Seed        uint64    `json:"seed,omitempty"`
}

// Before is where the bore stood before the last refit, and where that refit
// should have brought it.
type Before struct {
	Right         Length `json:"right"`
	Up            Length `json:"up"`
	ExpectedRight Length `json:"expected_right"`
	ExpectedUp    Length `json:"expected_up"`
	// Dowels are both as they should have been set; with them one that was not turned home is found.
	Dowels []Dowel `json:"dowels,omitempty"`
}

// School names how dowels may be turned.
type School string

// Both alike: a pure shift. Each its own way: a shift with a small twist.
const (
	Alike School = "alike"
	Each  School = "each"
)

// Plan is a way to set the dowels with what it leaves.
type Plan struct {
	School    School            `json:"school"`
	Dowels    []Dowel           `json:"dowels"`
	Predicted Offset            `json:"predicted"`
	TwistDeg  float64           `json:"twist_deg"`
	Bind      Length            `json:"bind"` // change of hole spacing
	Verdict   metrology.Verdict `json:"verdict"`
	Chance    float64           `json:"chance"` // of ending within the limit
}

// Face tells how square the housing's face stands.
type Face struct {
	TiltDeg float64 `json:"tilt_deg"`
	TIR     Length  `json:"tir"` // at the face radius
	Clock   float64 `json:"clock"`
}

// HousingOut is the answer.
type HousingOut struct {
	Out
	Verdict metrology.Verdict `json:"verdict"`
	Beyond  Length            `json:"beyond,omitzero"` // of the offset over its limit; only when out
	Limit   Length            `json:"limit"`
	Plans   []Plan            `json:"plans"`
	Tried   *Plan             `json:"tried,omitempty"`
	Face    *Face             `json:"face,omitempty"`
	Pilot   *Pilot            `json:"pilot,omitempty"` // bush in the crankshaft, where it was measured
	Says    string            `json:"says"`
}

// Common practice: 0.005 in of offset is tolerable, 0.002 in is the tolerance
// of hole and dowel.
const (
	defaultLimit   = 5 * quantity.Thou
	defaultBind    = 2 * quantity.Thou
	gridDeg        = 5.0
	maxSizes       = 8
	plansPerSchool = 3
	planSamples    = 20000
	trySamples     = 4000
	// mostApart is how far rounds may differ, as a share of the limit; common practice.
	mostApart = 0.5
	// setDeg is how well a dowel is turned to its mark by eye; common practice.
	setDeg = 3.0
)

// vec is a plane vector in metres.
type vec struct{ x, y float64 }

func (a vec) minus(b vec) vec     { return vec{a.x - b.x, a.y - b.y} }
func (a vec) dot(b vec) float64   { return a.x*b.x + a.y*b.y }
func (a vec) cross(b vec) float64 { return a.x*b.y - a.y*b.x }
func toward(size, deg float64) vec {
	s, c := math.Sincos(float64(quantity.Angle(deg) * quantity.Degree))
	return vec{size * s, size * c}
}

// housing is a problem in metres, checked.
type housing struct {
	circle
	p1, p2 vec
	sizes  []float64
	bind   float64
	limit  float64
	seed   uint64
}

// Bellhousing reads the bore as Runout does and answers with dowels: the full
// grid of sizes and clock positions for both schools, every 5 degrees,
// then the best of each pair of sizes refined. Up to three plans a school are
// listed, each different from the others by a size or by more than 0.1 h. A
// plan's chance is that of ending within the limit,
// sampled (seeded) over the uncertainty of the readings and of turning a dowel
// by eye to within 3 degrees.
func Bellhousing(in HousingIn) (HousingOut, error) {
	h, err := in.prepare()
	if err != nil {
		return HousingOut{}, err
	}
	out := HousingOut{Out: h.out(), Limit: h.say(h.limit), Plans: []Plan{}}
	u := h.expanded
	out.Verdict = metrology.Judge(math.Hypot(h.x, h.y), u, metrology.Limits{Lower: math.Inf(-1), Upper: h.limit})
	if out.Repeat.IsSaid() && input.Over(out.Repeat.DifferenceSI(), mostApart*h.limit) {
		out.Verdict = metrology.Undecided
		out.Findings = append(
			out.Findings,
			fmt.Sprintf(
				"the rounds differ by %s: the base has moved, or the plunger sticks; read all of it again",
				sayShort(out.Repeat),
			),
		)
	}
	if out.Verdict == metrology.Out {
		out.Beyond = h.say(math.Hypot(h.x, h.y) - h.limit)
	}
	if in.Before != nil && h.wentWrong(*in.Before) {
		out.Findings = append(
			out.Findings,
			"the dowels moved the bore the wrong way: check the dial's direction, clock positions from behind the engine, and which dowel went where",
		)
	}
	if short := h.standsShort(in); short != "" {
		out.Findings = append(out.Findings, short)
	}
	if len(in.Face) > 0 {
		if out.Face, err = in.face(); err != nil {
			return out, err
		}
	}
	if in.Pilot != nil {
		if out.Pilot, err = h.pilot(*in.Pilot); err != nil {
			return out, err
		}
	}
	if len(in.Try) == 2 {
		tried := h.plan(
			trySamples,
			h.evaluate(
				candidate{
					Each, float64(in.Try[0].Size.SI()), float64(in.Try[1].Size.SI()), in.Try[0].Clock * 30,
					in.Try[1].Clock * 30, vec{}, 0, 0,
				},
			),
		)
		out.Tried = &tried
		out.Says = fmt.Sprintf("this setting leaves %s off", sayShort(tried.Predicted.Magnitude))
		return out, nil
	}
	if out.Verdict == metrology.In {
		out.Says = fmt.Sprintf("within %s: leave the dowels alone", sayShort(out.Limit))
		return out, nil
	}
	if len(in.Dowels) == 0 {
		out.Says = fmt.Sprintf("%s off centre, %s is the most: say where both dowels sit, and a plan follows",
			sayShort(h.say(math.Hypot(h.x, h.y))), sayShort(out.Limit))
		return out, nil
	}
	for _, c := range append(h.search(Alike), h.search(Each)...) {
		out.Plans = append(out.Plans, h.plan(planSamples, c))
	}
	sortPlans(out.Plans)
	out.Says = "no dowel size on the list helps"
	if len(out.Plans) > 0 {
		out.Says = fmt.Sprintf(
			"%s; expect %s off centre",
			h.words(out.Plans[0]),
			sayShort(out.Plans[0].Predicted.Magnitude),
		)
	}
	return out, nil
}

// BellhousingMethod is Bellhousing as the catalogue lists it.
var BellhousingMethod = calculator.Define(examples, calculator.About{
	Name: "bellhousing", Version: 2,
	Purpose: "which offset dowels, turned where, bring a bell housing onto the crankshaft",
	Formula: "rigid motion for dowel offsets d1, d2: ω = (p1−p2)×(d1−d2)/|p1−p2|², bind = " +
		"(d1−d2)·(p1−p2)/|p1−p2|, move = mean(d) − ω×mean(p)",
	Assumes: "two dowels; sizes and clock positions on a grid, then refined; dowels turned to within 3° " +
		"by eye",
	Schools: "both dowels turned alike (pure shift) and each its own way (shift with a small twist) stand " +
		"side by side",
	Sources: []string{"plane rigid-body kinematics",
		"0.005 in offset, 0.002 in hole tolerance, dowels of 0.007, 0.014, 0.021 in: " + calculator.Practice},
}, Bellhousing)

// wentWrong tells that the bore moved against what was expected of it.
func (h housing) wentWrong(b Before) bool {
	before := vec{float64(b.Right.SI()), float64(b.Up.SI())}
	wanted := vec{float64(b.ExpectedRight.SI()), float64(b.ExpectedUp.SI())}.minus(before)
	went := vec{h.x, h.y}.minus(before)
	return went.dot(wanted) < 0 && math.Sqrt(went.dot(went)) > float64(quantity.Thou)
}

// sortPlans puts what leaves less first; of equals the pure shift.
func sortPlans(plans []Plan) {
	slices.SortStableFunc(plans, func(a, b Plan) int {
		return cmp.Compare(math.Round(a.Predicted.Magnitude.DifferenceSI()*1e7),
			math.Round(b.Predicted.Magnitude.DifferenceSI()*1e7))
	})
}

func (h housing) words(p Plan) string {
	a, b := p.Dowels[0], p.Dowels[1]
	if p.School == Alike {
		return fmt.Sprintf("both dowels %s, offset toward %s", sayShort(a.Size), clockWords(a.Clock))
	}
	return fmt.Sprintf("first dowel %s toward %s, second %s toward %s", sayShort(a.Size), clockWords(a.Clock),
		sayShort(b.Size), clockWords(b.Clock))
}

// clockWords says 8.25 as 8:15.
func clockWords(c float64) string {
	hour := math.Floor(c)
	minute := math.Round((c - hour) * 60)
	if minute == 60 {
		hour, minute = hour+1, 0
	}
	if hour == 0 {
		hour = 12
	}
	if minute == 0 {
		return fmt.Sprintf("%.0f o'clock", hour)
	}
	return fmt.Sprintf("%.0f:%02.0f", hour, minute)
}

func (h housing) plan(samples int, c candidate) Plan {
	left := math.Hypot(c.after.x, c.after.y)
	u := h.expanded
	return Plan{
		School: c.school,
		Dowels: []Dowel{
			{h.say(c.s1), round(clockOf(toward(1, c.a1).x, toward(1, c.a1).y), 6)},
			{h.say(c.s2), round(clockOf(toward(1, c.a2).x, toward(1, c.a2).y), 6)},
		},
		Predicted: h.offset(c.after.x, c.after.y), TwistDeg: round(c.twist*180/math.Pi, 5), Bind: h.say(c.bind),
		Verdict: metrology.Judge(left, u, metrology.Limits{Lower: math.Inf(-1), Upper: h.limit}),
		Chance:  h.chance(samples, c),
	}
}

// chance samples readings and hands, to first order in the small angles.
func (h housing) chance(samples int, c candidate) float64 {
	rng := rand.New(rand.NewPCG(h.seed, 17))
	sigma := 0.0
	if h.fit.DOF > 0 {
		sigma = h.fit.Sigma
	}
	sx, sy := sigma*math.Sqrt(h.fit.Spread[1][1]), sigma*math.Sqrt(h.fit.Spread[2][2])
	turned1, turned2 := c, c
	turned1.a1, turned2.a2 = c.a1+setDeg/2, c.a2+setDeg/2
	by1, by2 := h.evaluate(turned1).after.minus(c.after), h.evaluate(turned2).after.minus(c.after)
	hits := 0
	for range samples {
		n1, n2 := rng.NormFloat64(), rng.NormFloat64()
		x := c.after.x + by1.x*n1 + by2.x*n2 + sx*rng.NormFloat64()
		y := c.after.y + by1.y*n1 + by2.y*n2 + sy*rng.NormFloat64()
		if x*x+y*y <= h.limit*h.limit {
			hits++
		}
	}
	return float64(hits) / float64(samples)
}

// face fits the tilt: amplitude over radius.
func (in HousingIn) face() (*Face, error) {
	c, err := In{Readings: in.Face, Positive: in.Positive, Units: in.Units}.fit()
	if err != nil {
		return nil, input.Below("face", err)
	}
	r := in.FaceRadius.SI()
	if r < 10*quantity.Millimetre || r > quantity.Length(1) {
		return nil, input.At("face_radius", "10 mm to 1000 mm", "the plunger's radius on the face is needed")
	}
	amplitude := math.Hypot(c.x, c.y)
	return &Face{round(math.Atan(amplitude/float64(r))*180/math.Pi, 5), c.say(2 * amplitude),
		round(clockOf(c.x, c.y), 2)}, nil
}

func (in HousingIn) prepare() (housing, error) {
	c, err := in.In.fit()
	faults := input.Below("", err)
	h := housing{circle: c, bind: float64(defaultBind), limit: float64(defaultLimit), seed: in.Seed}
	if in.StepDeg != 0 && (in.StepDeg < gridDeg || in.StepDeg > 90) {
		faults.Add("step_deg", "5 to 90", "%g degrees is not a usable step", in.StepDeg)
	}
	if in.MaxBind.IsSaid() {
		h.bind = float64(in.MaxBind.SI())
	}
	if in.LimitOffset.IsSaid() {
		h.limit = float64(in.LimitOffset.SI())
	}
	if h.bind < 0 || h.limit <= 0 {
		faults.Add("limit_offset", "more than zero", "limits above zero are needed")
	}
	in.checkDowels(&h, &faults)
	return h, faults.Err()
}

func (in HousingIn) checkDowels(h *housing, faults *input.Fields) {
	switch {
	case len(in.Dowels) == 0 && len(in.Try) == 0: // how far it is off is known without
	case len(in.Dowels) != 2:
		faults.Add("dowels", "the places of both dowels", "%d places were given", len(in.Dowels))
	default:
		h.p1 = vec{float64(in.Dowels[0].X.SI()), float64(in.Dowels[0].Y.SI())}
		h.p2 = vec{float64(in.Dowels[1].X.SI()), float64(in.Dowels[1].Y.SI())}
		if d := h.p1.minus(h.p2); d.dot(d) < 1e-4 || d.dot(d) > 4 {
			faults.Add("dowels", "two places 10 mm to 2 m apart", "dowels cannot sit there")
		}
	}
	in.checkSizes(h, faults)
	in.checkTry(faults)
}

func (in HousingIn) checkSizes(h *housing, faults *input.Fields) {
	if len(in.DowelSizes) == 0 && len(in.Try) == 0 || len(in.DowelSizes) > maxSizes {
		faults.Add("dowel_sizes", fmt.Sprintf("1 to %d sizes, like 7 thou, 14 thou, 21 thou", maxSizes),
			"%d sizes were given", len(in.DowelSizes))
	}
	for i, s := range in.DowelSizes {
		if s.SI() < 0 || s.SI() > 5*quantity.Millimetre {
			faults.Add(input.Index("dowel_sizes", i), "zero (a plain dowel) to 5 mm", "%s is not an offset dowel", s)
		}
		h.sizes = append(h.sizes, float64(s.SI()))
	}
}

func (in HousingIn) checkTry(faults *input.Fields) {
	if len(in.Try) != 0 && len(in.Try) != 2 {
		faults.Add("try", "both dowels", "%d dowels were given", len(in.Try))
	}
	for i, d := range in.Try {
		if !(d.Clock >= 0 && d.Clock <= 12) || d.Size.SI() < 0 || d.Size.SI() > 5*quantity.Millimetre {
			faults.Add(input.Index("try", i), "a size up to 5 mm and a clock position 0 to 12", "%s at %g", d.Size,
				d.Clock)
		}
	}
}
