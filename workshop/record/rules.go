package record

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/text"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// Attempt is a draft on its way through the rules.
type Attempt struct {
	Ledger Ledger
	State  *State
	Step   *Step
	Draft  Draft
	by     people.Person
	Now    time.Time
	Old    *Entry // the entry it supersedes
	act    *Act

	Result  json.RawMessage
	Method  string
	Verdict metrology.Verdict
	Moves   []Move
}

// Propose runs a draft through the rules of the record. It changes nothing.
// Bad fields come back as fault.Fields, rules that say no as Refusal.
func Propose(l Ledger, stepID string, draft Draft, by people.Person, now time.Time) (Proposal, error) {
	entry, moves, err := Try(l, stepID, draft, by, now)
	if err != nil {
		return Proposal{}, err
	}
	return Proposal{entry, moves, l.With(entry)}, nil
}

// Try gives the entry that a draft would make.
func Try(l Ledger, stepID string, draft Draft, by people.Person, now time.Time) (Entry, []Move, error) {
	step, ok := l.Plan.Step(stepID)
	if !ok {
		return Entry{}, nil, say.Refuse(say.NotFound, say.NoSuchStep, stepID)
	}
	p := &Attempt{
		Ledger: l,
		State:  l.State(),
		Step:   step,
		Draft:  draft,
		by:     by,
		Now:    l.notBefore(now),
		act:    step.act(draft.Says.Name()),
	}
	p.Draft.Says = acts.Copy(draft.Says) // it may be tried again
	for _, rule := range []func() error{
		p.role, p.fields, p.target, p.gate, p.notSkipped, p.standsRight, p.care, p.figuresKnown, p.accept, p.placeFree,
	} {
		err := rule()
		if faults, bad := err.(input.Fields); bad { // not what is garbled, which holds some
			err = faults.InOrder(reflect.TypeOf(p.Draft.Says))
		}
		if err != nil {
			return Entry{}, nil, err
		}
	}
	entry, err := p.entry()
	return entry, p.Moves, err
}

// fields: the act exists here and has nothing that only we say.
func (p *Attempt) fields() error {
	if p.act == nil {
		return input.At("act", acts.ListOf(p.Step.Acts()), "this step does not take %q", p.Draft.Says.Name())
	}
	faults := input.Below("", acts.Check(p.Draft.Says))
	if text.Length(p.Draft.Item.String()) > 80 {
		faults.Add("item", "up to 80 characters", "the name is too long")
	}
	return faults.Err()
}

// target: what is corrected or struck is a live entry of this step.
func (p *Attempt) target() error {
	if p.Draft.Supersedes == "" {
		if p.strikes() {
			return input.At("supersedes", "the entry to strike out", "missing")
		}
		return nil
	}
	i := slices.IndexFunc(p.Ledger.Entries, func(e Entry) bool { return e.ID == p.Draft.Supersedes })
	if i < 0 || p.Ledger.Entries[i].Step != p.Step.ID {
		return input.At("supersedes", "an entry of this step", "there is no such entry here")
	}
	old := p.Ledger.Entries[i]
	if by, gone := p.State.findSuperseding(int32(i)); gone {
		return say.Refuse(say.Conflict, say.AlreadyCorrected, by.By.Name)
	}
	if old.Is(acts.Strike{}) {
		return input.At(
			"supersedes",
			"an entry not yet struck out",
			"this entry is struck out for good; record a new one",
		)
	}
	if !p.strikes() && p.act.Name() != old.Act {
		return input.At("act", string(old.Act), "a correction must be of the same kind")
	}
	p.Old = &old
	if asked := old.Item.Ask(); p.strikes() || p.Draft.Item == (Place{}) ||
		(asked != "" && p.Draft.Item == Place{Name: asked}) {
		p.Draft.Item = old.Item
	}
	if p.Draft.Item != old.Item {
		return input.At("item", old.Item.String(), "a correction must be for the same line")
	}
	return nil
}

// gate: steps before it are done, and the rebuild is not closed.
func (p *Attempt) gate() error {
	if p.Is(acts.Note{}) {
		return nil
	}
	if p.Ledger.Rebuild.Place.Closed && (p.Old == nil || p.Step.Role != string(people.Lead)) {
		return say.Refuse(say.Conflict, say.SignedOff)
	}
	if p.act.Whole {
		return nil
	}
	blocked := p.State.listBlocking(p.Step)
	if p.Is(acts.Override{}) {
		if len(blocked) == 0 {
			return say.Refuse(say.Conflict, say.NoGateClosed)
		}
		return p.WantReason("why you start early")
	}
	if len(blocked) > 0 && !p.act.Early { // what a book says can be looked up at any time
		return say.Refuse(say.GateClosed, say.HasToWait, p.Step.Title, Titles(p.State, blocked))
	}
	return nil
}

// care: grave cautions are acknowledged before the hand moves.
func (p *Attempt) care() error {
	switch {
	case p.act.Early, p.Is(acts.Skip{}), p.Is(acts.Stands{}): // to look moves no hand
		return nil
	case p.Is(acts.Acknowledge{}):
		if all := p.Step.AllCautions(); !slices.Contains(all, p.Draft.Item.String()) {
			return input.At("item", strings.Join(all, ", "), "%q is not a caution of this step", p.Draft.Item.String())
		}
		return nil
	}
	if p.Step.Rules.Hazards {
		return nil
	}
	open := ListUnread(p.State, p.Step, true)
	if i := slices.IndexFunc(p.Step.Items, func(x book.Item) bool { return ReadPlace(x.ID) == p.Draft.Item }); i >= 0 &&
		p.Is(acts.Outcome{}) {
		open = append(open, unread(p.State, p.Step, p.Step.Items[i].Cautions, true)...)
		if o, ok := OutcomeOf(p.Step.Items[i], acts.OutcomeOf(p.Draft.Says)); ok {
			open = append(open, unread(p.State, p.Step, o.Cautions, true)...)
		}
	}
	if len(open) > 0 {
		return say.Refuse(say.GateClosed, say.ReadFirst, cautionTitles(p.State, open))
	}
	return nil
}

