// Package caution is the step of hazards alone.
package caution

import (
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop/record"
)

// Kind: hazards, each acknowledged by name before the hand moves on.
var Kind = record.Kind{
	Name: book.Care,
	Nature: book.Nature{
		Hazards: true,
		Check: func(c *book.Checker, at string, s book.Step) {
			if len(s.Cautions) == 0 {
				c.Add(input.Join(at, "cautions"), "a caution of the book", "a caution step names no caution")
			}
		},
	},
	Needs: func(s *record.State, step *record.Step) record.Need {
		if open := record.ListUnread(s, step, false); len(open) > 0 {
			return record.Need{What: record.Acknowledged, Names: open}
		}
		return record.Need{}
	},
	Open: func(*record.State, *record.Step, time.Time) []record.OpenAct { return nil },
	View: func(_ record.Viewer, f record.StepFrame) (record.StepView, error) {
		return &CautionStep{StepFrame: f, Kind: book.Care}, nil
	},
	Empty: func() record.StepView { return &CautionStep{} },
}

// CautionStep is a step of hazards alone; its frame carries them.
type CautionStep struct {
	record.StepFrame
	Kind book.Kind `json:"kind" const:"caution"`
}
