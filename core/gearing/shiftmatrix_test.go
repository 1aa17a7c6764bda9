package gearing

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var box = []string{"1", "2", "3", "4", "5", "R"}

// tried writes cells as a shop would: "standing cold: 1 refuses, 2 refuses, 3 in".
func tried(t *testing.T, lines ...string) (cells []ShiftCell) {
	t.Helper()
	for _, line := range lines {
		head, rest, ok := strings.Cut(line, ": ")
		require.True(t, ok, line)
		where := strings.Fields(head)
		for _, one := range strings.Split(rest, ", ") {
			gears, feel, _ := strings.Cut(one, " ")
			list := []string{gears}
			if gears == "all" {
				list = box
			}
			for _, g := range list {
				if !slices.ContainsFunc(cells, func(c ShiftCell) bool {
					return c.Gear == g && c.State == where[0] && c.Temperature == where[1]
				}) {
					cells = append(cells, ShiftCell{g, where[0], where[1], feel})
				}
			}
		}
	}
	return cells
}

// The rules of the trade: common practice.
func TestAPatternNamesItself(t *testing.T) {
	t.Parallel()
	for name, tt := range map[string]struct {
		cells   []string
		pattern string
		gears   []string
		plane   string
	}{
		"every gear goes in": {[]string{"engine_off cold: all in", "standing cold: all in", "rolling cold: all in"},
			"none", nil, ""},
		"in with the engine off, not standing: the clutch drags": {[]string{"engine_off cold: all in",
			"standing cold: R crunches, all refuses"}, "drag", nil, ""},
		"it drags with the pedal held too": {[]string{"engine_off cold: all in",
			"standing cold: all refuses", "clutch_held cold: all crunches", "rolling cold: all in"}, "drag", nil, ""},
		"first and second refuse, in after third has stopped the shafts": {[]string{"engine_off cold: all in",
			"standing cold: 1 refuses, 2 refuses, all in", "clutch_held cold: 1 in, 2 in"}, "synchronisers",
			[]string{"1", "2"}, ""},
		"second refuses standing and goes in rolling": {[]string{"engine_off cold: all in",
			"standing cold: 2 refuses, all in", "rolling cold: all in"}, "synchronisers", []string{"2"}, ""},
		"third crunches on the way up": {[]string{"engine_off cold: all in",
			"standing cold: all in", "rolling cold: 3 crunches, all in"}, "synchronisers", []string{"3"}, ""},
		"stiff cold, right warm: oil or boot": {[]string{"standing cold: all stiff",
			"standing warm: all in"}, "thick_oil", nil, ""},
		"one plane refuses in every state: the linkage": {[]string{"engine_off cold: 3 refuses, 4 refuses, all in",
			"standing cold: 3 refuses, 4 refuses, all in",
			"rolling cold: 3 refuses, 4 refuses, all in"}, "linkage", nil, "3-4"},
		"reverse alone refuses in every state": {[]string{"engine_off cold: R refuses, all in",
			"standing cold: R refuses, all in"}, "linkage", nil, "R"},
		"fourth jumps out under load": {[]string{"engine_off cold: all in",
			"standing cold: all in", "rolling warm: 4 jumps_out, all in"}, "detent", []string{"4"}, ""},
		"worn rings and thick oil at once": {[]string{"engine_off cold: all in",
			"standing cold: 1 refuses, all stiff", "standing warm: 1 refuses, all in", "clutch_held cold: 1 in"},
			"mixed", nil, ""},
	} {
		t.Run(name, func(t *testing.T) {
			out, err := ShiftMatrix(ShiftMatrixIn{Gears: box, Cells: tried(t, tt.cells...)})
			require.NoError(t, err)
			assert.Equal(t, tt.pattern, out.Pattern, out.Says)
			assert.Equal(t, tt.gears, out.Gears, out.Says)
			assert.Equal(t, tt.plane, out.Plane)
			assert.NotEmpty(t, out.Says)
			assert.Empty(t, out.Changed)
			for p, cells := range out.For {
				for _, c := range cells {
					assert.NotContains(t, out.Against[p], c, "a cell speaks for %s or against it", p)
				}
			}
			assert.Equal(t, tt.pattern == "none", out.Worst == nil)
		})
	}
}

