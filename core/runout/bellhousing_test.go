package runout

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// places of two dowels, upper left and lower right, 12 in apart.
func places() []Point { return []Point{{inch(-5), inch(4)}, {inch(5), inch(-4)}} }

func housingIn(x, y float64) HousingIn {
	return HousingIn{
		In:     In{Readings: readings(x, y, round2...), Positive: PlungerIn},
		Dowels: places(), DowelSizes: []Length{thou(7), thou(14), thou(21)},
	}
}

// A measured case (common practice): bore 0.0065 left and 0.007 up; one 0.007
// dowel to 3 o'clock (upper left), the other to 6 (lower right); about 0.003
// was left to the same sides.
func TestTheMeasuredCase(t *testing.T) {
	t.Parallel()
	in := housingIn(-6.5, 7)
	in.Try = []Dowel{{thou(7), 3}, {thou(7), 6}}
	out, err := Bellhousing(in)
	require.NoError(t, err)
	assert.Equal(t, metrology.Out, out.Verdict)
	require.NotNil(t, out.Tried)
	assert.InDelta(t, -3, out.Tried.Predicted.Right.Value, 0.6)
	assert.InDelta(t, 3.5, out.Tried.Predicted.Up.Value, 0.6)
}

// The motion against a second derivation: the holes carried along by the
// predicted shift and twist land on the dowels, but for the change of spacing.
func TestMoveIsARigidMotion(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, r float64) float64 { return rapid.Float64Range(-r, r).Draw(t, name) }
		h := housing{p1: vec{draw("x1", 0.3), 0.2 + draw("y1", 0.1)}, p2: vec{draw("x2", 0.3), -0.2 + draw("y2", 0.1)}}
		d1, d2 := vec{draw("dx1", 5e-4), draw("dy1", 5e-4)}, vec{draw("dx2", 5e-4), draw("dy2", 5e-4)}
		move, twist, bind := h.move(d1, d2)
		along := h.p1.minus(h.p2)
		length := math.Sqrt(along.dot(along))
		for i, p := range []vec{h.p1, h.p2} {
			d := []vec{d1, d2}[i]
			carried := vec{move.x - twist*p.y, move.y + twist*p.x}
			miss := d.minus(carried)
			sign := []float64{0.5, -0.5}[i]
			assert.InDelta(t, sign*bind*along.x/length, miss.x, 1e-12)
			assert.InDelta(t, sign*bind*along.y/length, miss.y, 1e-12)
		}
	})
}

// The plans against brute force over every setting on a coarser grid.
func TestPlansAreTheBestOfTheGrid(t *testing.T) {
	t.Parallel()
	for _, offset := range [][2]float64{{-6.5, 7}, {12, 0}, {9, -9}, {0, -20}, {5.2, 3.1}} {
		in := housingIn(offset[0], offset[1])
		in.StepDeg = 30
		out, err := Bellhousing(in)
		require.NoError(t, err)
		h, err := in.prepare()
		require.NoError(t, err)
		for _, school := range []School{Alike, Each} {
			best := math.Inf(1)
			for _, s1 := range h.sizes {
				for _, s2 := range h.sizes {
					for a1 := 0.0; a1 < 360; a1 += 30 {
						for a2 := 0.0; a2 < 360; a2 += 30 {
							if school == Alike && (s1 != s2 || a1 != a2) {
								continue
							}
							c := h.evaluate(candidate{s1: s1, s2: s2, a1: a1, a2: a2})
							if math.Abs(c.bind) <= h.bind {
								best = math.Min(best, math.Hypot(c.after.x, c.after.y))
							}
						}
					}
				}
			}
			found := math.Inf(1)
			for _, p := range out.Plans {
				if p.School == school {
					found = math.Min(found, float64(p.Predicted.Magnitude.SI()))
				}
			}
			assert.LessOrEqual(t, found, best+1e-9, "%v %s", offset, school)
		}
	}
}

