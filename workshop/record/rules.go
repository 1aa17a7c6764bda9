package record

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/text"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// proposal is a draft on its way through the rules.
type Attempt struct {
	Ledger Ledger
	State  *State
	Step   *Step
	Draft  Draft
	by     people.Person
	Now    time.Time
	Old    *Entry // the entry it supersedes

	Result  json.RawMessage
	Method  string
	Verdict metrology.Verdict
	Moves   []Move
}

// everywhere are the acts that any step takes.
var everywhere = []Act{ActNote, ActFound, ActTime, ActPromised, ActStrike, ActAcknowledge, ActOverride, ActFigure,
	ActSheet, ActSkip}

// fieldsOf lists the body fields an act takes; others are refused.
var FieldsOf = map[Act][]string{
	ActOutcome: {"outcome", "value", "minutes", "photo", "note"},
	ActRemoved: {"outcome", "name", "faces", "tray", "mark", "value", "damage", "bolts", "shaft", "behind",
		"photo", "note"},
	ActVerdict:     {"outcome", "reason", "photo", "work", "wear", "instrument"},
	ActFitted:      {"outcome", "reason", "note"},
	ActReading:     {"value", "outcome", "figure", "instrument", "note"},
	ActFit:         {"pack", "note"},
	ActAgain:       {"reason"},
	ActReckon:      {},
	ActAccept:      {"reason"},
	ActTorqued:     {"pass", "bolt", "value", "note"},
	ActFilled:      {"outcome", "value", "note"},
	ActStart:       {"outcome"},
	ActEnd:         {"reason"},
	ActDecision:    {"outcome", "reason", "chain"},
	ActWays:        {"figure", "reason"},
	ActAgreed:      {"name", "sum", "note"},
	ActAcknowledge: {},
	ActPhoto:       {"photo", "reason", "note"},
	ActOverride:    {"reason"},
	ActFigure:      {"figure", "origin", "note"},
	ActSheet:       {"note"},
	ActSkip:        {"reason"},
	ActNote:        {"note", "photo"},
	ActFound:       {"note", "outcome", "settled", "photo"},
	ActStrike:      {"reason"},
	ActTime:        {"minutes", "note"},
	ActPromised:    {"due", "reason", "note"},
	ActWanted:      {"lines", "note"},
	ActOrdered:     {"lines", "supplier", "due", "note"},
	ActCame:        {"lines", "photo", "note"},
}

// ActFields are the fields of a body that an act takes.
func ActFields(a Act) []string { return slices.Clone(FieldsOf[a]) }

// Acts are all there are, in the order of their names.
func Acts() []Act { return slices.Sorted(maps.Keys(FieldsOf)) }

// Propose runs a draft through the rules of the record. It changes nothing.
// Bad fields come back as fault.Fields, rules that say no as Refusal.
func Propose(l Ledger, stepID string, draft Draft, by people.Person, now time.Time) (Proposal, error) {
	entry, moves, err := Try(l, stepID, draft, by, now)
	if err != nil {
		return Proposal{}, err
	}
	return Proposal{entry, moves, l.With(entry)}, nil
}

// ask gives the entry that a draft would make.
func Try(l Ledger, stepID string, draft Draft, by people.Person, now time.Time) (Entry, []Move, error) {
	step, ok := l.Plan.Step(stepID)
	if !ok {
		return Entry{}, nil, say.Refuse(say.NotFound, say.NoSuchStep, stepID)
	}
	p := &Attempt{Ledger: l, State: l.State(), Step: step, Draft: draft, by: by, Now: l.notBefore(now)}
	for _, rule := range []func() error{p.role, p.fields, p.target, p.gate, p.notSkipped, p.care, p.figuresKnown,
		p.act, p.placeFree} {
		if err := rule(); err != nil {
			return Entry{}, nil, err
		}
	}
	entry, err := p.entry()
	return entry, p.Moves, err
}

// fields: the act exists here and takes the fields given.
func (p *Attempt) fields() error {
	acts := p.Step.Acts()
	if !slices.Contains(acts, p.Draft.Act) {
		return input.At("act", joinActs(acts), "%q is not done at this step", p.Draft.Act)
	}
	var faults input.Fields
	allowed := FieldsOf[p.Draft.Act]
	for _, f := range p.Draft.Given() {
		if !slices.Contains(allowed, f.Name) {
			faults.Add(f.Name, strings.Join(allowed, ", "), "does not belong to %q", p.Draft.Act)
		}
		if text.Length(f.Text) > say.MaxText {
			faults.Add(f.Name, "up to 2000 characters", "the text is too long")
		}
	}
	if p.Draft.Spent < 0 || p.Draft.Spent > MostMinutes*60 {
		faults.Add("spent", "0 to 86400 seconds", "%d cannot be", p.Draft.Spent)
	}
	if text.Length(p.Draft.Item.String()) > 80 {
		faults.Add("item", "up to 80 characters", "the name is too long")
	}
	return faults.Err()
}

