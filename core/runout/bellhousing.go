package runout

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"handwerk/core/fault"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/solve"
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
	Dowels      []Point   `json:"dowels"`
	DowelSizes  []Length  `json:"dowel_sizes"`
	StepDeg     float64   `json:"step_deg,omitempty"`
	MaxBind     Length    `json:"max_bind,omitzero"`
	LimitOffset Length    `json:"limit_offset,omitzero"`
	Face        []Reading `json:"face,omitempty"`
	FaceRadius  Length    `json:"face_radius,omitzero"`
	Try         []Dowel   `json:"try,omitempty"`
	Before      *Before   `json:"before,omitempty"`
	Seed        uint64    `json:"seed,omitempty"`
}

// Before is where the bore stood before the last refit, and where that refit
// should have brought it.
type Before struct {
	Right         Length `json:"right"`
	Up            Length `json:"up"`
	ExpectedRight Length `json:"expected_right"`
	ExpectedUp    Length `json:"expected_up"`
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
	Limit   Length            `json:"limit"`
	Plans   []Plan            `json:"plans"`
	Tried   *Plan             `json:"tried,omitempty"`
	Face    *Face             `json:"face,omitempty"`
	Says    string            `json:"says"`
}

// Common practice: 0.005 in of offset is tolerable, 0.002 in is the tolerance
// of hole and dowel.
const (
	defaultLimit   = 5 * quantity.Thou
	defaultBind    = 2 * quantity.Thou
	defaultStepDeg = 15.0
	minStepDeg     = 5.0
	maxSizes       = 8
	plansPerSchool = 3
	planSamples    = 20000
	trySamples     = 4000
	// setDeg is how well a dowel is turned to its mark by eye; common practice.
	setDeg = 3.0
)

// vec is a plane vector in metres.
type vec struct{ x, y float64 }

func (a vec) minus(b vec) vec     { return vec{a.x - b.x, a.y - b.y} }
func (a vec) dot(b vec) float64   { return a.x*b.x + a.y*b.y }
func (a vec) cross(b vec) float64 { return a.x*b.y - a.y*b.x }
func toward(size, deg float64) vec {
	s, c := math.Sincos(deg * math.Pi / 180)
	return vec{size * s, size * c}
}

// housing is a problem in metres, checked.
type housing struct {
	circle
	p1, p2 vec
	sizes  []float64
	step   float64
	bind   float64
	limit  float64
	seed   uint64
}

// candidate is a setting of both dowels: sizes and degrees clockwise from 12.
type candidate struct {
	school School
	s1, s2 float64
	a1, a2 float64
	after  vec
	twist  float64
	bind   float64
}

// move is the least-squares rigid motion of the housing for dowel offsets
// d1, d2 at p1, p2: twist ω = (p1-p2)×(d1-d2)/|p1-p2|², change of hole spacing
// (d1-d2)·(p1-p2)/|p1-p2|, and the bore's centre moves by mean(d) - ω×mean(p).
// Source: plane rigid-body kinematics, small angles.
func (h housing) move(d1, d2 vec) (t vec, twist, bind float64) {
	p, d := h.p1.minus(h.p2), d1.minus(d2)
	length2 := p.dot(p)
	twist = p.cross(d) / length2
	bind = d.dot(p) / math.Sqrt(length2)
	mx, my := (h.p1.x+h.p2.x)/2, (h.p1.y+h.p2.y)/2
	return vec{(d1.x+d2.x)/2 + twist*my, (d1.y+d2.y)/2 - twist*mx}, twist, bind
}

func (h housing) evaluate(c candidate) candidate {
	t, twist, bind := h.move(toward(c.s1, c.a1), toward(c.s2, c.a2))
	c.after, c.twist, c.bind = vec{h.x + t.x, h.y + t.y}, twist, bind
	return c
}

// better orders settings by what they leave, where less than 3 nm is
// nothing; then by strain on the holes, then by the smaller dowels, then by
// their places, so that one question has one answer.
func better(a, b candidate) bool {
	const nothing, grain = 3e-9, 1e-10
	left := func(c candidate) float64 {
		if m := math.Hypot(c.after.x, c.after.y); m > nothing {
			return math.Round(m / grain)
		}
		return 0
	}
	for _, pair := range [][2]float64{
		{left(a), left(b)}, {math.Round(math.Abs(a.bind) * 1e7), math.Round(math.Abs(b.bind) * 1e7)},
		{a.s1 + a.s2, b.s1 + b.s2}, {a.s1, b.s1}, {a.a1, b.a1}, {a.a2, b.a2},
	} {
		if pair[0] != pair[1] {
			return pair[0] < pair[1]
		}
	}
	return false
}

