package workshop

import (
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/input"
)

// waitKind: a clock that runs by the school the shop follows.
var waitKind = kind{
	name:   book.Wait,
	Nature: book.Nature{Check: checkSchools},
	takes:  []Act{ActStart, ActEnd},
	needs:  needsWait,
	open: func(s *State, step *Step, now time.Time) []OpenAct {
		start, ok := s.of(step).has(ActStart, Place{})
		if !ok {
			return []OpenAct{{Act: ActStart}}
		}
		return []OpenAct{{ActEnd, dueAt(step, start).After(now)}}
	},
	accept: acceptWait,
	view: func(v viewer, f StepFrame) (StepView, error) {
		view := &WaitStep{StepFrame: f, Kind: book.Wait, Schools: v.step.Schools, Wait: WaitView{Now: v.now.UTC()}}
		if start, ok := v.state.of(v.step).has(ActStart, Place{}); ok {
			due := dueAt(v.step, start)
			view.Wait.School, view.Wait.Started, view.Wait.Due = start.Said().Outcome, &start.At, &due
		}
		return view, nil
	},
	usual: func(v StepView) Draft {
		x := v.(*WaitStep)
		if x.Wait.Started == nil {
			i := slices.IndexFunc(x.Schools, func(s book.School) bool { return s.Default })
			return Draft{Act: ActStart, Body: Body{Outcome: x.Schools[i].ID}}
		}
		d := Draft{Act: ActEnd}
		if x.Wait.Now.Before(*x.Wait.Due) {
			d.Reason = "bead has skinned, touched with a finger"
		}
		return d
	},
	says: func(_ *State, step *Step, e *Entry) string {
		if e.Act == ActEnd {
			return withReason("clock over", e.Said())
		}
		return "clock started: " + named(step.Schools, e.Said().Outcome, func(x book.School) (string, string) { return x.ID, x.Title })
	},
	empty: func() StepView { return &WaitStep{} },
}

// WaitStep is a clock as the bench shows it.
type WaitStep struct {
	StepFrame
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
		c.Add(at, "at least one school", "nothing to wait for")
	}
	book.Unique(c, at, s.Schools, func(x book.School) string { return x.ID })
	defaults := 0
	for i, school := range s.Schools {
		if school.Wait.SI() < 0 || school.Wait.SI() > 7*24*3600 {
			c.Add(input.Index(at, i)+".wait", "0 min to 168 h", "%s cannot be waited for", school.Wait)
		}
		if school.Default {
			defaults++
		}
	}
	if len(s.Schools) > 0 && defaults != 1 {
		c.Add(at, "one school marked default", "%d are marked", defaults)
	}
}

func needsWait(s *State, step *Step) Need {
	start, ok := s.of(step).has(ActStart, Place{})
	if !ok {
		return Need{What: ClockStarted}
	}
	if _, ended := s.of(step).has(ActEnd, Place{}); ended {
		return Need{}
	}
	return Need{What: ClockOver, Until: dueAt(step, start)}
}

func acceptWait(p *proposal) error {
	p.draft.Item = Place{}
	if p.draft.Act == ActStart {
		return p.outcomeAmong(idList(p.step.Schools, func(x book.School) string { return x.ID })...)
	}
	start, ok := p.state.of(p.step).has(ActStart, Place{})
	if !ok {
		return refuse(Conflict, clockNotStarted)
	}
	if left := dueAt(p.step, start).Sub(p.now); left > 0 && p.draft.Reason == "" {
		return refuse(GateClosed, clockRuns, left.Round(time.Second))
	}
	return nil
}

// dueAt is when a wait is over.
func dueAt(step *Step, start Entry) time.Time {
	school := start.Said().Outcome
	for _, x := range step.Schools {
		if x.ID == school {
			return start.At.Add(time.Duration(float64(x.Wait.SI()) * float64(time.Second)))
		}
	}
	return start.At
}
