// Package clean is the step at which parts are washed and made ready: by which
// method, for how long, and what they must be afterwards.
package clean

import (
	"slices"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/record"
)

// name of the kind, as the book writes it.
const name book.Kind = "clean"

// Kind is a method and what the parts are after it.
var Kind = record.Kind{
	Name:   name,
	Nature: book.Nature{Check: check},
	Takes:  []*record.Act{lines.Act()},
	Needs:  lines.Needs,
	Open:   items.OpenLines,
	Bad:    lines.Bad,
	View: func(v record.Viewer, f record.StepFrame) (record.StepView, error) {
		return &CleanStep{f, name, lines.Views(v), whys(v.Step.Choices)}, nil
	},
	Usual: items.UsualLine,
	Empty: func() record.StepView { return &CleanStep{} },
}

// CleanStep is washing as the bench shows it. The first line is the method; the
// others are what the parts are afterwards.
type CleanStep struct {
	record.StepFrame
	Kind book.Kind `json:"kind" const:"clean"`
	items.AnsweredLines
	// Whys says of each method when it is the right one.
	Whys map[string]string `json:"whys"`
}

// method is the line at which the method is said.
const method = "method"

// lines of a step: the method first, then what the parts are afterwards.
var lines items.Of = func(step *record.Step) []book.Item {
	way := book.Item{ID: method, Text: "Method"}
	for _, c := range step.Choices {
		way.Outcomes = append(way.Outcomes, book.Outcome{ID: c.ID, Text: c.Text, Good: true})
	}
	return append([]book.Item{way}, step.Items...)
}

func whys(choices []book.Choice) map[string]string {
	says := map[string]string{}
	for _, c := range choices {
		says[c.ID] = c.Why
	}
	return says
}

func check(c *book.Checker, at string, s book.Step) {
	if len(s.Choices) == 0 {
		c.Add(input.Join(at, "choices"), "at least one method", "nothing says how to clean")
	}
	book.Unique(c, input.Join(at, "choices"), s.Choices, func(x book.Choice) string { return x.ID })
	if len(s.Items) == 0 {
		c.Add(input.Join(at, "items"), "what the parts are afterwards: dry, oiled, coated", "nothing is wanted of them")
	}
	book.Unique(c, input.Join(at, "items"), s.Items, func(x book.Item) string { return x.ID })
	taken := func(x book.Item) bool { return x.ID == method || x.Value != "" || x.Test != "" }
	if i := slices.IndexFunc(s.Items, taken); i >= 0 {
		c.Add(
			input.Index(input.Join(at, "items"), i),
			"a state, told apart from the method",
			"%q is the method, or a value",
			s.Items[i].ID,
		)
	}
}
