package shim

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// FarSide is the pack at a shaft's other end. With both, the sum of the packs makes the
// float, and their difference says where the shaft stands.
type FarSide struct {
	TrialPack Length `json:"trial_pack"`
	Move      Length `json:"move,omitzero"` // of the shaft, toward this side
}

// BothSides are the packs of both ends, out of one drawer.
type BothSides struct {
	Near    PackFound         `json:"near"`  // pack of the near end
	Far     PackFound         `json:"far"`   // pack of the far end
	Float   Length            `json:"float"` // with both
	Moves   Length            `json:"moves"` // the shaft, toward the far side
	Verdict metrology.Verdict `json:"verdict"`
}

// Shaft is another shaft of the same box, shimmed from the same drawer.
type Shaft struct {
	Name      string   `json:"name"`
	Readings  []Length `json:"readings"`
	TrialPack Length   `json:"trial_pack"`
	TargetMin Length   `json:"target_min"`
	TargetMax Length   `json:"target_max"`
	Sense     Sense    `json:"sense,omitempty" enum:"pack_reduces_float,pack_increases_float"` // as the first, where missing
}

// ShaftOut is what it needs, after the shafts before it took theirs from the drawer.
type ShaftOut struct {
	Name    string            `json:"name"`
	Float   Length            `json:"float"`
	Verdict metrology.Verdict `json:"verdict"`
	Aim     Length            `json:"aim"` // the pack that lands in the middle
	Pack    *PackOffered      `json:"pack,omitempty"`
	Order   Length            `json:"order,omitzero"`
	Next    string            `json:"next"`
}

// mostShafts bounds the search.
const mostShafts = 12

// sides shares the change of the sum between both ends: the shaft stays where it is, or
// moves as it should, as near as the drawer allows; the float comes first.
func (in FloatIn) sides(out *FloatOut, float quantity.Length, stock []Size, maxShims int, unit *quantity.Unit) error {
	far := in.Far
	if far == nil {
		return nil
	}
	var faults input.Fields
	checkThickness("far_side.trial_pack", far.TrialPack, true, &faults)
	move := quantity.Length(far.Move.DifferenceSI())
	if math.Abs(float64(move)) > float64(MaxThickness) {
		faults.Add("far_side.move", "a few hundredths", "%s is too far", far.Move)
	}
	if in.Sense == PackIncreases {
		faults.Add("sense", string(PackReduces), "packs at both ends each take float away")
	}
	if len(faults) > 0 {
		return faults
	}
	change := float - (in.TargetMin.SI()+in.TargetMax.SI())/2
	near, opposite := in.TrialPack.SI()+change/2+move, far.TrialPack.SI()+change/2-move
	if near < 0 || opposite < 0 {
		return input.At("far_side.move", "packs above zero at both ends", "a pack would come out below zero")
	}
	var best *BothSides
	for _, n := range BestPacks(near, stock, maxShims, DefaultThin) {
		rest := near + opposite - n.Sum
		for _, f := range BestPacks(max(rest, 0), left(stock, n), maxShims, DefaultThin) {
			found := BothSides{
				Near: describe(
					n,
					in.Stock,
					near,
					MaxThickness,
					unit,
				),
				Far:   describe(f, in.Stock, rest, MaxThickness, unit),
				Float: quantity.Say(float-(n.Sum+f.Sum-in.TrialPack.SI()-far.TrialPack.SI()), unit),
				Moves: quantity.Say((n.Sum-in.TrialPack.SI()-f.Sum+far.TrialPack.SI())/2, unit),
			}
			if best == nil || in.nearer(found, *best, move) {
				best = &found
			}
		}
	}
	if best == nil {
		return nil
	}
	u := math.NaN()
	if out.Uncertainty.IsSaid() {
		u = out.Uncertainty.DifferenceSI()
	}
	best.Verdict = metrology.Judge(best.Float.DifferenceSI(), u,
		metrology.Limits{Lower: float64(in.TargetMin.SI()), Upper: float64(in.TargetMax.SI())})
	best.Near.Verdict, best.Far.Verdict = best.Verdict, best.Verdict
	out.Sides = best
	if out.Verdict != metrology.In {
		out.Next = fmt.Sprintf("Fit %s at the near end and %s at the far end. Expect a float of %s; measure again.",
			round(best.Near.Sum), round(best.Far.Sum), round(best.Float))
	}
	return nil
}

// nearer tells that a pair gives a float nearer to the middle or, where both are alike,
// a shaft nearer to its place.
func (in FloatIn) nearer(a, b BothSides, move quantity.Length) bool {
	middle := float64(in.TargetMin.SI()+in.TargetMax.SI()) / 2
	off := func(x BothSides) int { return onGrid(quantity.Length(math.Abs(x.Float.DifferenceSI() - middle))) }
	out := func(x BothSides) int {
		return onGrid(quantity.Length(math.Abs(x.Moves.DifferenceSI() - float64(move))))
	}
	return cmp.Or(cmp.Compare(off(a), off(b)), cmp.Compare(out(a), out(b)), cmp.Compare(a.Near.Shims+a.Far.Shims,
		b.Near.Shims+b.Far.Shims)) < 0
}

// left is a drawer after a pack was taken.
func left(stock []Size, p Pack) []Size {
	rest := slices.Clone(stock)
	for _, pick := range p.Of {
		if rest[pick.Index].Count != Plenty {
			rest[pick.Index].Count -= pick.Count
		}
	}
	return rest
}

// others answers the further shafts, each from what the ones before left in the drawer.
func (in FloatIn) others(out *FloatOut) error {
	var faults input.Fields
	if len(in.Others) > mostShafts {
		return input.At("others", "up to 12 shafts", "%d", len(in.Others))
	}
	stock := in.Stock
	if out.Sides != nil {
		stock = Without(Without(stock, out.Sides.Near.Pieces), out.Sides.Far.Pieces)
	} else if len(out.Packs) > 0 && out.Verdict != metrology.In {
		stock = Without(stock, out.Packs[0].Pieces)
	}
	for i, s := range in.Others {
		one, err := EndFloat(FloatIn{
			Readings:   s.Readings,
			Instrument: in.Instrument,
			Confidence: in.Confidence,
			TrialPack:  s.TrialPack,
			TargetMin:  s.TargetMin,
			TargetMax:  s.TargetMax,
			Sense:      cmp.Or(s.Sense, in.Sense),
			Stock:      stock,
			Washers:    in.Washers,
			MaxShims:   in.MaxShims,
			Units:      in.Units,
		})
		if err != nil {
			faults = append(faults, input.Below(input.Index("others", i), err)...)
			continue
		}
		found := ShaftOut{Name: s.Name, Float: Length{Any: one.Float.Mean}, Verdict: one.Verdict, Aim: one.Required.Aim,
			Order: one.Order, Next: one.Next}
		if len(one.Packs) > 0 && one.Verdict != metrology.In {
			found.Pack = &one.Packs[0]
			stock = Without(stock, one.Packs[0].Pieces)
		}
		out.Others = append(out.Others, found)
	}
	return faults.Err()
}

// Without is a drawer without the pieces of a pack.
func Without(stock []StockItem, pieces []Piece) []StockItem {
	rest := slices.Clone(stock)
	for _, p := range pieces {
		for i, s := range rest {
			if s.Count != nil && s.Name == p.Name && nanometres(s.Thickness.SI()) == nanometres(p.Thickness.SI()) {
				n := max(0, *s.Count-p.Count)
				rest[i].Count = &n
				break
			}
		}
	}
	return rest
}
