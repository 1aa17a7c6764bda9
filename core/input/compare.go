package input

import "math"

// Rounding absorbs, as a share of a figure, what conversions between units leave
// in its last places.
const Rounding = 1e-9

// Over tells that a lies above b by more than the rounding of units: what equals
// a limit is in, whatever unit either was said in.
func Over[T ~float64](a, b T) bool {
	return float64(a-b) > Rounding*math.Max(math.Abs(float64(a)), math.Abs(float64(b)))
}

// Under is Over the other way round.
func Under[T ~float64](a, b T) bool { return Over(b, a) }
