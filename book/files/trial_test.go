package files

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/diagnosis"
)

// trialRoutes with the sheet each is tried on.
var trialRoutes = [][2]string{
	{"clutch-hydraulic", "skerry-c228"}, {"gearbox-longitudinal", "brakka-g5"}, {"axle-ring-pinion", "brakka-a9"},
	{"transfer-case-dog", "brakka-t2"}, {"pedal-hydraulics", "skerry-h19"}, {"shift-linkage", "holm-l5"},
}

// asTheBookSays leaves a chance as it is.
func asTheBookSays(p float64) float64 { return p }

// Hidden causes, drawn as often as the book expects them; tests done in the
// order proposed, with outcomes drawn as the book says, until enough is known.
// The order placed must be the right one in most cases, after a few tests.
func TestHiddenCausesAreFound(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	r := rand.New(rand.NewPCG(26, 11))
	for _, of := range trialRoutes {
		route := of[0]
		c, err := b.Copy(route, of[1])
		require.NoError(t, err)
		const trials = 200
		right, tests, minutes := 0, 0, 0.0
		for range trials {
			truth := c.Causes[drawWeighted(r, len(c.Causes), func(i int) float64 { return c.Causes[i].Weight })]
			out, n, took := diagnoseTo(t, r, c, truth, asTheBookSays)
			tests, minutes = tests+n, minutes+took
			if diagnosis.SameOrder(out.Action, truth.Action) {
				right++
			}
		}
		t.Logf("%-22s right %d %%, %.1f tests, %.0f min", route, 100*right/trials, float64(tests)/trials,
			minutes/trials)
		assert.GreaterOrEqual(t, 100*right/trials, 85, "%s: the right order", route)
		assert.LessOrEqual(t, float64(tests)/trials, 7.0, "%s: tests until enough is known", route)
	}
}

// diagnoseTo does tests until enough is known, on a unit with a hidden cause.
func diagnoseTo(
	t *testing.T, r *rand.Rand, c book.Copy, truth book.Cause, nature func(float64) float64,
) (out diagnosis.Out, tests int, minutes float64) {
	in := c.Reason(nil, nil)
	for _, x := range in.Tests {
		if x.Minutes == 0 {
			in.Seen = append(in.Seen, diagnosis.Seen{Test: x.ID, Outcome: drawOutcome(r, x, truth.ID, nature)})
		}
	}
	for {
		var err error
		out, err = diagnosis.Diagnose(in)
		require.NoError(t, err)
		if out.Clash != nil || out.Enough || len(out.Next) == 0 {
			return out, tests, minutes
		}
		next := out.Next[0]
		for _, x := range in.Tests {
			if x.ID == next.ID {
				in.Seen = append(in.Seen, diagnosis.Seen{Test: x.ID, Outcome: drawOutcome(r, x, truth.ID, nature)})
			}
		}
		tests, minutes = tests+1, minutes+next.Minutes
	}
}

func drawOutcome(r *rand.Rand, x diagnosis.Test, cause string, nature func(float64) float64) string {
	p, ok := x.Given[cause]
	if !ok {
		p = x.Otherwise
	}
	chances := make([]float64, len(x.Outcomes))
	for i, o := range x.Outcomes {
		chances[i] = nature(p[o])
	}
	return x.Outcomes[drawWeighted(r, len(chances), func(i int) float64 { return chances[i] })]
}

// drawWeighted picks one of n, as often as its weight says.
func drawWeighted(r *rand.Rand, n int, weight func(int) float64) int {
	sum := 0.0
	for i := range n {
		sum += weight(i)
	}
	x := r.Float64() * sum
	for i := range n {
		if x -= weight(i); x < 0 {
			return i
		}
	}
	return n - 1
}

// The book is judgement: nature's chances are other ones. Each is disturbed by
// up to a third of itself, and the order must still be right in seven of eight.
func TestTheBookMayBeAThirdOff(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	r := rand.New(rand.NewPCG(3, 33))
	right, trials := 0, 0
	for _, of := range trialRoutes {
		c, err := b.Copy(of[0], of[1])
		require.NoError(t, err)
		for range 60 {
			truth := c.Causes[drawWeighted(r, len(c.Causes), func(i int) float64 { return c.Causes[i].Weight })]
			out, _, _ := diagnoseTo(t, r, c, truth, disturbed(r))
			trials++
			if diagnosis.SameOrder(out.Action, truth.Action) {
				right++
			}
		}
	}
	t.Logf("right %d of %d", right, trials)
	assert.GreaterOrEqual(t, 100*right/trials, 88)
}

// disturbed chances: each times two thirds to four thirds, made to sum to one
// by being drawn from.
func disturbed(r *rand.Rand) func(float64) float64 {
	return func(p float64) float64 { return p * (2 + 2*r.Float64()) / 3 }
}
