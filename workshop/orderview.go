package workshop

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/fluid"
	"handwerk/core/supply"
)

// How the parts list looks at the bench, and what it says.

// OrderStep is the parts list as the bench shows it.
type OrderStep struct {
	StepFrame
	Kind   book.Kind    `json:"kind" const:"order"`
	Ways   []PartsWay   `json:"ways"` // of buying what is wanted, the best first
	Way    string       `json:"way"`  // the one that is gone
	Groups []PartsGroup `json:"groups"`
	Sum    float64      `json:"sum"` // of what has a price
	Agreed *AgreedView  `json:"agreed,omitempty"`
	// Over is what all of it, with the work done so far, is over what the customer said yes to.
	Over   float64       `json:"over"`
	Last   PartsLast     `json:"last"`
	Left   []string      `json:"left"`   // over afterwards, in words
	Unlike []PartsUnlike `json:"unlike"` // kits that name what this unit does not have
	// Suppliers are those the sheet and the list name; Compare are the interfaces
	// commonly held against the old part.
	Suppliers []string `json:"suppliers"`
	Compare   []string `json:"compare"`
	Nothing   bool     `json:"nothing,omitempty"` // somebody said that nothing has to come
}

// PartsWay is one way of buying.
type PartsWay struct {
	ID   string  `json:"id"`
	Says string  `json:"says"`
	Sum  float64 `json:"sum"`
	Open int     `json:"open"` // lines nobody knows the price or the day of
	Day  string  `json:"day"`  // the last is here, when all are ordered today
	// Ready is when what is left to do is done after that; the day itself where nobody
	// knows how long it takes. InTime: it is not after the promised day.
	Ready  string `json:"ready"`
	InTime bool   `json:"in_time"`
}

// PartsGroup is some of the lines under one head.
type PartsGroup struct {
	Title string     `json:"title"`
	Kit   string     `json:"kit,omitempty"` // the line of the kit that brings them
	Lines []PartLine `json:"lines"`
}

// PartLine is a line of the list.
type PartLine struct {
	Line      string     `json:"line"`
	Name      string     `json:"name"`
	Kind      string     `json:"kind" enum:"part,sent-out,exchange"`
	Why       string     `json:"why"`
	Pieces    int        `json:"pieces"`
	Packs     string     `json:"packs"`        // as it is sold: 2 x 10; empty where one by one
	In        string     `json:"in,omitempty"` // name of the kit that brings it
	Supplier  string     `json:"supplier"`
	Price     *float64   `json:"price,omitempty"`
	Deposit   *float64   `json:"deposit,omitempty"`
	Lead      *int       `json:"lead_days,omitempty"`
	State     LineState  `json:"state" enum:"to-order,ordered,here,fitted,back,not-needed"`
	StateSays string     `json:"state_says"`
	Due       string     `json:"due,omitempty"`
	Compare   []string   `json:"compare"` // interfaces the sheet wants compared
	Compared  []Compared `json:"compared"`
	Sent      []Sent     `json:"sent,omitempty"`    // as it went out, and what was agreed
	Differs   string     `json:"differs,omitempty"` // in words: ports: 3, not 2
	Reason    string     `json:"reason,omitempty"`
	Own       bool       `json:"own,omitempty"` // somebody put it on the list
	Asked     bool       `json:"asked"`
	InKits    bool       `json:"in_kits,omitempty"` // a part of the unit, which a kit may bring
}

// PartsUnlike is a kit with what it brings and the unit does not have.
type PartsUnlike struct {
	Kit   string   `json:"kit"`
	Parts []string `json:"parts"`
}

