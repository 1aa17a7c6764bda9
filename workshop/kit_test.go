package workshop_test

import (
	"encoding/json"
	"maps"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/record"
)

// clutchWithKits is the demo's clutch, its sheet with kits by these names.
func clutchWithKits(t *testing.T, names ...string) *bench {
	b, err := demoBook()
	require.NoError(t, err)
	c, err := b.Copy("clutch-hydraulic", "skerry-c228")
	require.NoError(t, err)
	var kits []map[string]any
	for _, name := range names {
		kits = append(kits, map[string]any{
			"name": name, "faces": 2, "mu": 0.3, "outer_diameter": "228 mm", "inner_diameter": "150 mm",
			"clamp": "5000 N",
		})
	}
	raw, err := json.Marshal(kits)
	require.NoError(t, err)
	c.Sheet.Figures = maps.Clone(c.Sheet.Figures)
	c.Sheet.Figures["kits"] = raw
	return benchWith(t, c)
}

// The kit that is decided is chosen by its name, stands on record by it, and has
// to come.
func TestTheKitThatIsDecidedHasToCome(t *testing.T) {
	t.Parallel()
	b := clutchWithKits(t, "organic", "puck, sprung", "other", "organic")
	b.walkUntil("capacity")
	v, err := record.MakeStep(b.ledger, "capacity", mechanic, b.now)
	require.NoError(t, err)
	var offered []string
	for _, c := range v.(*decide.DecideStep).Choices {
		offered = append(offered, c.Text)
	}
	assert.Equal(
		t,
		[]string{"Organic", "Puck, sprung", "The same as before", "One that is not on the sheet; the reason names it"},
		offered,
	)
	_, err = b.try("capacity", record.Draft{Says: &acts.Decision{Outcome: "other"}}, mechanic)
	require.ErrorContains(t, err, "reason")
	e := b.must("capacity", record.Draft{Says: &acts.Decision{Outcome: "puck, sprung"}})
	assert.Equal(t, "Puck, sprung", says(t, b, "capacity", e.ID))
	line := lineOf(t, b.list(t), "capacity.decided")
	assert.Equal(t, [2]string{"Puck, sprung", "decided: choose the clutch kit"}, [2]string{line.Name, line.Why})

	b.must(
		"capacity",
		record.Draft{Supersedes: e.ID, Says: &acts.Decision{Outcome: "other", Reason: "ceramic from the racing shelf"}},
	)
	assert.Equal(t, "Ceramic from the racing shelf", lineOf(t, b.list(t), "capacity.decided").Name)
}
