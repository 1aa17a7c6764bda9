package workshop

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"handwerk/core/supply"
)

// covered is the list bought in a way: what each line costs, and the kits.
type covered struct {
	*partsList
	ways []supply.Way
	way  supply.Way
	kits []*part
	// in is the kit that brings a line, by the line.
	in     map[string]*part
	unlike map[string][]string // kit to what it brings and the unit does not have
}

// covers works out the ways and takes the one that was chosen, or else that of
// the kits that were ordered, or the best.
func (s *State) covers(l *partsList) *covered {
	c := &covered{partsList: l, in: map[string]*part{}, unlike: map[string][]string{}}
	sheet := s.on.sheet
	var wants []supply.Want
	for _, p := range l.lines {
		if p.state == "" || p.state == LineNotNeeded || !p.asked || strings.HasPrefix(p.Line, kitPrefix) {
			continue
		}
		w := supply.Want{Line: p.Line, Part: p.unit, Name: p.Name, Pieces: max(1, p.Pieces), Alone: p.state != LineToOrder}
		if p.Price != nil && p.Lead != nil {
			w.Own = &supply.Single{Supplier: p.Supplier, Price: *p.Price / float64(max(1, p.Pieces)), Lead: *p.Lead}
		}
		wants = append(wants, w)
	}
	c.ways = supply.Ways(wants, sheet.Singles, sheet.Kits, s.daysLeft())
	c.pick()
	for _, b := range c.way.Buys {
		c.take(b)
	}
	for _, k := range sheet.Kits {
		for id := range k.Holds {
			if !slices.ContainsFunc(l.lines, func(p *part) bool { return p.unit == id }) {
				c.unlike[k.Name] = append(c.unlike[k.Name], strings.ReplaceAll(id, "-", " "))
			}
		}
		slices.Sort(c.unlike[k.Name])
	}
	return c
}

func (c *covered) pick() {
	c.way = c.ways[0]
	want := c.partsList.way
	if !c.chosen {
		var bought []string
		for _, p := range c.lines {
			if id, kit := strings.CutPrefix(p.Line, kitPrefix); kit && p.state != "" && p.state != LineNotNeeded {
				bought = append(bought, id)
			}
		}
		if len(bought) == 0 {
			return
		}
		want = strings.Join(bought, "+")
	}
	if i := slices.IndexFunc(c.ways, func(w supply.Way) bool { return w.ID == want }); i >= 0 {
		c.way = c.ways[i]
	}
}

// take puts what a way says of a line beside what is known of it.
func (c *covered) take(b supply.Buy) {
	p := c.line(b.Line)
	if p == nil { // a kit nobody ordered yet
		p = &part{OrderLine: OrderLine{Line: b.Line, Name: b.Name, Kind: kindPart, Pieces: 1}, asked: true, state: LineToOrder}
		c.lines = append(c.lines, p)
	}
	if b.Kit != "" {
		p.asked, p.Name = true, b.Name
		if p.state == "" || p.state == LineNotNeeded {
			p.state = LineToOrder
		}
		c.kits = append(c.kits, p)
		for _, line := range b.Covers {
			c.in[line] = p
		}
	}
	if !b.Known || len(b.Packs) == 0 {
		return
	}
	p.offer = &b.Packs[0].Single
	p.Supplier = cmp.Or(p.Supplier, p.offer.Supplier)
	if p.Price == nil {
		p.Price = &b.Price
	}
	if p.Lead == nil {
		p.Lead = &b.Days
	}
}

// stands are the lines that are bought: the kits and what they lack, and what
// was ordered though nobody asks for it any more.
func (c *covered) stands() (list []*part) {
	for _, p := range c.lines {
		if c.in[p.Line] == nil && p.state != "" && p.state != LineNotNeeded {
			list = append(list, p)
		}
	}
	return list
}

// needsOrder tells what the parts still ask for.
func needsOrder(s *State, step *Step) Need {
	l := s.partsOf(step)
	c := s.covers(l)
	stands := c.stands()
	open, awaited, due, undated := 0, 0, "", false
	for _, p := range stands {
		switch {
		case p.isOpen():
			open++
		case p.isAwaited():
			awaited++
			due, undated = max(due, p.due), undated || p.due == ""
		}
	}
	switch {
	case open > 0:
		return Need{What: PartsToOrder, Count: open}
	case awaited > 0:
		n := Need{What: PartsAwaited, Count: awaited, Due: due, Late: max(0, daysBetween(s.promised, due))}
		if undated {
			n.Names = []string{"of some nobody knows the day"}
		}
		return n
	}
	if unseen := s.unseen(step); len(unseen) > 0 {
		return Need{What: PartsLooked, Names: unseen}
	}
	if len(stands) == 0 && !l.nothing && !slices.ContainsFunc(l.lines, func(p *part) bool { return p.dropped }) {
		return Need{What: PartsSaid}
	}
	return Need{}
}

// daysLeft counts the days from the last entry to the promised one: the record
// alone says it, so that it is worked out alike whenever it is read.
func (s *State) daysLeft() int {
	if len(s.entries) == 0 {
		return 0
	}
	return daysBetween(dayOf(s.entries[len(s.entries)-1].At, s.zone), s.promised)
}

// daysBetween counts days from one to another; 0 where one of them is none.
func daysBetween(from, to string) int {
	a, err := time.Parse(time.DateOnly, from)
	b, err2 := time.Parse(time.DateOnly, to)
	if err != nil || err2 != nil {
		return 0
	}
	return int(b.Sub(a).Hours() / 24)
}

// dayWords says a day with its weekday: Fri 2026-11-27.
func dayWords(day string) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return t.Format("Mon " + time.DateOnly)
}

func awaitedWords(n Need) string {
	words := "waits for " + several(n.Count, "part", "parts")
	switch {
	case n.Due != "" && n.Count == 1:
		words += ", on " + dayWords(n.Due)
	case n.Due != "":
		words += ", the last on " + dayWords(n.Due)
	}
	for _, more := range n.Names {
		words += ", " + more
	}
	if n.Late > 0 {
		words += ", " + several(n.Late, "day", "days") + " after the promised one"
	}
	return words
}

// unseen are the steps before a parts list that may yet ask for more.
func (s *State) unseen(step *Step) (ids []string) {
	for _, other := range s.plan.Steps[:step.at] {
		if other.kind.buys == nil {
			continue
		}
		if _, all := other.kind.buys(s, other); !all {
			ids = append(ids, other.ID)
		}
	}
	return ids
}
