package fluid

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

func points(t quantitytest.TB, v40, v100 string) []Point {
	return []Point{
		{quantitytest.Said[quantity.Temperature](t, "40 °C"), quantitytest.Said[quantity.Viscosity](t, v40)},
		{quantitytest.Said[quantity.Temperature](t, "100 °C"), quantitytest.Said[quantity.Viscosity](t, v100)},
	}
}

// Exact identity: the curve goes through its two points, and between them a
// straight line in ASTM D341's coordinates.
func TestTheCurveGoesThroughItsPoints(t *testing.T) {
	t.Parallel()
	in := ViscosityIn{
		Points: points(t, "135 mm²/s", "14.5 mm²/s"),
		At: []Temperature{
			quantitytest.Said[quantity.Temperature](t, "40 °C"), quantitytest.Said[quantity.Temperature](t, "100 °C"),
			quantitytest.Said[quantity.Temperature](t, "70 °C"),
		},
	}
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
	t.Parallel()
	out, err := ViscosityAt(ViscosityIn{Points: points(t, "66 mm²/s", "10.2 mm²/s")})
	require.NoError(t, err)
	assert.Equal(t, "30", out.Engine)
	assert.Equal(t, "80", out.Grade)
}

func TestGradesLeaveNoGap(t *testing.T) {
	t.Parallel()
	for i := 1; i < len(gearGrades); i++ {
		assert.Equal(t, gearGrades[i-1].high, gearGrades[i].low)
	}
	assert.Equal(t, "140", gradeOf(gearGrades, 24))
	assert.Empty(t, gradeOf(gearGrades, 3))
}

