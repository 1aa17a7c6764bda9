package metrology

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"handwerk/core/quantity"
)

// Pooled variance of sets, worked by hand: the squared deviations of all sets over the
// sum of their degrees of freedom (GUM 4.2.4, from memory); the figures are worked out here.
func TestReadingsArePooled(t *testing.T) {
	t.Parallel()
	mm := quantity.Named("mm")
	var p Pool
	p.Add([]float64{0.001, 0.002, 0.003}) // 2e-6, ν 2
	p.Add([]float64{0.010, 0.014})        // 8e-6, ν 1
	p.Add([]float64{0.005})               // tells nothing
	assert.Equal(t, 3, p.DOF)
	assert.InDelta(t, 10e-6, p.Squares, 1e-12)
	assert.False(t, p.Deviation(mm).IsSaid(), "too few to be believed")
	for range 7 {
		p.Add([]float64{0.001, 0.001})
	}
	assert.Equal(t, "1 mm", p.Deviation(mm).String(), "√(10e-6/10) m")
}

// Sets that are shifted against each other say the same of the gauge.
func TestAPoolKnowsTheGaugeNotTheThing(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(1, 2))
	var p Pool
	for thing := range 400 {
		set := make([]float64, 3)
		for i := range set {
			set[i] = float64(thing)*1e-4 + 5e-6*rng.NormFloat64()
		}
		p.Add(set)
	}
	assert.InDelta(t, 0.005, p.Deviation(quantity.Named("mm")).Value, 0.0004)
	var alike Pool
	for range 20 {
		alike.Add([]float64{1, 1})
	}
	assert.False(
		t,
		alike.Deviation(quantity.Named("mm")).IsSaid(),
		"readings all alike say nothing of how fine it reads",
	)
}
