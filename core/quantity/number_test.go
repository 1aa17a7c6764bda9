package quantity

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestNumbersAreReadAsTheyAreTyped(t *testing.T) {
	for text, want := range map[string]float64{
		"1250": 1250, "1 250": 1250, "1250.50": 1250.5, "12,50": 12.5, " 7 ": 7, "1\u00a0250,5": 1250.5, "0,125": 0.125,
		"1/2": 0.5, "1 1/2": 1.5, "−3": -3, ".5": 0.5, "12 345 678": 12345678,
	} {
		n, err := ReadNumber(text)
		require.NoError(t, err, text)
		assert.InDelta(t, want, n, 1e-12, text)
	}
	for text, problem := range map[string]string{
		"1,250": "two ways", "12,345": "two ways", "": "nothing was typed", "twelve": "begin with a number", "12 mm": "no number",
		"1e5": "exponent", "9999999999": "absurdly large", "1 25": "no number", "1.250,5": "no number", "12 %": "no number",
	} {
		_, err := ReadNumber(text)
		require.ErrorContains(t, err, problem, text)
	}
}

func TestPlainFiguresComeAsNumberOrText(t *testing.T) {
	var x struct {
		N Number `json:"n"`
		C Count  `json:"c"`
		S Share  `json:"s"`
		M Money  `json:"m"`
	}
	require.NoError(t, json.Unmarshal([]byte(`{"n":"12,5","c":"3","s":"7 %","m":"1 250,50"}`), &x))
	raw, err := json.Marshal(x)
	require.NoError(t, err)
	assert.JSONEq(t, `{"n":12.5,"c":3,"s":0.07,"m":1250.5}`, string(raw))
	assert.Equal(t, "1250.50", x.M.String())
	assert.Equal(t, "12", Money(1200).String())
	for _, bad := range []string{
		`{"n":"1,250"}`, `{"c":"2.5"}`, `{"c":2.5}`, `{"s":"many"}`, `{"m":"1,250"}`, `{"m":"12.345"}`, `{"m":"0.001"}`, `{"m":null}`,
	} {
		assert.Error(t, json.Unmarshal([]byte(bad), &x), bad)
	}
}

// Money is written as the number it was read from, whichever way it came.
func TestMoneyComesBackToTheCent(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := Money(rapid.Int64Range(-1e12, 1e12).Draw(t, "cents"))
		raw, err := json.Marshal(m)
		require.NoError(t, err)
		var back Money
		require.NoError(t, json.Unmarshal(raw, &back))
		assert.Equal(t, m, back)
		read, err := ReadMoney(m.String())
		if m >= -1e11 && m <= 1e11 {
			require.NoError(t, err)
			assert.Equal(t, m, read)
		}
	})
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
