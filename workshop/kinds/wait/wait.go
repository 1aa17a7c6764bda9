// Package wait is the step of a clock, by the school the shop follows.
package wait

import (
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Kind: a clock that runs by the school the shop follows.
var Kind = record.Kind{
	Name:   book.Wait,
	Nature: book.Nature{Check: checkSchools},
	Takes: []*record.Act{
		{Act: acts.Start{}, Accept: acceptStart, Says: startWords},
		{Act: acts.End{}, Accept: acceptEnd, Says: record.ReasonWords("time up")},
	},
	Needs: needsWait,
	Open: func(s *record.State, step *record.Step, now time.Time) []record.OpenAct {
		start, ok := s.At(step).Has(acts.Start{}, record.Place{})
		if !ok {
			return []record.OpenAct{record.MayDo(acts.Start{})}
		}
		if dueAt(step, start).After(now) {
			return []record.OpenAct{record.MayDoWhy(acts.End{})}
		}
		return []record.OpenAct{record.MayDo(acts.End{})}
	},
	View: func(v record.Viewer, f record.StepFrame) (record.StepView, error) {
		view := &WaitStep{StepFrame: f, Kind: book.Wait, Schools: v.Step.Schools, Wait: WaitView{Now: v.Now.UTC()}}
		if start, ok := v.State.At(v.Step).Has(acts.Start{}, record.Place{}); ok {
			due := dueAt(v.Step, start)
			view.Wait.School, view.Wait.Started, view.Wait.Due = acts.OutcomeOf(start.ReadAct()), &start.At, &due
		}
		return view, nil
	},
	Usual: func(v record.StepView) record.Draft {
		x := v.(*WaitStep)
		if x.Wait.Started == nil {
			i := slices.IndexFunc(x.Schools, func(s book.School) bool { return s.Default })
			return record.Draft{Says: &acts.Start{Outcome: x.Schools[i].ID}}
		}
		end := &acts.End{}
		if x.Wait.Now.Before(*x.Wait.Due) {
			end.Reason = "bead has skinned (finger test)"
		}
		return record.Draft{Says: end}
	},
	Empty: func() record.StepView { return &WaitStep{} },
}

// WaitStep is a clock as the bench shows it.
type WaitStep struct {
	record.StepFrame
	Kind    book.Kind     `json:"kind" const:"wait"`
	Schools []book.School `json:"schools"`
	Wait    WaitView      `json:"wait"`
}

// WaitView is the clock.
type WaitView struct {
	School  string     `json:"school,omitempty"`
	Started *time.Time `json:"started,omitempty"`
	Due     *time.Time `json:"due,omitempty"`
	Now     time.Time  `json:"now"`
}

func checkSchools(c *book.Checker, at string, s book.Step) {
	at = input.Join(at, "schools")
	if len(s.Schools) == 0 {
		c.Add(at, "at least one approach", "nothing to wait for")
	}
	book.Unique(c, at, s.Schools, func(x book.School) string { return x.ID })
	defaults := 0
	for i, school := range s.Schools {
		if school.Wait.SI() < 0 || school.Wait.SI() > 7*24*3600 {
			c.Add(input.Index(at, i)+".wait", "0 min to 168 h", "%s is not a possible waiting time", school.Wait)
		}
		if school.Default {
			defaults++
		}
	}
	if len(s.Schools) > 0 && defaults != 1 {
		c.Add(at, "one approach marked default", "%d are marked", defaults)
	}
}

func needsWait(s *record.State, step *record.Step) record.Need {
	start, ok := s.At(step).Has(acts.Start{}, record.Place{})
	if !ok {
		return record.Need{What: record.ClockStarted}
	}
	if _, ended := s.At(step).Has(acts.End{}, record.Place{}); ended {
		return record.Need{}
	}
	return record.Need{What: record.ClockOver, Until: dueAt(step, start)}
}

func acceptStart(p *record.Attempt) error {
	p.Draft.Item = record.Place{}
	return p.WantOutcome(say.IDs(p.Step.Schools, func(x book.School) string { return x.ID })...)
}

func startWords(_ *record.State, step *record.Step, e *record.Entry) string {
	return "clock started: " + say.NameOf(step.Schools, record.As[acts.Start](e).Outcome,
		func(x book.School) (string, string) { return x.ID, x.Title })
}

func acceptEnd(p *record.Attempt) error {
	p.Draft.Item = record.Place{}
	start, ok := p.State.At(p.Step).Has(acts.Start{}, record.Place{})
	if !ok {
		return say.Refuse(say.Conflict, say.ClockNotStarted)
	}
	if left := dueAt(p.Step, start).Sub(p.Now); left > 0 && acts.Reason(p.Draft.Says) == "" {
		return say.Refuse(say.GateClosed, say.ClockRuns, left.Round(time.Second))
	}
	return nil
}

// dueAt is when a wait is over.
func dueAt(step *record.Step, start record.Entry) time.Time {
	school := acts.OutcomeOf(start.ReadAct())
	for _, x := range step.Schools {
		if x.ID == school {
			return start.At.Add(time.Duration(float64(x.Wait.SI()) * float64(time.Second)))
		}
	}
	return start.At
}
