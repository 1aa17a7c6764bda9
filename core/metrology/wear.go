package metrology

import (
	"math"

	"handwerk/core/input"
)

// LifeLeft is the share of a part's wear that is left: 1 as new, 0 at its limit,
// below it when it is worn beyond. A figure may shrink as it wears, as a
// lining does, or grow, as a gap or a play does. All three in one unit.
func LifeLeft(value, fresh, limit float64) (float64, error) {
	if fresh == limit || math.IsNaN(value+fresh+limit) || math.IsInf(value+fresh+limit, 0) {
		return 0, input.At("limit", "another figure than as new", "as new it is at its limit")
	}
	return (value - limit) / (fresh - limit), nil
}
