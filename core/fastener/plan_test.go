package fastener

import (
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

// The cross pattern of eight bolts, numbered round the circle (common practice).
func TestEightBoltsGoCrosswise(t *testing.T) {
	t.Parallel()
	out, err := TorquePlan(PlanIn{Bolts: 8, Torque: quantitytest.Said[quantity.Torque](t, "26 lb-ft")})
	require.NoError(t, err)
	assert.Equal(t, []int{1, 5, 3, 7, 2, 6, 4, 8}, out.Order)
	require.Len(t, out.Passes, 3)
	assert.InDelta(t, 13, out.Passes[0].Setting.Value, 1e-9)
	assert.InDelta(t, 26, out.Passes[1].Setting.Value, 1e-9)
	assert.True(t, out.Passes[2].Check)
}

// Four and six bolts as any workshop crosses them (common practice).
func TestFewBolts(t *testing.T) {
	t.Parallel()
	for n, want := range map[int][]int{1: {1}, 4: {1, 3, 2, 4}, 6: {1, 4, 2, 5, 3, 6}} {
		out, err := TorquePlan(PlanIn{Bolts: n, Torque: quantitytest.Said[quantity.Torque](t, "35 N·m")})
		require.NoError(t, err)
		assert.Equal(t, want, out.Order, "%d bolts", n)
	}
}

func TestSettingsFollowTheWrench(t *testing.T) {
	t.Parallel()
	out, err := TorquePlan(PlanIn{Bolts: 8, Torque: quantitytest.Said[quantity.Torque](t, "26 lb-ft"),
		Wrench: &Wrench{"N·m", 1}})
	require.NoError(t, err)
	assert.Equal(t, "18 N·m", out.Passes[0].Setting.String())
	assert.Equal(t, "35 N·m", out.Passes[1].Setting.String(), "26 lb-ft is 35 N·m (common practice)")
}

func TestEveryBoltOncePerPass(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := PlanIn{Torque: Torque{Any: quantity.Any{Value: 35}},
			Pattern: rapid.SampledFrom([]Pattern{Star, Spiral}).Draw(t, "pattern")}
		in.Torque.Unit, _ = quantity.UnitNamed("N·m")
		total := 0
		for range rapid.IntRange(1, 3).Draw(t, "circles") {
			n := rapid.IntRange(1, 20).Draw(t, "bolts")
			in.Circles = append(in.Circles, Circle{n, rapid.Float64Range(1, 100).Draw(t, "radius")})
			total += n
		}
		out, err := TorquePlan(in)
		require.NoError(t, err)
		for _, pass := range out.Passes {
			sorted := append([]int(nil), pass.Order...)
			sort.Ints(sorted)
			require.Len(t, sorted, total)
			for i, bolt := range sorted {
				require.Equal(t, i+1, bolt)
			}
		}
	})
}

// The order rule against brute force: at each step no other bolt would have
// been farther from those just tightened.
func TestEachNextBoltIsAsFarAsPossible(t *testing.T) {
	t.Parallel()
	for n := 1; n <= 24; n++ {
		points := Circle{n, 1}.place()
		order := order(points, Star)
		for k := 1; k < n; k++ {
			window := 1
			if k%2 == 0 {
				window = 2
			}
			reach := func(bolt int) float64 {
				near := 10.0
				for _, d := range order[max(0, k-window):k] {
					near = min(near, distance(points[bolt-1], points[d-1]))
				}
				return near
			}
			for _, other := range order[k+1:] {
				assert.LessOrEqual(t, reach(other), reach(order[k])+1e-9, "%d bolts, place %d", n, k)
			}
		}
	}
}

func TestSpiralWorksOutward(t *testing.T) {
	t.Parallel()
	out, err := TorquePlan(PlanIn{Circles: []Circle{{8, 100}, {4, 40}},
		Torque: quantitytest.Said[quantity.Torque](t, "20 N·m")})
	require.NoError(t, err)
	assert.Equal(t, Spiral, out.Pattern)
	inner := append([]int(nil), out.Order[:4]...)
	sort.Ints(inner)
	assert.Equal(t, []int{9, 10, 11, 12}, inner)
}

func TestPlanNamesTheBadField(t *testing.T) {
	t.Parallel()
	good := PlanIn{Bolts: 8, Torque: quantitytest.Said[quantity.Torque](t, "26 lb-ft")}
	tests := []struct {
		change func(*PlanIn)
		says   string
	}{
		{func(in *PlanIn) { in.Bolts = 0 }, "bolts:"},
		{func(in *PlanIn) { in.Bolts = 4000 }, "bolts:"},
		{func(in *PlanIn) { in.Bolts, in.Circles = 0, []Circle{{4, -1}} }, "circles[0]"},
		{func(in *PlanIn) { in.Torque = quantitytest.Said[quantity.Torque](t, "0 N·m") }, "torque:"},
		{func(in *PlanIn) { in.Passes = []float64{0.5, 0.4, 1} }, "passes[1]"},
		{func(in *PlanIn) { in.Passes = []float64{0.5} }, "passes: the last pass stops"},
		{func(in *PlanIn) { in.Pattern = "zigzag" }, "pattern:"},
		{func(in *PlanIn) { in.Wrench = &Wrench{Unit: "mm"} }, "wrench.unit"},
		{func(in *PlanIn) { in.AngleDeg = -90 }, "angle_deg:"},
		{func(in *PlanIn) { in.AngleDeg = 720 }, "angle_deg:"},
	}
	for _, tt := range tests {
		in := good
		tt.change(&in)
		_, err := TorquePlan(in)
		require.Error(t, err, tt.says)
		assert.Contains(t, err.Error(), tt.says)
	}
}

// An angle stage follows the last pass, in the same order, and the check round ends
// it (common practice: torque to seat, angle to stretch).
func TestAnAngleStageFollowsTheTorque(t *testing.T) {
	t.Parallel()
	out, err := TorquePlan(PlanIn{Bolts: 4, Torque: quantitytest.Said[quantity.Torque](t, "30 N·m"),
		Passes: []float64{1}, AngleDeg: 90})
	require.NoError(t, err)
	require.Len(t, out.Passes, 3)
	assert.Equal(t, []float64{0, 90, 0}, []float64{out.Passes[0].AngleDeg, out.Passes[1].AngleDeg,
		out.Passes[2].AngleDeg})
	assert.Equal(t, "pass 2, on by 90°", out.Passes[1].Name)
	assert.Equal(t, out.Order, out.Passes[1].Order)
	assert.True(t, out.Passes[2].Check)
	judged := map[float64]metrology.Verdict{90: metrology.In, 85: metrology.In, 95: metrology.In, 84: metrology.Out,
		120: metrology.Out}
	for turned, want := range judged {
		assert.Equal(t, want, JudgeAngle(turned, 90), turned)
	}
}

func TestJudgeTorque(t *testing.T) {
	t.Parallel()
	setting := 26 * quantity.PoundFoot
	assert.Equal(t, metrology.In, Judge(35*quantity.NewtonMetre, setting, 0.06))
	assert.Equal(t, metrology.Out, Judge(20*quantity.PoundFoot, setting, 0.06))
}
