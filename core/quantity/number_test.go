package quantity

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestPlainFiguresComeAsNumberOrText(t *testing.T) {
	t.Parallel()
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
	t.Parallel()
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
