package workshop_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

var (
	mechanic = people.Person{Login: "odo", Name: "Odo Marrin", Role: people.Mechanic}
	lead     = people.Person{Login: "ilva", Name: "Ilva Torn", Role: people.Lead}
	reader   = people.Person{Login: "guest", Name: "Guest", Role: people.Reader}
	clock    = time.Date(2026, 11, 24, 8, 0, 0, 0, time.UTC)
)

func TestTheWholeRouteIsWalkedToTheSignature(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("")
	place := b.ledger.Rebuild.Place
	assert.True(t, place.Closed, "stands at %s: %s", place.Step, place.WaitsFor)
	assert.Equal(t, place.Steps, place.Done)
	assert.NoError(t, record.Verify(b.ledger.Rebuild, b.ledger.Entries))
}

func TestARefusalSaysWhy(t *testing.T) {
	t.Parallel()
	tests := []struct {
		name  string
		until string
		step  string
		draft record.Draft
		by    people.Person
		says  string
	}{
		{
			"reader",
			"identify",
			"identify",
			record.Draft{Item: record.ReadPlace("serial"), Says: &acts.Outcome{Outcome: "done"}},
			reader,
			"a view-only account",
		},
		{"unknown step", "identify", "polish", record.Draft{Says: &acts.Note{}}, lead, "no step"},
		{"foreign act", "identify", "identify", record.Draft{Says: &acts.Torqued{}}, lead, "this step does not take"},
		{"a reading with an outcome", "end-float", "end-float",
			record.Draft{Says: &acts.Reading{Outcome: "in", Measured: acts.Measured{Value: reads("0.1 mm")}}}, lead,
			"outcome: a reading takes no outcome"},
		{"unknown outcome", "identify", "identify",
			record.Draft{Item: record.ReadPlace("serial"), Says: &acts.Outcome{Outcome: "maybe"}}, lead, "outcome:"},
		{"unknown line", "identify", "identify",
			record.Draft{Item: record.ReadPlace("colour"), Says: &acts.Outcome{Outcome: "done"}}, lead, "item:"},
		{
			"gate",
			"complaint",
			"strip",
			record.Draft{Item: record.ReadPlace("nut"), Says: &acts.Removed{Outcome: "removed"}},
			lead,
			"do this before Strip the front output",
		},
		{
			"grave caution",
			"tests",
			"tests",
			record.Draft{Item: record.ReadPlace("oil-look"), Says: &acts.Outcome{Outcome: "clean"}},
			lead,
			"confirm first: Crushing",
		},
		{"value missing", "drive-before", "drive-before",
			record.Draft{Item: record.ReadPlace("temperature"), Says: &acts.Outcome{}},
			lead, "value: missing"},
		{
			"value of another kind",
			"drive-before",
			"drive-before",
			record.Draft{
				Item: record.ReadPlace("temperature"),
				Says: &acts.Outcome{Measured: acts.Measured{Value: reads("3 mm")}},
			},
			lead,
			"is a length",
		},
		{
			"one-time part",
			"cover-parts",
			"cover-parts",
			record.Draft{Item: record.ReadPlace("seal"), Says: &acts.Verdict{Outcome: "reuse"}},
			lead,
			"always replaced",
		},
		{"verdict without reason", "parts", "parts",
			record.Draft{Item: record.ReadPlace("gear"), Says: &acts.Verdict{Outcome: "rework"}}, lead, "reason:"},
		{"unknown picture", "arrival-photo", "arrival-photo",
			record.Draft{Says: &acts.Photo{Pictured: acts.Pictured{Photo: "p9"}}}, lead,
			"no such picture"},
		{"fluid that eats bronze", "fluid", "fluid",
			record.Draft{Says: &acts.Filled{Outcome: "gl5-80", Measured: acts.Measured{Value: reads("2.4 L")}}}, lead,
			"the sulphur of GL-5 eats bronze"},
		{"out of order part", "build", "build",
			record.Draft{Item: record.ReadPlace("bearing"), Says: &acts.Fitted{Outcome: "fitted"}},
			lead,
			"before Front bearing"},
		{"clock not started", "sealant", "sealant", record.Draft{Says: &acts.End{}}, lead, "has not been started"},
		{"lead only", "sign-off", "sign-off", record.Draft{Says: &acts.Decision{Outcome: "release"}}, mechanic,
			"only a lead"},
		{"no gate closed", "identify", "identify",
			record.Draft{Says: &acts.Override{Reason: "x"}}, lead,
			"is not locked"},
		{"found part without name", "strip", "strip",
			record.Draft{Item: record.Place{}, Says: &acts.Removed{Outcome: "removed"}}, lead,
			"name:"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			b := newBench(t)
			b.walkUntil(tt.until)
			if tt.name != "grave caution" {
				for _, c := range mustStep(b, tt.step).Cautions {
					b.acknowledge(tt.step, c)
				}
			}
			before := len(b.ledger.Entries)
			_, err := b.try(tt.step, tt.draft, tt.by)
			require.Error(t, err)
			assert.Contains(t, err.Error(), tt.says)
			assert.Len(t, b.ledger.Entries, before, "nothing was written")
		})
	}
}

