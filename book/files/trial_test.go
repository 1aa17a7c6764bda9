package files

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/diagnosis"
)

// Hidden causes, drawn as often as the book expects them; tests done in the
// order proposed, with outcomes drawn as the book says, until enough is known.
// The order placed must be the right one in most cases, after a few tests.
func TestHiddenCausesAreFound(t *testing.T) {
	b := shippedBook(t)
	r := rand.New(rand.NewPCG(26, 11))
	for _, of := range [][2]string{
		{"clutch-hydraulic", "skerry-c228"}, {"gearbox-longitudinal", "brakka-g5"}, {"axle-ring-pinion", "brakka-a9"}, {"transfer-case-dog", "brakka-t2"},
		{"pedal-hydraulics", "skerry-h19"}, {"shift-linkage", "holm-l5"},
	} {
		route := of[0]
		c, err := b.Copy(route, of[1])
		require.NoError(t, err)
		const trials = 100
		right, tests, minutes := 0, 0, 0.0
		for range trials {
			truth := c.Causes[drawWeighted(r, len(c.Causes), func(i int) float64 { return c.Causes[i].Weight })]
			out, n, took := diagnoseTo(t, r, c, truth)
			tests, minutes = tests+n, minutes+took
			if out.Action == truth.Action {
				right++
			}
		}
		t.Logf("%-22s right %d %%, %.1f tests, %.0f min", route, 100*right/trials, float64(tests)/trials, minutes/trials)
		assert.GreaterOrEqual(t, 100*right/trials, 75, "%s: the right order", route)
		assert.LessOrEqual(t, float64(tests)/trials, 7.0, "%s: tests until enough is known", route)
	}
}

// diagnoseTo does tests until enough is known, on a unit with a hidden cause.
func diagnoseTo(t *testing.T, r *rand.Rand, c book.Copy, truth book.Cause) (out diagnosis.Out, tests int, minutes float64) {
	in := c.Reason(nil, nil)
	for _, x := range in.Tests {
		if x.Minutes == 0 {
			in.Seen = append(in.Seen, diagnosis.Seen{Test: x.ID, Outcome: drawOutcome(r, x, truth.ID)})
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
				in.Seen = append(in.Seen, diagnosis.Seen{Test: x.ID, Outcome: drawOutcome(r, x, truth.ID)})
			}
		}
		tests, minutes = tests+1, minutes+next.Minutes
	}
}

func drawOutcome(r *rand.Rand, x diagnosis.Test, cause string) string {
	p, ok := x.Given[cause]
	if !ok {
		p = x.Otherwise
	}
	return x.Outcomes[drawWeighted(r, len(x.Outcomes), func(i int) float64 { return p[x.Outcomes[i]] })]
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
