package workshop_test

import (
	"bytes"
	"encoding/json"
	"maps"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/record"
)

// A state that grew entry by entry is the one folded from the whole record,
// whatever was corrected, struck or remarked on the way, and two records grown
// from one stay apart.
func TestAGrownStateIsTheFoldedOne(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("")
	whole := b.ledger
	rapid.Check(t, func(rt *rapid.T) {
		l := whole
		l.Entries = whole.Entries[:rapid.IntRange(1, len(whole.Entries)).Draw(rt, "until")]
		last := l.Entries[len(l.Entries)-1]
		l = unfolded(l)
		l.Rebuild.Head = record.Head{Seq: last.Seq, Hash: last.Hash}
		l.Rebuild.Place = l.State().Standing()
		l = l.Fold()
		other := l.With(strange(l, "other"))
		for i := range rapid.IntRange(1, 12).Draw(rt, "n") {
			e := l.Entries[rapid.IntRange(0, len(l.Entries)-1).Draw(rt, "target")]
			d := record.Draft{Supersedes: e.ID, Says: &acts.Strike{Reason: "a slip"}}
			if rapid.Bool().Draw(rt, "remark") {
				d = record.Draft{Says: &acts.Note{Note: "looked again"}}
			}
			p, err := record.Propose(l, e.Step, d, lead, b.now.Add(time.Duration(i)*time.Minute))
			if err != nil {
				continue // the rules say no; the next one may be taken
			}
			l = p.After
			fresh := record.Fold(l.Plan, l.Entries)
			require.Equal(t, statuses(fresh), statuses(l.State()))
			require.Equal(t, fresh.Standing(), l.Rebuild.Place)
			require.Equal(t, fresh.Superseded, l.State().Superseded)
		}
		assert.Equal(t, "other", other.Entries[len(other.Entries)-1].ID)
		assert.NoError(t, record.Verify(l.Rebuild, l.Entries))
	})
}

func strange(l record.Ledger, id string) record.Entry {
	return record.Entry{ID: id, Seq: l.Rebuild.Head.Seq + 1, Step: l.Entries[0].Step, Act: "note",
		Body: []byte(`{"note":"x"}`)}
}

func TestAnEntryIsNeverOlderThanTheOneBefore(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	step := b.ledger.Plan.Steps[0].ID
	first := b.must(step, record.Draft{Says: &acts.Note{Note: "came in"}})
	p, err := record.Propose(
		b.ledger,
		step,
		record.Draft{Says: &acts.Note{Note: "the clock was set back"}},
		lead,
		first.At.Add(-time.Hour),
	)
	require.NoError(t, err)
	assert.Equal(t, first.At, p.Entry.At)
	p, err = record.Propose(
		record.Ledger{Rebuild: b.ledger.Rebuild, Plan: b.ledger.Plan}, step,
		record.Draft{Says: &acts.Note{Note: "x"}}, lead,
		b.ledger.Rebuild.OpenedAt.Add(-time.Hour),
	)
	require.NoError(t, err)
	assert.Equal(t, b.ledger.Rebuild.OpenedAt, p.Entry.At)
}

// A plan from elsewhere may lack anything: it is refused or read, and never more.
func TestAPlanThatLacksSomethingIsRefusedOrRead(t *testing.T) {
	t.Parallel()
	b, err := demoBook()
	require.NoError(t, err)
	c, err := b.Copy("transfer-case-dog", "brakka-t2")
	require.NoError(t, err)
	whole, err := json.Marshal(c)
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		var plan any
		require.NoError(t, json.Unmarshal(whole, &plan))
		type key struct {
			of   map[string]any
			name string
		}
		var keys []key
		var walk func(any)
		walk = func(at any) {
			switch x := at.(type) {
			case map[string]any:
				for _, name := range slices.Sorted(maps.Keys(x)) {
					keys = append(keys, key{x, name})
					walk(x[name])
				}
			case []any:
				for _, y := range x {
					walk(y)
				}
			}
		}
		walk(plan)
		gone := keys[rapid.IntRange(0, len(keys)-1).Draw(t, "key")]
		delete(gone.of, gone.name)
		raw, err := json.Marshal(plan)
		require.NoError(t, err)
		p, err := kinds.ReadPlan(raw)
		assert.NotEqual(t, p == nil, err == nil, "a plan or a reason")
	})
	for _, kind := range []string{`"measure":{`, `"fill":{`} {
		_, err := kinds.ReadPlan(bytes.Replace(whole, []byte(kind), []byte(`"other":{`), 1))
		assert.ErrorContains(t, err, "does not say", kind)
	}
}