func TestEndFloatFromOutToIn(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	first := b.must("end-float", reading(t, "0.62 mm"))
	assert.Equal(t, metrology.Out, first.Verdict)
	b.must("end-float", reading(t, "24 thou"))
	third := b.must("end-float", reading(t, ".024 in"))
	assert.Equal(t, "end-float/2", third.Method)
	assert.Contains(t, string(third.Result), "washer may be missing")
	_, needs := b.status("end-float")
	assert.Equal(t, "fit another pack and measure again", needs)

	fit := b.must("end-float", record.Draft{Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.52 mm", 1)}}})
	assert.Equal(t, 1, b.drawer["0.52 mm"], "one washer left the drawer")
	assert.Contains(t, string(fit.Result), "0.0930", "the float it promised is kept")
	b.must("end-float", reading(t, "0.09 mm"))
	_, needs = b.status("end-float")
	assert.Equal(t, "1 more reading", needs)
	last := b.must("end-float", reading(t, "0.09 mm"))
	assert.Equal(t, metrology.In, last.Verdict)
	status, _ := b.status("end-float")
	assert.Equal(t, record.Done, status)

	// Another pack instead: the old one goes back.
	b.must("end-float", record.Draft{Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.5 mm", 1)}}})
	assert.Equal(t, 2, b.drawer["0.52 mm"])
	assert.Equal(t, 0, b.drawer["0.5 mm"])
	_, err := b.try("end-float", record.Draft{Says: &acts.Fit{Pack: []acts.Piece{piece(t, "0.6 mm", 3)}}}, lead)
	assert.ErrorContains(t, err, "pack[0].count")
}

func TestCorrectingAReadingRecomputesAndKeepsTheOldOne(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	b.must("end-float", reading(t, "0.09 mm"))
	slip := b.must("end-float", reading(t, "0.9 mm"))
	d := reading(t, "0.09 mm")
	d.Supersedes = slip.ID
	mended := b.must("end-float", d)
	assert.Equal(t, metrology.In, mended.Verdict)
	assert.Equal(t, slip.Item, mended.Item)
	v := viewAt[*measure.MeasureStep](b, "end-float")
	require.Len(t, v.Trials[0].Readings, 2)
	assert.Equal(t, mended.ID, v.Entries[len(v.Entries)-2].SupersededBy, "the slip stays readable")

	_, err := b.try("end-float", d, mechanic)
	var refusal say.Refusal
	require.ErrorAs(t, err, &refusal)
	assert.Equal(t, say.Conflict, refusal.Reason)
	assert.Contains(t, refusal.Error(), "Ilva Torn has already corrected this")

	b.must("end-float", record.Draft{Supersedes: mended.ID, Says: &acts.Strike{}})
	_, needs := b.status("end-float")
	assert.Equal(t, "1 more reading", needs)
}

func TestTwoHandsOnOnePlaceDoNotOverwrite(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	d := record.Draft{Item: record.ReadPlace("serial"), Says: &acts.Outcome{Outcome: "done"}}
	b.must("identify", d)
	d.Says.(*acts.Outcome).Outcome = "none"
	_, err := b.try("identify", d, mechanic)
	require.ErrorContains(t, err, "Ilva Torn recorded this at")
}

func TestBoltsGoInOrderAndAreJudged(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("cover-bolts")
	torqued := func(pass, bolt int, value string) record.Draft {
		return record.Draft{Says: &acts.Torqued{Pass: pass, Bolt: bolt, Measured: acts.Measured{Value: reads(value)}}}
	}
	b.must("cover-bolts", torqued(1, 1, "13 lb-ft"))
	_, err := b.try("cover-bolts", torqued(1, 2, "13 lb-ft"), lead)
	require.ErrorContains(t, err, "next in pass 1 is bolt 5, not bolt 2")
	loose := b.must("cover-bolts", torqued(1, 5, "9 lb-ft"))
	assert.Equal(t, metrology.Out, loose.Verdict)
	_, needs := b.status("cover-bolts")
	assert.Equal(t, "bolt 5 in pass 1 reads off its setting", needs)
	right := torqued(1, 5, "17.6 N·m")
	right.Supersedes = loose.ID
	assert.Equal(t, metrology.In, b.must("cover-bolts", right).Verdict)
	_, err = b.try("cover-bolts", torqued(1, 9, "13 lb-ft"), lead)
	require.ErrorContains(t, err, "there is no bolt 9")
}

// A check round is worth what was tight when it was made: a bolt that is turned
// afterwards, or that is off its setting, asks for it anew.
func TestACheckRoundIsOfBoltsThatStand(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("flange-nut")
	view := func() torque.TorqueView {
		v, err := record.MakeStep(b.ledger, "cover-bolts", lead, b.now)
		require.NoError(t, err)
		return v.(*torque.TorqueStep).Torque
	}
	require.True(t, view().Held)
	last := view().Cells[len(view().Cells)-1]
	turn := func(value string) record.Entry {
		d := record.Draft{
			Says: &acts.Torqued{Pass: last.Pass, Bolt: last.Bolt, Measured: acts.Measured{Value: reads(value)}},
		}
		for _, e := range b.ledger.Entries {
			said := record.As[acts.Torqued](&e)
			if e.Step == "cover-bolts" && said.Pass == last.Pass && said.Bolt == last.Bolt {
				d.Supersedes = e.ID
			}
		}
		return b.must("cover-bolts", d)
	}
	turn("60 lb-ft")
	assert.False(t, view().Held)
	require.Len(t, view().Off, 1)
	assert.Contains(
		t, view().Off[0], "over its setting. Back it off and tighten it again. Is it used once only? Fit a new bolt.",
	)
	v, err := record.MakeStep(b.ledger, "cover-bolts", lead, b.now)
	require.NoError(t, err)
	round := kinds.Plausible(v)
	require.NotEmpty(t, round.Supersedes, "the round from before")
	_, err = b.try("cover-bolts", round, mechanic)
	require.ErrorContains(t, err, "off its setting: put it right before the check round")
	turn("2 lb-ft")
	assert.Contains(t, view().Off[0], "under its setting")
	turn(last.Setting.String())
	assert.Empty(t, view().Off)
	status, needs := b.status("cover-bolts")
	assert.Equal(t, record.Open, status)
	assert.Contains(t, needs, "check round")
	b.must("cover-bolts", round)
	assert.True(t, view().Held)
	status, _ = b.status("cover-bolts")
	assert.Equal(t, record.Done, status)
}

func TestAGateOpensWithAReasonOnRecord(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	_, err := b.try("build", record.Draft{Says: &acts.Override{}}, lead)
	require.ErrorContains(t, err, "reason")
	b.must("build", record.Draft{Says: &acts.Override{Reason: "case needed off the bench"}})
	status, _ := b.status("build")
	assert.Equal(t, record.Open, status)
}

func TestTheSealantClock(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("sealant")
	b.must("sealant", record.Draft{Says: &acts.Start{Outcome: "snug-wait"}})
	_, err := b.try("sealant", record.Draft{Says: &acts.End{}}, lead)
	require.ErrorContains(t, err, "59m0s left")
	b.now = b.now.Add(time.Hour)
	b.must("sealant", record.Draft{Says: &acts.End{}})
	status, _ := b.status("sealant")
	assert.Equal(t, record.Done, status)
}

func TestAfterTheSignatureTheRecordRests(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("")
	_, err := b.try("identify", record.Draft{Supersedes: b.ledger.Entries[0].ID, Says: &acts.Strike{}}, lead)
	require.ErrorContains(t, err, "signed off")
	b.must("identify", record.Draft{Says: &acts.Note{Note: "customer called, all quiet"}})
	sign := b.ledger.Entries[len(b.ledger.Entries)-2]
	b.must("sign-off", record.Draft{Supersedes: sign.ID, Says: &acts.Strike{}})
	assert.False(t, b.ledger.Rebuild.Place.Closed)
}

func TestSigningNeedsEverythingDone(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("fluid")
	b.must("sign-off", record.Draft{Says: &acts.Override{Reason: "to see"}})
	_, err := b.try("sign-off", record.Draft{Says: &acts.Decision{Outcome: "release"}}, lead)
	require.ErrorContains(t, err, "still to do")
}
