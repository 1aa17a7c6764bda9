package workshop

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
)

// proposal is a draft on its way through the rules.
type proposal struct {
	ledger Ledger
	state  *State
	step   *Step
	draft  Draft
	by     Person
	now    time.Time
	old    *Entry // the entry it supersedes

	result  json.RawMessage
	method  string
	verdict metrology.Verdict
	moves   []Move
}

// everywhere are the acts that any step takes.
var everywhere = []Act{ActNote, ActFound, ActTime, ActPromised, ActStrike, ActAcknowledge, ActOverride, ActFigure, ActSheet, ActSkip}

// fieldsOf lists the body fields an act takes; others are refused.
var fieldsOf = map[Act][]string{
	ActOutcome:     {"outcome", "value", "minutes", "photo", "note"},
	ActRemoved:     {"outcome", "name", "faces", "tray", "mark", "value", "damage", "bolts", "shaft", "behind", "photo", "note"},
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
func ActFields(a Act) []string { return slices.Clone(fieldsOf[a]) }

// Acts are all there are, in the order of their names.
func Acts() []Act { return slices.Sorted(maps.Keys(fieldsOf)) }

// Propose runs a draft through the rules of the record. It changes nothing.
// Bad fields come back as fault.Fields, rules that say no as Refusal.
func Propose(l Ledger, stepID string, draft Draft, by Person, now time.Time) (Proposal, error) {
	entry, moves, err := ask(l, stepID, draft, by, now)
	if err != nil {
		return Proposal{}, err
	}
	return Proposal{entry, moves, l.With(entry)}, nil
}

// ask gives the entry that a draft would make.
func ask(l Ledger, stepID string, draft Draft, by Person, now time.Time) (Entry, []Move, error) {
	step, ok := l.Plan.Step(stepID)
	if !ok {
		return Entry{}, nil, refuse(NotFound, noSuchStep, stepID)
	}
	p := &proposal{ledger: l, state: l.State(), step: step, draft: draft, by: by, now: l.notBefore(now)}
	for _, rule := range []func() error{p.role, p.fields, p.target, p.gate, p.skipped, p.care, p.known, p.act, p.placeFree} {
		if err := rule(); err != nil {
			return Entry{}, nil, err
		}
	}
	entry, err := p.entry()
	return entry, p.moves, err
}

const maxText = 2000

// fields: the act exists here and takes the fields given.
func (p *proposal) fields() error {
	acts := p.step.Acts()
	if !slices.Contains(acts, p.draft.Act) {
		return input.At("act", joinActs(acts), "%q is not done at this step", p.draft.Act)
	}
	var faults input.Fields
	allowed := fieldsOf[p.draft.Act]
	for _, f := range p.draft.given() {
		if !slices.Contains(allowed, f.name) {
			faults.Add(f.name, strings.Join(allowed, ", "), "does not belong to %q", p.draft.Act)
		}
		if text.Length(f.text) > maxText {
			faults.Add(f.name, "up to 2000 characters", "the text is too long")
		}
	}
	if p.draft.Spent < 0 || p.draft.Spent > mostMinutes*60 {
		faults.Add("spent", "0 to 86400 seconds", "%d cannot be", p.draft.Spent)
	}
	if text.Length(p.draft.Item.String()) > 80 {
		faults.Add("item", "up to 80 characters", "the name is too long")
	}
	return faults.Err()
}

// target: what is corrected or struck is a live entry of this step.
func (p *proposal) target() error {
	if p.draft.Supersedes == "" {
		if p.draft.Act == ActStrike {
			return input.At("supersedes", "the id of the entry to strike", "missing")
		}
		return nil
	}
	i := slices.IndexFunc(p.ledger.Entries, func(e Entry) bool { return e.ID == p.draft.Supersedes })
	if i < 0 || p.ledger.Entries[i].Step != p.step.ID {
		return input.At("supersedes", "an entry of this step", "there is no such entry here")
	}
	old := p.ledger.Entries[i]
	if by, gone := p.state.supersededBy(int32(i)); gone {
		return refuse(Conflict, alreadyCorrected, by.By.Name)
	}
	if old.Act == ActStrike {
		return input.At("supersedes", "an entry that is not a strike", "a struck entry stays struck; make a new one")
	}
	if p.draft.Act != ActStrike && p.draft.Act != old.Act {
		return input.At("act", string(old.Act), "a correction does what the corrected entry did")
	}
	p.old = &old
	if asked := old.Item.ask(); p.draft.Act == ActStrike || p.draft.Item == (Place{}) || (asked != "" && p.draft.Item == Place{Name: asked}) {
		p.draft.Item = old.Item
	}
	if p.draft.Item != old.Item {
		return input.At("item", old.Item.String(), "a correction stays at its place")
	}
	return nil
}

// gate: steps before it are done, and the rebuild is not closed.
func (p *proposal) gate() error {
	if p.draft.Act == ActNote {
		return nil
	}
	if p.ledger.Rebuild.Place.Closed && (p.old == nil || p.step.Role != string(Lead)) {
		return refuse(Conflict, signedOff)
	}
	if ofTheRebuild(p.draft.Act) {
		return nil
	}
	blocked := p.state.blockedBy(p.step)
	if p.draft.Act == ActOverride {
		if len(blocked) == 0 {
			return refuse(Conflict, noGateClosed)
		}
		return p.reason("why the step cannot wait")
	}
	if len(blocked) > 0 && p.draft.Act != ActFigure && p.draft.Act != ActSheet { // what a book says can be looked up at any time
		return refuse(GateClosed, hasToWait, p.step.Title, p.state.titles(blocked))
	}
	return nil
}

// care: grave cautions are acknowledged before the hand moves.
func (p *proposal) care() error {
	switch {
	case saidAnywhere(p.draft.Act), p.draft.Act == ActSkip:
		return nil
	case p.draft.Act == ActAcknowledge:
		if all := p.step.AllCautions(); !slices.Contains(all, p.draft.Item.String()) {
			return input.At("item", strings.Join(all, ", "), "%q is not a caution of this step", p.draft.Item.String())
		}
		return nil
	}
	if p.step.kind.Hazards {
		return nil
	}
	open := p.state.unacknowledged(p.step, true)
	if i := slices.IndexFunc(p.step.Items, func(x book.Item) bool { return ReadPlace(x.ID) == p.draft.Item }); i >= 0 && p.draft.Act == ActOutcome {
		open = append(open, p.state.unread(p.step, p.step.Items[i].Cautions, true)...)
	}
	if len(open) > 0 {
		return refuse(GateClosed, readFirst, p.state.cautionTitles(open))
	}
	return nil
}

// act: the rules of the kind.
func (p *proposal) act() error {
	switch p.draft.Act {
	case ActNote:
		if strings.TrimSpace(p.draft.Note) == "" && p.draft.Photo == "" {
			return input.At("note", "a text", "nothing was written")
		}
		p.draft.Item = Place{} // notes take no place
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
		if p.step.kind.strike != nil && p.old.Act != ActSkip {
			return p.step.kind.strike(p)
		}
		return nil
	}
	if err := p.photoKnown(); err != nil {
		return err
	}
	return p.step.kind.accept(p)
}

// placeless are the acts of which there may be many at a step.
var placeless = []Act{ActNote, ActFound, ActPromised, ActSheet, ActWays, ActWanted, ActOrdered, ActCame}

// placeFree: one live entry holds a place; to change it, it is corrected.
func (p *proposal) placeFree() error {
	if p.old != nil || slices.Contains(placeless, p.draft.Act) {
		return nil
	}
	if e, taken := p.state.of(p.step).has(p.draft.Act, p.draft.Item); taken {
		return refuse(Conflict, placeTaken, e.By.Name, Moment(e.At, p.state.zone))
	}
	return nil
}

func (p *proposal) photoKnown() error {
	if p.draft.Photo == "" {
		return nil
	}
	hash, err := p.ledger.Photo(p.draft.Photo)
	if err != nil {
		return err
	}
	p.draft.PhotoHash = hash
	if hash == "" {
		return input.At("photo", "a picture taken for this rebuild", "there is no such picture")
	}
	return nil
}

// reason asks for a reason in words.
func (p *proposal) reason(what string) error {
	if strings.TrimSpace(p.draft.Reason) == "" {
		return input.At("reason", what, "a reason is needed")
	}
	return nil
}

// entry writes the draft down and chains it to the record.
func (p *proposal) entry() (Entry, error) {
	p.draft.Typed = p.draft.Value.Typed
	body, err := json.Marshal(p.draft.Body)
	if err != nil {
		return Entry{}, err
	}
	head := p.ledger.Rebuild.Head
	e := Entry{
		ID: NewID(), Seq: head.Seq + 1, Step: p.step.ID, Act: p.draft.Act, Item: p.draft.Item,
		Supersedes: p.draft.Supersedes, Body: body, Result: p.result, Method: p.method, Verdict: p.verdict,
		By: p.by, At: p.now,
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
func (s *State) needs(step *Step) Need {
	known := &s.needed[step.at]
	if needs := known.Load(); needs != nil {
		return *needs
	}
	needs := s.askNeeds(step)
	known.Store(&needs)
	return needs
}

func (s *State) askNeeds(step *Step) Need {
	if s.isSkipped(step) {
		return Need{}
	}
	if !step.kind.Hazards {
		if open := s.unacknowledged(step, true); len(open) > 0 {
			return Need{What: Acknowledged, Names: open}
		}
	}
	if missing := s.waitsFor(step); len(missing) > 0 {
		return Need{What: SheetFigures, Count: len(missing), Names: missing}
	}
	return step.kind.needs(s, step)
}

// unacknowledged lists the cautions of a step that nobody acknowledged yet;
// those of a line are asked for there.
func (s *State) unacknowledged(step *Step, graveOnly bool) []string {
	return s.unread(step, step.Cautions, graveOnly)
}

// unread are those of some cautions that nobody acknowledged at a step yet.
func (s *State) unread(step *Step, cautions []string, graveOnly bool) []string {
	var open []string
	for _, id := range cautions {
		c, _ := s.plan.Caution(id)
		if graveOnly && !c.Grave {
			continue
		}
		if _, ok := s.of(step).has(ActAcknowledge, ReadPlace(id)); !ok {
			open = append(open, id)
		}
	}
	return open
}

// Acts lists what may be done at a step, by whoever may and once it is open.
func (s *Step) Acts() []Act { return slices.Concat(s.kind.takes, everywhere) }

func (p *proposal) valueOf(want quantity.Dimension) error {
	if !p.draft.Value.IsSaid() {
		return input.At("value", "a "+string(want), "missing")
	}
	if p.draft.Value.Dimension() != want {
		return input.At("value", "a "+string(want), "%s is a %s", p.draft.Value, p.draft.Value.Dimension())
	}
	return nil
}

// outcomeAmong: an id may be a name from the spec sheet, with any sign in it.
func (p *proposal) outcomeAmong(ids ...string) error {
	if !slices.Contains(ids, p.draft.Outcome) {
		return input.At("outcome", strings.Join(ids, ", "), "%q is not one of the outcomes", p.draft.Outcome)
	}
	return nil
}

// computed keeps a result with its method.
func (p *proposal) computed(method string, result any) error {
	raw, err := json.Marshal(result)
	if err != nil {
		return fmt.Errorf("%s: result cannot be written: %w", method, err)
	}
	p.result, p.method = raw, method
	return nil
}
