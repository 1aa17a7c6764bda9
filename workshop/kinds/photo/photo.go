// Package photo is the step of a picture, or why there is none.
package photo

import (
	"time"

	"handwerk/book"
	"handwerk/workshop/record"
)

// photoKind: a picture, or why there is none.
var Kind = record.Kind{
	Name:   book.Photo,
	Nature: book.Nature{Check: func(*book.Checker, string, book.Step) {}},
	Takes:  []record.Act{record.ActPhoto},
	Needs: func(s *record.State, step *record.Step) record.Need {
		if _, ok := s.At(step).Has(record.ActPhoto, record.Place{}); ok {
			return record.Need{}
		}
		return record.Need{What: record.Pictured}
	},
	Open: func(*record.State, *record.Step, time.Time) []record.OpenAct {
		return []record.OpenAct{{Act: record.ActPhoto}}
	},
	Accept: func(p *record.Attempt) error {
		p.Draft.Item = record.Place{}
		if p.Draft.Photo == "" {
			return p.WantReason("a picture, or why there is none")
		}
		return nil
	},
	View: func(_ record.Viewer, f record.StepFrame) (record.StepView, error) {
		return &PhotoStep{StepFrame: f, Kind: book.Photo}, nil
	},
	Usual: func(record.StepView) record.Draft {
		return record.Draft{Act: record.ActPhoto, Body: record.Body{Reason: "no camera at hand"}}
	},
	Says: func(_ *record.State, _ *record.Step, e *record.Entry) string {
		if b := e.Said(); b.Photo == "" {
			return record.WithReason("no picture", b)
		}
		return "picture"
	},
	Empty: func() record.StepView { return &PhotoStep{} },
}

// PhotoStep is a picture to be taken.
type PhotoStep struct {
	record.StepFrame
	Kind book.Kind `json:"kind" const:"photo"`
}
