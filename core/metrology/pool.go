package metrology

import (
	"math"

	"gonum.org/v1/gonum/stat"

	"handwerk/core/quantity"
)

// Pool is what sets of repeat readings say together of how well a gauge repeats.
// The zero value is empty.
type Pool struct {
	DOF     int     // readings beyond the first of each set
	Squares float64 // sum of squared deviations from the mean of each set, in SI units
}

// FewestPooled is from how many degrees of freedom on a pool is believed: its
// standard deviation is then known to about a quarter, 1/√(2ν).
// Source: JCGM 100:2008 (GUM) E.4.3, from memory.
const FewestPooled = 10

// Add takes the readings of one thing, read again and again, in SI units.
func (p *Pool) Add(readings []float64) {
	if len(readings) < 2 {
		return
	}
	n := len(readings) - 1
	p.DOF += n
	p.Squares += stat.Variance(readings, nil) * float64(n)
}

// Deviation is the pooled standard deviation in a unit, to two digits; not said
// before there are enough readings, or where all are alike. s² = Σνᵢsᵢ² / Σνᵢ.
// Source: JCGM 100:2008 (GUM) 4.2.4 (pooled estimate of variance), from memory.
func (p Pool) Deviation(unit *quantity.Unit) quantity.Any {
	if p.DOF < FewestPooled || !(p.Squares > 0) {
		return quantity.Any{}
	}
	s := math.Sqrt(p.Squares/float64(p.DOF)) / unit.Factor
	step := math.Pow(10, math.Floor(math.Log10(s))-1)
	return quantity.SayDifference(quantity.Magnitude(math.Round(s/step)*step*unit.Factor), unit).Any
}
