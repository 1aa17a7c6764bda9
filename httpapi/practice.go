package httpapi

import (
	"net/http"

	"handwerk/core/practice"
	"handwerk/workshop/shop"
)

// PracticeSet sets people to practise on something.
type PracticeSet struct {
	Kind  string `json:"kind" enum:"axle,housing,fault"`
	Level string `json:"level" enum:"clean,noisy,trap"` // how hard it is
	Seed  int64  `json:"seed"`
	For   string `json:"for,omitempty"` // a login; empty: everyone
	Note  string `json:"note,omitempty"`
}

func (a shopDesk) practiceEndpoints() []endpoint {
	w := a.Workshop
	return []endpoint{
		get(a.api, "/practice", "practice", "what there is to practise on, and how it went", signedIn,
			func(c call, _ nothing) (shop.PracticePage, error) { return w.Practice.Page(c.Context(), c.person()) }),
		post(a.api, "/practice/tasks", "setPractice", "set people to practise on something", leads, http.StatusOK,
			func(c call, in PracticeSet) (shop.PracticePage, error) {
				t := shop.PracticeTask{Kind: in.Kind, Level: in.Level, Seed: in.Seed, For: in.For, Note: in.Note}
				if err := w.Practice.Set(c.Context(), t, c.person()); err != nil {
					return shop.PracticePage{}, err
				}
				return w.Practice.Page(c.Context(), c.person())
			}),
		post(a.api, "/practice/runs", "keepPractice", "keep how a practice went; nothing of it is on record", hands,
			http.StatusOK, func(c call, in practice.In) (shop.PracticePage, error) {
				if err := w.Practice.Keep(c.Context(), in, c.person()); err != nil {
					return shop.PracticePage{}, err
				}
				return w.Practice.Page(c.Context(), c.person())
			}),
	}
}
