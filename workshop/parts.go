package workshop

import (
	"cmp"
	"slices"
	"strings"

	"handwerk/core/supply"
)

// The parts list is worked out: from the verdicts, from what is renewed by
// rule, from the fluid that was chosen, and from what somebody put on it. The
// entries say what was ordered and what came; this file folds them.

// OrderLine is one line of the parts list as an entry says it.
type OrderLine struct {
	Line string `json:"line,omitempty"` // of the list; none for a new one
	Name string `json:"name,omitempty"`
	// What it is: a part, work that is sent out, or an exchange unit whose old
	// one goes back.
	Kind     string     `json:"kind,omitempty" enum:"part,sent-out,exchange"`
	Pieces   int        `json:"pieces,omitempty"`
	Supplier string     `json:"supplier,omitempty"`
	Price    *float64   `json:"price,omitempty"`     // of all its pieces, in the shop's currency
	Deposit  *float64   `json:"deposit,omitempty"`   // on the old one
	Lead     *int       `json:"lead_days,omitempty"` // from today
	Outcome  string     `json:"outcome,omitempty" enum:"wanted,not-needed,fits,rework,back,deposit-back"`
	Reason   string     `json:"reason,omitempty"`
	Compared []Compared `json:"compared,omitempty"`
	Sent     []Sent     `json:"sent,omitempty"`      // with work that is sent out
	ToDrawer *ToDrawer  `json:"to_drawer,omitempty"` // what is left over; set by us
}

// Compared is one interface, old against new, or what was agreed against what
// came back.
type Compared struct {
	What string `json:"what"`
	Old  string `json:"old"`
	New  string `json:"new"`
	Same bool   `json:"same,omitempty"` // set by us
}

// Sent is what was read of something that goes out, and what was agreed for it.
type Sent struct {
	What   string `json:"what"` // bore, thickness
	Reads  string `json:"reads,omitempty"`
	Agreed string `json:"agreed,omitempty"`
}

// ToDrawer is what goes to a drawer of the shop.
type ToDrawer struct {
	Drawer string `json:"drawer"`
	Size   string `json:"size"`
	Pieces int    `json:"pieces"`
}

