package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// What was struck stays struck: a strike is no entry to strike again.
func TestAStrikeIsNotStruck(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	read := b.must("end-float", reading(t, "0.6 mm"))
	strike := b.must("end-float", record.Draft{Supersedes: read.ID, Says: &acts.Strike{Reason: "the dial slipped"}})
	_, err := b.try("end-float", record.Draft{Supersedes: strike.ID, Says: &acts.Strike{Reason: "it did not"}}, lead)
	require.ErrorContains(t, err, "supersedes:")
	require.ErrorContains(t, err, "an entry not yet struck out")
	_, err = b.try("end-float", record.Draft{Supersedes: read.ID, Says: &acts.Strike{Reason: "again"}}, lead)
	require.Error(t, err, "nor what it struck")
}

// A measurement too close to its limit to tell does not close its step.
func TestAnUndecidedMeasurementIsNotDone(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", fits(piece(t, "0.52 mm", 1)))
	b.must("end-float", reading(t, "0.15 mm"))
	e := b.must("end-float", reading(t, "0.14 mm"))
	require.Equal(t, metrology.Undecided, e.Verdict)
	status, needs := b.status("end-float")
	assert.Equal(t, record.Open, status)
	assert.Equal(t, "undecided: take more readings, or use a finer gauge", needs)
	for range 6 { // a few more that agree tell
		e = b.must("end-float", reading(t, "0.1 mm"))
	}
	assert.Equal(t, metrology.In, e.Verdict)
	status, _ = b.status("end-float")
	assert.Equal(t, record.Done, status)
}

// One part of which nobody said when it comes: the day is only that of the others.
func TestOnePartWithoutADayIsSaid(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", record.Draft{Says: &acts.Decision{Outcome: "seals"}})
	d := ordering(acts.OrderLine{Line: "kit.seals"})
	d.Says.(*acts.Ordered).Due = "2026-12-02"
	b.must("parts-here", d)
	b.must(
		"parts-here",
		record.Draft{Says: &acts.Wanted{Lines: []acts.OrderLine{{Name: "Odd nut", Reason: "it is pulled"}}}},
	)
	last := b.list(t).Last
	assert.Equal(t, 1, last.Unknown)
	assert.Contains(t, last.Says, "Parts with a date here")
}
