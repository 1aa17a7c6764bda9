package gearing

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

func four(final float64) Set {
	return Set{
		Gears: []Gear{{Name: "1", Ratio: 3.07}, {Name: "2", Ratio: 1.765}, {Name: "top", Ratio: 1}},
		Final: Gear{Ratio: final},
		Tyre:  Tyre{Size: "165/80 R15"},
	}
}

// 30 mph in top with 1 / 1.765 / 3.07 gives 17 and 10 (common practice).
func TestRunningInCapsAreOneEngineSpeed(t *testing.T) {
	t.Parallel()
	out, err := Gearing(GearingIn{Set: four(4.3), RunIn: quantitytest.Said[quantity.Speed](t, "30 mph")})
	require.NoError(t, err)
	assert.InDelta(t, 30, out.Gears[2].RunIn.Value, 1e-9)
	assert.InDelta(t, 17, out.Gears[1].RunIn.Value, 0.05)
	assert.InDelta(t, 10, out.Gears[0].RunIn.Value, 0.25)
}

// 205/55 R16 by hand: 16·25.4 + 2·205·0.55 = 631.9 mm.
func TestTyreSizes(t *testing.T) {
	t.Parallel()
	for size, d := range map[string]float64{"205/55 R16": 631.9, "205/55R16": 631.9, "31x10.5 R15": 787.4,
		"31×10.5 R15": 787.4, "205/55 R16 91V": 631.9,
		"LT265/70R17 121/118S": 802.8, "195/65 R15 91H XL": 634.5,
		"7.50-16": 787.4, "6.00-16": 711.2, "7.50": 0, "205/55": 0, "205/55 R99": 0} {
		got := float64(diameter(size)) * 1000
		if d == 0 {
			assert.True(t, got < 300 || got > 2200, size)
			continue
		}
		assert.InDelta(t, d, got, 0.01, size)
	}
}

func TestSpeedAndEngineSpeedAreInverse(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		rpm := rapid.Float64Range(500, 8000).Draw(t, "rpm")
		u, _ := quantity.UnitNamed("rpm")
		set := four(rapid.Float64Range(2, 7).Draw(t, "final"))
		out, err := Gearing(GearingIn{Set: set, Speeds: []Rotation{{Any: quantity.Any{Value: rpm, Unit: u}}}})
		require.NoError(t, err)
		for i, g := range out.Gears {
			back, err := Gearing(GearingIn{Set: set, At: g.AtSpeeds[0]})
			require.NoError(t, err)
			assert.InDelta(t, rpm, back.Gears[i].EngineAt.Value, 1e-6*rpm)
		}
	})
}

func TestHuntingTeeth(t *testing.T) {
	t.Parallel()
	set := four(1)
	set.Final = Gear{Teeth: [][2]int{{9, 37}}}
	out, err := Gearing(GearingIn{Set: set})
	require.NoError(t, err)
	assert.True(t, *out.FinalIsHunting)
	set.Final = Gear{Teeth: [][2]int{{10, 40}}}
	out, err = Gearing(GearingIn{Set: set})
	require.NoError(t, err)
	assert.False(t, *out.FinalIsHunting)
	assert.NotEmpty(t, out.Findings)
}

// Identities of rolling kinematics: outer and inner race frequencies sum to
// the number of elements, and the outer one is the cage's times that number.
func TestBearingOrderIdentities(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		mm, _ := quantity.UnitNamed("mm")
		d := rapid.Float64Range(3, 20).Draw(t, "d")
		b := Bearing{Elements: rapid.IntRange(5, 30).Draw(t, "n"),
			ContactDeg: rapid.Float64Range(0, 40).Draw(t, "contact"),
			ElementD:   quantity.Say(quantity.Length(d/1000), mm), PitchD: quantity.Say(
				quantity.Length(d*rapid.Float64Range(3, 9).Draw(t, "ratio")/1000), mm,
			)}
		bpfo, bpfi, _, ftf := b.orders()
		assert.InDelta(t, float64(b.Elements), bpfo+bpfi, 1e-9)
		assert.InDelta(t, bpfo, ftf*float64(b.Elements), 1e-9)
	})
}