// Dilution by simulation: drain to the residue, fill up, mix.
func TestFillsReachThePurity(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		residue := rapid.Float64Range(0.05, 0.8).Draw(t, "residue")
		purity := rapid.Float64Range(0.5, 0.999).Draw(t, "purity")
		litre, _ := quantity.UnitNamed("L")
		out, err := FillPlan(
			FillIn{
				Capacity: quantity.Say(quantity.Volume(0.001), litre),
				Residue:  quantity.Say(quantity.Volume(residue*0.001), litre), Purity: new(purity),
			},
		)
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
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		litre, _ := quantity.UnitNamed("L")
		in := FillIn{Capacity: quantity.Say(quantity.Volume(float64(rapid.IntRange(5, 60).Draw(t, "dl"))*1e-4), litre)}
		for range rapid.IntRange(1, 3).Draw(t, "cans") {
			in.Cans = append(
				in.Cans,
				Can{
					Size:  quantity.Say(quantity.Volume(float64(rapid.IntRange(2, 40).Draw(t, "size"))*1e-4), litre),
					Price: float64(rapid.IntRange(1, 30).Draw(t, "price")),
				},
			)
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
	t.Parallel()
	out, err := FillPlan(
		FillIn{
			Capacity: quantitytest.Said[quantity.Volume](t, "3.75 US qt"),
			Cans: []Can{
				{Size: quantitytest.Said[quantity.Volume](t, "1 US qt"), Price: 9},
				{Size: quantitytest.Said[quantity.Volume](t, "1 US gal"), Price: 30},
			},
		},
	)
	require.NoError(t, err)
	assert.InDelta(t, 3.55, out.Litre.Value, 0.005)
	require.Len(t, out.Buy, 1)
	assert.Equal(t, 1, out.Buy[0].Can)
	assert.InDelta(t, 0.25, out.LeftOver.Value, 0.001)
}

// The rules of the trade (common practice), each as a case.
func TestTheSchools(t *testing.T) {
	t.Parallel()
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
	t.Parallel()
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
	t.Parallel()
	_, err := ViscosityAt(ViscosityIn{Points: points(t, "14 mm²/s", "135 mm²/s")})
	require.ErrorContains(t, err, "thicken with heat")
	_, err = ViscosityAt(ViscosityIn{})
	require.ErrorContains(t, err, "points: 0 points")
	p := points(t, "135 mm²/s", "14 mm²/s")
	p[0].At = quantitytest.Said[quantity.Temperature](t, "-300 °C")
	_, err = ViscosityAt(ViscosityIn{Points: p})
	require.ErrorContains(t, err, "points[0].at")
	_, err = FillPlan(FillIn{Capacity: quantitytest.Said[quantity.Volume](t, "2 L"),
		Residue: quantitytest.Said[quantity.Volume](t, "2 L")})
	require.ErrorContains(t, err, "residue")
	_, err = Choose(ChooseIn{UnitKind: "boat", Call: "honey"})
	require.ErrorContains(t, err, "unit_kind")
	require.ErrorContains(t, err, "maker_calls_for")
}

func TestWhereEveryClassIsStoppedThereIsNoChoice(t *testing.T) {
	t.Parallel()
	out, err := Choose(ChooseIn{UnitKind: "differential", Hypoid: true, YellowMetals: true})
	require.NoError(t, err)
	assert.Empty(t, out.Choice)
	assert.Equal(t, metrology.Out, out.Verdict)
	for _, c := range out.Classes {
		assert.NotEmpty(t, c.Stop, c.ID)
	}
}

// SAE J306 (from memory): 75W is tested at -40 °C, and nothing here below.
func TestNoGradeIsNamedBelowItsCold(t *testing.T) {
	t.Parallel()
	for cold, grade := range map[string]string{"-40 °C": "SAE 75W-90", "-26 °C": "SAE 80W-90", "-12 °C": "SAE 85W-90",
		"-41 °C": "", "-50 °C": ""} {
		at, err := quantity.ParseAs[quantity.Temperature](cold)
		require.NoError(t, err)
		out, err := Choose(ChooseIn{UnitKind: "gearbox", YellowMetals: true, Coldest: at})
		require.NoError(t, err)
		for _, c := range out.Classes {
			if c.ID == "gl4" {
				assert.Equal(t, grade, c.Grade, cold)
			}
		}
	}
}

// A US quart is 0.946352946 L by definition (231/4 cubic inches): twenty of
// them are 18.93 L, twenty-one 19.87 L.
func TestCansCountByTheirTrueSize(t *testing.T) {
	t.Parallel()
	for capacity, count := range map[string]int{"19 L": 21, "20 US qt": 20, "18.92705892 L": 20, "18.93 L": 21,
		"946.352946 mL": 1} {
		volume, err := quantity.ParseAs[quantity.Volume](capacity)
		require.NoError(t, err)
		quart, err := quantity.ParseAs[quantity.Volume]("1 US qt")
		require.NoError(t, err)
		out, err := FillPlan(FillIn{Capacity: volume, Cans: []Can{{Size: quart, Price: 9.5}}})
		require.NoError(t, err)
		require.Len(t, out.Buy, 1)
		assert.Equal(t, count, out.Buy[0].Count, capacity)
	}
}

// The cheapest cans against every way to buy up to seven of three sizes.
func TestNoWayToBuyIsCheaper(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(rt *rapid.T) {
		total := rapid.Float64Range(0.3, 6).Draw(rt, "litres")
		var cans []Can
		var size, price [3]float64
		for i := range 3 {
			size[i], price[i] = rapid.Float64Range(0.9, 5).Draw(rt,
				"size"), float64(rapid.IntRange(1, 40).Draw(rt, "price"))
			cans = append(cans, Can{Size: quantity.Say(quantity.Volume(size[i]*1e-3), quantity.Named("L")),
				Price: price[i]})
		}
		out, err := FillPlan(FillIn{Capacity: quantity.Say(quantity.Volume(total*1e-3), quantity.Named("L")),
			Cans: cans})
		require.NoError(rt, err)
		best := math.Inf(1)
		for a := range 8 {
			for b := range 8 {
				for c := range 8 {
					if float64(a)*size[0]+float64(b)*size[1]+float64(c)*size[2] >= total {
						best = math.Min(best, float64(a)*price[0]+float64(b)*price[1]+float64(c)*price[2])
					}
				}
			}
		}
		bought := 0.0
		for _, b := range out.Buy {
			bought += float64(b.Count) * size[b.Can]
		}
		require.InDelta(rt, best, out.Price, 1e-6)
		require.GreaterOrEqual(rt, bought, total-1e-9)
		require.InDelta(rt, bought-total, out.LeftOver.Value, 1e-6)
	})
}