func viewOrder(v viewer, f StepFrame) (StepView, error) {
	s := v.state
	l := s.partsOf(v.step)
	var err error
	if f.Weighed, err = v.weighed(); err != nil {
		return nil, err
	}
	over := l.priceFluid(f.Weighed)
	c := s.covers(l)
	today := dayOf(v.now, s.zone)
	view := &OrderStep{
		StepFrame: f, Kind: book.Order, Ways: []PartsWay{}, Way: cmp.Or(c.way.ID, waySingles), Groups: c.groups(), Nothing: c.nothing,
		Left: append(c.left(), over...), Unlike: []PartsUnlike{}, Suppliers: c.suppliers(s.on.sheet),
		Compare: supply.Interfaces, Agreed: s.lastAgreed(),
	}
	b, err := v.building(today)
	if err != nil {
		return nil, err
	}
	for _, w := range c.ways {
		day := dayAfter(today, w.Days)
		ready := b.after(day)
		view.Ways = append(view.Ways, PartsWay{
			cmp.Or(w.ID, waySingles), wayWords(w), w.Sum, max(w.Unpriced, w.Undated), day, ready, ready <= s.promised,
		})
	}
	for kit, parts := range c.unlike {
		view.Unlike = append(view.Unlike, PartsUnlike{kit, parts})
	}
	slices.SortFunc(view.Unlike, func(a, b PartsUnlike) int { return strings.Compare(a.Kit, b.Kit) })
	view.Last = c.last(today, s.promised, b)
	toCome := 0.0
	for _, p := range c.stands() {
		switch {
		case p.Price == nil:
			continue
		case p.isOpen():
			toCome += *p.Price
		}
		view.Sum = cents(view.Sum + *p.Price)
	}
	if view.Agreed != nil {
		view.Over = cents(max(0, Costs(v.ledger).soFar()+toCome-view.Agreed.Sum))
	}
	return view, nil
}

// priceFluid puts what the cans come to beside the fluid that was chosen, and
// says what they leave over. Cans are bought over the counter (common practice):
// nothing is waited for.
func (l *partsList) priceFluid(weighed []WeighedView) (over []string) {
	i := slices.IndexFunc(l.lines, func(p *part) bool { return strings.HasPrefix(p.Line, fluidPrefix) })
	for _, w := range weighed {
		var out fluid.FillOut
		if i < 0 || !fluid.FillPlanMethod.Is(w.Calc) || w.Result == nil || json.Unmarshal(w.Result, &out) != nil || len(out.Buy) == 0 {
			continue
		}
		p, none := l.lines[i], 0
		if p.Price == nil {
			p.Price = &out.Price
		}
		if p.Lead == nil {
			p.Lead = &none
		}
		var cans []string
		for _, can := range out.Buy {
			cans = append(cans, fmt.Sprintf("%d x %s", can.Count, can.Size))
		}
		p.packs = strings.Join(cans, " and ")
		if out.LeftOver.SI() > 0 {
			over = append(over, fmt.Sprintf("%s of %s", out.LeftOver, p.Name))
		}
	}
	return over
}

func wayWords(w supply.Way) string {
	if len(w.Kits) == 0 {
		return "All as singles"
	}
	words := strings.Join(w.Kits, " and ")
	if len(w.Buys) > len(w.Kits) {
		words += " and what it lacks"
	}
	return words
}

// dayAfter is the day so many after one.
func dayAfter(day string, n int) string {
	t, _ := time.Parse(time.DateOnly, day) // made by dayOf
	return t.AddDate(0, 0, n).Format(time.DateOnly)
}