func TestEverySchoolIsOfferedAndBindIsKept(t *testing.T) {
	t.Parallel()
	out, err := Bellhousing(housingIn(5.2, 3.1))
	require.NoError(t, err)
	schools := map[School]bool{}
	for _, p := range out.Plans {
		schools[p.School] = true
		assert.LessOrEqual(t, math.Abs(p.Bind.Value), 2.0+1e-9)
		assert.InDelta(t, p.Predicted.Magnitude.Value, math.Hypot(p.Predicted.Right.Value, p.Predicted.Up.Value), 1e-6)
	}
	assert.Len(t, schools, 2)
	assert.Greater(t, out.Plans[0].Chance, 0.9)
	for i := 1; i < len(out.Plans); i++ {
		assert.LessOrEqual(t, out.Plans[i-1].Predicted.Magnitude.Value, out.Plans[i].Predicted.Magnitude.Value+1e-9)
	}
}

func TestWithinTheLimitNothingIsMoved(t *testing.T) {
	t.Parallel()
	out, err := Bellhousing(housingIn(2, 2))
	require.NoError(t, err)
	assert.Equal(t, metrology.In, out.Verdict)
	assert.Empty(t, out.Plans)
	assert.Contains(t, out.Says, "leave the dowels")
}

func TestTheFace(t *testing.T) {
	t.Parallel()
	in := housingIn(8, 0)
	for _, clock := range []float64{12, 3, 6, 9} {
		in.Face = append(in.Face, Reading{clock, thou(3 * math.Cos(angle(clock)))})
	}
	_, err := Bellhousing(in)
	require.ErrorContains(t, err, "face_radius")
	in.FaceRadius = inch(6)
	out, err := Bellhousing(in)
	require.NoError(t, err)
	assert.InDelta(t, 6, out.Face.TIR.Value, 1e-6)
	assert.InDelta(t, math.Atan(0.003/6)*180/math.Pi, out.Face.TiltDeg, 1e-5)
}

func TestARefitThatWentTheWrongWayIsNoticed(t *testing.T) {
	t.Parallel()
	in := housingIn(12, 0)
	in.Before = &Before{Right: thou(6), Up: thou(0), ExpectedRight: thou(-1), ExpectedUp: thou(0)}
	out, err := Bellhousing(in)
	require.NoError(t, err)
	assert.Contains(t, out.Findings[0], "the wrong way")
	in.Before = &Before{Right: thou(20), Up: thou(0), ExpectedRight: thou(11), ExpectedUp: thou(0)}
	out, err = Bellhousing(in)
	require.NoError(t, err)
	assert.Empty(t, out.Findings)
}

// Everything mirrored left to right gives the mirrored plan.
func TestMirroredHousingMirrorsThePlan(t *testing.T) {
	t.Parallel()
	a, err := Bellhousing(housingIn(9, 5))
	require.NoError(t, err)
	in := housingIn(-9, 5)
	in.Dowels = []Point{{inch(5), inch(4)}, {inch(-5), inch(-4)}}
	b, err := Bellhousing(in)
	require.NoError(t, err)
	assert.InDelta(t, a.Plans[0].Predicted.Magnitude.Value, b.Plans[0].Predicted.Magnitude.Value, 0.11)
	assert.InDelta(t, a.Plans[0].Predicted.Right.Value, -b.Plans[0].Predicted.Right.Value, 0.6)
}

func TestBellhousingNamesTheBadField(t *testing.T) {
	t.Parallel()
	for says, change := range map[string]func(*HousingIn){
		"dowels: 1 places":  func(in *HousingIn) { in.Dowels = in.Dowels[:1] },
		"cannot sit":        func(in *HousingIn) { in.Dowels[1] = in.Dowels[0] },
		"dowel_sizes:":      func(in *HousingIn) { in.DowelSizes = nil },
		"dowel_sizes[0]":    func(in *HousingIn) { in.DowelSizes[0] = thou(-7) },
		"step_deg: 1 ":      func(in *HousingIn) { in.StepDeg = 1 },
		"try: 1 dowels":     func(in *HousingIn) { in.Try = []Dowel{{thou(7), 3}} },
		"try[1]":            func(in *HousingIn) { in.Try = []Dowel{{thou(7), 3}, {thou(7), 44}} },
		"limit_offset:":     func(in *HousingIn) { in.LimitOffset = thou(-1) },
		"readings[0].clock": func(in *HousingIn) { in.Readings[0].Clock = -1 },
	} {
		in := housingIn(8, 0)
		change(&in)
		_, err := Bellhousing(in)
		require.ErrorContains(t, err, says)
	}
}

