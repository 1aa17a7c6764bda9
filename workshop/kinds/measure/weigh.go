package measure

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// asMeasured is the weighing as a measuring step that reckons alone.
func asMeasured(w book.Weighing) *book.MeasureSpec {
	return &book.MeasureSpec{Calc: w.Calc, Bind: w.Bind}
}

// CheckWeighs looks at what a step of the book weighs its choice by.
func CheckWeighs(c *book.Checker, at string, s book.Step) {
	for i, w := range s.Weighs {
		part := book.Step{Measure: asMeasured(w)}
		var mine book.Checker = *c
		mine.Fields = nil
		checkMeasure(&mine, "", part)
		for _, f := range mine.Fields {
			f.Path = input.Join(input.Index(input.Join(at, "weighs"), i),
				strings.TrimPrefix(strings.TrimPrefix(f.Path, "measure"), "."))
			c.Fields = append(c.Fields, f)
		}
	}
}

// WeighsWant lists the figures that weighing takes from the sheet.
func WeighsWant(s book.Step) (want []string) {
	for _, w := range s.Weighs {
		want = append(want, measureWants(book.Step{Measure: asMeasured(w)})...)
	}
	return want
}

// WeighsMisfit tries the figures of a sheet on what weighs.
func WeighsMisfit(s book.Step, on book.Ground) (faults input.Fields) {
	for _, w := range s.Weighs {
		faults = append(faults, measureMisfits(book.Step{Measure: asMeasured(w)}, on)...)
	}
	return faults
}

// weighOne asks one; that it has no answer is an answer too.
func weighOne(p *record.Attempt, w record.Weighing) (view record.WeighedView, err error) {
	b := Unread(p)
	view.Calc = w.Calc
	if view.Input, err = w.Bindings.Fill(soFar{b}); err != nil {
		return view, err
	}
	in, problem := w.Bindings.Fill(b)
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
		view.Result, view.Problem = nil, WhatItLacks(p.State, p.Step, w)
	}
	return view, nil
}

// WhatItLacks names the figures a weighing waits for, as people call them; once,
// for all of it.
func WhatItLacks(s *record.State, step *record.Step, w record.Weighing) string {
	var titles []string
	for _, path := range measureWants(book.Step{Measure: asMeasured(w.Weighing)}) {
		title := s.Plan.FigureCalled(book.Answer(path), step)
		if _, known := s.On.Figures[path]; !known && !slices.Contains(titles, title) {
			titles = append(titles, title)
		}
	}
	if len(titles) == 0 {
		return "too little is known for it yet"
	}
	return "still missing: " + strings.Join(titles, ", ")
}

// KeepWeighed puts what was worked out into the entry of the choice.
func KeepWeighed(p *record.Attempt) error {
	if len(p.Step.Weighings) == 0 || p.Result != nil || !p.Is(acts.Decision{}) {
		return nil
	}
	views, err := Weigh(p)
	results := ResultsOf(views)
	if err != nil || len(results) == 0 {
		return err
	}
	var methods []string
	for _, v := range views {
		if v.Result != nil {
			methods = append(methods, v.Method)
		}
	}
	p.Result, err = json.Marshal(results)
	p.Method = strings.Join(methods, ", ")
	return err
}

// ResultsOf a step's weighings, by the calculator's name.
func ResultsOf(views []record.WeighedView) map[string]json.RawMessage {
	results := map[string]json.RawMessage{}
	for _, v := range views {
		if v.Result != nil {
			results[v.Calc] = v.Result
		}
	}
	return results
}

// Weigh asks every calculator of a step.
func Weigh(p *record.Attempt) ([]record.WeighedView, error) {
	var views []record.WeighedView
	for _, w := range p.Step.Weighings {
		view, err := weighOne(p, w)
		if err != nil {
			return nil, err
		}
		views = append(views, view)
	}
	return views, nil
}

// WeighFor is what speaks for each way at the step that is looked at.
func WeighFor(v record.Viewer) ([]record.WeighedView, error) {
	p := &record.Attempt{Ledger: v.Ledger, State: v.State, Step: v.Step}
	return Weigh(p)
}

// Unread binds what is known before anything is read at the step.
func Unread(p *record.Attempt) binder { return binder{p, []Trial{{}}} }