// The words for a line.
const (
	lineWanted      = "wanted"
	lineNotNeeded   = "not-needed"
	lineFits        = "fits"
	lineRework      = "rework"
	lineBack        = "back"
	lineDepositBack = "deposit-back"

	kindPart     = "part"
	kindSentOut  = "sent-out"
	kindExchange = "exchange"

	ownPrefix = "own-"
	kitPrefix = "kit."

	waySingles = "singles"
	nothing    = "nothing"
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

// part is a line with all that was said of it.
type part struct {
	OrderLine
	why     string
	unit    string // id of the part in its stack
	fitted  bool
	state   LineState
	due     string
	settled bool // the old one of an exchange went back
	dropped bool
	asked   bool // the verdicts or somebody ask for it still
	offer   *supply.Single
	packs   string // as it is sold, where no offer tells
}

// to order, or ordered and not here.
func (p *part) isOpen() bool    { return p.state == LineToOrder || p.state == LineBack }
func (p *part) isAwaited() bool { return p.state == LineOrdered }

// partsList is the list as far as it is known without asking what it costs.
type partsList struct {
	lines   []*part
	way     string // ids of kits that were chosen; empty when nobody chose
	chosen  bool
	nothing bool // somebody said that nothing has to come
}

func (l *partsList) line(id string) *part {
	if i := slices.IndexFunc(l.lines, func(p *part) bool { return p.Line == id }); i >= 0 {
		return l.lines[i]
	}
	return nil
}

// partsOf folds the list of an order step.
func (s *State) partsOf(step *Step) *partsList {
	l := &partsList{}
	for _, other := range s.plan.Steps[:step.at] {
		if other.kind.buys == nil || s.isSkipped(other) { // nothing comes for what is not touched
			continue
		}
		list, _ := other.kind.buys(s, other)
		for _, b := range list {
			l.want(b)
		}
	}
	for _, e := range s.inOrder(step) {
		l.hear(e)
	}
	for _, p := range l.lines {
		p.settle()
	}
	return l
}

// want puts what a step asks for on the list.
func (l *partsList) want(b ToBuy) {
	same := func(p *part) bool { return p.asked && strings.EqualFold(p.Name, b.Name) }
	if b.ByName && slices.ContainsFunc(l.lines, same) {
		return
	}
	line := OrderLine{Line: b.Line, Name: b.Name, Pieces: b.Pieces}
	l.lines = append(l.lines, &part{OrderLine: line, why: b.Why, unit: b.Part, asked: b.Asked, fitted: b.Fitted})
}

// inOrder are the live entries of a step by when each was first said: a
// correction stands where the entry it corrects stood.
func (s *State) inOrder(step *Step) []*Entry {
	type said struct {
		first int
		e     *Entry
	}
	var all []said
	st := s.of(step)
	for e := range st.each(st.live) {
		all = append(all, said{s.firstSaid(*e).Seq, e})
	}
	slices.SortFunc(all, func(a, b said) int { return a.first - b.first })
	list := make([]*Entry, len(all))
	for i, x := range all {
		list[i] = x.e
	}
	return list
}

// hear takes in what an entry says of the list.
func (l *partsList) hear(e *Entry) {
	b := e.Said()
	switch e.Act {
	case ActDecision:
		l.nothing, l.chosen = b.Outcome == nothing, b.Outcome != nothing
		if l.way = b.Outcome; b.Outcome == waySingles || l.nothing {
			l.way = ""
		}
		for _, said := range b.Lines { // that stood open when nothing had to come
			if p := l.line(said.Line); p != nil {
				p.hear(ActWanted, said, "")
			}
		}
		return
	case ActWanted, ActOrdered, ActCame:
	default:
		return
	}
	for _, said := range b.Lines {
		p := l.line(said.Line)
		if p == nil {
			p = &part{OrderLine: said, asked: e.Act == ActWanted && strings.HasPrefix(said.Line, ownPrefix)}
			p.why = said.Reason
			l.lines = append(l.lines, p)
		}
		said.Supplier = cmp.Or(said.Supplier, b.Supplier)
		p.hear(e.Act, said, b.Due)
	}
}

func (p *part) hear(act Act, said OrderLine, due string) {
	p.Name, p.Pieces, p.Supplier = cmp.Or(said.Name, p.Name), cmp.Or(said.Pieces, p.Pieces), cmp.Or(said.Supplier, p.Supplier)
	if said.Price != nil {
		p.Price = said.Price
	}
	if said.Lead != nil {
		p.Lead = said.Lead
	}
	switch act {
	case ActWanted:
		switch said.Outcome { // what is only known better stays as it was
		case lineNotNeeded:
			p.dropped, p.Reason = true, said.Reason
		case lineWanted:
			p.dropped, p.asked = false, true
		}
	case ActOrdered:
		p.state, p.due, p.Compared, p.Reason, p.Sent = LineOrdered, due, nil, "", said.Sent
	case ActCame:
		p.came(said)
	}
}

func (p *part) came(said OrderLine) {
	p.Outcome, p.Reason = said.Outcome, said.Reason
	switch said.Outcome {
	case lineDepositBack:
		p.settled = true
		return
	case lineBack:
		p.state = LineBack
	default:
		p.state = LineHere
	}
	p.Compared, p.ToDrawer = said.Compared, said.ToDrawer
}

// settle gives a line its state when all was heard.
func (p *part) settle() {
	switch {
	case p.state == "" && p.dropped:
		p.state = LineNotNeeded
	case p.state == "" && p.asked:
		p.state = LineToOrder
	case p.state == LineBack && (p.dropped || !p.asked):
		p.state = LineNotNeeded
	case p.state == LineHere && p.fitted:
		p.state = LineFitted
	}
	if p.Kind == "" {
		p.Kind = kindPart
	}
}

func (p *part) stateWords() string {
	words := stateTitles[p.state]
	said := words[0]
	if p.Kind == kindSentOut {
		said = words[1]
	}
	switch {
	case p.state == LineHere && p.Outcome == lineRework:
		return said + ", made to fit"
	case p.Kind == kindExchange && (p.state == LineHere || p.state == LineFitted) && !p.settled:
		return said + ", the old one to go back"
	case p.state == LineHere && len(p.Compared) > 0:
		return said + ", compared"
	}
	return said
}

// differs lists the interfaces that are not as they were.
func (p *part) differs() (list []Compared) {
	for _, c := range p.Compared {
		if !c.Same {
			list = append(list, c)
		}
	}
	return list
}
