package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

func skip(reason string) record.Draft {
	return record.Draft{Says: &acts.Skip{Reason: reason}}
}

// A step that a job does not need is left away with a reason; what would take a
// figure from it is told, does without, and the sign-off lists it.
func TestAStepIsNotNeeded(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	view := func(step string) *record.StepFrame {
		v, err := record.MakeStep(b.ledger, step, lead, b.now)
		require.NoError(t, err)
		return v.Frame()
	}
	assert.Equal(t, []string{"Connect and count"}, view("marks").TakenFrom, "what is held against the marks")
	_, err := b.try("end-float", skip(" "), mechanic)
	require.ErrorContains(t, err, "reason")
	e := b.must("end-float", skip("cover never came off"))
	status, _ := b.status("end-float")
	assert.Equal(t, record.Done, status)
	assert.Equal(t, "not needed: cover never came off", says(t, b, "end-float", e.ID))
	_, err = b.try("end-float", record.Draft{Says: &acts.Reading{Measured: acts.Measured{Value: reads("0.6 mm")}}},
		mechanic)
	require.ErrorContains(t, err, "is not needed here; strike that first")
	for _, open := range view("end-float").Acts {
		assert.NotEqual(t, acts.Reading{}.Name(), open.Act)
	}
	b.walkUntil("sign-off")
	v, err := record.MakeStep(b.ledger, "sign-off", lead, b.now)
	require.NoError(t, err)
	assert.Contains(
		t, v.(*decide.DecideStep).Points,
		record.Point{
			Step: "end-float", Title: "Output shaft end float", Says: "not needed", Left: "cover never came off",
			By: e.By.Name,
		},
	)

	b.must("end-float", record.Draft{Supersedes: e.ID, Says: &acts.Strike{Reason: "it did"}})
	status, _ = b.status("end-float")
	assert.Equal(t, record.Open, status, "struck, it is to be done")
	assert.Equal(t, statuses(b.ledger.State()), statuses(unfolded(b.ledger).State()), "folded or grown, it is the same")
}

func TestWhatIsNeverLeftAway(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	_, err := b.try("make-safe", skip("in a hurry"), mechanic)
	require.ErrorContains(t, err, "cannot be left away")
	_, err = b.try("identify", skip("known"), mechanic)
	require.ErrorContains(t, err, "is done already")
	_, err = b.try("build", skip("later"), mechanic)
	require.ErrorContains(t, err, "do this before")
	b.walkUntil("sign-off")
	_, err = b.try("sign-off", skip("no lead here"), lead)
	require.ErrorContains(t, err, "cannot be left away")
}

// A unit that is not taken apart wants no parts, not even those renewed by rule.
func TestNothingComesForWhatIsNotTouched(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip")
	e := b.must("strip", skip("the oil only"))
	b.walkUntil("parts-here")
	for _, g := range b.list(t).Groups {
		for _, l := range g.Lines {
			assert.NotContains(t, l.Line, "strip.")
		}
	}
	b.must("strip", record.Draft{Supersedes: e.ID, Says: &acts.Strike{Reason: "it is opened after all"}})
	assert.Equal(t, "always replaced: it was stretched when it came off", lineOf(t, b.list(t), "strip.circlip").Why)
}

// Whatever step is left away, the rest of the route is still worked to its end.
func TestARouteGoesOnWithoutAnyOneStep(t *testing.T) {
	t.Parallel()
	for route, sheet := range map[string]string{
		"transfer-case-dog": "brakka-t2", "axle-ring-pinion": "brakka-a9", "clutch-hydraulic": "skerry-c228",
		"gearbox-longitudinal": "brakka-g5",
	} {
		for _, step := range benchOn(t, route, sheet).ledger.Plan.Steps {
			if step.Kind == book.Care || step.Role == string(people.Lead) {
				continue
			}
			t.Run(route+" without "+step.ID, func(t *testing.T) {
				t.Parallel()
				b := benchOn(t, route, sheet)
				b.walkUntil(step.ID)
				if b.ledger.State().IsSkipped(step) {
					return // the way that was chosen does without it already
				}
				b.must(step.ID, skip("not in this job"))
				b.walkUntil("")
				assert.True(t, b.ledger.Rebuild.Place.Closed)
			})
		}
	}
}
