package quantity

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestParseReadsWhatAMechanicWrites(t *testing.T) {
	t.Parallel()
	tests := []struct {
		text string
		si   float64
		dim  Dimension
	}{
		{"0.62 mm", 0.62e-3, DimLength},
		{"24 thou", 24 * 25.4e-6, DimLength},
		{".024 in", .024 * 0.0254, DimLength},
		{".007in", .007 * 0.0254, DimLength},
		{"1/16 in", 0.0254 / 16, DimLength},
		{`1 1/2"`, 1.5 * 0.0254, DimLength},
		{"-0.05 mm", -0.05e-3, DimLength},
		{"−3 thou", -3 * 25.4e-6, DimLength},
		{"0,62 mm", 0.62e-3, DimLength},
		{"0,620 mm", 0.62e-3, DimLength},
		{"26 lb-ft", 26 * 1.3558179483314004, DimTorque},
		{"26 ft lb", 26 * 1.3558179483314004, DimTorque},
		{"35 Nm", 35, DimTorque},
		{"35 N·m", 35, DimTorque},
		{"15 in-lb", 15 * 0.1129848290276167, DimTorque},
		{"3.75 US qt", 3.75 * 0.946352946e-3, DimVolume},
		{"1 imperial pint", 0.56826125e-3, DimVolume},
		{"2.4 l", 2.4e-3, DimVolume},
		{"62 °C", 335.15, DimTemperature},
		{"32 F", 273.15, DimTemperature},
		{"45 min", 2700, DimTime},
		{"50 lbf", 50 * 4.4482216152605, DimForce},
		{"2 bar", 2e5, DimPressure},
		{"36 km/h", 10, DimSpeed},
		{"60 rpm", 2 * math.Pi, DimRotation},
		{"12 cSt", 12e-6, DimViscosity},
	}
	for _, tt := range tests {
		a, err := parse(tt.text, "")
		require.NoError(t, err, tt.text)
		assert.InEpsilon(t, tt.si, a.SI(), 1e-12, tt.text)
		assert.Equal(t, tt.dim, a.Dimension(), tt.text)
	}
}

func TestParseRefusesAndSaysWhatIsAccepted(t *testing.T) {
	t.Parallel()
	tests := []struct{ text, says string }{
		{"", "nothing typed"},
		{"o.62 mm", "does not begin with a number"},
		{"0.6z mm", "is not a unit"},
		{"0.62", "has no unit"},
		{"0.62 furlong", "is not a unit known here"},
		{"1 qt", "US qt, imp qt"},
		{"1,000 mm", "could mean two things"},
		{"1/0 in", "divides by zero"},
		{"26 lb-ft", "a length is needed"},
		{"99999999999 mm", "too large to be right"},
		{strings.Repeat("9", 80) + " mm", "too long"},
	}
	for _, tt := range tests {
		_, err := ParseAs[Length](tt.text)
		require.Error(t, err, tt.text)
		assert.Contains(t, err.Error(), tt.says, tt.text)
	}
}

// Conversion factors as printed in NIST SP 811 (2008), appendix B.8.
func TestFactorsAgreeWithNISTSP811(t *testing.T) {
	t.Parallel()
	tests := []struct {
		unit string
		si   float64
	}{
		{"in", 2.54e-2}, {"thou", 2.54e-5}, {"ft", 3.048e-1}, {"mi", 1.609344e3},
		{"lbf", 4.448222}, {"psi", 6.894757e3}, {"lb", 4.535924e-1}, {"mph", 4.4704e-1},
		{"lb-ft", 1.355818}, {"lb-in", 1.129848e-1},
		{"US qt", 9.463529e-4}, {"US pt", 4.731765e-4}, {"US gal", 3.785412e-3},
		{"imp gal", 4.54609e-3}, {"imp qt", 1.1365225e-3}, {"imp pt", 5.6826125e-4},
	}
	for _, tt := range tests {
		u, ok := UnitNamed(tt.unit)
		require.True(t, ok, tt.unit)
		assert.InEpsilon(t, tt.si, u.Factor, 5e-7, tt.unit)
	}
}

// Typical fills of the trade, common practice: 3.75 US qt is 3.55 L, an
// imperial pint 0.57 L; 26 lb-ft is 35 N·m.
func TestFillsOfTheTrade(t *testing.T) {
	t.Parallel()
	litre, _ := UnitNamed("L")
	for text, want := range map[string]float64{"3.75 US qt": 3.55, "1 imp pt": 0.57} {
		v, err := ParseAs[Volume](text)
		require.NoError(t, err)
		assert.InDelta(t, want, Say(v.SI(), litre).Value, 0.005, text)
	}
	torque, err := ParseAs[Torque]("26 lb-ft")
	require.NoError(t, err)
	assert.InDelta(t, 35, float64(torque.SI()), 0.3)
}

