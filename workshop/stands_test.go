package workshop_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/record"
)

func signing() record.Draft { return record.Draft{Says: &acts.Decision{Outcome: "release"}} }

func undoneAt(t *testing.T, b *bench) map[string]record.Undone {
	t.Helper()
	all := map[string]record.Undone{}
	for _, u := range viewAt[*decide.DecideStep](b, "sign-off").Undone {
		all[u.Name] = u
	}
	return all
}

// What a step wants is so by the record, or somebody looks: else nothing is done there.
func TestAStepSaysWhatHasToStandSo(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip-cover")
	v := viewAt[*stack.StackStep](b, "strip-cover")
	require.Len(t, v.Wants, 1)
	assert.Equal(t, "Transfer case out", v.Wants[0].Says)
	assert.True(t, v.Wants[0].So, "by the release before it")

	early := newBench(t)
	early.walkUntil("release")
	early.must("strip-cover", record.Draft{Says: &acts.Override{Reason: "the nut first, in the vehicle"}})
	nut := record.Draft{Item: record.ReadPlace("nut"), Says: &acts.Removed{Outcome: "removed", Tray: "tray 1"}}
	_, err := early.try("strip-cover", nut, mechanic)
	require.ErrorContains(t, err, "first this has to be so: Transfer case out")
	assert.Equal(t, "Transfer case still in", viewAt[*stack.StackStep](early, "strip-cover").Wants[0].Now)
	_, err = early.try("strip-cover", record.Draft{Item: record.ReadPlace("transfer-case"),
		Says: &acts.Stands{Outcome: "in"}}, mechanic)
	require.ErrorContains(t, err, "outcome:")
	_, err = early.try("strip-cover", record.Draft{Item: record.ReadPlace("radio"),
		Says: &acts.Stands{Outcome: "out"}}, mechanic)
	require.ErrorContains(t, err, "item:")
	e := early.must(
		"strip-cover",
		record.Draft{Item: record.ReadPlace("transfer-case"), Says: &acts.Stands{Outcome: "out"}},
	)
	assert.Equal(t, "looked: Transfer case out", says(t, early, "strip-cover", e.ID))
	early.must("strip-cover", nut)
}

// The sign-off lists what was undone and how it came back, and is not given before.
func TestNothingIsSignedThatIsNotBack(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("drive-after")
	b.must(
		"arrival-photo",
		record.Draft{Says: &acts.Found{Note: "Bracket in the way", Outcome: "minor", Settled: "done",
			Off: "exhaust bracket"}},
	)
	b.walkUntil("sign-off")
	all := undoneAt(t, b)
	assert.Equal(t, "Transfer case", all["Transfer case"].Name)
	assert.Contains(t, all["Transfer case"].Left, "out")
	assert.Contains(t, all["Transfer case"].Back, "Lift the transfer case in")
	assert.NotEmpty(t, all["Battery"].Back)
	off := all["Exhaust bracket"]
	assert.Empty(t, off.Back)
	_, err := b.try("sign-off", signing(), lead)
	require.ErrorContains(t, err, "not put back yet: Exhaust bracket off")
	_, err = b.try("identify", record.Draft{Item: record.ReadPlace("nothing"), Says: &acts.Back{}}, mechanic)
	require.ErrorContains(t, err, "item:")
	b.must("identify", record.Draft{Item: record.ReadPlace(off.Find), Says: &acts.Back{}})
	assert.Contains(t, undoneAt(t, b)["Exhaust bracket"].Back, "back on")
	b.must("sign-off", signing())
}

// Parts that stayed out since their building was left away are open until the lead says
// how they came back.
func TestALeadSaysHowItCameBack(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("build-cover")
	b.must("build-cover", skip("somebody else did it"))
	b.walkUntil("sign-off")
	_, err := b.try("sign-off", signing(), lead)
	require.ErrorContains(t, err, "not put back yet")
	at := record.ReadPlace("strip-cover")
	_, err = b.try("sign-off", record.Draft{Item: at, Says: &acts.Stands{}}, lead)
	require.ErrorContains(t, err, "reason:")
	b.must("sign-off", record.Draft{Item: at, Says: &acts.Stands{Reason: "Runa built it on Friday"}})
	b.must("sign-off", signing())
}

