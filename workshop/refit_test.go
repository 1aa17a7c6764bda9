package workshop_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/core/runout"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// A refit that fitted what was offered is held against what was expected of it: a bore
// that went the wrong way is noticed. What was not offered cannot have been fitted.
func TestARefitIsHeldAgainstItsPlan(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "gearbox-longitudinal", "brakka-g5")
	b.walkUntil("housing")
	read := func(right, up float64) (out runout.HousingOut) {
		clocks := map[string]float64{
			"at-12":    12,
			"at-3":     3,
			"at-6":     6,
			"at-9":     9,
			"back-12":  12,
			"again-3":  3,
			"again-6":  6,
			"again-9":  9,
			"again-12": 12,
		}
		for _, ask := range []string{"at-12", "at-3", "at-6", "at-9", "back-12", "again-3", "again-6", "again-9", "again-12"} {
			s, c := math.Sincos(clocks[ask] * math.Pi / 6)
			v, err := quantity.ParseAs[quantity.Length](fmt.Sprintf("%.2f thou", up-right*s-up*c))
			require.NoError(t, err)
			e := b.must("housing", record.Draft{Item: record.Place{Name: ask},
				Says: &acts.Reading{Measured: acts.Measured{Value: v.Any}}})
			if e.Result != nil {
				require.NoError(t, json.Unmarshal(e.Result, &out))
			}
		}
		return out
	}
	out := read(9, 3)
	require.NotEmpty(t, out.Plans)
	again := func(plan int) record.Draft {
		return record.Draft{Says: &acts.Again{Reason: "dowels set", Plan: plan}}
	}
	_, err := b.try("housing", again(len(out.Plans)+1), lead)
	require.ErrorContains(t, err, "was not offered")
	b.must("housing", again(1))
	out = read(16, 5)
	assert.Contains(t, strings.Join(out.Findings, "; "), "the wrong way")

	b.must("housing", record.Draft{Says: &acts.Again{Reason: "bolts loosened and tightened"}})
	assert.Empty(t, read(9, 3).Findings, "what followed no plan is held against none")
}
