package order

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/core/supply"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// How the parts list looks at the bench, and what it says.

// OrderStep is the parts list as the bench shows it.
type OrderStep struct {
	record.StepFrame
	Kind   book.Kind          `json:"kind" const:"order"`
	Ways   []PartsWay         `json:"ways"` // of buying what is wanted, the best first
	Way    string             `json:"way"`  // the one that is gone
	Groups []PartsGroup       `json:"groups"`
	Sum    quantity.Money     `json:"sum"` // of what has a price
	Agreed *decide.AgreedView `json:"agreed,omitempty"`
	// Over is what all of it, with the work done so far, is over what the customer said yes to.
	Over   quantity.Money   `json:"over"`
	Last   buying.PartsLast `json:"last"`
	Left   []string         `json:"left"`   // over afterwards, in words
	Unlike []PartsUnlike    `json:"unlike"` // kits that name what this unit does not have
	// Suppliers are those the sheet and the list name; Compare are the interfaces
	// commonly held against the old part.
	Suppliers []string `json:"suppliers"`
	Compare   []string `json:"compare"`
	Nothing   bool     `json:"nothing,omitempty"` // somebody said that no parts are needed
}

// PartsWay is one way of buying.
type PartsWay struct {
	ID   string         `json:"id"`
	Says string         `json:"says"`
	Sum  quantity.Money `json:"sum"`
	Open int            `json:"open"` // lines nobody knows the price or the day of
	Day  string         `json:"day"`  // the last is here, when all are ordered today
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
	Line      string           `json:"line"`
	Name      string           `json:"name"`
	Kind      string           `json:"kind" enum:"part,sent-out,exchange"`
	Why       string           `json:"why"`
	Pieces    int              `json:"pieces"`
	Packs     string           `json:"packs"`        // as it is sold: 2 x 10; empty where one by one
	In        string           `json:"in,omitempty"` // name of the kit that brings it
	Supplier  string           `json:"supplier"`
	Price     *quantity.Money  `json:"price,omitempty"`
	Deposit   *quantity.Money  `json:"deposit,omitempty"`
	Lead      *quantity.Count  `json:"lead_days,omitempty"`
	State     buying.LineState `json:"state" enum:"to-order,ordered,here,fitted,back,not-needed"`
	StateSays string           `json:"state_says"`
	Due       string           `json:"due,omitempty"`
	Compare   []string         `json:"compare"` // interfaces the sheet wants compared
	Compared  []acts.Compared  `json:"compared"`
	Sent      []acts.Sent      `json:"sent,omitempty"`    // as it went out, and what was agreed
	Differs   string           `json:"differs,omitempty"` // in words: ports: 3, not 2
	Reason    string           `json:"reason,omitempty"`
	Own       bool             `json:"own,omitempty"` // somebody put it on the list
	Asked     bool             `json:"asked"`
	InKits    bool             `json:"in_kits,omitempty"`  // a part of the unit, which a kit may bring
	OldOpen   bool             `json:"old_open,omitempty"` // the old one has yet to go back for the deposit
}

// PartsUnlike is a kit with what it brings and the unit does not have.
type PartsUnlike struct {
	Kit   string   `json:"kit"`
	Parts []string `json:"parts"`
}

func viewOrder(v record.Viewer, f record.StepFrame) (record.StepView, error) {
	s := v.State
	l := buying.PartsOf(s, v.Step)
	weighed, err := measure.WeighFor(v) // its lines show it
	if err != nil {
		return nil, err
	}
	over := l.PriceFluid(weighed)
	c := buying.PurchaseOf(s, l)
	today := say.DayOf(v.Now, s.Zone)
	view := &OrderStep{
		StepFrame: f, Kind: book.Order, Ways: []PartsWay{}, Way: cmp.Or(c.Way.ID, buying.WaySingles),
		Groups: groupLines(c), Nothing: c.Nothing,
		Left: append(leftWords(c), over...), Unlike: []PartsUnlike{}, Suppliers: suppliersOf(c, s.On.Sheet),
		Compare: supply.Interfaces, Agreed: decide.LastAgreed(s),
	}
	b, err := buying.BuildingFor(v, today)
	if err != nil {
		return nil, err
	}
	for _, w := range c.Ways {
		day := say.DayAfter(today, w.Days)
		ready := b.After(day)
		view.Ways = append(view.Ways, PartsWay{
			cmp.Or(w.ID, buying.WaySingles), buying.WayWords(w), w.Sum, max(w.Unpriced, w.Undated), day, ready,
			ready <= s.Promised,
		})
	}
	for kit, parts := range c.Unlike {
		view.Unlike = append(view.Unlike, PartsUnlike{kit, parts})
	}
	slices.SortFunc(view.Unlike, func(a, b PartsUnlike) int { return strings.Compare(a.Kit, b.Kit) })
	view.Last = c.Last(today, s.Promised, b)
	var toCome quantity.Money
	for _, p := range c.Stands() {
		switch {
		case p.Price == nil:
			continue
		case p.IsOpen():
			toCome += *p.Price
		}
		view.Sum += *p.Price
	}
	if view.Agreed != nil {
		view.Over = max(0, buying.Costs(v.Ledger).SoFar()+toCome-view.Agreed.Sum)
	}
	return view, nil
}

