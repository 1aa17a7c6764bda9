package workshop

import (
	"time"

	"handwerk/book"
	"handwerk/core/input"
)

// cautionKind: hazards, each acknowledged by name before the hand moves on.
var cautionKind = kind{
	name: book.Care,
	Nature: book.Nature{
		Hazards: true,
		Check: func(c *book.Checker, at string, s book.Step) {
			if len(s.Cautions) == 0 {
				c.Add(input.Join(at, "cautions"), "a caution of the book", "a caution step names no caution")
			}
		},
	},
	needs: func(s *State, step *Step) Need {
		if open := s.unacknowledged(step, false); len(open) > 0 {
			return Need{What: Acknowledged, Names: open}
		}
		return Need{}
	},
	open:  func(*State, *Step, time.Time) []OpenAct { return nil },
	view:  func(_ viewer, f StepFrame) (StepView, error) { return &CautionStep{StepFrame: f, Kind: book.Care}, nil },
	empty: func() StepView { return &CautionStep{} },
}

// CautionStep is a step of hazards alone; its frame carries them.
type CautionStep struct {
	StepFrame
	Kind book.Kind `json:"kind" const:"caution"`
}