// 500 random housings with noisy readings: after one refit the bore is within
// limit in at least 95 % of those that any plan can reach. The refit is
// carried out with hands that turn a dowel to within 3 degrees.
func TestOneRefitMendsTheHousing(t *testing.T) {
	t.Parallel()
	reachable, mended := refits(500)
	assert.Greater(t, reachable, 300)
	assert.GreaterOrEqual(t, float64(mended)/float64(reachable), 0.95, "%d of %d", mended, reachable)
}

// refits gives how many random housings any plan can bring within limit, and
// how many of them the first plan did.
func refits(n int) (reachable, mended int) {
	rng := rand.New(rand.NewPCG(2026, 11))
	for range n {
		size, dir := 5+20*rng.Float64(), 2*math.Pi*rng.Float64()
		x, y := size*math.Sin(dir), size*math.Cos(dir)
		in := housingIn(x, y)
		for i := range in.Readings {
			in.Readings[i].Reading = thou(in.Readings[i].Reading.Value + 0.3*rng.NormFloat64())
		}
		out, err := Bellhousing(in)
		if err != nil || len(out.Plans) == 0 {
			continue
		}
		perfect, err := Bellhousing(housingIn(x, y))
		if err != nil || len(perfect.Plans) == 0 || perfect.Plans[0].Predicted.Magnitude.Value > 5 {
			continue
		}
		reachable++
		plan := out.Plans[0]
		h, err := in.prepare()
		if err != nil {
			continue
		}
		h.x, h.y = x*float64(quantity.Thou), y*float64(quantity.Thou)
		done := h.evaluate(candidate{
			s1: float64(plan.Dowels[0].Size.SI()), a1: plan.Dowels[0].Clock*30 + setDeg/2*rng.NormFloat64(),
			s2: float64(plan.Dowels[1].Size.SI()), a2: plan.Dowels[1].Clock*30 + setDeg/2*rng.NormFloat64(),
		})
		if math.Hypot(done.after.x, done.after.y) <= h.limit {
			mended++
		}
	}
	return reachable, mended
}

