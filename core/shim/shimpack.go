package shim

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Length is a length as said.
type Length = quantity.Said[quantity.Length]

// StockItem is one size in the drawer. Count missing means plenty.
type StockItem struct {
	Thickness Length `json:"thickness"`
	Count     *int   `json:"count,omitempty"`
	Name      string `json:"name,omitempty"`
}

// PackIn asks which shims add up to a thickness.
type PackIn struct {
	Required  Length          `json:"required"`
	Tolerance Length          `json:"tolerance"`
	Stock     []StockItem     `json:"stock"`
	MaxShims  int             `json:"max_shims,omitempty"`
	ThinBelow Length          `json:"thin_below,omitzero"`
	Units     quantity.System `json:"units,omitempty" enum:"metric,inch,both"`
}

// Piece is n shims of one size.
type Piece struct {
	Thickness Length `json:"thickness"`
	Count     int    `json:"count"`
	Name      string `json:"name,omitempty"`
}

// PackFound is one pack with what it adds up to.
type PackFound struct {
	Pieces  []Piece           `json:"pieces"`
	Shims   int               `json:"shims"`
	Sum     Length            `json:"sum"`
	Error   Length            `json:"error"`
	Verdict metrology.Verdict `json:"verdict"`
}

// PackOut lists up to five packs, best first. Order is the thickness to buy
// when none is within tolerance.
type PackOut struct {
	Packs   []PackFound       `json:"packs"`
	Verdict metrology.Verdict `json:"verdict"`
	Order   Length            `json:"order,omitzero"`
	Says    string            `json:"says"`
}

// Bounds of the search; they keep the answer at typing speed.
const (
	MaxSizes     = 200
	DefaultShims = 6
	MostShims    = 10
	MaxThickness = 50 * quantity.Millimetre
	// DefaultThin: a shim under 0.10 mm creases easily. Common practice.
	DefaultThin = 0.1 * quantity.Millimetre
)

// FindPack answers shim-pack. See BestPacks for the method.
func FindPack(in PackIn) (PackOut, error) {
	var faults input.Fields
	stock := checkStock("stock", in.Stock, &faults)
	maxShims := checkMax(in.MaxShims, &faults)
	metrology.CheckUnits(in.Units, &faults)
	required := in.Required.SI()
	checkThickness("required", in.Required, true, &faults)
	if in.Tolerance.SI() < 0 {
		faults.Add("tolerance", "zero or more", "%s is negative", in.Tolerance)
	}
	if len(faults) > 0 {
		return PackOut{}, faults
	}
	unit := in.Required.Unit.For(in.Units)
	thin := DefaultThin
	if in.ThinBelow.IsSaid() {
		thin = in.ThinBelow.SI()
	}
	packs := BestPacks(required, stock, maxShims, thin)
	out := PackOut{Packs: []PackFound{}, Verdict: metrology.Out}
	for _, p := range packs {
		out.Packs = append(out.Packs, describe(p, in.Stock, required, in.Tolerance.SI(), unit))
	}
	if len(out.Packs) > 0 && out.Packs[0].Verdict == metrology.In {
		out.Verdict = metrology.In
		out.Says = fmt.Sprintf("%s reaches %s", shimWord(out.Packs[0].Shims), out.Packs[0].Sum)
		return out, nil
	}
	order := toOrder(required, stock, maxShims)
	out.Order = quantity.Say(order, unit)
	out.Says = fmt.Sprintf("no pack in the drawer makes %s within %s: order a shim of %s", in.Required,
		in.Tolerance, out.Order)
	return out, nil
}

// FindPackMethod is FindPack as the catalogue lists it.
var FindPackMethod = calculator.Define(examples, calculator.About{
	Name: "shim-pack", Version: 1,
	Purpose: "the packs of the drawer that come nearest to a thickness, with fewest shims",
	Formula: "least |sum − required|, then fewest shims, then fewest thin ones",
	Assumes: "up to 200 sizes and 10 shims, up to 50 mm; thin is below 0.10 mm unless said",
	Sources: []string{"bounded dynamic programming on a 1 µm grid, exact optimum"},
}, FindPack)

