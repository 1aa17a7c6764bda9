package workshop

import (
	"math"

	"handwerk/core/decision"
)

// mostHours of work on one unit.
const mostHours = 1e5

// hoursOf is the work of the way that was taken last, or else of the sheet's first.
func (s *State) hoursOf() (hours decision.Range) {
	if len(s.on.sheet.Ways) > 0 {
		hours = s.on.sheet.Ways[0].Hours
	}
	for _, step := range s.plan.Steps {
		if step.kind.hours == nil {
			continue
		}
		if taken, ok := step.kind.hours(s, step); ok {
			hours = taken
		}
	}
	return hours
}

// hoursLeft of work: of those of the way that was taken, or else the first of
// the sheet, as much as there are steps left.
func (s *State) hoursLeft(now Standing) float64 {
	hours := math.Round(usually(s.hoursOf())*s.shareLeft(now)*10) / 10
	if !(hours > 0 && hours < mostHours) { // a record from elsewhere may say anything
		return 0
	}
	return hours
}

func (s *State) shareLeft(now Standing) float64 {
	return float64(now.Steps-now.Done) / float64(now.Steps)
}

func usually(r decision.Range) float64 {
	if r.Likely != nil {
		return *r.Likely
	}
	return (r.Low + r.High) / 2
}

// rangeLeft is how long the work that is left may take.
func (s *State) rangeLeft(now Standing) decision.Range { return s.hoursOf().Times(s.shareLeft(now)) }
