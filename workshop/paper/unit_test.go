package paper

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/workshop/kinds/measure"
)

// The latest sheet's limits judge every figure of the row, the earlier ones too.
func TestAFigureBeyondTheLatestLimitsIsOut(t *testing.T) {
	t.Parallel()
	read := func(said string) (v quantity.Any) {
		require.NoError(t, v.UnmarshalText([]byte(said)))
		return v
	}
	trend := Trend{Unit: "mm"}
	wide := &book.Limit{Max: read("0.20 mm")}
	narrow := &book.Limit{Min: read("0.03 mm"), Max: read("6 thou")}
	trend.add(measure.Measured{Number: "26-001", Value: read("0.18 mm"), Limit: wide}, nil)
	assert.False(t, trend.Points[0].Out)
	trend.add(measure.Measured{Number: "26-002", Value: read("0.15 mm"), Limit: narrow}, nil)
	trend.add(measure.Measured{Number: "26-003", Value: read("0.02 mm"), Limit: narrow}, nil)
	var out []bool
	for _, p := range trend.Points {
		out = append(out, p.Out)
	}
	assert.Equal(t, []bool{true, false, true}, out)
	trend.add(measure.Measured{Number: "26-004", Value: read("9 mm")}, nil)
	assert.False(t, trend.Points[3].Out, "without a limit nothing is out")
}