// groups puts what a kit brings under it, and what no kit brings behind.
func (c *covered) groups() []PartsGroup {
	groups := []PartsGroup{}
	for _, k := range c.kits {
		g := PartsGroup{Title: "In " + k.Name, Kit: k.Line, Lines: []PartLine{c.show(k)}}
		for _, p := range c.lines {
			if c.in[p.Line] == k {
				g.Lines = append(g.Lines, c.show(p))
			}
		}
		groups = append(groups, g)
	}
	single := "Singles"
	if len(c.kits) > 0 {
		single = "What the kit lacks"
	}
	rest := []PartsGroup{{Title: single}, {Title: "Sent out"}, {Title: "No longer asked for"}, {Title: "Not needed"}}
	for _, p := range c.lines {
		if p.state == "" || c.in[p.Line] != nil || slices.Contains(c.kits, p) {
			continue
		}
		at := 0
		switch {
		case p.state == LineNotNeeded:
			at = 3
		case !p.asked:
			at = 2
		case p.Kind == kindSentOut:
			at = 1
		}
		rest[at].Lines = append(rest[at].Lines, c.show(p))
	}
	return append(groups, slices.DeleteFunc(rest, func(g PartsGroup) bool { return len(g.Lines) == 0 })...)
}

func (c *covered) show(p *part) PartLine {
	x := PartLine{
		Line: p.Line, Name: p.Name, Kind: p.Kind, Why: p.why, Pieces: max(1, p.Pieces), Supplier: p.Supplier,
		Price: p.Price, Deposit: p.Deposit, Lead: p.Lead,
		State: p.state, StateSays: p.stateWords(), Due: p.due, Compare: []string{}, Compared: p.Compared, Sent: p.Sent, Reason: p.Reason,
		Own: strings.HasPrefix(p.Line, ownPrefix), Asked: p.asked, InKits: p.unit != "",
	}
	if x.Compared == nil {
		x.Compared = []Compared{}
	}
	var words []string
	for _, d := range p.differs() {
		words = append(words, fmt.Sprintf("%s: %s, not %s", d.What, d.New, d.Old))
	}
	x.Differs = strings.Join(words, "; ")
	for _, b := range c.way.Buys {
		if b.Line == p.Line && b.Kit == "" {
			x.Packs = cmp.Or(p.packs, packsWords(b))
		}
	}
	if p.offer != nil {
		x.Compare = append(x.Compare, p.offer.Interfaces()...)
	}
	if k := c.in[p.Line]; k != nil {
		x.In, x.Price, x.Lead, x.Supplier = k.Name, nil, nil, k.Supplier
		if x.State == LineToOrder {
			x.State, x.StateSays, x.Due = k.state, k.stateWords(), k.due
		}
		if p.fitted && x.State == LineHere {
			x.State, x.StateSays = LineFitted, "fitted"
		}
	}
	return x
}

func packsWords(b supply.Buy) string {
	var words []string
	for _, p := range b.Packs {
		if p.InPack() > 1 {
			words = append(words, fmt.Sprintf("%d x %d", p.Count, p.InPack()))
		}
	}
	return strings.Join(words, " and ")
}

// left says what is over afterwards.
func (c *covered) left() []string {
	words := []string{}
	for _, x := range c.way.Spare {
		name := x.Part
		if i := slices.IndexFunc(c.lines, func(p *part) bool { return p.unit == x.Part }); i >= 0 {
			name = c.lines[i].Name
		}
		words = append(words, fmt.Sprintf("%d %s", x.Pieces, name))
	}
	for _, b := range c.way.Buys {
		if b.Left > 0 {
			words = append(words, fmt.Sprintf("%d %s", b.Left, b.Name))
		}
	}
	return words
}

func (c *covered) suppliers(sheet book.SpecSheet) []string {
	list := []string{}
	for _, x := range sheet.Singles {
		list = append(list, x.Supplier)
	}
	for _, x := range sheet.Kits {
		list = append(list, x.Supplier)
	}
	for _, p := range c.lines {
		list = append(list, p.Supplier)
	}
	slices.Sort(list)
	return slices.DeleteFunc(slices.Compact(list), func(s string) bool { return s == "" })
}

// lastAgreed is the customer's last yes along the route.
func (s *State) lastAgreed() (last *AgreedView) {
	for _, step := range s.plan.Steps {
		if step.agrees() {
			if v := s.agreed(step); v != nil {
				last = v
			}
		}
	}
	return last
}
