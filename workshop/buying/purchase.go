package buying

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"handwerk/core/fluid"
	"handwerk/core/quantity"
	"handwerk/core/supply"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Purchase is the list bought in a way: what each line costs, and the kits.
type Purchase struct {
	*PartsList
	Ways []supply.Way
	Way  supply.Way
	Kits []*ListPart
	// in is the kit that brings a line, by the line.
	In     map[string]*ListPart
	Unlike map[string][]string // kit to what it brings and the unit does not have
}

// PurchaseOf works out the ways and takes the one that was chosen, or else that of
// the kits that were ordered, or the best.
func PurchaseOf(s *record.State, l *PartsList) *Purchase {
	c := &Purchase{PartsList: l, In: map[string]*ListPart{}, Unlike: map[string][]string{}}
	sheet := s.On.Sheet
	var wants []supply.Want
	for _, p := range l.Lines {
		if p.State == "" || p.State == LineNotNeeded || !p.Asked || strings.HasPrefix(p.Line, KitPrefix) {
			continue
		}
		w := supply.Want{Line: p.Line, Part: p.Unit, Name: p.Name, Pieces: int(max(1, p.Pieces)),
			Alone: p.State != LineToOrder}
		if p.Price != nil && p.Lead != nil {
			w.Own = &supply.Single{Supplier: p.Supplier, Price: *p.Price, Pack: max(1, p.Pieces), Lead: *p.Lead}
		}
		wants = append(wants, w)
	}
	c.Ways = supply.Ways(wants, sheet.Singles, sheet.Kits, daysLeft(s))
	c.pick()
	for _, b := range c.Way.Buys {
		c.take(b)
	}
	for _, k := range sheet.Kits {
		for id := range k.Holds {
			if !slices.ContainsFunc(l.Lines, func(p *ListPart) bool { return p.Unit == id }) {
				c.Unlike[k.Name] = append(c.Unlike[k.Name], strings.ReplaceAll(id, "-", " "))
			}
		}
		slices.Sort(c.Unlike[k.Name])
	}
	return c
}

func (c *Purchase) pick() {
	c.Way = c.Ways[0]
	want := c.PartsList.way
	if !c.chosen {
		var bought []string
		for _, p := range c.Lines {
			if id, kit := strings.CutPrefix(p.Line, KitPrefix); kit && p.State != "" && p.State != LineNotNeeded {
				bought = append(bought, id)
			}
		}
		if len(bought) == 0 {
			return
		}
		want = strings.Join(bought, "+")
	}
	if i := slices.IndexFunc(c.Ways, func(w supply.Way) bool { return w.ID == want }); i >= 0 {
		c.Way = c.Ways[i]
	}
}

// take puts what a way says of a line beside what is known of it.
func (c *Purchase) take(b supply.Buy) {
	p := c.Line(b.Line)
	if p == nil { // a kit nobody ordered yet
		p = &ListPart{OrderLine: acts.OrderLine{Line: b.Line, Name: b.Name, Kind: KindPart, Pieces: 1}, Asked: true,
			State: LineToOrder}
		c.Lines = append(c.Lines, p)
	}
	if b.Kit != "" {
		p.Asked, p.Name = true, b.Name
		if p.State == "" || p.State == LineNotNeeded {
			p.State = LineToOrder
		}
		c.Kits = append(c.Kits, p)
		for _, line := range b.Covers {
			c.In[line] = p
		}
	}
	if !b.Known || len(b.Packs) == 0 {
		return
	}
	p.Offer = &b.Packs[0].Single
	p.Supplier = cmp.Or(p.Supplier, p.Offer.Supplier)
	if p.Price == nil {
		p.Price = &b.Price
	}
	if p.Lead == nil {
		days := quantity.Count(b.Days)
		p.Lead = &days
	}
}

// Stands are the lines that are bought: the kits and what they lack, and what
// was ordered though nobody asks for it any more.
func (c *Purchase) Stands() (list []*ListPart) {
	for _, p := range c.Lines {
		if c.In[p.Line] == nil && p.State != "" && p.State != LineNotNeeded {
			list = append(list, p)
		}
	}
	return list
}

// daysLeft counts the days from the last entry to the promised one: the record
// alone says it, so that it is worked out alike whenever it is read.
func daysLeft(s *record.State) int {
	if len(s.Entries) == 0 {
		return 0
	}
	return say.DaysBetween(say.DayOf(s.Entries[len(s.Entries)-1].At, s.Zone), s.Promised)
}

// Unseen are the steps before a parts list that may yet ask for more.
func Unseen(s *record.State, step *record.Step) (ids []string) {
	for _, other := range s.Plan.Steps[:step.At] {
		if other.Rules.Buys == nil {
			continue
		}
		if _, all := other.Rules.Buys(s, other); !all {
			ids = append(ids, other.ID)
		}
	}
	return ids
}

// PriceFluid puts what the cans come to beside the fluid that was chosen, and
// says what they leave over. Cans are bought over the counter (common practice):
// nothing is waited for.
func (l *PartsList) PriceFluid(weighed []record.WeighedView) (over []string) {
	i := slices.IndexFunc(l.Lines, func(p *ListPart) bool { return strings.HasPrefix(p.Line, record.FluidPrefix) })
	for _, w := range weighed {
		var out fluid.FillOut
		if i < 0 || !fluid.FillPlanMethod.Is(w.Calc) || w.Result == nil || json.Unmarshal(w.Result, &out) != nil ||
			len(out.Buy) == 0 {
			continue
		}
		p, price, none := l.Lines[i], quantity.MoneyOf(out.Price), quantity.Count(0)
		if p.Price == nil {
			p.Price = &price
		}
		if p.Lead == nil {
			p.Lead = &none
		}
		var cans []string
		for _, can := range out.Buy {
			cans = append(cans, fmt.Sprintf("%d x %s", can.Count, can.Size))
		}
		p.Packs = strings.Join(cans, " and ")
		if out.LeftOver.SI() > 0 {
			over = append(over, fmt.Sprintf("%s of %s", out.LeftOver, p.Name))
		}
	}
	return over
}

// WayWords say a way of buying.
func WayWords(w supply.Way) string {
	if len(w.Kits) == 0 {
		return "All as single parts"
	}
	words := strings.Join(w.Kits, " and ")
	if len(w.Buys) > len(w.Kits) {
		words += " plus the rest"
	}
	return words
}
