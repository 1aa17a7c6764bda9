package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
)

func found(what, severity, settled string) record.Draft {
	return record.Draft{Says: &acts.Found{Note: what, Outcome: severity, Settled: settled}}
}

// What is found along the way is said at any step, also one that waits, and
// stands on the record with what became of it, the gravest first.
func TestFoundAlongTheWay(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	steps := b.ledger.Plan.Steps
	last := steps[len(steps)-2].ID
	_, err := b.try(last, found("Wiper blade torn", "minor", "refused"), mechanic)
	require.NoError(t, err, "a gate does not keep it")
	e, err := b.try(steps[0].ID, found("Brake hose chafed through", "unsafe", "advised"), mechanic)
	require.NoError(t, err)
	rec := paper.MakeRecord(b.ledger)
	require.Len(t, rec.Found, 2)
	assert.Equal(t, "Brake hose chafed through", rec.Found[0].Says)
	assert.Equal(t, "not safe to drive, customer advised", rec.Found[0].Words)
	assert.Equal(t, steps[0].Title, rec.Found[0].Step)

	done := found("Brake hose chafed through", "unsafe", "done")
	done.Supersedes = e.ID
	_, err = b.try(steps[0].ID, done, mechanic)
	require.NoError(t, err)
	rec = paper.MakeRecord(b.ledger)
	require.Len(t, rec.Found, 2)
	assert.Equal(t, "done", rec.Found[0].Settled)
	assert.Equal(t, "minor", rec.Found[1].Severity)
}

func TestAFindSaysWhatHowGraveAndWhatBecameOfIt(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	first := b.ledger.Plan.Steps[0].ID
	for path, d := range map[string]record.Draft{
		"note":    found(" ", "minor", "done"),
		"outcome": found("Rust", "awful", "done"),
		"settled": found("Rust", "minor", ""),
		"photo": {Says: &acts.Found{
			Note: "Rust", Outcome: "minor", Settled: "done", Pictured: acts.Pictured{Photo: "none"},
		}},
	} {
		_, err := b.try(first, d, mechanic)
		require.ErrorContains(t, err, path+":")
	}
	assert.Empty(t, paper.MakeRecord(b.ledger).Found)
}
