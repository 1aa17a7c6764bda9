package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
)

func yes(name string, sum float64) record.Draft {
	return record.Draft{Says: &acts.Agreed{Who: name, Sum: quantity.MoneyOf(sum)}}
}

// The customer says yes to what was decided; a change of plan asks again, and
// the step is not done before.
func TestAChangeOfPlanAsksTheCustomerAgain(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("way")
	_, err := b.try("way", yes("Nora Quill", 900), mechanic)
	require.Error(t, err, "nothing is decided yet")
	decided := b.must("way", record.Draft{Says: &acts.Decision{Outcome: "rebuild"}})
	status, _ := b.status("way")
	assert.Equal(t, record.Done, status, "a shop that knows its customer need not write it down")

	said := b.must("way", yes("Nora Quill", 900.5))
	status, _ = b.status("way")
	assert.Equal(t, record.Done, status)
	b.must("way", record.Draft{Supersedes: decided.ID, Says: &acts.Decision{Outcome: "exchange"}})
	status, needs := b.status("way")
	assert.Equal(t, record.Open, status)
	assert.Equal(t, "get the customer's approval for this decision", needs)

	again := yes("Nora Quill", 1450)
	again.Supersedes = said.ID
	b.must("way", again)
	status, _ = b.status("way")
	assert.Equal(t, record.Done, status)
	found := false
	for _, st := range paper.MakeRecord(b.ledger).Stations {
		for _, step := range st.Steps {
			for _, l := range step.Lines {
				found = found || l.Says == "Nora Quill approved up to 1450 (corrected)"
			}
		}
	}
	assert.True(t, found, "it stands on the record")
}

func TestAYesThatIsNone(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("way")
	b.must("way", record.Draft{Says: &acts.Decision{Outcome: "rebuild"}})
	for path, d := range map[string]record.Draft{
		"name": yes("  ", 10), "sum": yes("Nora", 0), "sum ": yes("Nora", -5), "sum  ": yes("Nora", 1e9),
		"sum   ": yes("Nora", 0.001),
	} {
		_, err := b.try("way", d, mechanic)
		require.Error(t, err, path)
	}
	_, err := b.try("identify", yes("Nora", 10), mechanic)
	require.Error(t, err, "not where nothing is weighed")
}