func describe(p Pack, stock []StockItem, required, tolerance quantity.Length, unit *quantity.Unit) PackFound {
	off := p.Sum - required
	found := PackFound{
		Pieces: pieces(p, stock), Shims: p.Shims,
		Sum: quantity.Say(p.Sum, unit), Error: quantity.Say(off, unit), Verdict: metrology.Out,
	}
	if !input.Over(math.Abs(float64(nanometres(p.Sum)-nanometres(required))), float64(tolerance)*1e9) {
		found.Verdict = metrology.In
	}
	return found
}

// pieces lists a pack's shims, thickest first, in the drawer's own words.
func pieces(p Pack, stock []StockItem) []Piece {
	out := []Piece{}
	for _, pick := range p.Of {
		out = append(out, Piece{stock[pick.Index].Thickness, pick.Count, stock[pick.Index].Name})
	}
	return out
}

// toOrder is the single thickness that would complete a pack: the missing
// rest on top of as few shims as the drawer really holds that leave a rest of
// ordinary size, no thicker than the thickest, no thinner than the thinnest.
func toOrder(required quantity.Length, stock []Size, maxShims int) quantity.Length {
	if len(stock) == 0 {
		return required
	}
	bySize := slices.SortedFunc(slices.Values(stock),
		func(a, b Size) int { return cmp.Compare(b.Thickness, a.Thickness) })
	thickest, thinnest := bySize[0].Thickness, bySize[len(bySize)-1].Thickness
	rest, used := nanometres(required), 0
	for _, s := range bySize {
		for n := s.Count; n > 0 && used < maxShims-1 && rest > nanometres(thickest) &&
			rest-nanometres(s.Thickness) >= nanometres(thinnest); n-- {
			rest -= nanometres(s.Thickness)
			used++
		}
	}
	return quantity.Length(float64(rest) / 1e9)
}

func shimWord(n int) string {
	switch n {
	case 0:
		return "no shims"
	case 1:
		return "one shim"
	}
	return fmt.Sprintf("a pack of %d", n)
}

// CheckStock reads what lies in a drawer for another calculator.
func CheckStock(c *input.Checks, path string, items []StockItem) { checkStock(path, items, &c.Fields) }

func checkStock(path string, items []StockItem, faults *input.Fields) []Size {
	if len(items) > MaxSizes {
		faults.Add(path, fmt.Sprintf("up to %d sizes", MaxSizes), "%d sizes were given", len(items))
		return nil
	}
	var stock []Size
	for i, item := range items {
		at := input.Index(path, i)
		checkThickness(input.Join(at, "thickness"), item.Thickness, false, faults)
		size := Size{item.Thickness.SI(), Plenty}
		if item.Count != nil {
			size.Count = *item.Count
			if size.Count < 0 {
				faults.Add(input.Join(at, "count"), "zero or more", "%d is negative", size.Count)
			}
		}
		stock = append(stock, size)
	}
	return stock
}

func checkThickness(path string, l Length, zeroFits bool, faults *input.Fields) {
	allowed := fmt.Sprintf("more than zero, up to %s", quantity.Say(MaxThickness, l.Unit))
	if zeroFits {
		allowed = fmt.Sprintf("zero up to %s", quantity.Say(MaxThickness, l.Unit))
	}
	switch v := l.SI(); {
	case v < 0:
		faults.Add(path, allowed, "%s is negative", l)
	case v == 0 && !zeroFits:
		faults.Add(path, allowed, "a shim has a thickness")
	case v > 0 && v < quantity.Micrometre:
		faults.Add(path, allowed, "%s is too thin for a shim", l)
	case v > MaxThickness:
		faults.Add(path, allowed, "%s is too thick for a shim", l)
	}
}

func checkMax(n int, faults *input.Fields) int {
	if n == 0 {
		return DefaultShims
	}
	if n < 1 || n > MostShims {
		faults.Add("max_shims", fmt.Sprintf("1 to %d", MostShims), "%d shims is not a workable pack", n)
	}
	return n
}
