package workshop

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/decision"
	"handwerk/core/fluid"
	"handwerk/core/input"
)

// A choice may be weighed: calculators work out from sheet and record what
// speaks for each way. Their answers stand beside the choice while it is open
// and are kept with it when it is made; nobody has to ask for them.

// weighing is one calculator of a step, its bindings made ready.
type weighing struct {
	book.Weighing
	bindings book.Bindings
}

// WeighedView is what one calculator says for a choice.
type WeighedView struct {
	Calc   string          `json:"calc"`
	Method string          `json:"method,omitempty"`
	Result json.RawMessage `json:"result,omitempty"`
	// Problem is why it cannot say anything; the choice is made without it.
	Problem string         `json:"problem,omitempty"`
	Input   map[string]any `json:"input"`
}

// ofWays: it weighs ways to go by what they cost; the customer says yes to one.
func (w weighing) ofWays() bool { return decision.DecideMethod.Is(w.Calc) }

func newWeighings(list []book.Weighing) []weighing {
	var all []weighing
	for _, w := range list {
		all = append(all, weighing{w, book.Bind(w.Bind)})
	}
	return all
}

// asMeasured is the weighing as a measuring step that reckons alone.
func asMeasured(w book.Weighing) *book.MeasureSpec {
	return &book.MeasureSpec{Calc: w.Calc, Bind: w.Bind}
}

func checkWeighs(c *book.Checker, at string, s book.Step) {
	for i, w := range s.Weighs {
		part := book.Step{Measure: asMeasured(w)}
		var mine book.Checker = *c
		mine.Fields = nil
		checkMeasure(&mine, "", part)
		for _, f := range mine.Fields {
			f.Path = input.Join(input.Index(input.Join(at, "weighs"), i), strings.TrimPrefix(strings.TrimPrefix(f.Path, "measure"), "."))
			c.Fields = append(c.Fields, f)
		}
	}
}

func weighsWant(s book.Step) (want []string) {
	for _, w := range s.Weighs {
		want = append(want, measureWants(book.Step{Measure: asMeasured(w)})...)
	}
	return want
}

func weighsMisfit(s book.Step, on book.Ground) (faults input.Fields) {
	for _, w := range s.Weighs {
		faults = append(faults, measureMisfits(book.Step{Measure: asMeasured(w)}, on)...)
	}
	return faults
}

// weighedBy asks one; that it has no answer is an answer too.
func (p *proposal) weighedBy(w weighing) (view WeighedView, err error) {
	b := p.unread()
	view.Calc = w.Calc
	if view.Input, err = w.bindings.Fill(soFar{b}); err != nil {
		return view, err
	}
	in, problem := w.bindings.Fill(b)
	if problem == nil {
		raw, err := json.Marshal(in)
		if err != nil {
			return view, err
		}
		c, _ := calculators.Named(w.Calc)
		view.Method = c.Method()
		view.Result, _, problem = c.Judge(raw)
	}
	if problem != nil {
		view.Result, view.Problem = nil, p.state.whatItLacks(p.step, w)
	}
	return view, nil
}

// whatItLacks names the figures a weighing waits for, as people call them; once,
// for all of it.
func (s *State) whatItLacks(step *Step, w weighing) string {
	var titles []string
	for _, path := range measureWants(book.Step{Measure: asMeasured(w.Weighing)}) {
		title := s.plan.figureCalled(book.Answer(path), step)
		if _, known := s.on.figures[path]; !known && !slices.Contains(titles, title) {
			titles = append(titles, title)
		}
	}
	if len(titles) == 0 {
		return "too little is known for it yet"
	}
	return "nobody has said: " + strings.Join(titles, ", ")
}

// keepWeighed puts what was worked out into the entry of the choice.
func (p *proposal) keepWeighed() error {
	if len(p.step.weighs) == 0 || p.result != nil || p.draft.Act != ActDecision {
		return nil
	}
	views, err := p.weighed()
	results := resultsOf(views)
	if err != nil || len(results) == 0 {
		return err
	}
	var methods []string
	for _, v := range views {
		if v.Result != nil {
			methods = append(methods, v.Method)
		}
	}
	p.result, err = json.Marshal(results)
	p.method = strings.Join(methods, ", ")
	return err
}

// fluidsFor are the fluids of a step as its unit wants them: those that the
// class forbids say why, and the best stands first.
func fluidsFor(step *Step, results map[string]json.RawMessage) []book.Fluid {
	fluids := slices.Clone(step.Fill.Fluids)
	var found fluid.ChooseOut
	if raw, ok := results[fluid.ChooseMethod.Name]; !ok || json.Unmarshal(raw, &found) != nil {
		return fluids
	}
	rank := map[string]int{}
	for i, c := range found.Classes {
		rank[c.ID] = i
		for j, f := range fluids {
			if f.Rule == c.ID && f.Forbids == "" {
				fluids[j].Forbids = c.Stop
			}
		}
	}
	modified := slices.ContainsFunc(found.Needed, func(s string) bool { return strings.Contains(s, "friction modifier") })
	last := len(found.Classes)
	key := func(f book.Fluid) int {
		at, ok := rank[f.Rule]
		if !ok {
			at = last
		}
		k := 4 * at
		if f.Modifier != modified {
			k += 2
		}
		if f.Forbids != "" {
			k += 8 * (last + 1)
		}
		return k
	}
	slices.SortStableFunc(fluids, func(a, b book.Fluid) int { return key(a) - key(b) })
	return fluids
}

// resultsOf a step's weighings, by the calculator's name.
func resultsOf(views []WeighedView) map[string]json.RawMessage {
	results := map[string]json.RawMessage{}
	for _, v := range views {
		if v.Result != nil {
			results[v.Calc] = v.Result
		}
	}
	return results
}

// weighed asks every calculator of a step.
func (p *proposal) weighed() ([]WeighedView, error) {
	var views []WeighedView
	for _, w := range p.step.weighs {
		view, err := p.weighedBy(w)
		if err != nil {
			return nil, err
		}
		views = append(views, view)
	}
	return views, nil
}

// weighed is what speaks for each way at the step that is looked at.
func (v viewer) weighed() ([]WeighedView, error) {
	p := &proposal{ledger: v.ledger, state: v.state, step: v.step}
	return p.weighed()
}

// unread binds what is known before anything is read at the step.
func (p *proposal) unread() binder { return binder{p, []Trial{{}}} }
