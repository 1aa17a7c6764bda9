package record

import (
	"math"

	"handwerk/core/decision"
)

// MostHours of work on one unit.
const MostHours = 1e5

// hoursOf is the work of the way that was taken last, or else of the sheet's first.
func hoursOf(s *State) (hours decision.Range) {
	if len(s.On.Sheet.Ways) > 0 {
		hours = s.On.Sheet.Ways[0].Hours
	}
	for _, step := range s.Plan.Steps {
		if step.Rules.Hours == nil {
			continue
		}
		if taken, ok := step.Rules.Hours(s, step); ok {
			hours = taken
		}
	}
	return hours
}

// hoursLeft of work: of those of the way that was taken, or else the first of
// the sheet, as much as there are steps left.
func hoursLeft(s *State, now Standing) float64 {
	hours := math.Round(hoursOf(s).Usual()*ShareLeft(s, now)*10) / 10
	if !(hours > 0 && hours < MostHours) { // a record from elsewhere may say anything
		return 0
	}
	return hours
}

// ShareLeft is how much of the route is not done, by its steps.
func ShareLeft(s *State, now Standing) float64 {
	return float64(now.Steps-now.Done) / float64(now.Steps)
}

// RangeLeft is how long the work that is left may take.
func RangeLeft(s *State, now Standing) decision.Range { return hoursOf(s).Times(ShareLeft(s, now)) }
