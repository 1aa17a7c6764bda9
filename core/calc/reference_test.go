package calc

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// reference is one answer that stands outside the program: a standard, a
// handbook, a sum by hand, or what the trade holds. Want names figures of the
// result by their paths; numbers may be off by Within.
type reference struct {
	Of     string          `json:"of"`
	Source string          `json:"source"`
	Calc   string          `json:"calc"`
	In     json.RawMessage `json:"in"`
	Want   map[string]any  `json:"want"`
	Within float64         `json:"within"`
}

// Every calculator has its reference cases, a file for each chapter in
// testdata/reference, and meets them as the outside asks it: JSON in, JSON out.
func TestReferenceCases(t *testing.T) {
	t.Parallel()
	files, err := filepath.Glob("testdata/reference/*.json")
	require.NoError(t, err)
	covered := map[string]bool{}
	for _, file := range files {
		raw, err := os.ReadFile(file)
		require.NoError(t, err)
		var cases []reference
		require.NoError(t, json.Unmarshal(raw, &cases), file)
		for _, x := range cases {
			covered[x.Calc] = true
			t.Run(x.Calc+": "+x.Of, x.check)
		}
	}
	for _, c := range All().List() {
		assert.True(t, covered[c.Name], "%s has no reference case", c.Name)
	}
}

func (x reference) check(t *testing.T) {
	require.NotEmpty(t, x.Source)
	require.NotEmpty(t, x.Want)
	c, ok := All().Named(x.Calc)
	require.True(t, ok)
	raw, err := c.Run(x.In)
	require.NoError(t, err)
	var out any
	require.NoError(t, json.Unmarshal(raw, &out))
	for path, want := range x.Want {
		got := figureAt(out, path)
		number, isNumber := want.(float64)
		if !isNumber {
			assert.Equal(t, want, got, "%s: %s", path, x.Source)
			continue
		}
		is, _ := got.(float64)
		assert.IsType(t, number, got, path)
		assert.LessOrEqual(t, math.Abs(is-number), x.Within+1e-12, "%s is %v, not %v: %s", path, got, want, x.Source)
	}
}

// figureAt finds a figure of a result: "packs.0.sum.value"; nil when it is not there.
func figureAt(v any, path string) any {
	for _, name := range strings.Split(path, ".") {
		switch x := v.(type) {
		case map[string]any:
			v = x[name]
		case []any:
			i, err := strconv.Atoi(name)
			if err != nil || i >= len(x) {
				return nil
			}
			v = x[i]
		default:
			return nil
		}
	}
	return v
}
