// Package metrology turns readings into a mean, an uncertainty and a verdict.
package metrology

import (
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"handwerk/core/quantity"
)

// Errors of an instrument, as standard quantities of the readings' dimension.
// Zero means not stated.
type Errors[T quantity.Kind] struct {
	Resolution    T // d: smallest step of the scale
	MPE           T // largest permitted error
	Repeatability T // standard deviation of repeated readings, from its records
}

// Estimate is what a set of readings says.
type Estimate[T quantity.Kind] struct {
	N              int
	Mean, Range, S T
	UA, URes, UMPE T       // standard uncertainties: spread, resolution, instrument
	U              T       // their root sum of squares
	DOF            float64 // effective degrees of freedom, +Inf when u rests on stated bounds
	Coverage       float64 // t
	Expanded       T       // t·u; NaN when nothing is known about the spread
	RestsOnOne     bool    // a single reading without recorded repeatability
}

// Evaluate computes mean, spread and expanded uncertainty of readings:
//
//	u_A = s/√n, u_res = d/(2√3), u_mpe = MPE/√3, u = √Σu², U = t(ν, p)·u
//
// with ν by Welch-Satterthwaite; only u_A has finite degrees of freedom (n-1).
// With one reading u_A is the recorded repeatability. readings must not be
// empty and confidence must lie in (0, 1).
//
// Source: JCGM 100:2008 (GUM) 4.2, 4.3.7, G.4.
func Evaluate[T quantity.Kind](readings []T, e Errors[T], confidence float64) Estimate[T] {
	values := make([]float64, len(readings))
	low, high := math.Inf(1), math.Inf(-1)
	for i, r := range readings {
		values[i] = float64(r)
		low, high = math.Min(low, values[i]), math.Max(high, values[i])
	}
	n := float64(len(values))
	est := Estimate[T]{N: len(values), Range: T(high - low), DOF: math.Inf(1)}
	uA := float64(e.Repeatability)
	if len(values) == 1 {
		est.Mean = readings[0]
		est.RestsOnOne = e.Repeatability == 0
	} else {
		mean, s := stat.MeanStdDev(values, nil)
		est.Mean, est.S = T(mean), T(s)
		uA = s / math.Sqrt(n)
	}
	est.UA = T(uA)
	est.URes = e.Resolution / T(2*math.Sqrt(3))
	est.UMPE = e.MPE / T(math.Sqrt(3))
	u := math.Sqrt(uA*uA + float64(est.URes*est.URes) + float64(est.UMPE*est.UMPE))
	est.U = T(u)
	if len(values) > 1 && uA > 0 {
		est.DOF = (n - 1) * math.Pow(u/uA, 4)
	}
	est.Coverage = coverage(est.DOF, confidence)
	est.Expanded = T(est.Coverage * u)
	if est.RestsOnOne && u == 0 {
		est.Expanded = T(math.NaN())
	}
	return est
}

// coverage is the two-sided factor t_p(ν); for large ν the normal quantile,
// which it equals there to six digits.
func coverage(dof, confidence float64) float64 {
	p := (1 + confidence) / 2
	if dof > 1e7 {
		return distuv.UnitNormal.Quantile(p)
	}
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: dof}.Quantile(p)
}

// maxMore bounds the advice "take n more readings"; nobody takes a hundred.
const maxMore = 30

// MoreReadings tells how many further readings with the same spread would
// decide the verdict; ok is false when no reasonable number would.
func (est Estimate[T]) MoreReadings(l Limits, confidence float64) (more int, ok bool) {
	margin := Margin(float64(est.Mean), l)
	b2 := float64(est.URes*est.URes + est.UMPE*est.UMPE)
	if est.N == 1 {
		// The second reading is what tells the spread at all; where the gauge alone
		// reaches over the limit, none does.
		return 1, margin > coverage(math.Inf(1), confidence)*math.Sqrt(b2)
	}
	if math.IsNaN(float64(est.Expanded)) {
		return 0, false // more of the same say no more
	}
	for more = 1; more <= maxMore; more++ {
		n := float64(est.N + more)
		a2 := float64(est.S*est.S) / n
		u := math.Sqrt(a2 + b2)
		dof := math.Inf(1)
		if a2 > 0 {
			dof = (n - 1) * math.Pow(u*u/a2, 2)
		}
		if coverage(dof, confidence)*u <= margin {
			return more, true
		}
	}
	return 0, false
}

// ResolutionNeeded tells the coarsest scale step with which the same readings
// would decide; zero when even a perfect scale would not.
func (est Estimate[T]) ResolutionNeeded(l Limits) T {
	margin := Margin(float64(est.Mean), l)
	free := math.Pow(margin/est.Coverage, 2) - float64(est.UA*est.UA+est.UMPE*est.UMPE)
	if free <= 0 {
		return 0
	}
	return T(2 * math.Sqrt(3) * math.Sqrt(free))
}