// target: what is corrected or struck is a live entry of this step.
func (p *Attempt) target() error {
	if p.Draft.Supersedes == "" {
		if p.Draft.Act == ActStrike {
			return input.At("supersedes", "the id of the entry to strike", "missing")
		}
		return nil
	}
	i := slices.IndexFunc(p.Ledger.Entries, func(e Entry) bool { return e.ID == p.Draft.Supersedes })
	if i < 0 || p.Ledger.Entries[i].Step != p.Step.ID {
		return input.At("supersedes", "an entry of this step", "there is no such entry here")
	}
	old := p.Ledger.Entries[i]
	if by, gone := p.State.supersededBy(int32(i)); gone {
		return say.Refuse(say.Conflict, say.AlreadyCorrected, by.By.Name)
	}
	if old.Act == ActStrike {
		return input.At("supersedes", "an entry that is not a strike", "a struck entry stays struck; make a new one")
	}
	if p.Draft.Act != ActStrike && p.Draft.Act != old.Act {
		return input.At("act", string(old.Act), "a correction does what the corrected entry did")
	}
	p.Old = &old
	if asked := old.Item.Ask(); p.Draft.Act == ActStrike || p.Draft.Item == (Place{}) ||
		(asked != "" && p.Draft.Item == Place{Name: asked}) {
		p.Draft.Item = old.Item
	}
	if p.Draft.Item != old.Item {
		return input.At("item", old.Item.String(), "a correction stays at its place")
	}
	return nil
}

// gate: steps before it are done, and the rebuild is not closed.
func (p *Attempt) gate() error {
	if p.Draft.Act == ActNote {
		return nil
	}
	if p.Ledger.Rebuild.Place.Closed && (p.Old == nil || p.Step.Role != string(people.Lead)) {
		return say.Refuse(say.Conflict, say.SignedOff)
	}
	if ofTheRebuild(p.Draft.Act) {
		return nil
	}
	blocked := p.State.blockedBy(p.Step)
	if p.Draft.Act == ActOverride {
		if len(blocked) == 0 {
			return say.Refuse(say.Conflict, say.NoGateClosed)
		}
		return p.WantReason("why the step cannot wait")
	}
	if len(blocked) > 0 && p.Draft.Act != ActFigure &&
		p.Draft.Act != ActSheet { // what a book says can be looked up at any time
		return say.Refuse(say.GateClosed, say.HasToWait, p.Step.Title, p.State.Titles(blocked))
	}
	return nil
}

// care: grave cautions are acknowledged before the hand moves.
func (p *Attempt) care() error {
	switch {
	case saidAnywhere(p.Draft.Act), p.Draft.Act == ActSkip:
		return nil
	case p.Draft.Act == ActAcknowledge:
		if all := p.Step.AllCautions(); !slices.Contains(all, p.Draft.Item.String()) {
			return input.At("item", strings.Join(all, ", "), "%q is not a caution of this step", p.Draft.Item.String())
		}
		return nil
	}
	if p.Step.Rules.Hazards {
		return nil
	}
	open := p.State.Unacknowledged(p.Step, true)
	if i := slices.IndexFunc(p.Step.Items, func(x book.Item) bool { return ReadPlace(x.ID) == p.Draft.Item }); i >= 0 &&
		p.Draft.Act == ActOutcome {
		open = append(open, p.State.unread(p.Step, p.Step.Items[i].Cautions, true)...)
	}
	if len(open) > 0 {
		return say.Refuse(say.GateClosed, say.ReadFirst, p.State.cautionTitles(open))
	}
	return nil
}

// act: the rules of the kind.
func (p *Attempt) act() error {
	switch p.Draft.Act {
	case ActNote:
		if strings.TrimSpace(p.Draft.Note) == "" && p.Draft.Photo == "" {
			return input.At("note", "a text", "nothing was written")
		}
		p.Draft.Item = Place{} // notes take no place
		return p.photoKnown()
	case ActOverride, ActAcknowledge:
		return nil
	case ActFound:
		return p.acceptFound()
	case ActTime:
		return p.acceptTime()
	case ActPromised:
		return p.acceptPromised()
	case ActSkip:
		return p.acceptSkip()
	case ActFigure:
		return p.acceptFigure()
	case ActSheet:
		return p.acceptSheet()
	case ActStrike:
		if p.Step.Rules.Strike != nil && p.Old.Act != ActSkip {
			return p.Step.Rules.Strike(p)
		}
		return nil
	}
	if err := p.photoKnown(); err != nil {
		return err
	}
	return p.Step.Rules.Accept(p)
}

