package shop

import (
	"context"
	"math"
	"slices"
)

// Took says how long such jobs took in this shop: whole days, begun ones counted.
type Took struct {
	Jobs       int `json:"jobs"`
	Half       int `json:"half"`         // of them took so many days or fewer
	EightInTen int `json:"eight_in_ten"` // the same of eight in ten
}

// fewJobs say nothing yet of how long such a job takes; more than mostJobs lie too far back.
const fewJobs, mostJobs = 5, 100

// HowLong says how long rebuilds along a route took; nil where too few did.
func (w Fleet) HowLong(ctx context.Context, route string) (*Took, error) {
	if route == "" {
		return nil, nil
	}
	days, err := w.store.HowLong(ctx, route, mostJobs)
	if err != nil || len(days) < fewJobs {
		return nil, err
	}
	slices.Sort(days)
	at := func(share float64) int {
		return max(1, int(math.Ceil(days[int(math.Ceil(share*float64(len(days))))-1])))
	}
	return &Took{len(days), at(0.5), at(0.8)}, nil
}
