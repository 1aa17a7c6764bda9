// Package buying works out what has to be bought and what a rebuild costs: the
// parts list, the ways to buy it, when the last of it is here, the day to promise.
package buying

import (
	"cmp"
	"slices"
	"strings"

	"handwerk/core/quantity"
	"handwerk/core/supply"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/record"
)

// The words for a line.
const (
	WantedAfterAll = "wanted"
	NotNeeded      = "not-needed"
	Fits           = "fits"
	MadeToFit      = "rework"
	SentBack       = "back"
	DepositBack    = "deposit-back"

	KindPart     = "part"
	KindSentOut  = "sent-out"
	KindExchange = "exchange"

	OwnPrefix = "own-"
	KitPrefix = "kit."

	WaySingles   = "singles"
	NothingComes = "nothing"
)

// LineState is where a line stands.
type LineState string

// The states of a line.
const (
	LineToOrder   LineState = "to-order"
	LineOrdered   LineState = "ordered"
	LineHere      LineState = "here"
	LineFitted    LineState = "fitted"
	LineBack      LineState = "back" // sent back: to be ordered again
	LineNotNeeded LineState = "not-needed"
)

// stateTitles say a state, of what is bought and of what is sent out.
var stateTitles = map[LineState][2]string{
	LineToOrder: {"to order", "to send"}, LineOrdered: {"ordered", "away"}, LineHere: {"here", "back here"},
	LineFitted: {"fitted", "fitted"}, LineBack: {"sent back", "sent back"}, LineNotNeeded: {"not needed", "not needed"},
}

// ListPart is a line with all that was said of it.
type ListPart struct {
	acts.OrderLine
	Why     string
	Unit    string // id of the part in its stack
	Fitted  bool
	State   LineState
	Due     string
	settled bool // the old one of an exchange went back
	Dropped bool
	Asked   bool // the verdicts or somebody ask for it still
	Offer   *supply.Single
	Packs   string // as it is sold, where no offer tells
}

// IsOpen tells what is to be ordered.
func (p *ListPart) IsOpen() bool { return p.State == LineToOrder || p.State == LineBack }

// IsAwaited tells what is ordered and not here.
func (p *ListPart) IsAwaited() bool { return p.State == LineOrdered }

// PartsList is the list as far as it is known without asking what it costs.
type PartsList struct {
	Lines   []*ListPart
	way     string // ids of kits that were chosen; empty when nobody chose
	chosen  bool
	Nothing bool // somebody said that nothing has to come
}

// Line finds one by its id; nil where there is none.
func (l *PartsList) Line(id string) *ListPart {
	if i := slices.IndexFunc(l.Lines, func(p *ListPart) bool { return p.Line == id }); i >= 0 {
		return l.Lines[i]
	}
	return nil
}

// PartsOf folds the list of an order step.
func PartsOf(s *record.State, step *record.Step) *PartsList {
	l := &PartsList{}
	for _, other := range s.Plan.Steps[:step.At] {
		if other.Rules.Buys == nil || s.IsSkipped(other) { // nothing comes for what is not touched
			continue
		}
		list, _ := other.Rules.Buys(s, other)
		for _, b := range list {
			l.want(b)
		}
	}
	for _, e := range inOrder(s, step) {
		l.hear(e)
	}
	for _, p := range l.Lines {
		p.settle()
	}
	return l
}

// want puts what a step asks for on the list.
func (l *PartsList) want(b record.ToBuy) {
	same := func(p *ListPart) bool { return p.Asked && strings.EqualFold(p.Name, b.Name) }
	if b.ByName && slices.ContainsFunc(l.Lines, same) {
		return
	}
	line := acts.OrderLine{Line: b.Line, Name: b.Name, Pieces: quantity.Count(b.Pieces)}
	l.Lines = append(l.Lines, &ListPart{OrderLine: line, Why: b.Why, Unit: b.Part, Asked: b.Asked, Fitted: b.Fitted})
}

// inOrder are the live entries of a step by when each was first said: a
// correction stands where the entry it corrects stood.
func inOrder(s *record.State, step *record.Step) []*record.Entry {
	type said struct {
		first int
		e     *record.Entry
	}
	var all []said
	st := s.At(step)
	for e := range st.Each(st.Live) {
		all = append(all, said{stack.FirstSaid(s, *e).Seq, e})
	}
	slices.SortFunc(all, func(a, b said) int { return a.first - b.first })
	list := make([]*record.Entry, len(all))
	for i, x := range all {
		list[i] = x.e
	}
	return list
}

