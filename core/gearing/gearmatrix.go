package gearing

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Force as somebody said it.
type Force = quantity.Said[quantity.Force]

// GearFigures is a figure of each kind that is measured at a gear; each may be missing.
type GearFigures struct {
	Gap   Length `json:"synchro_gap,omitzero"`    // between ring and gear, ring pressed on its cone
	Float Length `json:"float,omitzero"`          // of the gear along its shaft
	Fork  Length `json:"fork_clearance,omitzero"` // between fork and the groove of its sleeve
	Hold  Force  `json:"detent,omitzero"`         // pull at the rod that leaves the gear
}

// MeasuredGear is what was measured at a gear.
type MeasuredGear struct {
	Gear string `json:"gear"`
	GearFigures
}

// LengthLimits are what a length is as new and where it ends; each may be missing.
type LengthLimits struct {
	New   Length `json:"new,omitzero"`
	Lower Length `json:"lower,omitzero"`
	Upper Length `json:"upper,omitzero"`
}

// ForceLimits are the same of a force.
type ForceLimits struct {
	New   Force `json:"new,omitzero"`
	Lower Force `json:"lower,omitzero"`
	Upper Force `json:"upper,omitzero"`
}

// GearLimits are the spec sheet's.
type GearLimits struct {
	Gap   LengthLimits `json:"synchro_gap,omitzero"`    // wears down to lower
	Float LengthLimits `json:"float,omitzero"`          // wears up to upper
	Fork  LengthLimits `json:"fork_clearance,omitzero"` // wears up to upper
	Hold  ForceLimits  `json:"detent,omitzero"`         // wears down to lower
}

// GearMatrixIn is a gearbox measured gear by gear.
type GearMatrixIn struct {
	Gears       []MeasuredGear `json:"gears"`
	Limits      GearLimits     `json:"limits,omitzero"`
	Uncertainty GearFigures    `json:"uncertainty,omitzero"` // U at 95 %, of a reading of each kind
}

// GearCell is one figure of one gear, judged.
type GearCell struct {
	Gear    string   `json:"gear"`
	What    string   `json:"what" enum:"synchro_gap,float,fork_clearance,detent"`
	Verdict string   `json:"verdict,omitempty" enum:"in,out,undecided,not_measured"` // missing where there is no limit
	Life    *float64 `json:"life_percent,omitempty"`                                 // 100 as new, 0 at the worn limit
	Asks    string   `json:"asks,omitempty" enum:"ring,thrust_washer,fork_pad,detent_spring,wrong_part,read_again,limit"`
}

// GearAsk is a part that is asked for, and the gears that ask for it.
type GearAsk struct {
	Part  string   `json:"part" enum:"ring,thrust_washer,fork_pad,detent_spring"`
	Gears []string `json:"gears"`
}

// GearMatrixOut is the answer: what matters most comes first.
type GearMatrixOut struct {
	Cells   []GearCell        `json:"cells"`
	Asks    []GearAsk         `json:"asks"`
	Verdict metrology.Verdict `json:"verdict"` // of all that was measured
	Says    string            `json:"says"`
}

// gearFigure is a kind of figure: how it wears, and what it asks for then. A
// length and a force are both plain SI numbers here.
type gearFigure struct {
	what, called, part string
	grows              bool // as it wears
	of                 func(GearFigures) quantity.Any
	limits             func(GearLimits) (fresh, lower, upper quantity.Any)
	most               float64 // in SI units; more is a slip
}

var gearFigures = []gearFigure{
	{
		what: "synchro_gap", called: "synchroniser gap", part: "ring", most: 0.02,
		of: func(f GearFigures) quantity.Any { return f.Gap.Any },
		limits: func(l GearLimits) (fresh, lower, upper quantity.Any) {
			return l.Gap.New.Any, l.Gap.Lower.Any, l.Gap.Upper.Any
		},
	},
	{
		what: "float", called: "gear float", part: "thrust_washer", grows: true, most: 0.02,
		of: func(f GearFigures) quantity.Any { return f.Float.Any },
		limits: func(l GearLimits) (fresh, lower, upper quantity.Any) {
			return l.Float.New.Any, l.Float.Lower.Any, l.Float.Upper.Any
		},
	},
	{
		what: "fork_clearance", called: "fork clearance", part: "fork_pad", grows: true, most: 0.02,
		of: func(f GearFigures) quantity.Any { return f.Fork.Any },
		limits: func(l GearLimits) (fresh, lower, upper quantity.Any) {
			return l.Fork.New.Any, l.Fork.Lower.Any, l.Fork.Upper.Any
		},
	},
	{
		what: "detent", called: "detent", part: "detent_spring", most: 5000,
		of: func(f GearFigures) quantity.Any { return f.Hold.Any },
		limits: func(l GearLimits) (fresh, lower, upper quantity.Any) {
			return l.Hold.New.Any, l.Hold.Lower.Any, l.Hold.Upper.Any
		},
	},
}

