package order

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/core/supply"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// What an order step takes, and what it means.

const (
	mostOrderLines = 300
	mostCompared   = 20
)

// acceptWay takes a way of buying, or that nothing has to come.
func acceptWay(p *record.Attempt) error {
	p.Draft.Item = record.Place{}
	said, l := record.Saying[acts.Decision](p), buying.PartsOf(p.State, p.Step)
	ids := []string{buying.WaySingles, buying.NothingComes}
	for _, w := range buying.PurchaseOf(p.State, l).Ways {
		if w.ID != "" {
			ids = append(ids, w.ID)
		}
	}
	if err := p.WantOutcome(ids...); err != nil {
		return err
	}
	if said.Outcome == buying.NothingComes {
		if err := nothingComes(p, said, l); err != nil {
			return err
		}
	}
	return measure.KeepWeighed(p)
}

func acceptWanted(p *record.Attempt) error {
	said := record.Saying[acts.Wanted](p)
	faults := eachLine(p, said.Lines, func(at string, o *acts.OrderLine, known *buying.ListPart, _ *buying.Purchase) (
		faults input.Fields) {
		if known == nil && o.Line != "" {
			faults.Add(at+".line", "a line of the list", "%q is not on the list", o.Line)
			return faults
		}
		checkWanted(p, said, &faults, at, o, known)
		return faults
	})
	return faults.Err()
}

func acceptOrdered(p *record.Attempt) error {
	said := record.Saying[acts.Ordered](p)
	faults := eachLine(p, said.Lines, func(at string, o *acts.OrderLine, known *buying.ListPart, _ *buying.Purchase) (
		faults input.Fields) {
		if known == nil {
			faults.Add(at+".line", "a line of the list", "%q is not on the list", o.Line)
			return faults
		}
		checkOrdered(p, &faults, at, o, known)
		return faults
	})
	if len(said.Lines) > 0 && len(said.Lines) <= mostOrderLines {
		checkWhen(p, said, &faults)
	}
	return faults.Err()
}

func acceptCame(p *record.Attempt) error {
	faults := eachLine(p, record.Saying[acts.Came](p).Lines, func(at string, o *acts.OrderLine, known *buying.ListPart,
		c *buying.Purchase) (faults input.Fields) {
		if known == nil {
			faults.Add(at+".line", "a line of the list", "%q is not on the list", o.Line)
			return faults
		}
		checkCame(p, &faults, at, o, known, c)
		return faults
	})
	return faults.Err()
}

// eachLine checks what any line may have, and each as its act wants it.
func eachLine(p *record.Attempt, lines []acts.OrderLine, check func(string, *acts.OrderLine, *buying.ListPart,
	*buying.Purchase) input.Fields) (faults input.Fields) {
	p.Draft.Item = record.Place{}
	c := buying.PurchaseOf(p.State, buying.PartsOf(p.State, p.Step))
	if n := len(lines); n == 0 || n > mostOrderLines {
		faults.Add("lines", fmt.Sprintf("one to %d lines", mostOrderLines), "%d of them", n)
		return faults
	}
	seen := map[string]bool{}
	for i := range lines {
		at, line := input.Index("lines", i), &lines[i]
		if line.Line != "" && seen[line.Line] {
			faults.Add(at+".line", "each line once", "%q is listed twice", line.Line)
		}
		seen[line.Line] = true
		checkTexts(line, &faults, at)
		if len(line.Sent) > 0 && !p.Is(acts.Ordered{}) {
			faults.Add(at+".sent", "nothing, until it is sent", "nothing is sent out with %q", p.Draft.Says.Name())
		}
		faults = append(faults, check(at, line, c.Line(line.Line), c)...)
	}
	return faults
}

// nothingComes: what stands open now need not come, and says why; what is asked
// for afterwards is asked for.
func nothingComes(p *record.Attempt, said *acts.Decision, l *buying.PartsList) error {
	var before []acts.OrderLine
	if p.Old != nil {
		before = acts.LinesOf(p.Old.ReadAct()) // the entry it corrects left these away
	}
	for _, x := range l.Lines {
		left := slices.ContainsFunc(before, func(o acts.OrderLine) bool { return o.Line == x.Line })
		if (x.IsOpen() || left) && !strings.HasPrefix(x.Line, buying.KitPrefix) {
			said.Lines = append(said.Lines, acts.OrderLine{Line: x.Line, Outcome: buying.NotNeeded,
				Reason: said.Reason})
		}
	}
	if len(said.Lines) == 0 {
		return nil
	}
	return p.WantReason("why these parts are not needed")
}

