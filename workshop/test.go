package workshop

import (
	"encoding/json"
	"slices"

	"handwerk/book"
	"handwerk/core/diagnosis"
	"handwerk/core/gearing"
	"handwerk/core/input"
)

// testKind: a check whose answers mean something; the book may give its lines,
// and the diagnosis reasons with them.
var testKind = kind{
	name: book.Test,
	Nature: book.Nature{
		Check:  checkTest,
		Sample: itemSample,
	},
	takes:  []Act{ActOutcome},
	needs:  needsItems,
	open:   openItems,
	accept: acceptOutcome,
	view:   viewTest,
	bad:    badAnswers,
	sums:   sumsItems,
	gives:  givesItem,
	usual: func(v StepView) Draft {
		x := v.(*TestStep)
		return usualOutcome(x.Items, x.StepFrame)
	},
	says:  func(_ *State, step *Step, e *Entry) string { return outcomeWords(step, e.Item, e.Said()) },
	empty: func() StepView { return &TestStep{} },
}

// TestStep is a test as the bench shows it.
type TestStep struct {
	StepFrame
	Kind book.Kind `json:"kind" const:"test"`
	AnsweredLines
	// FromBook tells which of the book's tests the lines are, when they are.
	FromBook string `json:"from_book,omitempty" enum:"complaint,tests"`
	// Told are the customer's words, kept beside what is made of them.
	Told string `json:"told,omitempty"`
	// Answered is what he was told at intake, beside them.
	Answered string `json:"answered,omitempty"`
	// Beside are the entries of the earlier test that stands next to it.
	Beside []EntryView `json:"beside,omitempty"`
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

func viewTest(v viewer, f StepFrame) (StepView, error) {
	view := &TestStep{StepFrame: f, Kind: book.Test, AnsweredLines: AnsweredLines{itemViews(v)}, FromBook: v.step.FromBook}
	if v.step.FromBook == book.FromComplaint {
		view.Told, view.Answered = v.ledger.Rebuild.Complaint, v.ledger.Rebuild.Told
	}
	if v.step.Beside != "" {
		before, _ := v.ledger.Plan.Step(v.step.Beside)
		view.Beside = viewsAt(v.state, before)
	}
	if v.step.FromBook == "" || len(v.ledger.Plan.Causes) < 2 {
		return view, nil
	}
	in, err := v.ledger.reason(v.state)
	if err != nil {
		return nil, err
	}
	out, err := diagnosis.Diagnose(in)
	view.Diagnosis = &out
	return view, err
}

// reason collects what the diagnosis knows: the book's causes and tests, the
// outcomes on record, and the shop's confirmed causes.
func (l Ledger) reason(s *State) (diagnosis.In, error) {
	seen, told, lacks := []diagnosis.Seen{}, map[string]bool{}, []string{}
	undone := map[string]bool{} // tests that could not be done
	for _, step := range l.Plan.Steps {
		for _, item := range step.Items {
			e, ok := s.of(step).has(ActOutcome, ReadPlace(item.ID))
			if !ok || step.Beside != "" {
				continue
			}
			o, _ := outcomeOf(item, e.Said().Outcome)
			lacks = append(lacks, o.Lacks...)
			if item.Test == "" || told[item.Test] {
				continue
			}
			if e.Said().Outcome == book.NothingBesides {
				continue
			}
			if e.Said().Outcome == book.CouldNot {
				undone[item.Test] = true
				continue
			}
			told[item.Test] = true
			seen = append(seen, diagnosis.Seen{Test: item.Test, Outcome: e.Said().Outcome, Own: step.FromBook != book.FromComplaint})
		}
	}
	for _, hint := range s.shiftHints() {
		if !told[hint.Test] {
			told[hint.Test] = true
			seen = append(seen, hint)
		}
	}
	var confirmed map[string]int
	if l.Confirmed != nil {
		var err error
		if confirmed, err = l.Confirmed(); err != nil {
			return diagnosis.In{}, err
		}
	}
	in := l.Plan.Reason(seen, confirmed, lacks...)
	in.Tests = slices.DeleteFunc(in.Tests, func(t diagnosis.Test) bool { return undone[t.ID] && !told[t.ID] })
	return in, nil
}

// shiftHints are the outcomes of the book's tests that a gearbox tried in every
// gear comes to, at the first step that did so: what is tried after the work
// says nothing of what was wrong. A test done by itself has the last word.
func (s *State) shiftHints() (hints []diagnosis.Seen) {
	for _, step := range s.plan.Steps {
		if step.Measure == nil || !triesGears(step) {
			continue
		}
		trials := s.Trials(step)
		var out gearing.ShiftMatrixOut
		if json.Unmarshal(trials[len(trials)-1].Result, &out) != nil {
			return nil
		}
		for _, h := range out.Hints {
			if slices.ContainsFunc(s.plan.Tests, func(t book.BookTest) bool {
				return t.ID == h.Test && t.Has(h.Outcome)
			}) {
				hints = append(hints, diagnosis.Seen{Test: h.Test, Outcome: h.Outcome, Own: true})
			}
		}
		return hints
	}
	return nil
}
