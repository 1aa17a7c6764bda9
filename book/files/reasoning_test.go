package files

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/book"
	"handwerk/core/diagnosis"
)

// A cylinder is ordered with its neighbour: enough is known once the fork has
// told that it is one of the two (common practice: both, same labour).
func TestEnoughIsKnownWhenTheOrderIsTheSame(t *testing.T) {
	t.Parallel()
	c := unitBook(shippedBook(t), "clutch")
	out, err := diagnosis.Diagnose(c.Reason([]diagnosis.Seen{
		{Test: "complaint-clutch", Outcome: "no-release"}, {Test: "fork-travel", Outcome: "little"},
		{Test: "fluid-level", Outcome: "black"},
		{Test: "pump-pedal", Outcome: "sinks"}, {Test: "free-play", Outcome: "right"},
		{Test: "cylinders-wet", Outcome: "wet-slave"}, {Test: "pedal-feel", Outcome: "floor"},
	}, nil))
	require.NoError(t, err)
	assert.Equal(t, "Replace master and slave cylinder together", out.Action)
	assert.Greater(t, out.ActionP, 0.9)
}

// The first test proposed for a clutch that will not release is a cheap one,
// done with the gearbox in.
func TestTheNextTestIsWorthItsMinutes(t *testing.T) {
	t.Parallel()
	c := unitBook(shippedBook(t), "clutch")
	out, err := diagnosis.Diagnose(c.Reason([]diagnosis.Seen{{Test: "complaint-clutch", Outcome: "no-release"}}, nil))
	require.NoError(t, err)
	require.NotEmpty(t, out.Next)
	assert.LessOrEqual(t, out.Next[0].Minutes, 5.0, out.Next[0].Says)
	assert.False(t, out.Enough)
}

// Order does not matter, chances sum, information is never negative, whatever
// was seen.
func TestTheBooksAnswersAreSound(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom([]string{"clutch", "manual gearbox", "differential", "transfer case",
			"pedal hydraulics", "shift linkage"}).Draw(t, "unit")
		c := unitBook(b, kind)
		var seen []diagnosis.Seen
		for _, test := range c.Tests {
			if rapid.IntRange(0, 5).Draw(t, test.ID) == 0 {
				seen = append(seen, diagnosis.Seen{Test: test.ID,
					Outcome: rapid.SampledFrom(test.Outcomes).Draw(t, "outcome").ID})
			}
		}
		out, err := diagnosis.Diagnose(c.Reason(seen, nil))
		if err != nil {
			t.Fatal(err)
		}
		slices.Reverse(seen)
		back, err := diagnosis.Diagnose(c.Reason(seen, nil))
		if err != nil {
			t.Fatal(err)
		}
		if out.Clash != nil {
			return // nothing fits: there are no chances to compare
		}
		for i := range out.Causes {
			j := slices.IndexFunc(back.Causes, func(x diagnosis.CauseOut) bool { return x.ID == out.Causes[i].ID })
			assert.InDelta(t, out.Causes[i].P, back.Causes[j].P, 1e-9)
		}
		for _, n := range out.Next {
			assert.GreaterOrEqual(t, n.Bits, 0.0)
		}
	})
}

// A shop that has confirmed a cause again and again comes to expect it.
func TestTheShopsOwnCasesShiftTheWeights(t *testing.T) {
	t.Parallel()
	c := unitBook(shippedBook(t), "clutch")
	seen := []diagnosis.Seen{{Test: "complaint-clutch", Outcome: "no-release"}}
	before, err := diagnosis.Diagnose(c.Reason(seen, nil))
	require.NoError(t, err)
	after, err := diagnosis.Diagnose(c.Reason(seen, map[string]int{"pilot-bearing": 30}))
	require.NoError(t, err)
	p := func(out diagnosis.Out) float64 {
		return out.Causes[slices.IndexFunc(out.Causes,
			func(x diagnosis.CauseOut) bool { return x.ID == "pilot-bearing" })].P
	}
	assert.Greater(t, p(after), 3*p(before))
	assert.InDelta(t, 30.0/50, after.OwnShare, 1e-9, "30 cases against the book's 20")
}

func BenchmarkDiagnoseTheFullBook(b *testing.B) {
	all := shippedBook(b)
	in := book.Copy{Causes: all.Causes, Tests: all.Tests}.Reason([]diagnosis.Seen{{Test: "complaint-axle",
		Outcome: "whines"}}, nil)
	for b.Loop() {
		if _, err := diagnosis.Diagnose(in); err != nil {
			b.Fatal(err)
		}
	}
}

// What the customer says is a beginning: on no route does any complaint alone
// place an order, and each has a test to go on with.
func TestNoComplaintAloneOrders(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	for _, of := range append(slices.Clone(trialRoutes), [][2]string{
		{"clutch-cable", "tarn-180"}, {"transaxle", "holm-x4"}, {"axle-limited-slip", "brakka-a9s"},
		{"axle-power-divider", "norrel-td"},
		{"transfer-case-motor", "holm-em"}, {"transfer-case-viscous", "oyle-vc"},
		{"transfer-case-wet-pack", "norrel-p3"},
	}...) {
		c, err := b.Copy(of[0], of[1])
		require.NoError(t, err)
		for _, complaint := range c.Tests {
			if complaint.Minutes > 0 {
				continue
			}
			for _, o := range complaint.Outcomes {
				out, err := diagnosis.Diagnose(c.Reason([]diagnosis.Seen{{Test: complaint.ID, Outcome: o.ID}}, nil))
				require.NoError(t, err)
				assert.False(t, out.Enough, "%s %s: %s", of[0], o.ID, out.Says)
				assert.NotEmpty(t, out.Next, "%s %s", of[0], o.ID)
				assert.Contains(t, out.Says, "no tests yet", "%s %s", of[0], o.ID)
			}
		}
	}
}