// checkTexts checks the texts and figures that any line may have.
func checkTexts(o *acts.OrderLine, faults *input.Fields, at string) {
	for _, t := range []struct {
		name string
		text *string
	}{{"name", &o.Name}, {"supplier", &o.Supplier}, {"reason", &o.Reason}} {
		if *t.text = strings.TrimSpace(*t.text); utf8.RuneCountInString(*t.text) > say.MostSaid {
			faults.Add(at+"."+t.name, fmt.Sprintf("up to %d characters", say.MostSaid), "the text is too long")
		}
	}
	if o.Pieces < 0 || o.Pieces > 1000 {
		faults.Add(at+".pieces", "1 to 1000", "%d cannot be", o.Pieces)
	}
	for name, money := range map[string]*quantity.Money{"price": o.Price, "deposit": o.Deposit} {
		if money != nil && (*money < 0 || *money > quantity.MostMoney) {
			faults.Add(at+"."+name, "an amount from 0, like 12.50", "%s is not an amount", *money)
		}
	}
	if o.Lead != nil && (*o.Lead < 0 || *o.Lead > record.MostAhead) {
		faults.Add(at+".lead_days", "0 to 730 days from today", "%d days is not possible", *o.Lead)
	}
	o.ToDrawer = nil
}

// checkWanted: a line is put on the list, known better, or not needed.
func checkWanted(
	p *record.Attempt,
	said *acts.Wanted,
	faults *input.Fields,
	at string,
	o *acts.OrderLine,
	known *buying.ListPart,
) {
	if !slices.Contains([]string{"", buying.KindPart, buying.KindSentOut, buying.KindExchange}, o.Kind) {
		faults.Add(at+".kind", "part, sent-out, exchange", "%q is not a kind of line", o.Kind)
	}
	if !slices.Contains([]string{"", buying.WantedAfterAll, buying.NotNeeded}, o.Outcome) {
		faults.Add(at+".outcome", "wanted, not-needed", "%q is neither", o.Outcome)
	}
	if o.Outcome == buying.NotNeeded && o.Reason == "" {
		faults.Add(at+".reason", "why it is not needed", "a reason is needed")
	}
	if known == nil {
		if o.Name == "" {
			faults.Add(at+".name", "what it is", "a new line needs a name")
		}
		o.Line = buying.OwnPrefix + say.Itoa(ownLines(p, said)+1)
		return
	}
	if o.Kind != "" && o.Kind != known.Kind {
		faults.Add(at+".kind", known.Kind, "a line cannot change its kind")
	}
	o.Kind = ""
}

// ownLines counts the lines somebody put on the list so far, struck ones too: a
// number is given once.
func ownLines(p *record.Attempt, said *acts.Wanted) (n int) {
	count := func(lines []acts.OrderLine) {
		for _, o := range lines {
			if digits, own := strings.CutPrefix(o.Line, buying.OwnPrefix); own {
				n = max(n, record.ReadNumber(digits, ""))
			}
		}
	}
	for _, i := range p.State.At(p.Step).All {
		if e := p.State.Entries[i]; e.Is(acts.Wanted{}) {
			count(acts.LinesOf(e.ReadAct()))
		}
	}
	count(said.Lines)
	return n
}

func checkOrdered(p *record.Attempt, faults *input.Fields, at string, o *acts.OrderLine, known *buying.ListPart) {
	if p.Old == nil && !known.IsOpen() {
		faults.Add(at+".line", "a line that is to be ordered", "%s is already %s", known.Name,
			cmp.Or(known.StateWords(), "off the list"))
	}
	if o.Outcome != "" || len(o.Compared) > 0 {
		faults.Add(at+".outcome", "nothing", "an order has no outcome yet")
	}
	if len(o.Sent) > 0 && known.Kind != buying.KindSentOut {
		faults.Add(at+".sent", "nothing, unless it is sent out", "%s is a bought part; it is not sent out", known.Name)
	}
	if len(o.Sent) > mostCompared {
		faults.Add(at+".sent", fmt.Sprintf("up to %d readings", mostCompared), "%d of them", len(o.Sent))
	}
	for i := range o.Sent {
		x, here := &o.Sent[i], input.Index(at+".sent", i)
		x.What = say.OneLine(faults, here+".what", x.What, 1, say.MostSaid)
		x.Reads = say.OneLine(faults, here+".reads", x.Reads, 0, say.MostSaid)
		x.Agreed = say.OneLine(faults, here+".agreed", x.Agreed, 0, say.MostSaid)
		if x.Reads+x.Agreed == "" {
			faults.Add(
				here+".reads",
				"what it measures as it goes, or what was agreed",
				"give a measurement or what was agreed",
			)
		}
	}
}

