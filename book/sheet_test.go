package book_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
	"handwerk/core/supply"
)

func suppliedSheet(t *testing.T) book.SpecSheet {
	return book.SpecSheet{
		ID: "box", Family: "Box",
		Wears: map[string]book.Wear{"ring": {What: "gap", New: quantitytest.Any(t, "1.4 mm"),
			Limit: quantitytest.Any(t, "0.6 mm")}},
		Singles: []supply.Single{{Part: "ring", Supplier: "Ferry stores", Price: quantity.MoneyOf(48), Lead: 4,
			Compare: "tooth count, cone"}},
		Kits: []supply.Kit{{ID: "a", Name: "Kit A", Supplier: "Ferry stores", Price: quantity.MoneyOf(90), Lead: 2,
			Holds: supply.Holds{"ring": 2, "seal": 1}}},
	}
}

// What a sheet says of wear and supplies comes apart into lines and back, as a
// file of it does.
func TestSuppliesAreLinesOfASheet(t *testing.T) {
	t.Parallel()
	sheet := suppliedSheet(t)
	require.Empty(t, sheet.Check())
	lines, err := sheet.Lines()
	require.NoError(t, err)
	var paths []string
	again := book.SpecSheet{ID: sheet.ID, Family: sheet.Family}
	for _, l := range lines {
		paths = append(paths, l.Path)
		require.NoError(t, again.Lay(l.Path, l.Figure), l.Path)
	}
	assert.Equal(t, []string{"wears.ring", "singles", "kits"}, paths)
	before, err := json.Marshal(sheet)
	require.NoError(t, err)
	after, err := json.Marshal(again)
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(after))
	require.Error(t, again.Lay("kits.a", []byte(`{}`)), "a list is said at once")
	require.NoError(t, again.Lay("singles", nil))
	assert.Empty(t, again.Singles, "nothing takes it off")
}

func TestWhatNoSheetSaysOfAPart(t *testing.T) {
	t.Parallel()
	for path, spoil := range map[string]func(*book.SpecSheet){
		"wears.ring.limit": func(s *book.SpecSheet) {
			s.Wears["ring"] = book.Wear{What: "gap", New: quantitytest.Any(t, "1.4 mm"),
				Limit: quantitytest.Any(t, "3 N·m")}
		},
		"wears.ring.what": func(s *book.SpecSheet) {
			s.Wears["ring"] = book.Wear{New: quantitytest.Any(t, "1.4 mm"), Limit: quantitytest.Any(t, "1 mm")}
		},
		"singles[0].price": func(s *book.SpecSheet) { s.Singles[0].Price = -1 },
		"kits[0].holds":    func(s *book.SpecSheet) { s.Kits[0].Holds = nil },
		"stacks.strip[0].pieces": func(s *book.SpecSheet) {
			s.Stacks = map[string][]book.Part{"strip": {{ID: "x", Name: "X", Pieces: 900}}}
		},
		"stacks.strip[0].faces": func(s *book.SpecSheet) {
			s.Stacks = map[string][]book.Part{"strip": {{ID: "x", Name: "X", Facing: "rear"}}}
		},
	} {
		sheet := suppliedSheet(t)
		spoil(&sheet)
		assert.ErrorContains(t, sheet.Check().Err(), path, path)
	}
}

// Why a part is renewed whenever it was out: common practice, unless its own
// rule is said.
func TestWhyAPartIsRenewed(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		part book.Part
		says string
	}{
		{book.Part{Shape: "seal"}, ""},
		{book.Part{Shape: "seal", Once: true}, "its lip has worn to the old shaft"},
		{book.Part{Shape: "circlip", Once: true, Rule: "the groove is sharp"}, "the groove is sharp"},
		{book.Part{Shape: "rollers", Once: true}, "not refitted once removed"},
	} {
		assert.Equal(t, c.says, c.part.WhyRenewed())
	}
	assert.Equal(t, 1, book.Part{}.Count())
	assert.Equal(t, 8, book.Part{Pieces: 8}.Count())
}

// A figure is said by its name and size, never by the keys it is kept under.
func TestFigureWords(t *testing.T) {
	t.Parallel()
	for raw, want := range map[string]string{
		`"0.10 mm"`: "0.10 mm", `true`: "yes", `3`: "3", `[]`: "none",
		`{"min": "0.05 mm", "max": "0.20 mm"}`:                                         "0.05 mm to 0.20 mm",
		`{"min": {"value": 2, "unit": "L"}}`:                                           "at least 2 L",
		`{"bolts": 1, "torque": "120 N·m", "tolerance": 0.1}`:                          "1 bolt at 120 N·m",
		`{"bolts": 8, "torque": {"value": 24, "unit": "N·m"}}`:                         "8 bolts at 24 N·m",
		`[{"thickness": "0.50 mm", "count": 4}, {"thickness": "0.60 mm", "count": 1}]`: "0.50 mm (4), 0.60 mm (1)",
		`[{"id": "seals", "name": "Seal set", "supplier": "Ferry stores"}]`:            "Seal set",
		`[{"id": "r", "says": "Rebuild it", "hours": {"low": 4, "high": 8}}]`:          "Rebuild it",
		`[{"teeth": 17, "on_shaft": "main"}]`:                                          "on shaft main teeth 17",
		`["a","b","c","d","e","f","g","h","i","j","k","l","m","n"]`:                    "a, b, c, d, e, f, g, h, i, j, k, l, 2 more",
	} {
		assert.Equal(t, want, book.FigureWords(json.RawMessage(raw)), raw)
	}
}
