package supply

import (
	"cmp"
	"slices"
	"strings"

	"handwerk/core/quantity"
)

// Want is a part that has to come.
type Want struct {
	Line   string // where it stands on the list
	Part   string // id of the part in the unit; empty for what no plan lists
	Name   string
	Pieces int
	// Own is what somebody found out about this very line; it goes before the sheet's offers.
	Own *Single
	// Alone is set where it comes by itself whatever kits there are.
	Alone bool
}

// Way is one way of buying all that is wanted: some kits, and singles for what
// they lack.
type Way struct {
	ID       string         // of the kits, with a plus between them; empty when all are singles
	Kits     []string       // names
	Buys     []Buy          // kits first, then what they lack
	Sum      quantity.Money // of what has a price
	Unpriced int            // buys nobody knows a price of
	Days     int            // until the last that has a lead time is here
	Undated  int            // buys nobody knows a lead time of
	InTime   bool           // all that is known is here by the day wanted
	// Spare are parts the kits bring that nobody asked for.
	Spare []Part
}

// Part is so many pieces of a part.
type Part struct {
	Part   string
	Pieces int
}

// Buy is one line of an order: a kit, or the packs of a single.
type Buy struct {
	Line   string // of the want, or "kit." and the kit's id
	Kit    string // its id, where it is one
	Name   string
	Packs  []Packs
	Pieces int // wanted
	Price  quantity.Money
	Days   int
	Known  bool     // somebody offers it
	Left   int      // pieces over
	Covers []string // lines that the kit covers whole
}

// Packs are so many packs of one offer.
type Packs struct {
	Single
	Count int
}

// Ways are the ways of buying the wants: each set of kits of which every one
// brings something, with singles for what they lack. Those here within so many
// days come first, then the cheapest, then the soonest.
func Ways(wants []Want, singles []Single, kits []Kit, within int) []Way {
	kits = kits[:min(len(kits), mostKits)]
	var ways []Way
	for set := range 1 << len(kits) {
		var chosen []Kit
		for i, k := range kits {
			if set>>i&1 == 1 {
				chosen = append(chosen, k)
			}
		}
		if way, useful := buy(wants, singles, chosen, within); useful {
			ways = append(ways, way)
		}
	}
	slices.SortStableFunc(ways, func(a, b Way) int {
		return cmp.Or(last(a.InTime, b.InTime), cmp.Compare(a.Unpriced+a.Undated, b.Unpriced+b.Undated),
			cmp.Compare(a.Sum, b.Sum), cmp.Compare(a.Days, b.Days), cmp.Compare(len(a.Kits), len(b.Kits)))
	})
	return ways
}

// last puts what is not so behind what is.
func last(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return -1
	}
	return 1
}

// buy is the way with these kits; false when one of them brings nothing.
func buy(wants []Want, singles []Single, kits []Kit, within int) (Way, bool) {
	way := Way{InTime: true}
	left := make([]int, len(wants))
	for i, w := range wants {
		left[i] = w.Pieces
	}
	var ids []string
	for _, k := range kits {
		b, brings := way.take(k, wants, left)
		if !brings {
			return way, false
		}
		ids, way.Kits = append(ids, k.ID), append(way.Kits, k.Name)
		way.add(b, within)
	}
	way.ID = strings.Join(ids, "+")
	for i, w := range wants {
		if left[i] > 0 {
			way.add(single(w, left[i], offersFor(w, singles), within), within)
		}
	}
	return way, true
}

// take covers wants from a kit; what is over is spare.
func (way *Way) take(k Kit, wants []Want, left []int) (b Buy, brings bool) {
	b = Buy{Line: "kit." + k.ID, Kit: k.ID, Name: k.Name, Pieces: 1, Price: k.Price, Days: int(k.Lead), Known: true}
	b.Packs = []Packs{{Single{Part: k.ID, Supplier: k.Supplier, Price: k.Price, Lead: k.Lead}, 1}}
	over := Holds{}
	for part, n := range k.Holds {
		over[part] = n
	}
	for i, w := range wants {
		n := min(left[i], over[w.Part])
		if w.Part == "" || w.Alone || n == 0 {
			continue
		}
		left[i], over[w.Part], brings = left[i]-n, over[w.Part]-n, true
		if left[i] == 0 {
			b.Covers = append(b.Covers, w.Line)
		}
	}
	for part, n := range over {
		if n > 0 {
			way.Spare = append(way.Spare, Part{part, n})
		}
	}
	slices.SortFunc(way.Spare, func(a, b Part) int { return strings.Compare(a.Part, b.Part) })
	return b, brings
}

func (way *Way) add(b Buy, within int) {
	way.Buys = append(way.Buys, b)
	if !b.Known {
		way.Unpriced, way.Undated = way.Unpriced+1, way.Undated+1
		return
	}
	way.Sum += b.Price
	way.Days = max(way.Days, b.Days)
	way.InTime = way.InTime && b.Days <= within
}

func offersFor(w Want, singles []Single) (list []Single) {
	if w.Own != nil {
		return []Single{*w.Own}
	}
	for _, s := range singles {
		if (w.Part != "" && s.Part == w.Part) || (w.Part == "" && s.Name != "" && strings.EqualFold(s.Name, w.Name)) {
			list = append(list, s)
		}
	}
	return list
}

// single buys so many pieces: of the offers that are here in time, or else of
// the soonest.
func single(w Want, pieces int, offers []Single, within int) Buy {
	b := Buy{Line: w.Line, Name: w.Name, Pieces: pieces}
	if len(offers) == 0 {
		return b
	}
	soonest := int(offers[0].Lead)
	for _, o := range offers {
		soonest = min(soonest, int(o.Lead))
	}
	limit := max(within, soonest)
	b.Known = true
	b.Packs = cheapest(
		slices.DeleteFunc(slices.Clone(offers), func(o Single) bool { return int(o.Lead) > limit }),
		pieces,
	)
	b.Left = -pieces
	for _, p := range b.Packs {
		b.Price += quantity.Money(p.Count) * p.Price
		b.Days = max(b.Days, int(p.Lead))
		b.Left += p.Count * p.InPack()
	}
	return b
}

// cheapest covers so many pieces with packs: exact, by the cheapest way to
// cover each smaller number; of equal price the one that leaves least over,
// then fewest packs.
func cheapest(offers []Single, pieces int) []Packs {
	type cover struct {
		price      quantity.Money
		got, packs int
		offer      int
		before     int
	}
	best := make([]cover, pieces+1)
	for n := 1; n <= pieces; n++ {
		for i, o := range offers {
			before := max(0, n-o.InPack())
			c := cover{best[before].price + o.Price, best[before].got + o.InPack(), best[before].packs + 1, i, before}
			order := cmp.Or(
				cmp.Compare(c.price, best[n].price),
				cmp.Compare(c.got, best[n].got), cmp.Compare(c.packs, best[n].packs),
			)
			if best[n].packs == 0 || order < 0 {
				best[n] = c
			}
		}
	}
	counts := make([]int, len(offers))
	for n := pieces; n > 0; n = best[n].before {
		counts[best[n].offer]++
	}
	var packs []Packs
	for i, n := range counts {
		if n > 0 {
			packs = append(packs, Packs{offers[i], n})
		}
	}
	return packs
}
