package workshop_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
)

func TestVerifyFindsAnyChange(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip")
	rapid.Check(t, func(t *rapid.T) {
		entries := slices.Clone(b.ledger.Entries)
		rebuild := b.ledger.Rebuild
		i := rapid.IntRange(0, len(entries)-1).Draw(t, "entry")
		change := rapid.SampledFrom([]string{"body", "by", "at", "verdict", "drop", "swap", "tail", "order"}).Draw(t,
			"change")
		switch change {
		case "body":
			entries[i].Body = json.RawMessage(`{"outcome":"done","note":"never happened"}`)
		case "by":
			entries[i].By.Name = "somebody else"
		case "at":
			entries[i].At = entries[i].At.Add(time.Second)
		case "verdict":
			entries[i].Verdict = metrology.In
		case "drop":
			entries = slices.Delete(entries, i, i+1)
		case "swap":
			j := (i + 1) % len(entries)
			entries[i].Body, entries[j].Body = entries[j].Body, json.RawMessage(fmt.Sprintf(`{"note":%q}`,
				entries[i].ID))
		case "tail":
			entries = entries[:i]
		case "order":
			rebuild.Complaint = "another complaint"
		}
		require.Error(t, record.Verify(rebuild, entries), change)
	})
	require.NoError(t, record.Verify(b.ledger.Rebuild, b.ledger.Entries))
}

// An imported record is chained but may say anything: reading it never panics.
func TestReadingAnyRecordHolds(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	names := []acts.Name{"other"}
	for _, a := range acts.All() {
		names = append(names, a.Name())
	}
	var steps []string
	for _, s := range b.ledger.Plan.Steps {
		steps = append(steps, s.ID)
	}
	rapid.Check(t, func(t *rapid.T) {
		l := b.ledger
		l.Entries = nil
		for i := range rapid.IntRange(1, 30).Draw(t, "entries") {
			e := record.Entry{
				ID: strconv.Itoa(i), Seq: i + 1, Step: rapid.SampledFrom(steps).Draw(t, "step"),
				Act: rapid.SampledFrom(names).Draw(t, "act"),
				Item: record.ReadPlace(
					rapid.SampledFrom(
						[]string{"", "serial", "nut", "found-1", "1", "2", "1.1", "9.9", "-1.x", "p1.b1",
							"check-round"},
					).Draw(t, "item"),
				), Method: "end-float/1",
				Body: json.RawMessage(rapid.SampledFrom([]string{
					`{}`,
					`null`,
					`7`,
					`{"outcome":"x"}`,
					`{"value":{"value":1,"unit":"mm"}}`,
					`{"pack":[{"thickness":{"value":1,"unit":"mm"},"count":2}]}`,
					`{"value":"nonsense"}`,
					`{"lines":[{"line":"strip-cover.seal","outcome":"fits"},{"line":"kit.none"}]}`,
					`{"figure":"x","spent":-4}`,
					`{"behind":"nut","wear":{"what":"x"},"chain":[{}]}`,
				}).Draw(t, "body")),
			}
			if i > 0 {
				e.Supersedes = rapid.SampledFrom([]string{"", strconv.Itoa(i - 1), "gone"}).Draw(t, "supersedes")
			}
			l.Entries = append(l.Entries, e)
		}
		record.MakeSheet(l)
		paper.MakeRecord(l)
		for _, id := range steps {
			_, err := record.MakeStep(l, id, lead, clock)
			require.NoError(t, err)
			for _, a := range acts.All() {
				last := l.Entries[len(l.Entries)-1]
				_, _ = record.Propose(l, id, record.Draft{Says: acts.Find(a.Name()), Supersedes: last.ID}, lead, clock)
			}
		}
	})
}

func BenchmarkSheetOf150Entries(b *testing.B) {
	x := newBench(b)
	x.walkUntil("")
	for len(x.ledger.Entries) < 150 {
		x.must("identify", record.Draft{Says: &acts.Note{Note: "one more line"}})
	}
	for b.Loop() {
		record.MakeSheet(x.ledger)
	}
}

// A reading of an end float, through rules, binding and calculator, on a
// record that came from the database.
func BenchmarkProposeEndFloatReading(b *testing.B) {
	x := newBench(b)
	x.walkUntil("end-float")
	x.must("end-float", reading(b, "0.62 mm"))
	raw, err := json.Marshal(x.ledger.Entries)
	require.NoError(b, err)
	l := unfolded(x.ledger)
	l.Entries = nil
	require.NoError(b, json.Unmarshal(raw, &l.Entries))
	l = l.Fold()
	d := reading(b, "24 thou")
	for b.Loop() {
		if _, err := record.Propose(l, "end-float", d, lead, x.now); err != nil {
			b.Fatal(err)
		}
	}
}
