package items

import (
	"handwerk/book"
	"handwerk/core/diagnosis"
	"handwerk/core/input"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

// Test: a check whose answers mean something; the book may give its lines,
// and the diagnosis reasons with them.
var Test = record.Kind{
	Name: book.Test,
	Nature: book.Nature{
		Check:  checkTest,
		Sample: itemSample,
	},
	Takes: []*record.Act{ofStep.Act()},
	Needs: ofStep.Needs,
	Open:  OpenLines,
	View:  viewTest,
	Bad:   ofStep.Bad,
	Sums:  sumsItems,
	Gives: givesItem,
	Usual: UsualLine,
	Empty: func() record.StepView { return &TestStep{} },
}

// TestStep is a test as the bench shows it.
type TestStep struct {
	record.StepFrame
	Kind book.Kind `json:"kind" const:"test"`
	AnsweredLines
	// FromBook tells which of the book's tests the lines are, when they are.
	FromBook string `json:"from_book,omitempty" enum:"complaint,tests"`
	// Told are the customer's words, kept beside what is made of them.
	Told string `json:"told,omitempty"`
	// Answered is what he was told at intake, beside them.
	Answered string `json:"answered,omitempty"`
	// Beside are the entries of the earlier test that stands next to it.
	Beside []record.EntryView `json:"beside,omitempty"`
	// Diagnosis is what all tests on record mean so far.
	Diagnosis *diagnosis.Out `json:"diagnosis,omitempty"`
}

func checkTest(c *book.Checker, at string, s book.Step) {
	if s.FromBook != "" && s.FromBook != book.FromComplaint && s.FromBook != book.FromTests {
		c.Add(input.Join(at, "from_book"), "complaint or tests, at a test", "%q gives no lines here", s.FromBook)
	}
	itemsThere(c, input.Join(at, "items"), s)
	eachItem(c, at, s)
}

func viewTest(v record.Viewer, f record.StepFrame) (record.StepView, error) {
	view := &TestStep{StepFrame: f, Kind: book.Test, AnsweredLines: ofStep.Views(v),
		FromBook: v.Step.FromBook}
	if v.Step.FromBook == book.FromComplaint {
		view.Told, view.Answered = v.Ledger.Rebuild.Complaint, v.Ledger.Rebuild.Told
	}
	if v.Step.Beside != "" {
		before, _ := v.Ledger.Plan.Step(v.Step.Beside)
		view.Beside = record.ViewsAt(v.State, before)
	}
	if v.Step.FromBook == "" || len(v.Ledger.Plan.Causes) < 2 {
		return view, nil
	}
	in, err := measure.Reasoning(v.Ledger, v.State)
	if err != nil {
		return nil, err
	}
	out, err := diagnosis.Diagnose(in)
	view.Diagnosis = &out
	return view, err
}
