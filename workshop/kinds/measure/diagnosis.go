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

// tried is what the outcomes on record tell the diagnosis.
type tried struct {
	seen         []diagnosis.Seen
	told, undone map[string]bool // tests that were answered, and that could not be done
	lacks        []string
}

func (x *tried) see(seen diagnosis.Seen) {
	if x.told[seen.Test] {
		return
	}
	x.told[seen.Test] = true
	x.seen = append(x.seen, seen)
}

// Reasoning collects what the diagnosis knows: the book's causes and tests, the
// outcomes on record, and the shop's confirmed causes.
func Reasoning(l record.Ledger, s *record.State) (diagnosis.In, error) {
	x := tried{seen: []diagnosis.Seen{}, told: map[string]bool{}, undone: map[string]bool{}, lacks: []string{}}
	for _, step := range l.Plan.Steps {
		if step.Beside == "" {
			x.addStep(s, step)
		}
	}
	for _, hint := range shiftHints(s) {
		x.see(hint)
	}
	var confirmed map[string]int
	if l.Confirmed != nil {
		var err error
		if confirmed, err = l.Confirmed(); err != nil {
			return diagnosis.In{}, err
		}
	}
	in := l.Plan.Reason(x.seen, confirmed, x.lacks...)
	in.Tests = slices.DeleteFunc(in.Tests, func(t diagnosis.Test) bool { return x.undone[t.ID] && !x.told[t.ID] })
	return in, nil
}

// addStep takes the outcomes of a step's lines; the first of a test counts.
func (x *tried) addStep(s *record.State, step *record.Step) {
	for _, item := range step.Items {
		said, _ := record.FindAct[acts.Outcome](s, step, record.ReadPlace(item.ID))
		if said == nil {
			continue
		}
		o, _ := record.OutcomeOf(item, said.Outcome)
		x.lacks = append(x.lacks, o.Lacks...)
		switch {
		case item.Test == "" || x.told[item.Test] || said.Outcome == book.NothingBesides:
		case said.Outcome == book.CouldNot:
			x.undone[item.Test] = true
		default:
			x.see(diagnosis.Seen{Test: item.Test, Outcome: said.Outcome, Own: step.FromBook != book.FromComplaint})
		}
	}
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
