package workshop

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/shim"
	"handwerk/core/supply"
)

// What an order step takes, and what it means.

const (
	mostOrderLines = 300
	mostCompared   = 20
)

// mostSaid are the characters of a short text.
const mostSaid = 120

// mostAhead are the days that something may be promised ahead.
const mostAhead = 730

func acceptOrder(p *proposal) error {
	p.draft.Item = Place{}
	l := p.state.partsOf(p.step)
	c := p.state.covers(l)
	if p.draft.Act == ActDecision {
		ids := []string{waySingles, nothing}
		for _, w := range c.ways {
			if w.ID != "" {
				ids = append(ids, w.ID)
			}
		}
		if err := p.outcomeAmong(ids...); err != nil {
			return err
		}
		if p.draft.Outcome == nothing {
			if err := p.nothingComes(l); err != nil {
				return err
			}
		}
		return p.keepWeighed()
	}
	var faults input.Fields
	if n := len(p.draft.Lines); n == 0 || n > mostOrderLines {
		faults.Add("lines", fmt.Sprintf("one to %d lines", mostOrderLines), "%d of them", n)
		return faults.Err()
	}
	seen := map[string]bool{}
	for i := range p.draft.Lines {
		at, line := input.Index("lines", i), &p.draft.Lines[i]
		if line.Line != "" && seen[line.Line] {
			faults.Add(at+".line", "each line once", "%q stands twice", line.Line)
		}
		seen[line.Line] = true
		line.plain(&faults, at)
		if len(line.Sent) > 0 && p.draft.Act != ActOrdered {
			faults.Add(at+".sent", "nothing, until it goes out", "nothing is sent out with %q", p.draft.Act)
		}
		switch known := c.line(line.Line); {
		case known == nil && (p.draft.Act != ActWanted || line.Line != ""):
			faults.Add(at+".line", "a line of the list", "%q is none", line.Line)
		case p.draft.Act == ActWanted:
			p.wanted(&faults, at, line, known)
		case p.draft.Act == ActOrdered:
			p.ordered(&faults, at, line, known)
		default:
			p.cameIn(&faults, at, line, known, c)
		}
	}
	if p.draft.Act == ActOrdered {
		p.orderedWhen(&faults)
	}
	return faults.Err()
}

// nothingComes: what stands open now need not come, and says why; what is asked
// for afterwards is asked for.
func (p *proposal) nothingComes(l *partsList) error {
	var before []OrderLine
	if p.old != nil {
		before = p.old.Said().Lines // the entry it corrects left these away
	}
	for _, x := range l.lines {
		left := slices.ContainsFunc(before, func(o OrderLine) bool { return o.Line == x.Line })
		if (x.isOpen() || left) && !strings.HasPrefix(x.Line, kitPrefix) {
			p.draft.Lines = append(p.draft.Lines, OrderLine{Line: x.Line, Outcome: lineNotNeeded, Reason: p.draft.Reason})
		}
	}
	if len(p.draft.Lines) == 0 {
		return nil
	}
	return p.reason("why what is on the list need not come")
}

// plain checks the texts and figures that any line may have.
func (o *OrderLine) plain(faults *input.Fields, at string) {
	for _, t := range []struct {
		name string
		text *string
	}{{"name", &o.Name}, {"supplier", &o.Supplier}, {"reason", &o.Reason}} {
		if *t.text = strings.TrimSpace(*t.text); utf8.RuneCountInString(*t.text) > mostSaid {
			faults.Add(at+"."+t.name, fmt.Sprintf("up to %d characters", mostSaid), "the text is too long")
		}
	}
	if o.Pieces < 0 || o.Pieces > 1000 {
		faults.Add(at+".pieces", "1 to 1000", "%d cannot be", o.Pieces)
	}
	for name, money := range map[string]*float64{"price": o.Price, "deposit": o.Deposit} {
		if money != nil && (!(*money >= 0) || *money > mostMoney) {
			faults.Add(at+"."+name, "a sum of money from 0", "%g is none", *money)
		}
	}
	if o.Lead != nil && (*o.Lead < 0 || *o.Lead > mostAhead) {
		faults.Add(at+".lead_days", "0 to 730 days from today", "%d days cannot be waited for", *o.Lead)
	}
	o.ToDrawer = nil
}