// What the matrix comes to is what the book's tests ask: the two agree.
func TestAMatrixGivesTheOutcomesOfTheTests(t *testing.T) {
	t.Parallel()
	out, err := ShiftMatrix(ShiftMatrixIn{Gears: box,
		Cells: tried(t, "engine_off cold: all in", "standing cold: 1 refuses, 2 refuses, all in",
			"clutch_held cold: 1 in, 2 in", "rolling cold: all in")})
	require.NoError(t, err)
	assert.Equal(t, []TestOutcome{{"gears-engine-off", "all"}, {"gears-standing", "low-refuse"},
		{"third-first", "goes-in"}, {"gears-rolling", "all"}}, out.Hints)
	out, err = ShiftMatrix(ShiftMatrixIn{Gears: box,
		Cells: tried(t, "engine_off cold: all in", "standing cold: all crunches")})
	require.NoError(t, err)
	assert.Equal(t, []TestOutcome{{"gears-engine-off", "all"}, {"gears-standing", "grinds-all"}}, out.Hints)
}

// Before and after: only what was tried both times is compared, and turning the
// two round turns better and worse.
func TestBeforeAndAfter(t *testing.T) {
	t.Parallel()
	before := tried(t, "standing cold: 1 refuses, 2 crunches, 3 in", "rolling cold: 4 jumps_out")
	after := tried(t, "standing cold: 1 in, 2 in, 3 stiff")
	out, err := ShiftMatrix(ShiftMatrixIn{Gears: box, Cells: after, Before: before})
	require.NoError(t, err)
	assert.Equal(t, []ShiftChange{
		{"1", "standing", "cold", "refuses", "in", true},
		{"2", "standing", "cold", "crunches", "in", true},
		{"3", "standing", "cold", "in", "stiff", false},
	}, out.Changed)
	assert.Equal(t, 2, out.Better)
	assert.Contains(t, out.Says, "2 better than before, 1 worse")
	back, err := ShiftMatrix(ShiftMatrixIn{Gears: box, Cells: before, Before: after})
	require.NoError(t, err)
	assert.Equal(t, out.Better, back.Worse)
	assert.Equal(t, out.Worse, back.Better)
}

func TestAMatrixThatCannotBe(t *testing.T) {
	t.Parallel()
	for path, in := range map[string]ShiftMatrixIn{
		"gears":                {Cells: tried(t, "standing cold: 1 in")},
		"gears[1]":             {Gears: []string{"1", "1"}, Cells: tried(t, "standing cold: 1 in")},
		"cells[0].gear":        {Gears: box, Cells: []ShiftCell{{"7", "standing", "cold", "in"}}},
		"cells[0].state":       {Gears: box, Cells: []ShiftCell{{"1", "parked", "cold", "in"}}},
		"cells[0].temperature": {Gears: box, Cells: []ShiftCell{{"1", "standing", "", "in"}}},
		"cells[0].feel":        {Gears: box, Cells: []ShiftCell{{"1", "standing", "cold", "bad"}}},
		"cells[1]": {Gears: box, Cells: []ShiftCell{{"1", "standing", "cold", "in"},
			{"1", "standing", "cold", "stiff"}}},
		"cells":        {Gears: box, Cells: []ShiftCell{{Gear: "1", State: "standing", Temperature: "cold"}}},
		"planes[0][0]": {Gears: box, Planes: [][]string{{"9"}}, Cells: tried(t, "standing cold: 1 in")},
	} {
		_, err := ShiftMatrix(in)
		require.ErrorContains(t, err, path+":", path)
	}
}

// A pattern is named from what was tried; where it rests on more, that is asked
// for first. Common practice.
func TestNoPatternFromCellsNobodyTried(t *testing.T) {
	t.Parallel()
	gears := []string{"1", "2", "3", "4", "R"}
	for name, c := range map[string]struct {
		cells []ShiftCell
		next  ShiftCell
	}{
		"one refuses with the engine off": {[]ShiftCell{{"1", "engine_off", "cold", "refuses"}},
			ShiftCell{Gear: "2", State: "engine_off", Temperature: "cold"}},
		"one refuses standing": {[]ShiftCell{{"1", "standing", "cold", "refuses"}},
			ShiftCell{Gear: "1", State: "engine_off", Temperature: "cold"}},
	} {
		out, err := ShiftMatrix(ShiftMatrixIn{Gears: gears, Cells: c.cells})
		require.NoError(t, err, name)
		assert.NotContains(t, []string{"linkage", "drag", "synchronisers"}, out.Pattern, name)
		require.NotEmpty(t, out.Next, name)
		assert.Equal(t, c.next, out.Next[0], name)
		assert.Contains(t, out.Says, "try next: ", name)
		raw, err := json.Marshal(out)
		require.NoError(t, err)
		assert.NotContains(t, string(raw), "null", name)
	}
	_, err := ShiftMatrix(ShiftMatrixIn{Gears: gears, Planes: [][]string{{"1", "2"}, {"2", "3"}},
		Cells: []ShiftCell{{"1", "standing", "cold", "in"}}})
	assert.ErrorContains(t, err, "planes[1][0]")
}
