package measure

import (
	"encoding/json"
	"slices"

	"handwerk/book"
	"handwerk/core/diagnosis"
	"handwerk/core/gearing"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// Reasoning collects what the diagnosis knows: the book's causes and tests, the
// outcomes on record, and the shop's confirmed causes.
func Reasoning(l record.Ledger, s *record.State) (diagnosis.In, error) {
	seen, told, lacks := []diagnosis.Seen{}, map[string]bool{}, []string{}
	undone := map[string]bool{} // tests that could not be done
	for _, step := range l.Plan.Steps {
		for _, item := range step.Items {
			said, _ := record.Said[acts.Outcome](s, step, record.ReadPlace(item.ID))
			if said == nil || step.Beside != "" {
				continue
			}
			o, _ := record.OutcomeOf(item, said.Outcome)
			lacks = append(lacks, o.Lacks...)
			if item.Test == "" || told[item.Test] {
				continue
			}
			if said.Outcome == book.NothingBesides {
				continue
			}
			if said.Outcome == book.CouldNot {
				undone[item.Test] = true
				continue
			}
			told[item.Test] = true
			seen = append(seen, diagnosis.Seen{Test: item.Test, Outcome: said.Outcome,
				Own: step.FromBook != book.FromComplaint})
		}
	}
	for _, hint := range shiftHints(s) {
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
func shiftHints(s *record.State) (hints []diagnosis.Seen) {
	for _, step := range s.Plan.Steps {
		if step.Measure == nil || !triesGears(step) {
			continue
		}
		trials := Trials(s, step)
		var out gearing.ShiftMatrixOut
		if json.Unmarshal(trials[len(trials)-1].Result, &out) != nil {
			return nil
		}
		for _, h := range out.Hints {
			if slices.ContainsFunc(s.Plan.Tests, func(t book.BookTest) bool {
				return t.ID == h.Test && t.Has(h.Outcome)
			}) {
				hints = append(hints, diagnosis.Seen{Test: h.Test, Outcome: h.Outcome, Own: true})
			}
		}
		return hints
	}
	return nil
}
