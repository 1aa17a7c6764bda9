package workshop_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/diagnosis"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

// What the pedal check found out is not asked again among the tests, and counts there.
func TestWhatOneStepFoundOutAnotherTakesOver(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "pedal-hydraulics", "skerry-h19")
	b.walkUntil("drive-before")
	b.acknowledge("drive-before", "fingers")
	b.must("drive-before", record.Draft{Item: record.ReadPlace("hose"), Says: &acts.Outcome{Outcome: "holds"}})
	known := func(step, id string) string {
		all := viewAt[*items.TestStep](b, step).Items
		i := slices.IndexFunc(all, func(x items.ItemView) bool { return x.ID == id })
		require.GreaterOrEqual(t, i, 0, id)
		return all[i].Known
	}
	assert.Equal(t, "Pedal check, before: pressure stays on when the pedal is up", known("tests", "hose-felt"))
	assert.Empty(t, known("tests", "port-return"), "nobody looked yet")
	assert.Empty(t, known("drive-before", "hose"), "it is this step's own")
	view := viewAt[*items.TestStep](b, "tests")
	assert.False(
		t,
		slices.ContainsFunc(view.Diagnosis.Next, func(n diagnosis.NextTest) bool { return n.ID == "hose-felt" }),
	)
	first := view.Diagnosis.Causes[0].ID
	assert.Contains(t, []string{"hose-swollen", "port-closed"}, first, "seen there, it counts here")
	could := record.Draft{Item: record.ReadPlace("port"), Says: &acts.Outcome{Outcome: "could-not"}}
	_, err := b.try("drive-before", could, lead)
	assert.ErrorContains(t, err, "needs a reason")
}

// The backlash before it came apart stands beside every later one.
func TestWhatWasFoundStandsBeside(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "axle-ring-pinion", "brakka-a9")
	b.walkUntil("found-backlash")
	for _, text := range []string{"0.20 mm", "0.22 mm", "0.21 mm", "0.21 mm"} {
		b.must("found-backlash", reading(t, text))
	}
	b.walkUntil("backlash")
	before := viewAt[*measure.MeasureStep](b, "backlash").Before
	require.Len(t, before, 1)
	assert.True(t, before[0].Found)
	assert.Equal(t, "0.21 mm", before[0].Says)
}
