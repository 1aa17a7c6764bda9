package measure

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// sumOf adds a pack up, in the unit of its first piece.
func sumOf(pack []acts.Piece, none quantity.Any) quantity.Any {
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
func acceptFit(p *record.Attempt) error {
	trials, said := Trials(p.State, p.Step), record.Saying[acts.Fit](p)
	t := trials[len(trials)-1]
	if p.Step.Measure.Drawer == "" {
		return input.At("act", "reading, accept", "this step takes no shims")
	}
	fresh := len(t.Readings)+len(t.Asked) == 0
	if p.Old != nil && (!fresh || p.Old.Item.Trial != t.Number) {
		return say.Refuse(say.Conflict, say.PackNotCorrected)
	}
	if len(said.Pack) == 0 && len(t.Pack) == 0 {
		return input.At("pack", "one size at least", "a pack of nothing is none")
	}
	if err := checkPieces(p, said, t); err != nil {
		return err
	}
	p.Draft.Item = record.Place{Trial: t.Number}
	if _, fitted := p.State.At(p.Step).Has(acts.Fit{}, p.Draft.Item); p.Old == nil && (!fresh || fitted) {
		p.Draft.Item.Trial++
	}
	moveShims(p, t.Pack, said.Pack)
	return expect(p, said.Pack, trials, t)
}

// checkPieces checks what is fitted against the drawer, and notes where each came
// from: what lies in place and is wanted again stays in, the rest comes out of the
// drawer.
func checkPieces(p *record.Attempt, said *acts.Fit, t Trial) error {
	drawer, err := drawerOf(p)
	if err != nil {
		return err
	}
	stock, err := stockOf(p, t)
	if err != nil {
		return err
	}
	var faults input.Fields
	var pack []acts.Piece
	for i, piece := range said.Pack {
		piece.Drawer = ""
		at := input.Index("pack", i)
		checkPiece(piece, &faults, at, stock)
		if slices.ContainsFunc(said.Pack[:i], func(x acts.Piece) bool {
			return samePiece(x, piece) &&
				x.Loose == piece.Loose
		}) {
			faults.Add(at+".thickness", "each size once, with its count", "%s is listed twice", piece.Thickness)
		}
		if piece.Loose {
			pack = append(pack, piece)
			continue
		}
		for _, in := range t.Pack {
			if samePiece(in, piece) && piece.Count > 0 {
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
	said.Pack = pack
	return faults.Err()
}

// samePiece tells two pieces of one size.
func samePiece(piece acts.Piece, x acts.Piece) bool {
	return piece.Thickness.String() == x.Thickness.String()
}

// checkPiece holds a piece that is to be fitted against what could be.
func checkPiece(piece acts.Piece, faults *input.Fields, at string, stock record.Drawer) {
	size := float64(piece.Thickness.SI())
	j := slices.IndexFunc(
		stock, func(s shim.StockItem) bool { return s.Thickness.String() == piece.Thickness.String() },
	)
	switch {
	case piece.Count < 1 || piece.Count > mostPieces:
		faults.Add(at+".count", "1 to 12", "%d shims", piece.Count)
	case piece.Loose && (!input.Over(size, 0) || input.Over(size, thickest)):
		faults.Add(at+".thickness", "above 0, up to 50 mm", "%s is no size of a shim", piece.Thickness)
	case piece.Loose:
	case j < 0:
		faults.Add(at+".thickness", "a size of the drawer", "there is no %s in the drawer", piece.Thickness)
	case stock[j].Count != nil && *stock[j].Count < int(piece.Count):
		faults.Add(at+".count", fmt.Sprintf("up to %d", *stock[j].Count), "there are not %d of %s in the drawer",
			piece.Count, piece.Thickness)
	}
}

const (
	mostPieces = 12
	thickest   = 0.05 // m
)

// drawerOf is the shop's own for what the step wants; empty where nobody said which.
func drawerOf(p *record.Attempt) (string, error) {
	if p.Ledger.DrawerOf == nil {
		return p.Step.Measure.Drawer, nil
	}
	return p.Ledger.DrawerOf(p.Step.Measure.Drawer)
}

// expect keeps with the fit what the last result promised for this pack.
func expect(p *record.Attempt, fitted []acts.Piece, trials []Trial, t Trial) error {
	if t.Result == nil && p.Draft.Item.Trial == t.Number && len(trials) > 1 {
		t = trials[len(trials)-2]
	}
	var last struct {
		Method string `json:"method"`
		Packs  []struct {
			Pieces []acts.Piece    `json:"pieces"`
			Float  json.RawMessage `json:"float"`
		} `json:"packs"`
	}
	if t.Result == nil || json.Unmarshal(t.Result, &last) != nil {
		return nil
	}
	for _, pack := range last.Packs {
		if pack.Float != nil && samePack(pack.Pieces, fitted) {
			return p.KeepResult(last.Method, map[string]json.RawMessage{"float": pack.Float})
		}
	}
	return nil
}

func samePack(a, b []acts.Piece) bool {
	count := map[string]quantity.Count{}
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

// moveShims books the pieces of the old pack back and those of the new one out.
// What came out of no drawer goes back into none.
func moveShims(p *record.Attempt, before, after []acts.Piece) {
	change := map[record.Move]int{}
	book := func(pack []acts.Piece, sign int) {
		for _, x := range pack {
			if !x.Loose {
				change[record.Move{Drawer: cmp.Or(x.Drawer, p.Step.Measure.Drawer),
					Thickness: x.Thickness.String()}] += sign * int(x.Count)
			}
		}
	}
	book(before, -1)
	book(after, 1)
	for m, n := range change {
		if n != 0 {
			p.Moves = append(p.Moves, record.Move{Drawer: m.Drawer, Thickness: m.Thickness, Count: n})
		}
	}
	// A fixed order keeps two writers from locking each other out.
	slices.SortFunc(p.Moves, func(a, b record.Move) int {
		return cmp.Or(strings.Compare(a.Drawer, b.Drawer), strings.Compare(a.Thickness, b.Thickness))
	})
}

// stockOf is what could be fitted: the drawer, and what is in place now.
func stockOf(p *record.Attempt, t Trial) (record.Drawer, error) {
	name := ""
	if p.Step.Measure.Drawer != "" {
		var err error
		if name, err = drawerOf(p); err != nil {
			return nil, err
		}
	}
	stock := record.Drawer{}
	if name != "" {
		held, err := p.Ledger.Drawer(name)
		if err != nil {
			return nil, err
		}
		stock = slices.Clone(held)
	}
	for _, piece := range t.Pack {
		i := slices.IndexFunc(
			stock, func(s shim.StockItem) bool { return s.Thickness.String() == piece.Thickness.String() },
		)
		switch {
		case i < 0:
			n := int(piece.Count)
			stock = append(stock, shim.StockItem{Thickness: piece.Thickness, Count: &n})
		case stock[i].Count != nil:
			n := *stock[i].Count + int(piece.Count)
			stock[i].Count = &n
		}
	}
	return stock, nil
}

// packUnit is the unit a step's packs are typed in: that of the pack it begins with.
func packUnit(m book.MeasureSpec) string {
	if m.StartPack.Unit == nil {
		return "mm"
	}
	return m.StartPack.Unit.Symbol
}

func packsView(p *record.Attempt) (*PacksView, error) {
	view := &PacksView{Drawers: []shop.DrawerName{}, Units: quantity.ChoicesIn(p.State.Units,
		packUnit(*p.Step.Measure)), Asked: slices.ContainsFunc(p.Step.Bindings.All(),
		func(s book.Source) bool { return s.Room == book.FromEntries && s.Path[0] == "pack" })}
	var err error
	if view.Drawer, err = drawerOf(p); err != nil {
		return nil, err
	}
	if p.Ledger.DrawerNames != nil {
		if view.Drawers, err = p.Ledger.DrawerNames(); err != nil {
			return nil, err
		}
	}
	view.Stock, err = stockOf(p, Trial{})
	return view, err
}