// wearBand is a figure's limits in SI units; NaN where there is none.
type wearBand struct {
	metrology.Limits

	fresh, worn float64
}

// GearMatrix judges each figure of each gear against the sheet, says how much of
// its wear is left, and which parts are asked for.
//
// Wear lowers the synchroniser gap and the detent's pull, and raises gear float
// and fork clearance. Past the worn limit a figure asks for the part that wears;
// past the other one the part is the wrong one; better than new by more than the
// uncertainty and a twentieth of the wear, it is to be read again.
//
// Source: common practice; the verdict as in reading-set (idea of ISO 14253-1).
func GearMatrix(in GearMatrixIn) (GearMatrixOut, error) {
	bands, err := in.read()
	if err != nil {
		return GearMatrixOut{}, err
	}
	out := GearMatrixOut{Verdict: metrology.None, Asks: []GearAsk{}}
	var ranked []rankedCell
	for _, g := range in.Gears {
		for i, f := range gearFigures {
			ranked = append(ranked, f.judge(g, f.of(in.Uncertainty).DifferenceSI(), bands[i]))
		}
	}
	slices.SortStableFunc(ranked, func(a, b rankedCell) int {
		return cmp.Or(cmp.Compare(a.rank, b.rank), cmp.Compare(a.within, b.within))
	})
	for _, r := range ranked {
		out.Cells = append(out.Cells, r.GearCell)
		if r.rank < int(rankUnjudged) {
			out.Verdict = worseOf(out.Verdict, metrology.Verdict(r.Verdict))
		}
	}
	out.Asks = in.asks(out.Cells)
	out.Says = in.say(out)
	return out, nil
}

// GearMatrixMethod is GearMatrix as the catalogue lists it.
var GearMatrixMethod = calculator.Define(examples, calculator.About{
	Name: "gear-matrix", Version: 1,
	Purpose: "which gear's ring, thrust washer, fork pad or detent spring is worn, by what was measured at each gear",
	Formula: "life = (x − worn)/(new − worn); out beyond a limit by more than U, in within both by U",
	Assumes: "wear lowers synchroniser gap and detent, raises gear float and fork clearance",
	Sources: []string{calculator.Practice, calculator.ISO14253},
}, GearMatrix)

// The order of cells: what is worst comes first.
const (
	rankOut = iota
	rankUndecided
	rankIn
	rankUnjudged // no limit
	rankNotMeasured
)

type rankedCell struct {
	GearCell

	rank   int
	within float64 // among its like: smaller comes first
}

// judge reads a figure of a gear; u is its uncertainty in SI units.
func (f gearFigure) judge(g MeasuredGear, u float64, band wearBand) rankedCell {
	cell := rankedCell{GearCell: GearCell{Gear: g.Gear, What: f.what}}
	said := f.of(g.GearFigures)
	switch {
	case !said.IsSaid():
		cell.Verdict, cell.rank = "not_measured", rankNotMeasured
		return cell
	case band.IsOpen():
		cell.Asks, cell.rank = "limit", rankUnjudged
		return cell
	}
	x := said.SI()
	verdict := metrology.Judge(x, u, band.Limits)
	cell.Verdict = string(verdict)
	cell.Life = band.life(x)
	switch verdict {
	case metrology.Out:
		beyond := metrology.Beyond(x, band.Limits)
		cell.rank, cell.Asks = rankOut, "wrong_part"
		if beyond > 0 == f.grows {
			cell.Asks = f.part
		}
		limit := band.Lower
		if beyond > 0 {
			limit = band.Upper
		}
		cell.within = -math.Abs(beyond / limit)
		return cell
	case metrology.Undecided:
		cell.rank = rankUndecided
	default:
		cell.rank, cell.within = rankIn, math.Inf(1)
		if cell.Life != nil {
			cell.within = *cell.Life
		}
	}
	if f.betterThanNew(x, u, band) {
		cell.Asks = "read_again"
	}
	return cell
}

// life is what is left in per cent, where new and worn are both known.
func (b wearBand) life(x float64) *float64 {
	if math.IsNaN(b.fresh + b.worn) {
		return nil
	}
	left, err := metrology.LifeLeft(x, b.fresh, b.worn)
	if err != nil {
		return nil
	}
	return new(100 * min(1, max(0, left)))
}