func TestEveryUnitRoundTripsToTheLastDigitTyped(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		u := rapid.SampledFrom(Units()).Draw(t, "unit")
		digits := rapid.IntRange(0, 6).Draw(t, "decimals")
		n := rapid.Int64Range(-999999, 999999).Draw(t, "n")
		text := fmt.Sprintf("%.*f %s", digits, float64(n)/math.Pow10(digits), u.Symbol)
		a, err := parse(text, "")
		require.NoError(t, err)
		raw, err := json.Marshal(a)
		require.NoError(t, err)
		var back Any
		require.NoError(t, back.UnmarshalJSON(raw))
		assert.Equal(t, Any{Value: a.Value, Unit: a.Unit}, back)
		assert.Equal(t, text, a.Typed)
		again, err := parse(back.String(), "")
		require.NoError(t, err)
		assert.Equal(t, a.Value, again.Value)
		si := Say(Magnitude(a.SI()), a.Unit)
		assert.InDelta(t, a.Value, si.Value, 1e-9*math.Max(1, math.Abs(a.Value)))
	})
}

func TestJSONTakesObjectOrText(t *testing.T) {
	t.Parallel()
	for _, raw := range []string{`{"value": 7, "unit": "thou"}`, `"7 thou"`, `"7thou"`} {
		var l Said[Length]
		require.NoError(t, json.Unmarshal([]byte(raw), &l), raw)
		assert.Equal(t, "7 thou", l.String())
	}
	for raw, says := range map[string]string{
		`7`:                                        "number and unit are needed",
		`{"value": 7}`:                             "unit: missing",
		`{"value": "x", "unit": "mm"}`:             "value: missing or not a number",
		`{"value": 7, "unit": "mm", "tol": 1}`:     "tol: unknown field",
		`{"value": 7, "unit": "N·m"}`:              "a length is needed",
		`{"value": null, "unit": "mm"}`:            "value: missing",
		`{"value": 1e300, "unit": "mm"}`:           "too large to be right",
		`{"value": 7, "unit": {"symbol": "inch"}}`: "unit: missing or not a text",
	} {
		var l Said[Length]
		err := json.Unmarshal([]byte(raw), &l)
		require.Error(t, err, raw)
		assert.Contains(t, err.Error(), says, raw)
	}
}

func TestResultsAnswerInTheFamilyAskedFor(t *testing.T) {
	t.Parallel()
	mm, _ := UnitNamed("mm")
	thou, _ := UnitNamed("thou")
	assert.Equal(t, "in", mm.For(InchFamily).Symbol)
	assert.Equal(t, "thou", thou.For(InchFamily).Symbol)
	assert.Equal(t, "mm", thou.For(Metric).Symbol)
	assert.Equal(t, "mm", mm.For("").Symbol)
}

func FuzzParse(f *testing.F) {
	for _, seed := range []string{"0.62 mm", "1/16 in", "24 thou", "1,5 L", "-.5\"", "9e9 mm", "١ mm", "1/1/1 in"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		a, err := parse(text, "")
		if err != nil {
			return
		}
		if math.IsNaN(a.SI()) || math.IsInf(a.SI(), 0) {
			t.Fatalf("%q gives %v", text, a.SI())
		}
		if _, err := parse(a.String(), ""); err != nil {
			t.Fatalf("%q reads, its own writing %q does not: %v", text, a.String(), err)
		}
	})
}

// The quick way reads what the slow one would: a space more takes the slow one.
func TestTheQuickWayOfReadingAgrees(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		number := rapid.OneOf(rapid.StringMatching(`-?[0-9]{1,4}(\.[0-9]{1,4})?`),
			rapid.StringMatching(`[-0-9.e+]{0,5}`)).Draw(t, "number")
		unit := rapid.SampledFrom([]string{"mm", "N·m", "thou", "TPI", `"`, `\u006dm`, "", "no unit"}).Draw(t, "unit")
		var quick, slow Any
		quickErr := quick.UnmarshalJSON([]byte(`{"value":` + number + `,"unit":"` + unit + `"}`))
		slowErr := slow.UnmarshalJSON([]byte(`{ "value":` + number + `,"unit":"` + unit + `"}`))
		assert.Equal(t, slowErr, quickErr)
		assert.Equal(t, slow, quick)
	})
}

// The family a shop reads in comes first, each in its order; what belongs to
// both stays.
func TestChoicesOfAShop(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		family System
		usual  string
		want   []string
	}{
		{"", "mm", []string{"mm", "thou", "in"}},
		{Metric, "mm", []string{"mm", "thou", "in"}},
		{InchFamily, "mm", []string{"thou", "in", "mm"}},
		{Metric, "lb-ft", []string{"N·m", "lb-ft"}},
		{InchFamily, "no unit", []string{}},
	} {
		assert.Equal(t, c.want, ChoicesIn(c.family, c.usual), "%s, %s", c.family, c.usual)
	}
}

// GUM 7.2.6: an uncertainty is said with at most two significant figures, the
// estimate to the same place.
func TestAValueIsSaidAsSureAsItIs(t *testing.T) {
	t.Parallel()
	mm := func(v float64) Any { return Any{Value: v, Unit: Named("mm")} }
	for _, c := range []struct {
		value, u Any
		want     string
	}{
		{mm(0.733333333333), mm(0.0162), "0.733 mm ± 0.016 mm"},
		{mm(12.3456), mm(0.4), "12.35 mm ± 0.40 mm"},
		{mm(1234.5), mm(120), "1234 mm ± 120 mm"},
		{mm(0.1), Any{Value: 0.5, Unit: Named("thou")}, "0.100 mm ± 0.013 mm"},
		{mm(0.733333333333), Any{}, "0.733 mm"},
	} {
		assert.Equal(t, c.want, c.value.WithUncertainty(c.u))
	}
}
