package calc

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/fastener"
)

// The figures of a question stand at their places; the rest is the worked example's.
func TestAQuestionFillsItsCalculator(t *testing.T) {
	t.Parallel()
	drill, wrench, bolt := fastener.TapDrillMethod.Calculator, fastener.WrenchAdapterMethod.Calculator,
		fastener.BoltTorqueMethod.Calculator
	assert.JSONEq(t, `{"diameter": "14 mm", "pitch": "1.5 mm"}`, string(FillIn(drill, "which drill for M14")))
	assert.JSONEq(t, `{"diameter": "10 mm", "pitch": "1.25 mm"}`, string(FillIn(drill, "drill for m10x1.25?")))
	assert.JSONEq(t, `{"torque": "80 lb-ft", "adapter": "10 in", "length": "500 mm"}`,
		string(FillIn(wrench, "80 lb-ft on a 10 inch crow's foot")))
	assert.JSONEq(t, `{"diameter": "12 mm", "class": "10.9", "lubrication": "oiled", "grip": "35 mm"}`,
		string(FillIn(bolt, "torque of M12, 10.9, grip 35 mm")))
	assert.JSONEq(t, wrench.Example, string(FillIn(wrench, "crow's foot")))
}

// Whatever is asked, what comes is an input of the same fields that the calculator reads.
func FuzzQuestion(f *testing.F) {
	f.Add("80 lb-ft on a 10 inch crow's foot")
	f.Add("M14x1.5 12.9 1,5 mm \"")
	f.Fuzz(func(t *testing.T, question string) {
		for _, c := range All().List() {
			raw := FillIn(c, question)
			require.NoError(t, c.Reads(raw), "%s: %s", c.Name, raw)
			_, order := topFields(string(raw))
			_, want := topFields(c.Example)
			require.Equal(t, want, order, "nothing is added, nothing left out")
		}
	})
}