// hear takes in what an entry says of the list.
func (l *PartsList) hear(e *record.Entry) {
	switch said := e.ReadAct().(type) {
	case *acts.Decision:
		l.Nothing, l.chosen = said.Outcome == NothingComes, said.Outcome != NothingComes
		if l.way = said.Outcome; said.Outcome == WaySingles || l.Nothing {
			l.way = ""
		}
		for _, o := range said.Lines { // that stood open when nothing had to come
			if p := l.Line(o.Line); p != nil {
				p.want(o)
			}
		}
	case *acts.Wanted:
		l.each(said.Lines, true, (*ListPart).want)
	case *acts.Ordered:
		l.each(said.Lines, false, func(p *ListPart, o acts.OrderLine) {
			o.Supplier = cmp.Or(o.Supplier, said.Supplier)
			p.know(o)
			p.State, p.Due, p.Compared, p.Reason, p.Sent = LineOrdered, said.Due, nil, "", o.Sent
		})
	case *acts.Came:
		l.each(said.Lines, false, (*ListPart).came)
	}
}

// each hears lines one by one; what is wanted for the first time is a new one.
func (l *PartsList) each(lines []acts.OrderLine, wanted bool, hear func(*ListPart, acts.OrderLine)) {
	for _, o := range lines {
		p := l.Line(o.Line)
		if p == nil {
			p = &ListPart{OrderLine: o, Asked: wanted && strings.HasPrefix(o.Line, OwnPrefix), Why: o.Reason}
			l.Lines = append(l.Lines, p)
		}
		hear(p, o)
	}
}

// know takes what is said of a line, whatever comes of it.
func (p *ListPart) know(o acts.OrderLine) {
	p.Name, p.Pieces, p.Supplier = cmp.Or(o.Name, p.Name), cmp.Or(o.Pieces, p.Pieces), cmp.Or(o.Supplier, p.Supplier)
	p.Price, p.Lead = cmp.Or(o.Price, p.Price), cmp.Or(o.Lead, p.Lead)
}

// want hears that a line is wanted, or not; what is only known better stays as it was.
func (p *ListPart) want(o acts.OrderLine) {
	p.know(o)
	switch o.Outcome {
	case NotNeeded:
		p.Dropped, p.Reason = true, o.Reason
	case WantedAfterAll:
		p.Dropped, p.Asked = false, true
	}
}

func (p *ListPart) came(said acts.OrderLine) {
	p.know(said)
	p.Outcome, p.Reason = said.Outcome, said.Reason
	switch said.Outcome {
	case DepositBack:
		p.settled = true
		return
	case SentBack:
		p.State = LineBack
	default:
		p.State = LineHere
	}
	p.Compared, p.ToDrawer = said.Compared, said.ToDrawer
}

// settle gives a line its state when all was heard.
func (p *ListPart) settle() {
	switch {
	case p.State == "" && p.Dropped:
		p.State = LineNotNeeded
	case p.State == "" && p.Asked:
		p.State = LineToOrder
	case p.State == LineBack && (p.Dropped || !p.Asked):
		p.State = LineNotNeeded
	case p.State == LineHere && p.Fitted:
		p.State = LineFitted
	}
	if p.Kind == "" {
		p.Kind = KindPart
	}
}

// StateWords say where a line stands.
func (p *ListPart) StateWords() string {
	words := stateTitles[p.State]
	said := words[0]
	if p.Kind == KindSentOut {
		said = words[1]
	}
	switch {
	case p.State == LineHere && p.Outcome == MadeToFit:
		return said + ", reworked to fit"
	case p.OldToGoBack():
		return said + ", old unit still to go back"
	case p.State == LineHere && len(p.Compared) > 0:
		return said + ", compared"
	}
	return said
}

// OldToGoBack says whether an exchange unit is here and its old one has not gone back for the deposit.
func (p *ListPart) OldToGoBack() bool {
	return p.Kind == KindExchange && (p.State == LineHere || p.State == LineFitted) && !p.settled
}

// Differs lists the interfaces that are not as they were.
func (p *ListPart) Differs() (list []acts.Compared) {
	for _, c := range p.Compared {
		if !c.Same {
			list = append(list, c)
		}
	}
	return list
}