// Bellhousing reads the bore as Runout does and answers with dowels: the full
// grid of sizes and clock positions for both schools, every 5 degrees or finer,
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
	if in.Before != nil && h.wentWrong(*in.Before) {
		out.Findings = append(out.Findings, "the refit moved the bore the other way: check which way the dial counts up, that clock positions are seen from behind, and which dowel went where")
	}
	if len(in.Face) > 0 {
		if out.Face, err = in.face(); err != nil {
			return out, err
		}
	}
	if len(in.Try) == 2 {
		tried := h.plan(trySamples, h.evaluate(candidate{Each, float64(in.Try[0].Size.SI()), float64(in.Try[1].Size.SI()), in.Try[0].Clock * 30, in.Try[1].Clock * 30, vec{}, 0, 0}))
		out.Tried = &tried
		out.Says = fmt.Sprintf("this setting leaves %s", sayShort(tried.Predicted.Magnitude))
		return out, nil
	}
	if out.Verdict == metrology.In {
		out.Says = fmt.Sprintf("within %s: leave the dowels as they are", sayShort(out.Limit))
		return out, nil
	}
	for _, c := range append(h.search(Alike), h.search(Each)...) {
		out.Plans = append(out.Plans, h.plan(planSamples, c))
	}
	sortPlans(out.Plans)
	out.Says = "no dowel in the list helps"
	if len(out.Plans) > 0 {
		out.Says = fmt.Sprintf("%s; expect %s", h.words(out.Plans[0]), sayShort(out.Plans[0].Predicted.Magnitude))
	}
	return out, nil
}

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
		return cmp.Compare(math.Round(a.Predicted.Magnitude.DifferenceSI()*1e7), math.Round(b.Predicted.Magnitude.DifferenceSI()*1e7))
	})
}

func (h housing) words(p Plan) string {
	a, b := p.Dowels[0], p.Dowels[1]
	if p.School == Alike {
		return fmt.Sprintf("both dowels %s toward %s", sayShort(a.Size), clockWords(a.Clock))
	}
	return fmt.Sprintf("first dowel %s toward %s, second %s toward %s", sayShort(a.Size), clockWords(a.Clock), sayShort(b.Size), clockWords(b.Clock))
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

// search goes over the whole grid of a school, refines the best of each pair
// of sizes, and lists those that differ. What the grid itself found stays in
// the choice, so that refining never makes it worse; alike settings are also
// settings of each its own way.
func (h housing) search(school School) []candidate {
	pool := h.grid(school)
	if school == Each {
		for _, c := range h.grid(Alike) {
			c.school = Each
			pool = append(pool, c)
		}
	}
	for _, c := range pool[:len(pool):len(pool)] {
		pool = append(pool, h.refine(c))
	}
	for i, c := range pool {
		pool[i] = h.evaluate(c)
	}
	slices.SortStableFunc(pool, func(a, b candidate) int {
		switch {
		case better(a, b):
			return -1
		case better(b, a):
			return 1
		}
		return 0
	})
	var list []candidate
	for _, c := range pool {
		if len(list) < plansPerSchool && math.Abs(c.bind) <= h.bind+1e-9 && !slices.ContainsFunc(list, c.same) {
			list = append(list, c)
		}
	}
	return list
}

// same tells settings that nobody could tell apart at the bench: equal sizes,
// turned within 0.1 h. A plain dowel has no place to be turned to.
func (c candidate) same(d candidate) bool {
	const apart = 3.0
	near := func(size, a, b float64) bool {
		return size == 0 || math.Abs(math.Remainder(a-b, 360)) <= apart
	}
	return c.school == d.school && c.s1 == d.s1 && c.s2 == d.s2 && near(c.s1, c.a1, d.a1) && near(c.s2, c.a2, d.a2)
}

// turned is a dowel of the list at a place of the grid, with its share of what
// happens: the bore moves by the sum of both, the holes bind by the difference.
type turned struct {
	size, deg float64
	first     vec // the bore's move as the first dowel, and as the second
	second    vec
	along     float64 // on the line between the dowels
}

// perPair is how many settings of one pair of sizes are refined.
const perPair = 4

// grid gives the best settings of each pair of sizes on the grid.
func (h housing) grid(school School) []candidate {
	bySize := make([][]turned, len(h.sizes))
	step := math.Min(h.step, minStepDeg)
	for i, size := range h.sizes {
		for deg := 0.0; deg < 360 && (deg == 0 || size > 0); deg += step {
			bySize[i] = append(bySize[i], h.turn(size, deg))
		}
	}
	var pool []candidate
	for i := range h.sizes {
		for j := range h.sizes {
			if school == Alike && i != j {
				continue
			}
			few := solve.BestFew(perPair, better)
			for a, one := range bySize[i] {
				if school == Alike {
					few.Offer(h.join(Alike, one, bySize[j][a]))
					continue
				}
				for _, two := range bySize[j] {
					if math.Abs(one.along-two.along) <= h.bind {
						few.Offer(h.join(Each, one, two))
					}
				}
			}
			pool = append(pool, few.Best()...)
		}
	}
	return pool
}

func (h housing) turn(size, deg float64) turned {
	d := toward(size, deg)
	first, _, along := h.move(d, vec{})
	second, _, _ := h.move(vec{}, d)
	return turned{size, deg, first, second, along}
}

func (h housing) join(school School, one, two turned) candidate {
	return candidate{
		school: school, s1: one.size, s2: two.size, a1: one.deg, a2: two.deg, bind: one.along - two.along,
		after: vec{h.x + one.first.x + two.second.x, h.y + one.first.y + two.second.y},
	}
}

// turns are the ways in which refine tries to go on.
var turns = [][2]float64{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}}