// accept: the rules of the act itself.
func (p *Attempt) accept() error {
	if err := p.photoKnown(); err != nil {
		return err
	}
	return p.act.Accept(p)
}

// Is tells which act is tried.
func (p *Attempt) Is(a acts.Act) bool { return p.Draft.Says.Name() == a.Name() }

func (p *Attempt) strikes() bool { return p.Is(acts.Strike{}) }

// placeFree: one live entry holds a place; to change it, it is corrected.
func (p *Attempt) placeFree() error {
	if p.Old != nil || p.act.Many {
		return nil
	}
	if e, taken := p.State.At(p.Step).Has(p.act, p.Draft.Item); taken {
		return say.Refuse(say.Conflict, say.PlaceTaken, e.By.Name, say.Moment(e.At, p.State.Zone))
	}
	return nil
}

func (p *Attempt) photoKnown() error {
	picture := acts.PictureOf(p.Draft.Says)
	if picture == nil || picture.Photo == "" {
		return nil
	}
	hash, err := p.Ledger.Photo(picture.Photo)
	if err != nil {
		return err
	}
	picture.PhotoHash = hash
	if hash == "" {
		return input.At("photo", "a picture taken for this rebuild", "there is no such picture")
	}
	return nil
}

// WantReason asks for a reason in words.
func (p *Attempt) WantReason(what string) error {
	if strings.TrimSpace(acts.Reason(p.Draft.Says)) == "" {
		return input.At("reason", what, "a reason is needed")
	}
	return nil
}

// entry writes the draft down and chains it to the record.
func (p *Attempt) entry() (Entry, error) {
	if m := acts.ValueOf(p.Draft.Says); m != nil {
		m.Typed = m.Value.Typed
	}
	body, err := json.Marshal(p.Draft.Says)
	if err != nil {
		return Entry{}, err
	}
	head := p.Ledger.Rebuild.Head
	e := Entry{
		ID: say.NewID(), Seq: head.Seq + 1, Step: p.Step.ID, Act: p.act.Name(), Item: p.Draft.Item,
		Supersedes: p.Draft.Supersedes, Body: body, Result: p.Result, Method: p.Method, Verdict: p.Verdict,
		By: p.by, At: p.Now, said: &decoded{},
	}
	e.Hash = e.Chain(head.Hash)
	return e, nil
}

// Needs asks the kind, and in every kind the grave cautions.
func Needs(s *State, step *Step) Need {
	known := &s.needed[step.At]
	if needs := known.Load(); needs != nil {
		return *needs
	}
	needs := askNeeds(s, step)
	known.Store(&needs)
	return needs
}

func askNeeds(s *State, step *Step) Need {
	if s.IsSkipped(step) {
		return Need{}
	}
	if !step.Rules.Hazards {
		if open := ListUnread(s, step, true); len(open) > 0 {
			return Need{What: Acknowledged, Names: open}
		}
	}
	if missing := s.waitsFor(step); len(missing) > 0 {
		return Need{What: SheetFigures, Count: len(missing), Names: missing}
	}
	return step.Rules.Needs(s, step)
}

// ListUnread lists the cautions of a step that nobody acknowledged yet;
// those of a line are asked for there.
func ListUnread(s *State, step *Step, graveOnly bool) []string {
	return unread(s, step, step.Cautions, graveOnly)
}

// unread are those of some cautions that nobody acknowledged at a step yet.
func unread(s *State, step *Step, cautions []string, graveOnly bool) []string {
	var open []string
	for _, id := range cautions {
		c, _ := s.Plan.Caution(id)
		if graveOnly && !c.Grave {
			continue
		}
		if _, ok := s.At(step).Has(acts.Acknowledge{}, ReadPlace(id)); !ok {
			open = append(open, id)
		}
	}
	return open
}

// WantValue asks for a value of a kind.
func (p *Attempt) WantValue(want quantity.Dimension) error {
	value := acts.ValueOf(p.Draft.Says).Value
	if !value.IsSaid() {
		return input.At("value", "a "+string(want), "missing")
	}
	if value.Dimension() != want {
		return input.At("value", "a "+string(want), "%s is a %s, not what is asked here", value, value.Dimension())
	}
	return nil
}

// WantOutcome asks for one of some ids; one may be a name from the spec sheet, with
// any sign in it.
func (p *Attempt) WantOutcome(ids ...string) error {
	if said := acts.OutcomeOf(p.Draft.Says); !slices.Contains(ids, said) {
		return input.At("outcome", strings.Join(ids, ", "), "%q is not one of the outcomes", said)
	}
	return nil
}

// KeepResult keeps a result with its method.
func (p *Attempt) KeepResult(method string, result any) error {
	raw, err := json.Marshal(result)
	if err != nil {
		return fmt.Errorf("%s: result cannot be written: %w", method, err)
	}
	p.Result, p.Method = raw, method
	return nil
}
