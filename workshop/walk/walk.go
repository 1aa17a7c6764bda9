// Package walk takes a rebuild along its route with plausible entries, through
// the same rules as a person: for the demo, the load generator and the tests.
package walk

import (
	"time"

	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

// Script holds the entries a walk makes at a step before the ordinary ones:
// the story of one demo rebuild.
type Script map[string][]record.Draft

// Walker makes the entries.
type Walker struct {
	Ledger record.Ledger
	By     func(step *record.Step) people.Person
	Clock  func() time.Time
	Script Script
	Spent  int // seconds at the step before each entry

	// Apply keeps a proposal; nil when the walk only needs the entries.
	Apply func(step string, d record.Draft, p record.Proposal) error
}

// WalkUntil makes entries until the step (left untouched), or to the end of
// the route when until is empty. It gives the entries made.
func (w *Walker) WalkUntil(until string) ([]record.Entry, error) {
	made := len(w.Ledger.Entries)
	for {
		step, ok := w.next(until)
		if !ok {
			return w.Ledger.Entries[made:], nil
		}
		draft, err := w.draft(step)
		if err != nil {
			return nil, err
		}
		if err := w.make(step, draft); err != nil {
			return nil, err
		}
	}
}

// Finish makes the scripted entries of a step and nothing else there.
func (w *Walker) Finish(step string) error {
	for len(w.Script[step]) > 0 {
		d := w.Script[step][0]
		w.Script[step] = w.Script[step][1:]
		if err := w.make(step, d); err != nil {
			return err
		}
	}
	return nil
}

// next is the first step that takes an entry, in the order of the route; a
// story may have more to tell at a step that is done.
func (w *Walker) next(until string) (string, bool) {
	s := w.Ledger.State()
	for _, step := range w.Ledger.Plan.Steps {
		status, _ := s.Status(step)
		if step.ID == until && status != record.Locked {
			return "", false
		}
		if status == record.Open || (status == record.Done && len(w.Script[step.ID]) > 0) {
			return step.ID, true
		}
	}
	return "", false
}

func (w *Walker) make(step string, d record.Draft) error {
	acts.Spend(d.Says, w.Spent)
	now := w.Clock()
	full, _ := w.Ledger.Plan.Step(step)
	p, err := record.Propose(w.Ledger, step, d, w.By(full), now)
	if err != nil {
		return err
	}
	if w.Apply != nil {
		if err := w.Apply(step, d, p); err != nil {
			return err
		}
	}
	w.Ledger = p.After
	return nil
}

// draft is the next entry at a step: the caution to acknowledge, then the
// script, then what its kind usually sees.
func (w *Walker) draft(id string) (record.Draft, error) {
	step, _ := w.Ledger.Plan.Step(id)
	v, err := record.MakeStep(w.Ledger, id, w.By(step), w.Clock())
	if err != nil {
		return record.Draft{}, err
	}
	script := w.Script[id]
	next := kinds.Plausible(v)
	if len(script) > 0 {
		next = script[0]
	}
	if d, waits := kinds.Acknowledging(v, next); waits {
		return d, nil
	}
	if len(script) > 0 {
		w.Script[id] = script[1:]
	}
	return next, nil
}