// placeless are the acts of which there may be many at a step.
var placeless = []Act{ActNote, ActFound, ActPromised, ActSheet, ActWays, ActWanted, ActOrdered, ActCame}

// placeFree: one live entry holds a place; to change it, it is corrected.
func (p *Attempt) placeFree() error {
	if p.Old != nil || slices.Contains(placeless, p.Draft.Act) {
		return nil
	}
	if e, taken := p.State.At(p.Step).Has(p.Draft.Act, p.Draft.Item); taken {
		return say.Refuse(say.Conflict, say.PlaceTaken, e.By.Name, say.Moment(e.At, p.State.Zone))
	}
	return nil
}

func (p *Attempt) photoKnown() error {
	if p.Draft.Photo == "" {
		return nil
	}
	hash, err := p.Ledger.Photo(p.Draft.Photo)
	if err != nil {
		return err
	}
	p.Draft.PhotoHash = hash
	if hash == "" {
		return input.At("photo", "a picture taken for this rebuild", "there is no such picture")
	}
	return nil
}

// reason asks for a reason in words.
func (p *Attempt) WantReason(what string) error {
	if strings.TrimSpace(p.Draft.Reason) == "" {
		return input.At("reason", what, "a reason is needed")
	}
	return nil
}

// entry writes the draft down and chains it to the record.
func (p *Attempt) entry() (Entry, error) {
	p.Draft.Typed = p.Draft.Value.Typed
	body, err := json.Marshal(p.Draft.Body)
	if err != nil {
		return Entry{}, err
	}
	head := p.Ledger.Rebuild.Head
	e := Entry{
		ID: say.NewID(), Seq: head.Seq + 1, Step: p.Step.ID, Act: p.Draft.Act, Item: p.Draft.Item,
		Supersedes: p.Draft.Supersedes, Body: body, Result: p.Result, Method: p.Method, Verdict: p.Verdict,
		By: p.by, At: p.Now,
	}
	e.Hash = e.Chain(head.Hash)
	return e, nil
}

func joinActs(acts []Act) string {
	words := make([]string, len(acts))
	for i, a := range acts {
		words[i] = string(a)
	}
	return strings.Join(words, ", ")
}

// needs asks the kind, and in every kind the grave cautions.
func (s *State) Needs(step *Step) Need {
	known := &s.needed[step.At]
	if needs := known.Load(); needs != nil {
		return *needs
	}
	needs := s.askNeeds(step)
	known.Store(&needs)
	return needs
}

func (s *State) askNeeds(step *Step) Need {
	if s.IsSkipped(step) {
		return Need{}
	}
	if !step.Rules.Hazards {
		if open := s.Unacknowledged(step, true); len(open) > 0 {
			return Need{What: Acknowledged, Names: open}
		}
	}
	if missing := s.waitsFor(step); len(missing) > 0 {
		return Need{What: SheetFigures, Count: len(missing), Names: missing}
	}
	return step.Rules.Needs(s, step)
}

// unacknowledged lists the cautions of a step that nobody acknowledged yet;
// those of a line are asked for there.
func (s *State) Unacknowledged(step *Step, graveOnly bool) []string {
	return s.unread(step, step.Cautions, graveOnly)
}

// unread are those of some cautions that nobody acknowledged at a step yet.
func (s *State) unread(step *Step, cautions []string, graveOnly bool) []string {
	var open []string
	for _, id := range cautions {
		c, _ := s.Plan.Caution(id)
		if graveOnly && !c.Grave {
			continue
		}
		if _, ok := s.At(step).Has(ActAcknowledge, ReadPlace(id)); !ok {
			open = append(open, id)
		}
	}
	return open
}

// Acts lists what may be done at a step, by whoever may and once it is open.
func (s *Step) Acts() []Act { return slices.Concat(s.Rules.Takes, everywhere) }

func (p *Attempt) WantValue(want quantity.Dimension) error {
	if !p.Draft.Value.IsSaid() {
		return input.At("value", "a "+string(want), "missing")
	}
	if p.Draft.Value.Dimension() != want {
		return input.At("value", "a "+string(want), "%s is a %s", p.Draft.Value, p.Draft.Value.Dimension())
	}
	return nil
}

// outcomeAmong: an id may be a name from the spec sheet, with any sign in it.
func (p *Attempt) WantOutcome(ids ...string) error {
	if !slices.Contains(ids, p.Draft.Outcome) {
		return input.At("outcome", strings.Join(ids, ", "), "%q is not one of the outcomes", p.Draft.Outcome)
	}
	return nil
}

// computed keeps a result with its method.
func (p *Attempt) KeepResult(method string, result any) error {
	raw, err := json.Marshal(result)
	if err != nil {
		return fmt.Errorf("%s: result cannot be written: %w", method, err)
	}
	p.Result, p.Method = raw, method
	return nil
}
