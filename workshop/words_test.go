package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// lines gives the words of a step's entries.
func (b *bench) lines(step string) []string {
	for _, st := range paper.MakeRecord(b.ledger).Stations {
		for _, s := range st.Steps {
			if s.ID != step {
				continue
			}
			var out []string
			for _, l := range s.Lines {
				out = append(out, l.Says)
			}
			return out
		}
	}
	return nil
}

func TestTheRecordSaysWhatWasDone(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	b.must("end-float", reading(t, "0.62 mm"))
	slip := b.must("end-float", reading(t, "0.60 mm"))
	right := reading(t, "24.1 thou")
	right.Supersedes = slip.ID
	right.Says.(*acts.Reading).Note = "shaft turned"
	b.must("end-float", right)
	b.must("end-float", record.Draft{Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.52 mm", 1)}}})
	b.must("end-float", record.Draft{Says: &acts.Note{Note: "cleaned the face"}})
	assert.Equal(t, []string{
		"read 0.62 mm, Dial indicator no. 4, 0.01 mm",
		"read 0.60 mm, Dial indicator no. 4, 0.01 mm; mean 0.610 mm ± 0.045 mm",
		"read 24.1 thou, Dial indicator no. 4, 0.01 mm; mean 0.616 mm ± 0.018 mm (corrected): shaft turned",
		"fitted 1 × 0.52 mm",
		"cleaned the face",
	}, b.lines("end-float"))
	rec := paper.MakeRecord(b.ledger)
	lines := rec.Stations[5].Steps[1].Lines
	assert.True(t, lines[1].Struck, "the slip stays, struck through")
	assert.Equal(t, "end-float/2", lines[0].Method)
	assert.Nil(t, rec.SignedAt)
	assert.Equal(t, "Brakka T2 two-range transfer case, version 4", rec.Sheet)

	assert.Contains(t, b.lines("drive-before"), "Housing temperature right after the drive: 58 °C")
	assert.Contains(t, b.lines("strip"), "Thrust washer off, oil grooves to the gear, tray 2")
	assert.Contains(t, b.lines("cover-parts"), "Output seal: replace: its lip has worn to the old shaft")
	assert.Contains(t, b.lines("release"), "caution confirmed: The unit drops")
	assert.Contains(t, b.lines("arrival-photo"), "no picture: no camera at hand")
	assert.Contains(t, b.lines("fluid"), "2.4 L, API GL-4, SAE 80W-90")
}

func TestTheSignedRecordNamesTheLead(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("")
	rec := paper.MakeRecord(b.ledger)
	assert.Equal(t, "Ilva Torn", rec.SignedBy)
	require.NotNil(t, rec.SignedAt)
	assert.Len(t, rec.Handover, 4, "the wheel nuts after 50 km among them")
	assert.Contains(t, b.lines("cover-bolts"), "check round: all bolts held")
	assert.Contains(t, b.lines("sealant"), "clock started: Snug, wait, then torque")
}

func TestPackWords(t *testing.T) {
	t.Parallel()
	assert.Equal(t, "no shim", record.PackWords(nil))
	assert.Equal(t, "1 × 0.52 mm + 2 × 4 thou", record.PackWords([]acts.Piece{piece(t, "0.52 mm", 1),
		piece(t, "4 thou", 2)}))
}

// A part nobody foresaw takes part in everything that follows.
func TestAFoundPartIsInspectedAndGoesBack(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip")
	b.must("strip", record.Draft{Item: record.ReadPlace("circlips"), Says: &acts.Acknowledge{}})
	b.must("strip", record.Draft{Item: record.ReadPlace("bearing"), Says: &acts.Removed{Outcome: "removed"}})
	found := b.must(
		"strip",
		record.Draft{Says: &acts.Removed{Outcome: "removed", PartName: "Spacer, home-made", Tray: "tray 9"}},
	)
	b.walkUntil("parts")
	v := viewAt[*stack.StackStep](b, "parts")
	require.Len(t, v.Stack, 10)
	b.walkUntil("cause")
	_, err := b.try("parts", record.Draft{Item: found.Item, Says: &acts.Verdict{Outcome: "reuse"}}, lead)
	require.ErrorContains(t, err, "recorded this at", "the walk has judged it with the others")
	b.walkUntil("dry-run")
	assert.Contains(t, b.lines("build"), "Spacer, home-made in")
}

func TestAPartThatWasNotThere(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip")
	b.must("strip", record.Draft{Item: record.ReadPlace("washer"), Says: &acts.Removed{Outcome: "not-found"}})
	b.walkUntil("parts")
	_, err := b.try(
		"parts",
		record.Draft{Item: record.ReadPlace("washer"), Says: &acts.Verdict{Outcome: "reuse"}},
		lead,
	)
	require.ErrorContains(t, err, "was missing")
	b.must(
		"parts",
		record.Draft{
			Item: record.ReadPlace("washer"),
			Says: &acts.Verdict{Outcome: "not-found", Reason: "left out before"},
		},
	)
	assert.Contains(t, b.lines("strip"), "Thrust washer: missing, it must be there")
	assert.Contains(t, b.lines("parts"), "Thrust washer: missing, it must be there: left out before")
}

func TestLeavingAPartOutNeedsAReason(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("build")
	_, err := b.try(
		"build",
		record.Draft{Item: record.ReadPlace("shaft"), Says: &acts.Fitted{Outcome: "left-out"}},
		lead,
	)
	require.ErrorContains(t, err, "why the part is left out")
	b.must(
		"build",
		record.Draft{
			Item: record.ReadPlace("shaft"),
			Says: &acts.Fitted{Outcome: "left-out", Reason: "sent out for grinding"},
		},
	)
	assert.Contains(t, b.lines("build"), "Front output shaft left out: sent out for grinding")
}

func TestAcceptingWhatIsOutNeedsReadingsAndAReason(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	_, err := b.try("end-float", record.Draft{Says: &acts.Accept{Reason: "good enough"}}, lead)
	require.ErrorContains(t, err, "measure first")
	b.must("end-float", reading(t, "0.17 mm"))
	b.must("end-float", reading(t, "0.18 mm"))
	_, err = b.try("end-float", record.Draft{Says: &acts.Accept{}}, lead)
	require.ErrorContains(t, err, "why you accept it")
	b.must("end-float", record.Draft{Says: &acts.Accept{Reason: "no thicker washer before Friday, customer agrees"}})
	status, _ := b.status("end-float")
	assert.Equal(t, record.Done, status)
	b.must("end-float", reading(t, "0.18 mm"))
}

func TestAPackThatWasMeasuredStands(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	b.must("end-float", reading(t, "0.62 mm"))
	b.must("end-float", reading(t, "0.62 mm"))
	fit := b.must("end-float", record.Draft{Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.56 mm", 1)}}})
	b.must("end-float", record.Draft{Supersedes: fit.ID, Says: &acts.Strike{}})
	assert.Equal(t, 2, b.drawer["0.56 mm"], "back in the drawer")
	v := viewAt[*measure.MeasureStep](b, "end-float")
	assert.Len(t, v.Trials, 1)

	fit = b.must("end-float", record.Draft{Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.56 mm", 1)}}})
	b.must("end-float", reading(t, "0.06 mm"))
	again := record.Draft{Supersedes: fit.ID, Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.52 mm", 1)}}}
	_, err := b.try("end-float", again, lead)
	require.ErrorContains(t, err, "fit another")
	_, err = b.try("end-float", record.Draft{Supersedes: fit.ID, Says: &acts.Strike{}}, lead)
	require.ErrorContains(t, err, "this pack has readings")
}

// A sentence begins with its first letter, in any script, and nothing else changes.
func TestRaised(t *testing.T) {
	t.Parallel()
	for said, want := range map[string]string{"": "", "puck": "Puck", "ölbad": "Ölbad", "диск": "Диск",
		"2.5 L": "2.5 L", "\xff": "\xff"} {
		assert.Equal(t, want, say.Raise(said))
	}
}