// Caged spring brakes are read of first, cannot be denied later, and hold the signature.
func TestCagedSpringBrakesComeBack(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("air-brakes")
	caged := record.Draft{Item: record.ReadPlace("brakes"), Says: &acts.Outcome{Outcome: "caged"}}
	_, err := b.try("air-brakes", caged, mechanic)
	require.ErrorContains(t, err, "read and confirm first: Spring brakes")
	b.must("air-brakes", record.Draft{Item: record.ReadPlace("spring-brakes"), Says: &acts.Acknowledge{}})
	b.must("air-brakes", caged)
	b.walkUntil("air-back")
	_, err = b.try(
		"air-back",
		record.Draft{Item: record.ReadPlace("uncaged"), Says: &acts.Outcome{Outcome: "none"}},
		mechanic,
	)
	require.ErrorContains(t, err, "Spring brakes caged")
	b.must("air-back", skip("forgotten"))
	v := viewAt[*items.TestStep](b, "drive-after")
	assert.True(
		t,
		slices.ContainsFunc(
			v.Wants,
			func(w record.WantView) bool { return w.Says == "Spring brakes working" && !w.So },
		),
	)
	b.must("drive-after", skip("not driven"))
	b.walkUntil("sign-off")
	_, err = b.try("sign-off", signing(), lead)
	require.ErrorContains(t, err, "not put back yet: Spring brakes caged")
}

// A torque that a wheel or a gear hangs on is never left to feel: size, class and finish
// give one, called so, and the lead answers for it. M10 8.8 as it comes, K 0.2, three
// quarters of the proof load: 0.2 · 10 mm · 0.75 · 58.0 mm² · 580 MPa = 50 N·m (Shigley,
// eq. 8-27; ISO 898-1 proof stress, from memory).
func TestAGraveTorqueIsNeverLeftToFeel(t *testing.T) {
	t.Parallel()
	known, err := demoBook()
	require.NoError(t, err)
	c, err := known.Copy("clutch-hydraulic", "skerry-c228")
	require.NoError(t, err)
	torques := c.Sheet.Torques
	c.Sheet.Torques = nil
	b := benchWith(t, c)
	b.walkUntil("flywheel-bolts")
	at := record.ReadPlace("torques.flywheel")
	say := func(f *acts.Figure) (record.Entry, error) {
		return b.try("flywheel-bolts", record.Draft{Item: at, Says: f}, mechanic)
	}
	_, err = say(&acts.Figure{Origin: acts.NotKnown})
	require.ErrorContains(t, err, "never left to feel")
	_, err = say(&acts.Figure{Origin: acts.BySize})
	require.ErrorContains(t, err, "sized")
	bolt := &acts.Sized{Bolts: 6, Diameter: quantity.Say(10*quantity.Millimetre, quantity.Named("mm")), Class: "7.7"}
	_, err = say(&acts.Figure{Origin: acts.BySize, Sized: bolt})
	require.ErrorContains(t, err, "sized.class")
	bolt.Class, bolt.Finish = "8.8", "as_received"
	e := b.must("flywheel-bolts", record.Draft{Item: at, Says: &acts.Figure{Origin: acts.BySize, Sized: bolt}})
	assert.Contains(t, says(t, b, "flywheel-bolts", e.ID), "50 N·m")
	assert.Contains(t, says(t, b, "flywheel-bolts", e.ID), "by size and class, not the maker's")

	b.walkUntil("propshaft-bolts")
	b.must("propshaft-bolts", record.Draft{Item: record.ReadPlace("torques.propshaft"),
		Says: &acts.Figure{Origin: acts.NotHere}})
	status, _ := b.status("propshaft-bolts")
	assert.Equal(t, record.Done, status, "there is nothing to tighten")
	b.walkUntil("sign-off")
	_, err = b.try("sign-off", signing(), lead)
	require.ErrorContains(t, err, "say first what was done about it: Torque of the flywheel")
	c.Sheet.Torques = torques
}
