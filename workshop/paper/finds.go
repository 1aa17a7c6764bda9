package paper

import (
	"slices"
	"strings"

	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Find is something found along the way on a vehicle, with the rebuild in which it
// was said. The last word on it counts, whichever rebuild that was said in.
type Find struct {
	record.FoundLine
	Rebuild string `json:"rebuild"`
	Number  string `json:"number"`
	Vehicle string `json:"vehicle"` // id
	// Open: the customer was told, and nothing came of it yet.
	Open bool `json:"open"`
}

// Advised is the settlement that leaves a find open.
const Advised = "advised"

// Rank puts what is open before what is settled.
func (f Find) Rank() int {
	if f.Open {
		return 1
	}
	return 0
}

// KeepLatest puts a find in the place of what was said of the same thing before.
func KeepLatest(all []Find, f Find) []Find {
	same := func(x Find) bool {
		return x.Vehicle == f.Vehicle && strings.EqualFold(say.PlainWords(x.Says), say.PlainWords(f.Says))
	}
	if i := slices.IndexFunc(all, same); i >= 0 {
		if !f.At.Before(all[i].At) {
			all[i] = f
		}
		return all
	}
	return append(all, f)
}