func checkWhen(p *record.Attempt, said *acts.Ordered, faults *input.Fields) {
	if said.Supplier = strings.TrimSpace(said.Supplier); said.Supplier == "" ||
		utf8.RuneCountInString(said.Supplier) > say.MostSaid {
		faults.Add("supplier", "the supplier", "no supplier given, or the name is too long")
	}
	if said.Due != "" {
		p.WantDay(faults, said.Due)
	}
}

// checkCame: a line came in and was held against the old, or its deposit came back.
func checkCame(p *record.Attempt, faults *input.Fields, at string, o *acts.OrderLine, known *buying.ListPart,
	c *buying.Purchase) {
	if len(o.Compared) > mostCompared {
		faults.Add(at+".compared", fmt.Sprintf("up to %d interfaces", mostCompared), "%d of them", len(o.Compared))
		return
	}
	differs := compare(p, faults, at, o.Compared)
	switch o.Outcome {
	case buying.SentBack, buying.MadeToFit:
		if o.Reason == "" {
			faults.Add(at+".reason", "what is wrong with it", "a reason is needed")
		}
	case buying.Fits:
		if differs && o.Reason == "" {
			faults.Add(at+".reason", "why you fit it although it differs", "a reason is needed")
		}
		o.ToDrawer = overOf(p, o.Line, c)
	case buying.DepositBack:
		if known.Kind != buying.KindExchange {
			faults.Add(at+".outcome", "fits, rework, back", "%s is no exchange unit", known.Name)
		}
	default:
		faults.Add(at+".outcome", "fits, rework, back, deposit-back", "%q is not an outcome", o.Outcome)
	}
	if p.Old == nil && o.Outcome != buying.DepositBack &&
		(known.State == buying.LineFitted || (known.State == buying.LineHere && o.Outcome != buying.SentBack)) {
		faults.Add(
			at+".line",
			"a line that is not here yet; one that is here can go back",
			"%s is already %s",
			known.Name,
			known.StateWords(),
		)
	}
	if len(*faults) == 0 {
		bookOver(p, o)
	}
}

// compare holds each interface of the new part against the old one, and tells
// whether any differs.
func compare(p *record.Attempt, faults *input.Fields, at string, compared []acts.Compared) (differs bool) {
	for i := range compared {
		x := &compared[i]
		here := input.Index(at+".compared", i)
		x.What = say.OneLine(faults, here+".what", x.What, 1, say.MostSaid)
		x.Old = say.OneLine(faults, here+".old", x.Old, 1, say.MostSaid)
		x.New = say.OneLine(faults, here+".new", x.New, 1, say.MostSaid)
		x.Same = supply.Same(x.Old, x.New)
		differs = differs || !x.Same
		p.Verdict = worse(p.Verdict, x.Same)
	}
	return differs
}

// bookOver puts what is left over into its drawer; a correction takes out first
// what the corrected entry put in.
func bookOver(p *record.Attempt, o *acts.OrderLine) {
	overMoves(p, o.ToDrawer, -1)
	if p.Old == nil {
		return
	}
	for _, before := range acts.LinesOf(p.Old.ReadAct()) {
		if before.Line == o.Line {
			overMoves(p, before.ToDrawer, 1)
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
func overOf(p *record.Attempt, line string, c *buying.Purchase) *acts.ToDrawer {
	for _, b := range c.Way.Buys {
		if b.Line != line || b.Left == 0 || len(b.Packs) == 0 || b.Packs[0].Drawer == "" || p.Ledger.Drawer == nil {
			continue
		}
		offer := b.Packs[0]
		drawer, err := p.Ledger.Drawer(offer.Drawer)
		if err == nil && slices.ContainsFunc(drawer,
			func(x shim.StockItem) bool { return x.Thickness.String() == offer.Size }) {
			return &acts.ToDrawer{Drawer: offer.Drawer, Size: offer.Size, Pieces: b.Left}
		}
	}
	return nil
}

func overMoves(p *record.Attempt, over *acts.ToDrawer, sign int) {
	if over != nil {
		p.Moves = append(p.Moves, record.Move{Drawer: over.Drawer, Thickness: over.Size, Count: sign * over.Pieces})
	}
}

// strikeCame takes back out of the drawer what the struck delivery put there.
func strikeCame(p *record.Attempt) error {
	for _, o := range acts.LinesOf(p.Old.ReadAct()) {
		overMoves(p, o.ToDrawer, 1)
	}
	return nil
}