// wanted: a line is put on the list, known better, or not needed.
func (p *proposal) wanted(faults *input.Fields, at string, o *OrderLine, known *part) {
	if !slices.Contains([]string{"", kindPart, kindSentOut, kindExchange}, o.Kind) {
		faults.Add(at+".kind", "part, sent-out, exchange", "%q is none", o.Kind)
	}
	if !slices.Contains([]string{"", lineWanted, lineNotNeeded}, o.Outcome) {
		faults.Add(at+".outcome", "wanted, not-needed", "%q is neither", o.Outcome)
	}
	if o.Outcome == lineNotNeeded && o.Reason == "" {
		faults.Add(at+".reason", "why it need not come", "a reason is needed")
	}
	if known == nil {
		if o.Name == "" {
			faults.Add(at+".name", "what it is", "a new line needs a name")
		}
		o.Line = ownPrefix + itoa(p.ownLines()+1)
		return
	}
	if o.Kind != "" && o.Kind != known.Kind {
		faults.Add(at+".kind", known.Kind, "a line stays what it is")
	}
	o.Kind = ""
}

// ownLines counts the lines somebody put on the list so far, struck ones too: a
// number is given once.
func (p *proposal) ownLines() (n int) {
	count := func(lines []OrderLine) {
		for _, o := range lines {
			if digits, own := strings.CutPrefix(o.Line, ownPrefix); own {
				n = max(n, counted(digits, ""))
			}
		}
	}
	for _, i := range p.state.of(p.step).all {
		if e := p.state.entries[i]; e.Act == ActWanted {
			count(e.Said().Lines)
		}
	}
	count(p.draft.Lines)
	return n
}

func (p *proposal) ordered(faults *input.Fields, at string, o *OrderLine, known *part) {
	if p.old == nil && !known.isOpen() {
		faults.Add(at+".line", "a line that is to be ordered", "%s is %s", known.Name, cmp.Or(known.stateWords(), "not asked for"))
	}
	if o.Outcome != "" || len(o.Compared) > 0 {
		faults.Add(at+".outcome", "nothing", "an order has no outcome yet")
	}
	if len(o.Sent) > 0 && known.Kind != kindSentOut {
		faults.Add(at+".sent", "nothing, unless it is sent out", "%s is bought", known.Name)
	}
	if len(o.Sent) > mostCompared {
		faults.Add(at+".sent", fmt.Sprintf("up to %d readings", mostCompared), "%d of them", len(o.Sent))
	}
	for i := range o.Sent {
		x, here := &o.Sent[i], input.Index(at+".sent", i)
		x.What = oneLine(faults, here+".what", x.What, 1, mostSaid)
		x.Reads = oneLine(faults, here+".reads", x.Reads, 0, mostSaid)
		x.Agreed = oneLine(faults, here+".agreed", x.Agreed, 0, mostSaid)
		if x.Reads+x.Agreed == "" {
			faults.Add(here+".reads", "what it measures as it goes, or what was agreed", "neither was said")
		}
	}
}

func (p *proposal) orderedWhen(faults *input.Fields) {
	if p.draft.Supplier = strings.TrimSpace(p.draft.Supplier); p.draft.Supplier == "" || utf8.RuneCountInString(p.draft.Supplier) > mostSaid {
		faults.Add("supplier", "who sends it", "nobody is named, or it is too long")
	}
	if p.draft.Due != "" {
		p.dayAhead(faults)
	}
}

