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
	// Wants lists the figures that the step asks the sheet for, by their paths.
	Wants func(s Step) []string
	// Shows lists what else of the sheet it shows beside a question.
	Shows func(s Step) []string
	// Misfits finds what is wrong with figures that the step wants, when all are there.
	Misfits func(s Step, on Ground) input.Fields
	// Whole tells that a step has what its kind is made of; most are made of
	// nothing that measuring or filling has.
	Whole func(s Step) bool
	// TakesApart: parts come off at it.
	TakesApart func(s Step) bool
	// WaitsForAll: also what a choice is weighed by is said before it begins.
	WaitsForAll bool
	// Hazards: to read its cautions is its work, so that no shop leaves it out.
	Hazards bool
}

// IsWhole tells that a step has what its kind is made of, and nothing else's.
func (n Nature) IsWhole(s Step) bool {
	if n.Whole == nil {
		return s.Measure == nil && s.Fill == nil
	}
	return n.Whole(s)
}

// Waits are the answers without which a step cannot begin. What a choice is
// weighed by may be said: it goes on without.
func (n Nature) Waits(s Step, wants []string) (answers []string) {
	known := s.goesOnWithout()
	for _, path := range wants {
		if known[path] {
			continue
		}
		if len(s.Weighs) == 0 || n.WaitsForAll || path == s.Offers {
			answers = append(answers, Answer(path))
		}
	}
	return answers
}

// goesOnWithout are the figures for which the route says what to take instead.
func (s Step) goesOnWithout() map[string]bool {
	known := map[string]bool{}
	if s.Measure == nil {
		return known
	}
	for _, x := range Bind(s.Measure.Bind).All() {
		if x.Room == FromSheet && x.Known {
			known[x.Key()] = true
		}
	}
	return known
}

// Kinds are the natures of all kinds of step.
type Kinds map[Kind]Nature

// Misses finds what a step asks of the sheet and does not get, or cannot use.
func (n Nature) Misses(s Step, on Ground) (faults input.Fields) {
	if n.Wants == nil {
		return nil
	}
	asked := n.Wants(s)
	if n.Shows != nil {
		asked = append(asked, n.Shows(s)...)
	}
	for _, path := range asked {
		if _, ok := on.Figures[path]; !ok {
			faults.Add(path, "", "the spec sheet %q lacks it", on.Sheet.ID)
		}
	}
	if len(faults) > 0 || n.Misfits == nil {
		return faults
	}
	return n.Misfits(s, on)
}

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
