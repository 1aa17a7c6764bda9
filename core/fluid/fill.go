package fluid

import (
	"fmt"
	"math"
	"sort"

	"handwerk/core/fault"
	"handwerk/core/need"
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
	Capacity Volume  `json:"capacity"`
	Residue  Volume  `json:"residue,omitzero"` // stays behind after draining
	Purity   float64 `json:"purity,omitempty"` // wanted share of new oil, default 0.95
	Cans     []Can   `json:"cans,omitempty"`
}

// Bought is so many of one can.
type Bought struct {
	Can   int    `json:"can"` // index into cans
	Size  Volume `json:"size"`
	Count int    `json:"count"`
}

// FillOut is the answer.
type FillOut struct {
	PerFill  Volume   `json:"per_fill"`
	Fills    int      `json:"fills"`
	Purity   float64  `json:"purity"`
	Total    Volume   `json:"total"`
	Litre    Volume   `json:"total_litre"`
	USQuart  Volume   `json:"total_us_quart"`
	ImpPint  Volume   `json:"total_imp_pint"`
	Buy      []Bought `json:"buy,omitempty"`
	Price    float64  `json:"price,omitempty"`
	LeftOver Volume   `json:"left_over,omitzero"`
	Says     string   `json:"says"`
}

// buyGrid of the exact search: a hundredth of a litre.
const buyGrid = 10e-6

// FillPlan: each fill leaves residue/capacity of the old oil, so n fills leave
// (residue/capacity)^n; the fewest n that reach the purity. Cans: the cheapest
// that cover the total, by dynamic programming on a grid of 10 mL, of equal
// price the least left over. About half a litre may stay behind (common practice).
func FillPlan(in FillIn) (FillOut, error) {
	var c need.Checks
	capacity := float64(need.Within(&c, "capacity", in.Capacity, 0.01e-3, 0.2, true))
	residue := 0.0
	if in.Residue.IsSaid() {
		residue = float64(need.NotNegative(&c, "residue", in.Residue, 0.2))
	}
	purity := need.Number(&c, "purity", need.OrNumber(in.Purity, 0.95), 0.01, 0.9999)
	if residue >= capacity*0.95 {
		c.Add("residue", "well below the capacity", "%s of %s stays behind", in.Residue, in.Capacity)
	}
	if len(in.Cans) > 20 {
		c.Add("cans", "up to 20 sizes", "%d sizes", len(in.Cans))
	}
	for i, can := range in.Cans {
		need.Within(&c, fault.Index("cans", i)+".size", can.Size, 0.02e-3, 0.25, true)
		need.Number(&c, fault.Index("cans", i)+".price", can.Price, 0, 1e6)
	}
	if err := c.Err(); err != nil {
		return FillOut{}, err
	}
	n := 1
	if residue > 0 {
		n = max(1, int(math.Ceil(math.Log(1-purity)/math.Log(residue/capacity)-1e-9)))
	}
	per := capacity - residue
	total := float64(n) * per
	unit := in.Capacity.Unit
	say := func(v float64) Volume { return quantity.Say(quantity.Volume(v), unit) }
	as := func(symbol string) Volume { return quantity.Say(quantity.Volume(total), need.Named(symbol)) }
	out := FillOut{
		PerFill: say(per), Fills: n, Purity: 1 - math.Pow(residue/capacity, float64(n)), Total: say(total),
		Litre: as("L"), USQuart: as("US qt"), ImpPint: as("imp pt"),
	}
	out.Says = fmt.Sprintf("%d fill of %.2f %s", n, out.PerFill.Value, unit.Symbol)
	if n > 1 {
		out.Says = fmt.Sprintf("%d fills of %.2f %s, a short drive between", n, out.PerFill.Value, unit.Symbol)
	}
	if len(in.Cans) > 0 {
		in.buy(&out, total, say)
	}
	return out, nil
}

// purchase is the cheapest way to reach a volume on the grid.
type purchase struct {
	price float64
	over  int // grid steps beyond what was asked
	can   int // last can bought
	from  int // index before it
}

func cheaper(a, b purchase) bool {
	if math.Abs(a.price-b.price) > 1e-9 {
		return a.price < b.price
	}
	return a.over < b.over
}

func (in FillIn) buy(out *FillOut, total float64, say func(float64) Volume) {
	steps := int(math.Ceil(total/buyGrid - 1e-6))
	best := make([]purchase, steps+1)
	for v := 1; v <= steps; v++ {
		best[v] = purchase{price: math.Inf(1)}
		for i, can := range in.Cans {
			size := max(1, int(math.Round(float64(can.Size.SI())/buyGrid)))
			before := max(0, v-size)
			try := purchase{best[before].price + can.Price, best[before].over + max(0, size-v), i, before}
			if before > 0 {
				try.over = best[before].over
			}
			if cheaper(try, best[v]) {
				best[v] = try
			}
		}
	}
	counts := map[int]int{}
	bought := 0.0
	for v := steps; v > 0; v = best[v].from {
		counts[best[v].can]++
		bought += float64(in.Cans[best[v].can].Size.SI())
	}
	for i, n := range counts {
		out.Buy = append(out.Buy, Bought{i, in.Cans[i].Size, n})
	}
	sort.Slice(out.Buy, func(a, b int) bool { return out.Buy[a].Can < out.Buy[b].Can })
	out.Price = best[steps].price
	out.LeftOver = say(math.Max(0, bought-total))
}
