package input

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestNumbersAreReadAsTheyAreTyped(t *testing.T) {
	t.Parallel()
	for text, want := range map[string]float64{
		"1250": 1250, "1 250": 1250, "1250.50": 1250.5, "12,50": 12.5, " 7 ": 7, "1\u00a0250,5": 1250.5, "0,125": 0.125,
		"1/2": 0.5, "1 1/2": 1.5, "−3": -3, ".5": 0.5, "12 345 678": 12345678,
	} {
		n, err := ReadNumber(text)
		require.NoError(t, err, text)
		assert.InDelta(t, want, n, 1e-12, text)
	}
	for text, problem := range map[string]string{
		"1,250": "two things", "12,345": "two things", "": "nothing typed", "twelve": "begin with a number", "12 mm": "no number",
		"1e5": "exponent", "9999999999": "too large to be right", "1 25": "no number", "1.250,5": "no number", "12 %": "no number",
	} {
		_, err := ReadNumber(text)
		require.ErrorContains(t, err, problem, text)
	}
}

func FuzzReadNumber(f *testing.F) {
	for _, s := range []string{"1 250", "12,50", "1,250", "7 %", "−.5", "1/0", "1 1/2"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if n, err := ReadNumber(text); err == nil && (n > 1e9 || n < -1e9) {
			t.Fatalf("%q is %g", text, n)
		}
	})
}

func TestATextIsReadWhereANumberIsWanted(t *testing.T) {
	t.Parallel()
	var x struct {
		Ratio float64 `json:"ratio"`
		Gears int     `json:"gears"`
	}
	require.NoError(t, Decode([]byte(`{"ratio":"4,1","gears":"5"}`), &x))
	assert.InDelta(t, 4.1, x.Ratio, 1e-12)
	assert.Equal(t, 5, x.Gears)
	for says, bad := range map[string]string{
		"two things": `{"ratio":"1,250","gears":5}`, "gears: \"2.5\" is not a whole number": `{"ratio":1,"gears":"2.5"}`,
		"ratio: \"x\"": `{"ratio":"x","gears":5}`, "ratio: null": `{"ratio":null,"gears":1}`,
	} {
		require.ErrorContains(t, Decode([]byte(bad), &x), says)
	}
}