// The borders of SAE J306 belong to the thicker grade, whatever else the data
// sheet says.
func TestBordersOfAGradeSurvive(t *testing.T) {
	t.Parallel()
	for _, border := range gearGrades {
		for forty := 60.0; forty < 900; forty += 7 {
			if forty < 4*border.low {
				continue
			}
			out, err := ViscosityAt(ViscosityIn{Points: []Point{
				{
					quantity.Say[quantity.Temperature](313.15, quantity.Named("°C")),
					quantity.Say(quantity.Viscosity(forty*1e-6), quantity.Named("mm²/s")),
				},
				{
					quantity.Say[quantity.Temperature](373.15, quantity.Named("°C")),
					quantity.Say(quantity.Viscosity(border.low*1e-6), quantity.Named("mm²/s")),
				},
			}})
			require.NoError(t, err)
			require.Equal(t, border.name, out.Grade, "%g at 40, %g at 100", forty, border.low)
			require.InDelta(t, border.low, out.At100, 0)
		}
	}
}

// Hypoid teeth beside bronze: no class serves both, and the answer says so with
// what each would cost, instead of recommending one of them.
func TestNothingFitsHypoidBesideBronze(t *testing.T) {
	t.Parallel()
	out, err := Choose(ChooseIn{UnitKind: "transaxle", Hypoid: true, YellowMetals: true})
	require.NoError(t, err)
	assert.Empty(t, out.Choice)
	assert.Equal(t, metrology.Out, out.Verdict)
	assert.Contains(t, out.Says, "nothing suits: ask the maker")
	for _, c := range out.Classes {
		assert.NotEmpty(t, c.Stop, c.ID)
		assert.Contains(t, out.Says, c.Name)
	}
}

// A wet pack wants ATF or universal tractor fluid, not gear oil (common practice).
func TestAWetPackIsOfferedFluidsForWetPacks(t *testing.T) {
	t.Parallel()
	out, err := Choose(ChooseIn{UnitKind: "transfer_case", WetPack: true})
	require.NoError(t, err)
	assert.Equal(t, "atf", out.Choice)
	assert.Equal(t, "utf", out.Classes[1].ID)
	out, err = Choose(ChooseIn{UnitKind: "gearbox", YellowMetals: true})
	require.NoError(t, err)
	assert.Equal(t, "gl4", out.Choice)
}

// An oil beside another answers as it would alone.
func TestOilsBesideEachOtherAnswerAsAlone(t *testing.T) {
	t.Parallel()
	thin, thick := points(t, "38 mm²/s", "7.4 mm²/s"), points(t, "190 mm²/s", "17.2 mm²/s")
	at := temperatures(t, "-20 °C", "80 °C")
	alone, err := ViscosityAt(ViscosityIn{Points: thick, At: at})
	require.NoError(t, err)
	both, err := ViscosityAt(ViscosityIn{Points: thin, At: at, Others: []Oil{{"thick", thick}}})
	require.NoError(t, err)
	require.Len(t, both.Others, 1)
	assert.Equal(t, OilOut{"thick", alone.A, alone.B, alone.At100, alone.Values, alone.Grade}, both.Others[0])
	assert.Less(t, both.At100, alone.At100)
	_, err = ViscosityAt(ViscosityIn{Points: thin, Others: []Oil{{"", points(t, "7 mm²/s", "66 mm²/s")}, {"b", thick},
		{"b", thin}}})
	require.ErrorContains(t, err, "others[0].name")
	require.ErrorContains(t, err, "others[2].name")
	require.ErrorContains(t, err, "others[0].points: it would thicken")
}

func temperatures(t *testing.T, texts ...string) (list []Temperature) {
	t.Helper()
	for _, text := range texts {
		list = append(list, quantitytest.Said[quantity.Temperature](t, text))
	}
	return list
}

// By hand: half a litre of 3.75 that stays behind leaves 2/15 of the old oil, then (2/15)².
func TestEachFillThinsTheOldOil(t *testing.T) {
	t.Parallel()
	wanted := 0.97
	out, err := FillPlan(FillIn{Capacity: quantitytest.Said[quantity.Volume](t, "3.75 L"),
		Residue: quantitytest.Said[quantity.Volume](t, "0.5 L"), Purity: &wanted})
	require.NoError(t, err)
	require.Len(t, out.AfterEach, 2)
	assert.InDelta(t, 13.0/15, out.AfterEach[0], 1e-12)
	assert.InDelta(t, 1-4.0/225, out.AfterEach[1], 1e-12)
	assert.InDelta(t, out.Purity, out.AfterEach[1], 1e-15)
}
