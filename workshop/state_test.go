package workshop

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// statuses says where every step stands.
func statuses(s *State) map[string]string {
	all := map[string]string{}
	for _, step := range s.plan.steps {
		status, needs := s.Status(step.ID)
		all[step.ID] = string(status) + " " + needs
	}
	return all
}

// A state that grew entry by entry is the one folded from the whole record,
// whatever was corrected, struck or remarked on the way, and two records grown
// from one stay apart.
func TestAGrownStateIsTheFoldedOne(t *testing.T) {
	b := newBench(t)
	b.walkUntil("")
	whole := b.ledger
	rapid.Check(t, func(rt *rapid.T) {
		l := whole
		l.Entries = whole.Entries[:rapid.IntRange(1, len(whole.Entries)).Draw(rt, "until")]
		last := l.Entries[len(l.Entries)-1]
		l.Rebuild.Head, l.state = Head{last.Seq, last.Hash}, nil
		l.Rebuild.Place = l.State().Place()
		l = l.Folded()
		other := l.With(strange(l, "other"))
		for i := range rapid.IntRange(1, 12).Draw(rt, "n") {
			e := l.Entries[rapid.IntRange(0, len(l.Entries)-1).Draw(rt, "target")]
			d := Draft{Act: ActStrike, Supersedes: e.ID, Body: Body{Reason: "a slip"}}
			if rapid.Bool().Draw(rt, "remark") {
				d = Draft{Act: ActNote, Body: Body{Note: "looked again"}}
			}
			p, err := Propose(l, e.Step, d, lead, b.now.Add(time.Duration(i)*time.Minute))
			if err != nil {
				continue // the rules say no; the next one may be taken
			}
			l = p.After
			fresh := Fold(l.Plan, l.Entries)
			require.Equal(t, statuses(fresh), statuses(l.State()))
			require.Equal(t, fresh.Place(), l.Rebuild.Place)
			require.Equal(t, fresh.by, l.State().by)
		}
		assert.Equal(t, "other", other.Entries[len(other.Entries)-1].ID)
		assert.NoError(t, Verify(l.Rebuild, l.Entries))
	})
}

func strange(l Ledger, id string) Entry {
	return Entry{ID: id, Seq: l.Rebuild.Head.Seq + 1, Step: l.Entries[0].Step, Act: ActNote, Body: []byte(`{"note":"x"}`)}
}

func TestAnEntryIsNeverOlderThanTheOneBefore(t *testing.T) {
	b := newBench(t)
	step := b.ledger.Plan.steps[0].ID
	first := b.must(step, Draft{Act: ActNote, Body: Body{Note: "came in"}})
	p, err := Propose(b.ledger, step, Draft{Act: ActNote, Body: Body{Note: "the clock was set back"}}, lead, first.At.Add(-time.Hour))
	require.NoError(t, err)
	assert.Equal(t, first.At, p.Entry.At)
	p, err = Propose(Ledger{Rebuild: b.ledger.Rebuild, Plan: b.ledger.Plan}, step, Draft{Act: ActNote, Body: Body{Note: "x"}}, lead, b.ledger.Rebuild.OpenedAt.Add(-time.Hour))
	require.NoError(t, err)
	assert.Equal(t, b.ledger.Rebuild.OpenedAt, p.Entry.At)
}
