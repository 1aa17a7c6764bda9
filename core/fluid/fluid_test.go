package fluid

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

func points(t require.TestingT, v40, v100 string) []Point {
	return []Point{{quantitytest.Said[quantity.Temperature](t, "40 °C"), quantitytest.Said[quantity.Viscosity](t, v40)}, {quantitytest.Said[quantity.Temperature](t, "100 °C"), quantitytest.Said[quantity.Viscosity](t, v100)}}
}

// Exact identity: the curve goes through its two points, and between them a
// straight line in ASTM D341's coordinates.
func TestTheCurveGoesThroughItsPoints(t *testing.T) {
	in := ViscosityIn{Points: points(t, "135 mm²/s", "14.5 mm²/s"), At: []Temperature{quantitytest.Said[quantity.Temperature](t, "40 °C"), quantitytest.Said[quantity.Temperature](t, "100 °C"), quantitytest.Said[quantity.Temperature](t, "70 °C")}}
	out, err := ViscosityAt(in)
	require.NoError(t, err)
	assert.InDelta(t, 135, out.Values[0].Viscosity.Value, 1e-6)
	assert.InDelta(t, 14.5, out.Values[1].Viscosity.Value, 1e-6)
	w := func(v float64) float64 { return math.Log10(math.Log10(v + 0.7)) }
	share := (math.Log10(343.15) - math.Log10(313.15)) / (math.Log10(373.15) - math.Log10(313.15))
	assert.InDelta(t, w(135)+(w(14.5)-w(135))*share, w(out.Values[2].Viscosity.Value), 1e-9)
	assert.Equal(t, "90", out.Grade)
}

// A 10W-30 engine oil stands near an 80 gear oil (common practice), since the
// scales differ.
func TestEngineOilBesideGearOil(t *testing.T) {
	out, err := ViscosityAt(ViscosityIn{Points: points(t, "66 mm²/s", "10.2 mm²/s")})
	require.NoError(t, err)
	assert.Equal(t, "30", out.Engine)
	assert.Equal(t, "80", out.Grade)
}

func TestGradesLeaveNoGap(t *testing.T) {
	for i := 1; i < len(gearGrades); i++ {
		assert.Equal(t, gearGrades[i-1].high, gearGrades[i].low)
	}
	assert.Equal(t, "140", gradeOf(gearGrades, 24))
	assert.Empty(t, gradeOf(gearGrades, 3))
}

// Dilution by simulation: drain to the residue, fill up, mix.
func TestFillsReachThePurity(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		residue := rapid.Float64Range(0.05, 0.8).Draw(t, "residue")
		purity := rapid.Float64Range(0.5, 0.999).Draw(t, "purity")
		litre, _ := quantity.UnitNamed("L")
		out, err := FillPlan(FillIn{Capacity: quantity.Say(quantity.Volume(0.001), litre), Residue: quantity.Say(quantity.Volume(residue*0.001), litre), Purity: purity})
		require.NoError(t, err)
		old := 1.0
		for n := 1; ; n++ {
			old *= residue
			if 1-old >= purity-1e-9 {
				assert.Equal(t, n, out.Fills)
				break
			}
		}
		assert.InDelta(t, 1-old, out.Purity, 1e-9)
	})
}

// Cans against brute force.
func TestTheCheapestCans(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		litre, _ := quantity.UnitNamed("L")
		in := FillIn{Capacity: quantity.Say(quantity.Volume(float64(rapid.IntRange(5, 60).Draw(t, "dl"))*1e-4), litre)}
		for range rapid.IntRange(1, 3).Draw(t, "cans") {
			in.Cans = append(in.Cans, Can{Size: quantity.Say(quantity.Volume(float64(rapid.IntRange(2, 40).Draw(t, "size"))*1e-4), litre), Price: float64(rapid.IntRange(1, 30).Draw(t, "price"))})
		}
		out, err := FillPlan(in)
		require.NoError(t, err)
		best := math.Inf(1)
		var try func(i int, volume, price float64)
		try = func(i int, volume, price float64) {
			if volume >= float64(in.Capacity.SI())-1e-9 {
				best = math.Min(best, price)
				return
			}
			if i == len(in.Cans) || price >= best {
				return
			}
			try(i+1, volume, price)
			try(i, volume+float64(in.Cans[i].Size.SI()), price+in.Cans[i].Price)
		}
		try(0, 0, 0)
		assert.InDelta(t, best, out.Price, 1e-9)
	})
}