// refine turns the dowels by ever smaller steps while that leaves less.
func (h housing) refine(c candidate) candidate {
	c = h.evaluate(c)
	for step := minStepDeg / 2; step >= 0.0001; step /= 2 {
		for range 12 {
			next := c
			for _, turn := range turns {
				try := c
				try.a1, try.a2 = c.a1+step*turn[0], c.a2+step*turn[1]
				if c.school == Alike {
					try.a2 = try.a1
				}
				try = h.evaluate(try)
				if math.Abs(try.bind) <= h.bind && better(try, next) {
					next = try
				}
			}
			if next == c {
				break
			}
			c = next
		}
	}
	return c
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
		return nil, fault.Below("face", err)
	}
	r := in.FaceRadius.SI()
	if r < 10*quantity.Millimetre || r > quantity.Length(1) {
		return nil, fault.At("face_radius", "10 mm to 1000 mm", "the plunger's radius on the face is needed")
	}
	amplitude := math.Hypot(c.x, c.y)
	return &Face{round(math.Atan(amplitude/float64(r))*180/math.Pi, 5), c.say(2 * amplitude), round(clockOf(c.x, c.y), 2)}, nil
}

func (in HousingIn) prepare() (housing, error) {
	c, err := in.In.fit()
	faults := fault.Below("", err)
	h := housing{circle: c, step: defaultStepDeg, bind: float64(defaultBind), limit: float64(defaultLimit), seed: in.Seed}
	if in.StepDeg != 0 {
		h.step = in.StepDeg
	}
	if h.step < minStepDeg || h.step > 90 {
		faults.Add("step_deg", "5 to 90", "%g degrees is not a workable step", h.step)
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

func (in HousingIn) checkDowels(h *housing, faults *fault.Fields) {
	if len(in.Dowels) != 2 {
		faults.Add("dowels", "the places of both dowels", "%d places were given", len(in.Dowels))
	} else {
		h.p1 = vec{float64(in.Dowels[0].X.SI()), float64(in.Dowels[0].Y.SI())}
		h.p2 = vec{float64(in.Dowels[1].X.SI()), float64(in.Dowels[1].Y.SI())}
		if d := h.p1.minus(h.p2); d.dot(d) < 1e-4 || d.dot(d) > 4 {
			faults.Add("dowels", "two places 10 mm to 2 m apart", "the dowels cannot stand there")
		}
	}
	if len(in.DowelSizes) == 0 && len(in.Try) == 0 || len(in.DowelSizes) > maxSizes {
		faults.Add("dowel_sizes", fmt.Sprintf("1 to %d sizes, like 7 thou, 14 thou, 21 thou", maxSizes), "%d sizes were given", len(in.DowelSizes))
	}
	for i, s := range in.DowelSizes {
		if s.SI() < 0 || s.SI() > 5*quantity.Millimetre {
			faults.Add(fault.Index("dowel_sizes", i), "zero (a plain dowel) to 5 mm", "%s is no offset dowel", s)
		}
		h.sizes = append(h.sizes, float64(s.SI()))
	}
	if len(in.Try) != 0 && len(in.Try) != 2 {
		faults.Add("try", "both dowels", "%d dowels were given", len(in.Try))
	}
	for i, d := range in.Try {
		if !(d.Clock >= 0 && d.Clock <= 12) || d.Size.SI() < 0 || d.Size.SI() > 5*quantity.Millimetre {
			faults.Add(fault.Index("try", i), "a size up to 5 mm and a clock position 0 to 12", "%s at %g", d.Size, d.Clock)
		}
	}
}
