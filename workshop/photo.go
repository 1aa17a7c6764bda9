package workshop

import (
	"time"

	"handwerk/book"
)

// photoKind: a picture, or why there is none.
var photoKind = kind{
	name:   book.Photo,
	Nature: book.Nature{Check: func(*book.Checker, string, book.Step) {}},
	takes:  []Act{ActPhoto},
	needs: func(s *State, step *Step) Need {
		if _, ok := s.of(step).has(ActPhoto, Place{}); ok {
			return Need{}
		}
		return Need{What: Pictured}
	},
	open: func(*State, *Step, time.Time) []OpenAct { return []OpenAct{{Act: ActPhoto}} },
	accept: func(p *proposal) error {
		p.draft.Item = Place{}
		if p.draft.Photo == "" {
			return p.reason("a picture, or why there is none")
		}
		return nil
	},
	view:  func(_ viewer, f StepFrame) (StepView, error) { return &PhotoStep{StepFrame: f, Kind: book.Photo}, nil },
	usual: func(StepView) Draft { return Draft{Act: ActPhoto, Body: Body{Reason: "no camera at hand"}} },
	says: func(_ *State, _ *Step, e *Entry) string {
		if b := e.Said(); b.Photo == "" {
			return withReason("no picture", b)
		}
		return "picture"
	},
	empty: func() StepView { return &PhotoStep{} },
}

// PhotoStep is a picture to be taken.
type PhotoStep struct {
	StepFrame
	Kind book.Kind `json:"kind" const:"photo"`
}
