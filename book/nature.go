package book

import (
	"maps"
	"slices"
	"strings"

	"handwerk/core/input"
)

// Nature is what the book has to know of a kind of step. The record knows
// more; workshop holds one value for each kind and gives this part of it.
type Nature struct {
	// Check finds what is wrong with the fields that belong to the kind.
	Check func(c *Checker, at string, s Step)
	// Sample is a value of the shape that a later step can take from this one
	// under a name; false when it gives nothing of that name.
	Sample func(s Step, what []string) (any, bool)
	// Misses finds what the step asks of the sheet and the sheet does not say.
	Misses func(s Step, on Ground) input.Fields
}

// Kinds are the natures of all kinds of step.
type Kinds map[Kind]Nature

func (k Kinds) names() string {
	var names []string
	for _, kind := range slices.Sorted(maps.Keys(k)) {
		names = append(names, string(kind))
	}
	return strings.Join(names, ", ")
}

// Sample is a value of the shape that an earlier step gives; false when it
// gives none.
func (k Kinds) Sample(earlier func(id string) (Step, bool), s Source) (any, bool) {
	step, ok := earlier(s.Path[0])
	if !ok || k[step.Kind].Sample == nil {
		return nil, false
	}
	return k[step.Kind].Sample(step, s.Path[1:])
}