func BenchmarkBellhousing(b *testing.B) {
	for _, try := range []bool{false, true} {
		b.Run(fmt.Sprintf("try=%v", try), func(b *testing.B) {
			in := housingIn(-6.5, 7)
			if try {
				in.Try = []Dowel{{thou(7), 3}, {thou(7), 6}}
			}
			for b.Loop() {
				if _, err := Bellhousing(in); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// Every listed plan is another setting than the rest, each school is there,
// going each its own way is never worse than going alike, and nothing on a
// plain 5-degree grid leaves less. The grid is computed apart from the search,
// from the two dowel equations as a handbook of plane kinematics has them.
func TestPlansDifferAndNothingOnAGridIsBetter(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(rt *rapid.T) {
		in := housingIn(rapid.Float64Range(-18, 18).Draw(rt, "right"), rapid.Float64Range(-18, 18).Draw(rt, "up"))
		if rapid.Bool().Draw(rt, "plain") {
			in.DowelSizes = append(in.DowelSizes, thou(0))
		}
		out, err := Bellhousing(in)
		require.NoError(rt, err)
		if out.Verdict == metrology.In {
			return
		}
		best := map[School]float64{Alike: math.Inf(1), Each: math.Inf(1)}
		for i, p := range out.Plans {
			best[p.School] = math.Min(best[p.School], p.Predicted.Magnitude.DifferenceSI())
			for _, q := range out.Plans[:i] {
				require.False(rt, p.School == q.School && sameSetting(p, q), "%v is %v again", p, q)
			}
		}
		require.LessOrEqual(rt, best[Each], best[Alike]+3e-9)
		for school, left := range gridBest(in, out.Offset) {
			require.LessOrEqual(rt, best[school], left+3e-9, "%s", school)
		}
	})
}

func sameSetting(p, q Plan) bool {
	for i := range p.Dowels {
		a, b := p.Dowels[i], q.Dowels[i]
		apart := math.Abs(math.Remainder(a.Clock-b.Clock, 12))
		if a.Size.Value != b.Size.Value || (a.Size.Value > 0 && apart > 0.1) {
			return false
		}
	}
	return true
}

// gridBest is the least offset that any setting on a 5-degree grid leaves.
func gridBest(in HousingIn, at Offset) map[School]float64 {
	best := map[School]float64{Alike: math.Inf(1), Each: math.Inf(1)}
	x1, y1, x2, y2 := float64(
		in.Dowels[0].X.SI(),
	), float64(
		in.Dowels[0].Y.SI(),
	), float64(
		in.Dowels[1].X.SI(),
	), float64(
		in.Dowels[1].Y.SI(),
	)
	px, py := x1-x2, y1-y2
	type dowel struct{ size, deg, x, y float64 }
	var all []dowel
	for _, size := range in.DowelSizes {
		for deg := 0.0; deg < 360; deg += 5 {
			sin, cos := math.Sincos(deg * math.Pi / 180)
			all = append(all, dowel{float64(size.SI()), deg, float64(size.SI()) * sin, float64(size.SI()) * cos})
		}
	}
	for _, one := range all {
		for _, two := range all {
			dx, dy := one.x-two.x, one.y-two.y
			if math.Abs((dx*px+dy*py)/math.Hypot(px, py)) > 2*0.0254e-3 {
				continue
			}
			twist := (px*dy - py*dx) / (px*px + py*py)
			x := at.Right.DifferenceSI() + (one.x+two.x)/2 + twist*(y1+y2)/2
			y := at.Up.DifferenceSI() + (one.y+two.y)/2 - twist*(x1+x2)/2
			best[Each] = math.Min(best[Each], math.Hypot(x, y))
			if one.size == two.size && one.deg == two.deg {
				best[Alike] = math.Min(best[Alike], math.Hypot(x, y))
			}
		}
	}
	return best
}

// By hand: 18.05 in 18.00 mm leaves 0.05 of clearance, half of it to a side; the example's bore
// is off by 0.15 mm and more.
func TestThePilotBushTakesUpHalfItsPlay(t *testing.T) {
	t.Parallel()
	in := housingIn(4, 5)
	in.Pilot = &PilotIn{
		Bush:  millimetres(18.05),
		Shaft: millimetres(18),
		Least: millimetres(0.02),
		Most:  millimetres(0.08),
	}
	out, err := Bellhousing(in)
	require.NoError(t, err)
	require.NotNil(t, out.Pilot)
	assert.InDelta(t, 0.05, out.Pilot.Clearance.DifferenceSI()*1e3, 1e-9)
	assert.Equal(t, metrology.In, out.Pilot.Verdict)
	off := out.Offset.Magnitude.DifferenceSI()
	assert.InDelta(t, off-0.025e-3, out.Pilot.Left.DifferenceSI(), 1e-9)
	assert.Contains(t, out.Pilot.Says, "wears the bush")
	in.Pilot.Runout, in.Pilot.Swing = millimetres(0.09), millimetres(0.05)
	out, err = Bellhousing(in)
	require.NoError(t, err)
	assert.Equal(t, metrology.Out, out.Pilot.Verdict)
	in.Pilot = &PilotIn{Bush: millimetres(18.05), Least: millimetres(0.02)}
	out, err = Bellhousing(in)
	require.NoError(t, err, "half told is no reason to refuse the readings")
	assert.Equal(t, metrology.None, out.Pilot.Verdict)
	assert.False(t, out.Pilot.Clearance.IsSaid())
	in.Pilot = &PilotIn{
		Bush:  millimetres(18),
		Shaft: millimetres(18.05),
		Least: millimetres(0.1),
		Most:  millimetres(0.05),
	}
	_, err = Bellhousing(in)
	require.ErrorContains(t, err, "pilot.shaft")
	require.ErrorContains(t, err, "pilot.least")
}

func millimetres(v float64) Length {
	u, _ := quantity.UnitNamed("mm")
	return quantity.Say(quantity.Length(v)*quantity.Millimetre, u)
}
