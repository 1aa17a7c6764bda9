package workshop

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/shim"
)

// Drawer is what one drawer holds.
type Drawer []shim.StockItem

// Move takes shims from a drawer (negative: puts them back).
type Move struct {
	Drawer    string
	Thickness string // as the drawer writes it
	Count     int
}

// sumOf adds a pack up, in the unit of its first piece.
func sumOf(pack []Piece, none quantity.Any) quantity.Any {
	if len(pack) == 0 {
		return none
	}
	var sum quantity.Length
	for _, p := range pack {
		sum += quantity.Length(p.Count) * p.Thickness.SI()
	}
	return quantity.Say(sum, pack[0].Thickness.Unit).Any
}

// acceptFit begins a new trial with a pack from the drawer. In a trial in which
// nothing was read or fitted yet it says what is in there; corrected before
// anything is read, it says what went in instead.
func (p *proposal) acceptFit(trials []Trial) error {
	t := trials[len(trials)-1]
	if p.step.Measure.Drawer == "" {
		return input.At("act", "reading, accept", "no pack is fitted at this step")
	}
	fresh := len(t.Readings)+len(t.Asked) == 0
	if p.old != nil && (!fresh || p.old.Item.Trial != t.Number) {
		return refuse(Conflict, packNotCorrected)
	}
	if len(p.draft.Pack) == 0 && len(t.Pack) == 0 {
		return input.At("pack", "one size at least", "a pack of nothing is none")
	}
	if err := p.pieces(t); err != nil {
		return err
	}
	p.draft.Item = Place{Trial: t.Number}
	if _, fitted := p.state.of(p.step).has(ActFit, p.draft.Item); p.old == nil && (!fresh || fitted) {
		p.draft.Item.Trial++
	}
	p.move(t.Pack, p.draft.Pack)
	return p.expect(trials, t)
}

// pieces checks what is fitted against the drawer, and notes where each came
// from: what lies in place and is wanted again stays in, the rest comes out of the
// drawer.
func (p *proposal) pieces(t Trial) error {
	drawer, err := p.drawer()
	if err != nil {
		return err
	}
	stock, err := p.stock(t)
	if err != nil {
		return err
	}
	var faults input.Fields
	var pack []Piece
	for i, piece := range p.draft.Pack {
		piece.Drawer = ""
		at := input.Index("pack", i)
		piece.check(&faults, at, stock)
		if slices.ContainsFunc(p.draft.Pack[:i], func(x Piece) bool { return x.same(piece) && x.Loose == piece.Loose }) {
			faults.Add(at+".thickness", "each size once, with its count", "%s stands twice", piece.Thickness)
		}
		if piece.Loose {
			pack = append(pack, piece)
			continue
		}
		for _, in := range t.Pack {
			if in.same(piece) && piece.Count > 0 {
				in.Count = min(in.Count, piece.Count)
				piece.Count -= in.Count
				pack = append(pack, in)
			}
		}
		if piece.Count > 0 {
			piece.Drawer = drawer
			pack = append(pack, piece)
		}
	}
	p.draft.Pack = pack
	return faults.Err()
}

// same tells two pieces of one size.
func (piece Piece) same(x Piece) bool { return piece.Thickness.String() == x.Thickness.String() }

// check holds a piece that is to be fitted against what could be.
func (piece Piece) check(faults *input.Fields, at string, stock Drawer) {
	size := float64(piece.Thickness.SI())
	j := slices.IndexFunc(stock, func(s shim.StockItem) bool { return s.Thickness.String() == piece.Thickness.String() })
	switch {
	case piece.Count < 1 || piece.Count > mostPieces:
		faults.Add(at+".count", "1 to 12", "%d shims", piece.Count)
	case piece.Loose && (!input.Over(size, 0) || input.Over(size, thickest)):
		faults.Add(at+".thickness", "above 0, up to 50 mm", "%s is no size of a shim", piece.Thickness)
	case piece.Loose:
	case j < 0:
		faults.Add(at+".thickness", "a size of the drawer", "the drawer has no %s", piece.Thickness)
	case stock[j].Count != nil && *stock[j].Count < piece.Count:
		faults.Add(at+".count", fmt.Sprintf("up to %d", *stock[j].Count), "the drawer does not hold %d of %s", piece.Count, piece.Thickness)
	}
}

