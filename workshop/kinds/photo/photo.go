// Package photo is the step of a picture, or a reason for none.
package photo

import (
	"time"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// Kind: a picture, or a reason for none.
var Kind = record.Kind{
	Name:   book.Photo,
	Nature: book.Nature{Check: func(*book.Checker, string, book.Step) {}},
	Takes:  []*record.Act{{Act: acts.Photo{}, Accept: acceptPhoto, Says: photoWords, Remark: true}},
	Needs: func(s *record.State, step *record.Step) record.Need {
		if _, ok := s.At(step).Has(acts.Photo{}, record.Place{}); ok {
			return record.Need{}
		}
		return record.Need{What: record.Pictured}
	},
	Open: func(*record.State, *record.Step, time.Time) []record.OpenAct {
		return []record.OpenAct{record.MayDo(acts.Photo{})}
	},
	View: func(_ record.Viewer, f record.StepFrame) (record.StepView, error) {
		return &PhotoStep{StepFrame: f, Kind: book.Photo}, nil
	},
	Usual: func(record.StepView) record.Draft {
		return record.Draft{Says: &acts.Photo{Reason: "no camera at hand"}}
	},
	Empty: func() record.StepView { return &PhotoStep{} },
}

// PhotoStep is a picture to be taken.
type PhotoStep struct {
	record.StepFrame
	Kind book.Kind `json:"kind" const:"photo"`
}

func acceptPhoto(p *record.Attempt) error {
	p.Draft.Item = record.Place{}
	if record.Saying[acts.Photo](p).Photo == "" {
		return p.WantReason("a picture, or a reason for none")
	}
	return nil
}

func photoWords(_ *record.State, _ *record.Step, e *record.Entry) string {
	if said := record.As[acts.Photo](e); said.Photo == "" {
		return record.WithReason("no picture", said)
	}
	return "picture"
}