func (f gearFigure) betterThanNew(x, u float64, b wearBand) bool {
	by := x - b.fresh
	if f.grows {
		by = -by
	}
	wear := math.Abs(b.fresh - b.worn)
	return input.Over(by, u) && (math.IsNaN(wear) || input.Over(by, 0.05*wear))
}

// read checks what was said and gives each figure's limits.
func (in GearMatrixIn) read() ([]wearBand, error) {
	var c input.Checks
	if len(in.Gears) < 1 || len(in.Gears) > maxShiftGears {
		c.Add("gears", fmt.Sprintf("1 to %d gears", maxShiftGears), "%d gears", len(in.Gears))
		return nil, c.Err()
	}
	measured := false
	for i, g := range in.Gears {
		at := input.Index("gears", i)
		ownName(
			&c,
			at+".gear",
			g.Gear,
			slices.IndexFunc(in.Gears, func(x MeasuredGear) bool { return x.Gear == g.Gear }) < i,
		)
		for _, f := range gearFigures {
			f.canBe(&c, at+"."+f.what, f.of(g.GearFigures))
			measured = measured || f.of(g.GearFigures).IsSaid()
		}
	}
	bands := make([]wearBand, len(gearFigures))
	for i, f := range gearFigures {
		f.canBe(&c, "uncertainty."+f.what, f.of(in.Uncertainty))
		bands[i] = f.band(&c, in.Limits)
	}
	if !measured && c.Err() == nil {
		c.Add("gears[0]", "at least one figure", "nothing was measured")
	}
	return bands, c.Err()
}

// ownName: a gear is called something, and nothing that another is called.
func ownName(c *input.Checks, at, name string, taken bool) {
	if strings.TrimSpace(name) == "" || taken {
		c.Add(at, "a name of its own", "%q is empty, or there twice", name)
	}
}

func (f gearFigure) canBe(c *input.Checks, at string, said quantity.Any) {
	if v := said.SI(); said.IsSaid() && (v < 0 || input.Over(v, f.most)) {
		c.Add(at, fmt.Sprintf("0 to %s", quantity.Any{Value: f.most / said.Unit.Factor, Unit: said.Unit}),
			"%s cannot be", said)
	}
}

// band reads the limits of a figure; worn is the one it comes to by wear.
func (f gearFigure) band(c *input.Checks, l GearLimits) wearBand {
	fresh, lower, upper := f.limits(l)
	at := "limits." + f.what
	f.canBe(c, at+".new", fresh)
	f.canBe(c, at+".lower", lower)
	f.canBe(c, at+".upper", upper)
	b := wearBand{metrology.Open(), math.NaN(), math.NaN()}
	if fresh.IsSaid() {
		b.fresh = fresh.SI()
	}
	if lower.IsSaid() {
		b.Lower = lower.SI()
	}
	if upper.IsSaid() {
		b.Upper = upper.SI()
	}
	if input.Over(b.Lower, b.Upper) {
		c.Add(at+".upper", "not below "+lower.String(), "%s is below the lower limit", upper)
	}
	worn, end, above := lower, "lower", input.Under(b.Lower, b.fresh)
	if f.grows {
		worn, end, above = upper, "upper", input.Over(b.Upper, b.fresh)
	}
	if worn.IsSaid() {
		b.worn = worn.SI()
		if fresh.IsSaid() && !above {
			c.Add(at+".new", "on the good side of the worn limit, "+worn.String(),
				"as new it is %s, at or past its %s limit", fresh, end)
		}
	}
	return b
}

// worseOf two verdicts: out before undecided before in.
func worseOf(a, b metrology.Verdict) metrology.Verdict {
	order := []metrology.Verdict{metrology.Out, metrology.Undecided, metrology.In, metrology.None}
	return order[min(slices.Index(order, a), slices.Index(order, b))]
}

// asks gathers the parts with their gears, in the order in which gears and figures stand.
func (in GearMatrixIn) asks(cells []GearCell) []GearAsk {
	list := []GearAsk{}
	for _, f := range gearFigures {
		ask := GearAsk{Part: f.part}
		for _, g := range in.Gears {
			if slices.ContainsFunc(cells, func(c GearCell) bool { return c.Gear == g.Gear && c.Asks == f.part }) {
				ask.Gears = append(ask.Gears, g.Gear)
			}
		}
		if len(ask.Gears) > 0 {
			list = append(list, ask)
		}
	}
	return list
}