const (
	mostPieces = 12
	thickest   = 0.05 // m
)

// drawer is the shop's own for what the step wants; empty where nobody said which.
func (p *proposal) drawer() (string, error) {
	if p.ledger.DrawerOf == nil {
		return p.step.Measure.Drawer, nil
	}
	return p.ledger.DrawerOf(p.step.Measure.Drawer)
}

// expect keeps with the fit what the last result promised for this pack.
func (p *proposal) expect(trials []Trial, t Trial) error {
	if t.Result == nil && p.draft.Item.Trial == t.Number && len(trials) > 1 {
		t = trials[len(trials)-2]
	}
	var last struct {
		Method string `json:"method"`
		Packs  []struct {
			Pieces []Piece         `json:"pieces"`
			Float  json.RawMessage `json:"float"`
		} `json:"packs"`
	}
	if t.Result == nil || json.Unmarshal(t.Result, &last) != nil {
		return nil
	}
	for _, pack := range last.Packs {
		if samePack(pack.Pieces, p.draft.Pack) {
			return p.computed(last.Method, map[string]json.RawMessage{"float": pack.Float})
		}
	}
	return nil
}

func samePack(a, b []Piece) bool {
	count := map[string]int{}
	for _, p := range a {
		count[p.Thickness.String()] += p.Count
	}
	for _, p := range b {
		count[p.Thickness.String()] -= p.Count
	}
	for _, n := range count {
		if n != 0 {
			return false
		}
	}
	return true
}

// move books the pieces of the old pack back and those of the new one out.
// What came out of no drawer goes back into none.
func (p *proposal) move(before, after []Piece) {
	change := map[Move]int{}
	book := func(pack []Piece, sign int) {
		for _, x := range pack {
			if !x.Loose {
				change[Move{Drawer: cmp.Or(x.Drawer, p.step.Measure.Drawer), Thickness: x.Thickness.String()}] += sign * x.Count
			}
		}
	}
	book(before, -1)
	book(after, 1)
	for m, n := range change {
		if n != 0 {
			p.moves = append(p.moves, Move{m.Drawer, m.Thickness, n})
		}
	}
	// A fixed order keeps two writers from locking each other out.
	slices.SortFunc(p.moves, func(a, b Move) int {
		return cmp.Or(strings.Compare(a.Drawer, b.Drawer), strings.Compare(a.Thickness, b.Thickness))
	})
}

// stock is what could be fitted: the drawer, and what is in place now.
func (p *proposal) stock(t Trial) (Drawer, error) {
	name := ""
	if p.step.Measure.Drawer != "" {
		var err error
		if name, err = p.drawer(); err != nil {
			return nil, err
		}
	}
	stock := Drawer{}
	if name != "" {
		held, err := p.ledger.Drawer(name)
		if err != nil {
			return nil, err
		}
		stock = slices.Clone(held)
	}
	for _, piece := range t.Pack {
		i := slices.IndexFunc(stock, func(s shim.StockItem) bool { return s.Thickness.String() == piece.Thickness.String() })
		switch {
		case i < 0:
			stock = append(stock, shim.StockItem{Thickness: piece.Thickness, Count: &piece.Count})
		case stock[i].Count != nil:
			n := *stock[i].Count + piece.Count
			stock[i].Count = &n
		}
	}
	return stock, nil
}

func (p *proposal) packsView() (*PacksView, error) {
	view := &PacksView{Drawers: []DrawerName{}}
	var err error
	if view.Drawer, err = p.drawer(); err != nil {
		return nil, err
	}
	if p.ledger.DrawerNames != nil {
		if view.Drawers, err = p.ledger.DrawerNames(); err != nil {
			return nil, err
		}
	}
	view.Stock, err = p.stock(Trial{})
	return view, err
}
