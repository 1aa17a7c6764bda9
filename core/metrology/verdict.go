package metrology

import (
	"math"

	"handwerk/core/input"

	"gonum.org/v1/gonum/stat/distuv"
)

// Verdict of a number against limits, judged with its uncertainty.
type Verdict string

// None means that no limit was given.
const (
	In        Verdict = "in"
	Out       Verdict = "out"
	Undecided Verdict = "undecided"
	None      Verdict = "none"
)

// Limits of a judgement in SI units; a side that does not apply is infinite.
type Limits struct{ Lower, Upper float64 }

// Open has no limit on either side.
func Open() Limits { return Limits{math.Inf(-1), math.Inf(1)} }

// IsOpen tells that nothing is asked of the number.
func (l Limits) IsOpen() bool { return math.IsInf(l.Lower, -1) && math.IsInf(l.Upper, 1) }

// Judge follows the decision idea of ISO 14253-1:2017: in when
// value ± uncertainty lies inside the limits, out when it lies wholly outside
// one of them, undecided in between. An uncertainty that is not known (NaN)
// leaves every limited number undecided.
func Judge(value, uncertainty float64, l Limits) Verdict {
	if l.IsOpen() {
		return None
	}
	low, high := value-uncertainty, value+uncertainty
	slack := input.Rounding * math.Max(math.Abs(value), math.Max(finite(l.Lower), finite(l.Upper)))
	switch {
	case math.IsNaN(uncertainty):
		return Undecided
	case low >= l.Lower-slack && high <= l.Upper+slack:
		return In
	case high < l.Lower-slack || low > l.Upper+slack:
		return Out
	}
	return Undecided
}

// Chance that a value with standard uncertainty u lies within the limits:
// Φ((upper-x)/u) - Φ((lower-x)/u), what seeded sampling tends to.
func Chance(x, u float64, l Limits) float64 {
	if u <= 0 {
		if x >= l.Lower && x <= l.Upper {
			return 1
		}
		return 0
	}
	return distuv.UnitNormal.CDF((l.Upper-x)/u) - distuv.UnitNormal.CDF((l.Lower-x)/u)
}

// Margin is the distance from value to the nearest limit.
func Margin(value float64, l Limits) float64 {
	return math.Min(math.Abs(value-l.Lower), math.Abs(value-l.Upper))
}

// Beyond is how far a value lies outside its limits: above zero over the upper
// one, below zero under the lower one, zero within.
func Beyond(value float64, l Limits) float64 {
	return math.Max(value-l.Upper, 0) + math.Min(value-l.Lower, 0)
}

func finite(v float64) float64 {
	if math.IsInf(v, 0) {
		return 0
	}
	return math.Abs(v)
}
