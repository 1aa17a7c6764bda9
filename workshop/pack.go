package workshop

import (
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

// acceptFit begins a new trial with a pack from the drawer.
func (p *proposal) acceptFit(trials []Trial) error {
	t := trials[len(trials)-1]
	if p.step.Measure.Drawer == "" {
		return input.At("act", "reading, accept", "no pack is fitted at this step")
	}
	if p.old != nil {
		return refuse(Conflict, packNotCorrected)
	}
	stock, err := p.stock(t)
	if err != nil {
		return err
	}
	var faults input.Fields
	for i, piece := range p.draft.Pack {
		at := input.Index("pack", i)
		j := slices.IndexFunc(stock, func(s shim.StockItem) bool { return s.Thickness.String() == piece.Thickness.String() })
		switch {
		case piece.Count < 1:
			faults.Add(at+".count", "one or more", "%d shims", piece.Count)
		case j < 0:
			faults.Add(at+".thickness", "a size of the drawer", "the drawer has no %s", piece.Thickness)
		case stock[j].Count != nil && *stock[j].Count < piece.Count:
			faults.Add(at+".count", fmt.Sprintf("up to %d", *stock[j].Count), "the drawer does not hold %d of %s", piece.Count, piece.Thickness)
		}
	}
	if len(faults) > 0 {
		return faults
	}
	p.draft.Item = Place{Trial: t.Number + 1}
	p.move(t.Pack, p.draft.Pack)
	return p.expect(t)
}

// expect keeps with the fit what the last result promised for this pack.
func (p *proposal) expect(t Trial) error {
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
func (p *proposal) move(before, after []Piece) {
	change := map[string]int{}
	for _, x := range before {
		change[x.Thickness.String()] -= x.Count
	}
	for _, x := range after {
		change[x.Thickness.String()] += x.Count
	}
	for thickness, n := range change {
		if n != 0 {
			p.moves = append(p.moves, Move{p.step.Measure.Drawer, thickness, n})
		}
	}
	// A fixed order keeps two writers from locking each other out.
	slices.SortFunc(p.moves, func(a, b Move) int { return strings.Compare(a.Thickness, b.Thickness) })
}

// stock is what could be fitted: the drawer, and what is in place now.
func (p *proposal) stock(t Trial) (Drawer, error) {
	if p.step.Measure.Drawer == "" {
		return Drawer{}, nil
	}
	held, err := p.ledger.Drawer(p.step.Measure.Drawer)
	if err != nil {
		return nil, err
	}
	stock := slices.Clone(held)
	for _, piece := range t.Pack {
		for i := range stock {
			if stock[i].Thickness.String() == piece.Thickness.String() && stock[i].Count != nil {
				n := *stock[i].Count + piece.Count
				stock[i].Count = &n
			}
		}
	}
	return stock, nil
}