func TestNoiseFindsThePinion(t *testing.T) {
	t.Parallel()
	in := NoiseIn{
		Speed:  quantitytest.Said[quantity.Speed](t, "72 km/h"),
		Tyre:   Tyre{Circumference: quantitytest.Said[quantity.Length](t, "2000 mm")},
		Shafts: []Shaft{{Name: "pinion", Ratio: 4.1, Teeth: []int{10}}, {Name: "wheel", Ratio: 1}},
	}
	out, err := NoiseOrders(in)
	require.NoError(t, err)
	assert.InDelta(t, 10, out.WheelHz, 1e-9)
	in.HeardHz = 412
	out, err = NoiseOrders(in)
	require.NoError(t, err)
	require.NotEmpty(t, out.Fits)
	assert.Equal(t, "mesh", out.Fits[0].Kind)
	in.HeardHz = 333
	out, err = NoiseOrders(in)
	require.NoError(t, err)
	assert.Contains(t, out.Says, "nothing listed makes")
}

func TestGearingNamesTheBadField(t *testing.T) {
	t.Parallel()
	bad := func(change func(*GearingIn)) error {
		in := GearingIn{Set: four(4.3)}
		change(&in)
		_, err := Gearing(in)
		return err
	}
	require.ErrorContains(t, bad(func(in *GearingIn) { in.Gears = nil }), "gears:")
	require.ErrorContains(t, bad(func(in *GearingIn) { in.Gears[0] = Gear{Teeth: [][2]int{{0, 30}}} }),
		"gears[0].teeth[0]: 0 and 30 teeth")
	require.ErrorContains(t, bad(func(in *GearingIn) { in.Tyre.Size = "2055 R16" }), "tyre.size")
	require.ErrorContains(t, bad(func(in *GearingIn) { in.Final = Gear{} }), "final_drive.ratio")
	require.ErrorContains(t, bad(func(in *GearingIn) { in.Compare = &Set{} }), "compare.gears")
	require.ErrorContains(t, bad(func(in *GearingIn) { in.Gears[0].Ratio = math.Inf(1) }), "gears[0].ratio")
	_, err := NoiseOrders(NoiseIn{Speed: quantitytest.Said[quantity.Speed](t, "50 km/h"),
		Tyre: Tyre{Size: "205/55 R16"}})
	require.ErrorContains(t, err, "shafts:")
}

// First 500 miles at no more than 30 / 17 / 10 mph in top, second, first
// (common practice).
func TestRunningInPlan(t *testing.T) {
	t.Parallel()
	in := RunningIn{Gears: four(1).Gears, Top: quantitytest.Said[quantity.Speed](t, "30 mph"),
		Stages: []Stage{{quantitytest.Said[quantity.Length](t, "500 mi"), 1},
			{quantitytest.Said[quantity.Length](t, "1000 mi"), 1.5}},
		Change: quantitytest.Said[quantity.Length](t, "500 mi"),
		Start:  quantitytest.Said[quantity.Length](t, "11902 mi")}
	out, err := PlanRunningIn(in)
	require.NoError(t, err)
	assert.InDelta(t, 17, out.Stages[0].Caps[1].Speed.Value, 0.05)
	assert.InDelta(t, 45, out.Stages[1].Caps[2].Speed.Value, 1e-9)
	assert.True(t, out.Stages[0].Change)
	assert.False(t, out.Stages[1].Change)
	assert.InDelta(t, 12402, out.Stages[0].Reads.Value, 1e-6)
	in.Stages[1].Share = 0.5
	_, err = PlanRunningIn(in)
	require.ErrorContains(t, err, "steps back")
}

// An axle with a longer ratio never lowers the speed at the engine's limit, in any gear
// and range, and crawls less slowly.
func TestALongerAxleIsNeverSlower(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		short := rapid.Float64Range(2.5, 7).Draw(t, "final")
		long := short - rapid.Float64Range(0, 1.4).Draw(t, "longer")
		low := rapid.Float64Range(1.2, 4.5).Draw(t, "low")
		of := func(final float64) GearingOut {
			set := four(final)
			set.Ranges = []Gear{{Name: "high", Ratio: 1}, {Name: "low", Ratio: low}}
			out, err := Gearing(GearingIn{Set: set, Limit: quantitytest.Said[quantity.Rotation](t, "6000 rpm")})
			if err != nil {
				t.Fatal(err)
			}
			return out
		}
		a, b := of(short), of(long)
		for i := range a.Gears {
			if b.Gears[i].AtLimit.Value < a.Gears[i].AtLimit.Value-1e-9 {
				t.Fatalf("%s is slower with %.3f than with %.3f", a.Gears[i].Gear, long, short)
			}
		}
		if b.Crawl > a.Crawl+1e-9 {
			t.Fatal("a longer axle crawls more slowly")
		}
	})
}
