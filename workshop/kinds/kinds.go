// Package kinds names every kind of step there is. Each has a room of its own.
package kinds

import (
	"encoding/json"
	"fmt"
	"slices"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/caution"
	"handwerk/workshop/kinds/clean"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/fill"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/kinds/order"
	"handwerk/workshop/kinds/photo"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/kinds/wait"
	"handwerk/workshop/record"
)

// All are all there are.
var All = record.Table{
	&items.Check,
	&items.Test,
	&stack.Kind,
	&measure.Kind,
	&torque.Kind,
	&fill.Kind,
	&wait.Kind,
	&decide.Kind,
	&clean.Kind,
	&caution.Kind,
	&photo.Kind,
	&order.Kind,
}

// Natures is what the book has to know of them.
func Natures() book.Kinds { return All.Natures() }

// NewPlan prepares a copy for use.
func NewPlan(c book.Copy) (*record.Plan, error) {
	raw, err := json.Marshal(c)
	if err != nil {
		return nil, fmt.Errorf("the copy of the book cannot be written: %w", err)
	}
	return ReadPlan(raw)
}

// ReadPlan prepares a stored copy for use.
func ReadPlan(raw []byte) (*record.Plan, error) { return record.ReadPlan(raw, All) }

// StepViews are an empty one of each kind, for whoever describes them.
func StepViews() []record.StepView {
	views := make([]record.StepView, 0, len(All))
	for _, k := range All {
		views = append(views, k.Empty())
	}
	return views
}

// ReadStepView reads a view back from its JSON.
func ReadStepView(raw []byte) (record.StepView, error) {
	var head struct {
		Kind book.Kind `json:"kind"`
	}
	if err := json.Unmarshal(raw, &head); err != nil {
		return nil, err
	}
	k := All.Find(head.Kind)
	if k == nil {
		return nil, fmt.Errorf("a view of kind %q is none", head.Kind)
	}
	view := k.Empty()
	return view, json.Unmarshal(raw, view)
}

// Acknowledging is the next caution to acknowledge before a draft, when one
// waits: of the step, or of the line that is answered.
func Acknowledging(v record.StepView, d record.Draft) (record.Draft, bool) {
	f := v.Frame()
	cautions, hazards := f.Cautions, All.Find(f.Step.Kind).Hazards
	if lines, ok := v.(interface {
		CautionsAt(record.Draft) []record.CautionView
	}); ok {
		cautions = slices.Concat(cautions, lines.CautionsAt(d))
	}
	for _, c := range cautions {
		if c.By == "" && (c.Grave || hazards) {
			return record.Draft{Item: record.ReadPlace(c.ID), Says: &acts.Acknowledge{}}, true
		}
	}
	return record.Draft{}, false
}

// Plausible is an entry that an open step often sees next: the caution to
// acknowledge, then what its kind takes, as the sheet has it.
func Plausible(v record.StepView) record.Draft {
	if d, waits := Acknowledging(v, record.Draft{}); waits {
		return d
	}
	for _, w := range v.Frame().Wants {
		if !w.So &&
			slices.ContainsFunc(v.Frame().Acts, func(a record.OpenAct) bool { return a.Act == acts.Stands{}.Name() }) {
			return record.Draft{Item: record.ReadPlace(w.Key), Says: &acts.Stands{Outcome: w.State}}
		}
	}
	for _, f := range v.Frame().Figures {
		if f.Entry == "" && !f.May {
			return record.UsualFigure(f)
		}
	}
	d := All.Find(v.Frame().Step.Kind).Usual(v)
	if read, waits := Acknowledging(v, d); waits {
		return read
	}
	return d
}
