package fluid

import (
	"fmt"
	"math"
	"slices"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Can to buy, at any currency.
type Can struct {
	Size  Volume  `json:"size"`
	Price float64 `json:"price"`
	Name  string  `json:"name,omitempty"`
}

// FillIn asks how much goes in, how often, and what to buy.
type FillIn struct {
	Capacity Volume   `json:"capacity"`
	Residue  Volume   `json:"residue,omitzero"` // stays behind after draining
	Purity   *float64 `json:"purity,omitempty"` // wanted share of new oil, default 0.95
	Cans     []Can    `json:"cans,omitempty"`
}

// Bought is so many of one can.
type Bought struct {
	Can   int    `json:"can"` // index into cans
	Size  Volume `json:"size"`
	Count int    `json:"count"`
}

// FillOut is the answer.
type FillOut struct {
	PerFill Volume  `json:"per_fill"`
	Fills   int     `json:"fills"`
	Purity  float64 `json:"purity"`
	// AfterEach is the share of new oil after each fill, up to twelve.
	AfterEach []float64 `json:"after_each"`
	Total     Volume    `json:"total"`
	Litre     Volume    `json:"total_litre"`
	USQuart   Volume    `json:"total_us_quart"`
	ImpPint   Volume    `json:"total_imp_pint"`
	Buy       []Bought  `json:"buy,omitempty"`
	Price     float64   `json:"price,omitempty"`
	LeftOver  Volume    `json:"left_over,omitzero"`
	Says      string    `json:"says"`
}

// fillsFor is how often to fill until so much of the oil is new: each fill leaves
// residue/capacity of the old, so n leave (residue/capacity)^n. Volumes in m³.
func fillsFor(residue, capacity, purity float64) int {
	if residue <= 0 {
		return 1
	}
	return max(1, int(math.Ceil(math.Log(1-purity)/math.Log(residue/capacity)-1e-9)))
}

// purityAfter n fills.
func purityAfter(n int, residue, capacity float64) float64 {
	return 1 - math.Pow(residue/capacity, float64(n))
}

// FillPlan: each fill leaves residue/capacity of the old oil, so n fills leave
// (residue/capacity)^n; the fewest n that reach the purity. Cans: the cheapest
// that cover the total, in their true sizes, of equal price the least left over. About half a litre may stay behind (common practice).
func FillPlan(in FillIn) (FillOut, error) {
	var c input.Checks
	capacity := float64(input.Within(&c, "capacity", in.Capacity, 0.01e-3, 0.2, true))
	residue := 0.0
	if in.Residue.IsSaid() {
		residue = float64(input.NotNegative(&c, "residue", in.Residue, 0.2))
	}
	purity := input.Number(&c, "purity", input.OrNumber(in.Purity, 0.95), 0.01, 0.9999)
	if !input.Under(residue, capacity*0.95) {
		c.Add("residue", "well below the capacity", "%s of %s stays behind", in.Residue, in.Capacity)
	}
	if len(in.Cans) > 20 {
		c.Add("cans", "up to 20 sizes", "%d sizes", len(in.Cans))
	}
	for i, can := range in.Cans {
		input.Within(&c, input.Index("cans", i)+".size", can.Size, 0.02e-3, 0.25, true)
		input.Number(&c, input.Index("cans", i)+".price", can.Price, 0, 1e6)
	}
	if err := c.Err(); err != nil {
		return FillOut{}, err
	}
	n := fillsFor(residue, capacity, purity)
	per := capacity - residue
	total := float64(n) * per
	unit := in.Capacity.Unit
	say := func(v float64) Volume { return quantity.Say(quantity.Volume(v), unit) }
	as := func(symbol string) Volume { return quantity.Say(quantity.Volume(total), quantity.Named(symbol)) }
	out := FillOut{
		PerFill: say(per), Fills: n, Purity: purityAfter(n, residue, capacity), Total: say(total),
		Litre: as("L"), USQuart: as("US qt"), ImpPint: as("imp pt"),
	}
	for i := range min(n, 12) {
		out.AfterEach = append(out.AfterEach, purityAfter(i+1, residue, capacity))
	}
	out.Says = fmt.Sprintf("%d fill of %.2f %s", n, out.PerFill.Value, unit.Symbol)
	if n > 1 {
		out.Says = fmt.Sprintf("%d fills of %.2f %s, with a short drive in between", n, out.PerFill.Value, unit.Symbol)
	}
	if len(in.Cans) > 0 {
		in.buy(&out, total, say)
	}
	return out, nil
}

// FillPlanMethod is FillPlan as the catalogue lists it.
var FillPlanMethod = calculator.Define(examples, calculator.About{
	Name: "fill", Version: 2,
	Purpose: "how much goes in, how many fills flush the old oil out, and the cheapest cans",
	Formula: "old share after n fills = (residue/capacity)^n; cans by exact search on a grid of 10 mL",
	Assumes: "the old oil mixes fully with each fill; about half a litre may stay behind (" + calculator.Practice + ")",
	Sources: []string{"dilution", "dynamic programming"},
}, FillPlan)

// purchase is a way to have bought so far: what is still to be covered, at
// what price, and what it was before the last can.
type purchase struct {
	left   float64
	price  float64
	can    int
	before *purchase
}

// buy finds the cheapest cans that cover the total, of equal price those that
// leave least over. Cans count by their true size. Ways are kept by what they
// leave to be covered, in steps no larger than the smallest can; within a step
// only those that no other beats in both price and cover go on, so the answer
// is exact.
func (in FillIn) buy(out *FillOut, total float64, say func(float64) Volume) {
	smallest := math.Inf(1)
	for _, can := range in.Cans {
		smallest = math.Min(smallest, float64(can.Size.SI()))
	}
	step := math.Min(smallest*0.999, math.Max(buyStep, total/5000))
	ways := make([][]*purchase, int(total/step)+1)
	ways[len(ways)-1] = []*purchase{{left: total}}
	var best *purchase
	for i := len(ways) - 1; i >= 0; i-- {
		for _, way := range ways[i] {
			best = in.goOn(way, best, ways, step)
		}
		ways[i] = nil
	}
	counts := make([]int, len(in.Cans))
	for way := best; way.before != nil; way = way.before {
		counts[way.can]++
	}
	for i, n := range counts {
		if n > 0 {
			out.Buy = append(out.Buy, Bought{i, in.Cans[i].Size, n})
		}
	}
	out.Price = math.Round(best.price*1e6) / 1e6
	out.LeftOver = say(math.Max(0, -best.left))
}

// goOn buys one more can of each size; a purchase that covers is held against
// the best so far.
func (in FillIn) goOn(way, best *purchase, ways [][]*purchase, step float64) *purchase {
	for j, can := range in.Cans {
		next := &purchase{way.left - float64(can.Size.SI()), way.price + can.Price, j, way}
		switch {
		case next.left > covered:
			at := int(next.left / step)
			ways[at] = offer(ways[at], next)
		case best == nil || next.betters(best):
			best = next
		}
	}
	return best
}

const (
	buyStep = 10e-6 // a hundredth of a litre
	covered = 1e-12 // a thousandth of a drop is the rounding of units
)

// betters orders purchases that cover the same: by price, then by what is left over.
func (p *purchase) betters(q *purchase) bool {
	if math.Abs(p.price-q.price) > 1e-9 {
		return p.price < q.price
	}
	return p.left > q.left
}

// offer keeps a way unless another is no dearer and leaves no more to cover,
// and drops those that it beats so.
func offer(list []*purchase, p *purchase) []*purchase {
	for _, q := range list {
		if q.price <= p.price && q.left <= p.left {
			return list
		}
	}
	list = slices.DeleteFunc(list, func(q *purchase) bool { return p.price <= q.price && p.left <= q.left })
	return append(list, p)
}