// dayAhead: something is promised for a day to come.
func (p *proposal) dayAhead(faults *input.Fields) {
	today := dayOf(p.now, p.state.zone)
	switch _, err := time.Parse(time.DateOnly, p.draft.Due); {
	case err != nil:
		faults.Add("due", "a day like 2026-11-27", "%q is not a day", p.draft.Due)
	case p.draft.Due < today && p.old == nil:
		faults.Add("due", "a day from today on", "%s is over", p.draft.Due)
	case daysBetween(today, p.draft.Due) > mostAhead:
		faults.Add("due", "within two years", "%s is too far ahead", p.draft.Due)
	}
}

// cameIn: a line came in and was held against the old, or its deposit came back.
func (p *proposal) cameIn(faults *input.Fields, at string, o *OrderLine, known *part, c *covered) {
	if len(o.Compared) > mostCompared {
		faults.Add(at+".compared", fmt.Sprintf("up to %d interfaces", mostCompared), "%d of them", len(o.Compared))
		return
	}
	differs := false
	for i := range o.Compared {
		x := &o.Compared[i]
		here := input.Index(at+".compared", i)
		x.What = oneLine(faults, here+".what", x.What, 1, mostSaid)
		x.Old = oneLine(faults, here+".old", x.Old, 1, mostSaid)
		x.New = oneLine(faults, here+".new", x.New, 1, mostSaid)
		x.Same = supply.Same(x.Old, x.New)
		differs = differs || !x.Same
		p.verdict = worse(p.verdict, x.Same)
	}
	switch o.Outcome {
	case lineBack, lineRework:
		if o.Reason == "" {
			faults.Add(at+".reason", "what is not right with it", "a reason is needed")
		}
	case lineFits:
		if differs && o.Reason == "" {
			faults.Add(at+".reason", "why it goes in although it is not the same", "a reason is needed")
		}
		o.ToDrawer = p.overOf(o.Line, c)
	case lineDepositBack:
		if known.Kind != kindExchange {
			faults.Add(at+".outcome", "fits, rework, back", "%s is no exchange unit", known.Name)
		}
	default:
		faults.Add(at+".outcome", "fits, rework, back, deposit-back", "%q is none", o.Outcome)
	}
	if p.old == nil && o.Outcome != lineDepositBack && (known.state == LineFitted || (known.state == LineHere && o.Outcome != lineBack)) {
		faults.Add(at+".line", "a line that is not here yet; one that is here can go back", "%s is %s", known.Name, known.stateWords())
	}
	if len(*faults) == 0 {
		p.overMoves(o.ToDrawer, -1)
		if p.old != nil {
			for _, before := range p.old.Said().Lines {
				if before.Line == o.Line {
					p.overMoves(before.ToDrawer, 1)
				}
			}
		}
	}
}

func worse(v metrology.Verdict, same bool) metrology.Verdict {
	if !same {
		return metrology.Out
	}
	return cmp.Or(v, metrology.In)
}

// overOf is what a pack leaves over for a drawer that has a place for it.
func (p *proposal) overOf(line string, c *covered) *ToDrawer {
	for _, b := range c.way.Buys {
		if b.Line != line || b.Left == 0 || len(b.Packs) == 0 || b.Packs[0].Drawer == "" || p.ledger.Drawer == nil {
			continue
		}
		offer := b.Packs[0]
		drawer, err := p.ledger.Drawer(offer.Drawer)
		if err == nil && slices.ContainsFunc(drawer, func(x shim.StockItem) bool { return x.Thickness.String() == offer.Size }) {
			return &ToDrawer{offer.Drawer, offer.Size, b.Left}
		}
	}
	return nil
}

func (p *proposal) overMoves(over *ToDrawer, sign int) {
	if over != nil {
		p.moves = append(p.moves, Move{over.Drawer, over.Size, sign * over.Pieces})
	}
}

// strikeOrder takes back out of the drawer what the struck delivery put there.
func strikeOrder(p *proposal) error {
	for _, o := range p.old.Said().Lines {
		p.overMoves(o.ToDrawer, 1)
	}
	return nil
}
