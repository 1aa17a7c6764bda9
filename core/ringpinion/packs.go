package ringpinion

import (
	"handwerk/core/quantity"
	"handwerk/core/shim"
)

// PackMade is one pack of the next assembly, made up of what lies in the drawer.
type PackMade struct {
	Where  string       `json:"where" enum:"pinion_shim,left,right"` // which of the three packs
	Pieces []shim.Piece `json:"pieces"`
	Sum    Length       `json:"sum"`
	Off    Length       `json:"off"` // from what is wanted
}

// made makes up the three packs of the next assembly, each of what the one before left.
func (in TogetherIn) made(out TogetherOut) (made []PackMade) {
	if len(in.Stock) == 0 {
		return nil
	}
	stock := in.Stock
	for _, p := range []struct {
		where string
		is    Length
	}{{"pinion_shim", out.PinionShim}, {"left", out.Left}, {"right", out.Right}} {
		found, err := shim.FindPack(
			shim.PackIn{Required: p.is, Tolerance: quantity.Say(quantity.Length(0), p.is.Unit), Stock: stock},
		)
		if err != nil || len(found.Packs) == 0 {
			continue // a pack of nothing, or thicker than any
		}
		best := found.Packs[0]
		made = append(made, PackMade{p.where, best.Pieces, best.Sum, best.Error})
		stock = shim.Without(stock, best.Pieces)
	}
	return made
}