// Buying a gallon may beat four quarts; 3.75 US qt is 3.55 L (common practice).
func TestAGallonMayBeatFourQuarts(t *testing.T) {
	out, err := FillPlan(FillIn{Capacity: quantitytest.Said[quantity.Volume](t, "3.75 US qt"), Cans: []Can{{Size: quantitytest.Said[quantity.Volume](t, "1 US qt"), Price: 9}, {Size: quantitytest.Said[quantity.Volume](t, "1 US gal"), Price: 30}}})
	require.NoError(t, err)
	assert.InDelta(t, 3.55, out.Litre.Value, 0.005)
	require.Len(t, out.Buy, 1)
	assert.Equal(t, 1, out.Buy[0].Can)
	assert.InDelta(t, 0.25, out.LeftOver.Value, 0.001)
}

// The rules of the trade (common practice), each as a case.
func TestTheSchools(t *testing.T) {
	for name, tt := range map[string]struct {
		in     ChooseIn
		choice string
	}{
		"gearbox with yellow metals": {ChooseIn{UnitKind: "gearbox", YellowMetals: true}, "gl4"},
		"hypoid axle":                {ChooseIn{UnitKind: "differential", Hypoid: true, PlateSlip: true}, "gl5"},
		"old box":                    {ChooseIn{UnitKind: "gearbox", YellowMetals: false, Classic: true}, "mineral"},
		"wet pack":                   {ChooseIn{UnitKind: "transfer_case", WetPack: true}, "atf"},
		"the maker's call":           {ChooseIn{UnitKind: "gearbox", YellowMetals: true, Call: "mtf"}, "mtf"},
	} {
		out, err := Choose(tt.in)
		require.NoError(t, err)
		assert.Equal(t, tt.choice, out.Choice, name)
	}
	lsd, err := Choose(ChooseIn{UnitKind: "differential", Hypoid: true, PlateSlip: true})
	require.NoError(t, err)
	assert.Contains(t, lsd.Needed[0], "friction modifier")
}

func TestGL5WithYellowMetalsIsAHardStop(t *testing.T) {
	out, err := Choose(ChooseIn{UnitKind: "gearbox", YellowMetals: true, Call: "gl5"})
	require.NoError(t, err)
	assert.EqualValues(t, "out", out.Verdict)
	last := out.Classes[len(out.Classes)-1]
	assert.Equal(t, "gl5", last.ID)
	assert.Contains(t, last.Stop, "eats bronze")
	allowed, err := Choose(ChooseIn{UnitKind: "gearbox", YellowMetals: true, Call: "gl5", SheetGL5: true})
	require.NoError(t, err)
	assert.Equal(t, "gl5", allowed.Choice)
}

func TestFluidsNameTheBadField(t *testing.T) {
	_, err := ViscosityAt(ViscosityIn{Points: points(t, "14 mm²/s", "135 mm²/s")})
	require.ErrorContains(t, err, "thicken with heat")
	_, err = ViscosityAt(ViscosityIn{})
	require.ErrorContains(t, err, "points: 0 points")
	p := points(t, "135 mm²/s", "14 mm²/s")
	p[0].At = quantitytest.Said[quantity.Temperature](t, "-300 °C")
	_, err = ViscosityAt(ViscosityIn{Points: p})
	require.ErrorContains(t, err, "points[0].at")
	_, err = FillPlan(FillIn{Capacity: quantitytest.Said[quantity.Volume](t, "2 L"), Residue: quantitytest.Said[quantity.Volume](t, "2 L")})
	require.ErrorContains(t, err, "residue")
	_, err = Choose(ChooseIn{UnitKind: "boat", Call: "honey"})
	require.ErrorContains(t, err, "unit_kind")
	require.ErrorContains(t, err, "maker_calls_for")
}