// groupLines puts what a kit brings under it, and what no kit brings behind.
func groupLines(c *buying.Purchase) []PartsGroup {
	groups := []PartsGroup{}
	for _, k := range c.Kits {
		g := PartsGroup{Title: "In " + k.Name, Kit: k.Line, Lines: []PartLine{showLine(c, k)}}
		for _, p := range c.Lines {
			if c.In[p.Line] == k {
				g.Lines = append(g.Lines, showLine(c, p))
			}
		}
		groups = append(groups, g)
	}
	single := "Singles"
	if len(c.Kits) > 0 {
		single = "What the kit lacks"
	}
	rest := []PartsGroup{{Title: single}, {Title: "Sent out"}, {Title: "No longer needed"}, {Title: "Not needed"}}
	for _, p := range c.Lines {
		if p.State == "" || c.In[p.Line] != nil || slices.Contains(c.Kits, p) {
			continue
		}
		at := 0
		switch {
		case p.State == buying.LineNotNeeded:
			at = 3
		case !p.Asked:
			at = 2
		case p.Kind == buying.KindSentOut:
			at = 1
		}
		rest[at].Lines = append(rest[at].Lines, showLine(c, p))
	}
	return append(groups, slices.DeleteFunc(rest, func(g PartsGroup) bool { return len(g.Lines) == 0 })...)
}

func showLine(c *buying.Purchase, p *buying.ListPart) PartLine {
	x := PartLine{
		Line:      p.Line,
		Name:      p.Name,
		Kind:      p.Kind,
		Why:       p.Why,
		Pieces:    int(max(1, p.Pieces)),
		Supplier:  p.Supplier,
		Price:     p.Price,
		Deposit:   p.Deposit,
		Lead:      p.Lead,
		State:     p.State,
		StateSays: p.StateWords(),
		OldOpen:   p.OldToGoBack(),
		Due:       p.Due,
		Compare:   []string{},
		Compared:  p.Compared,
		Sent:      p.Sent,
		Reason:    p.Reason,
		Own:       strings.HasPrefix(p.Line, buying.OwnPrefix),
		Asked:     p.Asked,
		InKits:    p.Unit != "",
	}
	if x.Compared == nil {
		x.Compared = []acts.Compared{}
	}
	var words []string
	for _, d := range p.Differs() {
		words = append(words, fmt.Sprintf("%s: %s instead of %s", d.What, d.New, d.Old))
	}
	x.Differs = strings.Join(words, "; ")
	for _, b := range c.Way.Buys {
		if b.Line == p.Line && b.Kit == "" {
			x.Packs = cmp.Or(p.Packs, packsWords(b))
		}
	}
	if p.Offer != nil {
		x.Compare = append(x.Compare, p.Offer.Interfaces()...)
	}
	if k := c.In[p.Line]; k != nil {
		x.In, x.Price, x.Lead, x.Supplier = k.Name, nil, nil, k.Supplier
		if x.State == buying.LineToOrder {
			x.State, x.StateSays, x.Due = k.State, k.StateWords(), k.Due
		}
		if p.Fitted && x.State == buying.LineHere {
			x.State, x.StateSays = buying.LineFitted, "fitted"
		}
	}
	return x
}

func packsWords(b supply.Buy) string {
	var words []string
	for _, p := range b.Packs {
		if p.InPack() > 1 && p.Part != "" { // else it is a price somebody said for all of it
			words = append(words, fmt.Sprintf("%d x %d", p.Count, p.InPack()))
		}
	}
	return strings.Join(words, " and ")
}

// leftWords says what is over afterwards.
func leftWords(c *buying.Purchase) []string {
	words := []string{}
	for _, x := range c.Way.Spare {
		name := x.Part
		if i := slices.IndexFunc(c.Lines, func(p *buying.ListPart) bool { return p.Unit == x.Part }); i >= 0 {
			name = c.Lines[i].Name
		}
		words = append(words, fmt.Sprintf("%d %s", x.Pieces, name))
	}
	for _, b := range c.Way.Buys {
		if b.Left > 0 {
			words = append(words, fmt.Sprintf("%d %s", b.Left, b.Name))
		}
	}
	return words
}

func suppliersOf(c *buying.Purchase, sheet book.SpecSheet) []string {
	list := []string{}
	for _, x := range sheet.Singles {
		list = append(list, x.Supplier)
	}
	for _, x := range sheet.Kits {
		list = append(list, x.Supplier)
	}
	for _, p := range c.Lines {
		list = append(list, p.Supplier)
	}
	slices.Sort(list)
	return slices.DeleteFunc(slices.Compact(list), func(s string) bool { return s == "" })
}
