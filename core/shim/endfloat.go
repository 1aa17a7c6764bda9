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

// Sense tells what a thicker pack does to the float.
type Sense string

// The two ways a pack can sit.
const (
	PackReduces   Sense = "pack_reduces_float"
	PackIncreases Sense = "pack_increases_float"
)

// Washer is a thrust washer the unit's spec sheet lists.
type Washer struct {
	Name      string `json:"name"`
	Thickness Length `json:"thickness"`
}

// FloatIn asks what a push-pull measurement of a shaft means: readings of the
// indicator's travel with TrialPack in place, and a target for the float.
// Negative targets are preload.
type FloatIn struct {
	Readings   []Length              `json:"readings"`
	Instrument *metrology.Instrument `json:"instrument,omitempty"`
	Confidence float64               `json:"confidence,omitempty"`
	TrialPack  Length                `json:"trial_pack"`
	TargetMin  Length                `json:"target_min"`
	TargetMax  Length                `json:"target_max"`
	Sense      Sense                 `json:"sense" enum:"pack_reduces_float,pack_increases_float"`
	Stock      []StockItem           `json:"stock"`
	Washers    []Washer              `json:"washers,omitempty"`
	Far        *FarSide              `json:"far_side,omitempty"` // a second pack, at the other end
	Others     []Shaft               `json:"others,omitempty"`   // further shafts, from the same drawer
	MaxShims   int                   `json:"max_shims,omitempty"`
	Units      quantity.System       `json:"units,omitempty" enum:"metric,inch,both"`
}

// RequiredPack is the range of pack thickness that lands in the target.
type RequiredPack struct {
	Min Length `json:"min"`
	Aim Length `json:"aim"`
	Max Length `json:"max"`
}

// PackOffered is a pack with the float it would give.
type PackOffered struct {
	PackFound
	Float  Length   `json:"float"`
	Chance *float64 `json:"chance,omitempty"` // of landing in the target; missing when nothing is known of the spread
}

// Finding is something the numbers suggest looking at.
type Finding struct {
	Says   string `json:"says"`
	Washer string `json:"washer,omitempty"`
	Size   Length `json:"size,omitzero"`
}

// FloatOut is the answer.
type FloatOut struct {
	Float       metrology.ReadingSetOut `json:"float"`
	Uncertainty Length                  `json:"uncertainty,omitzero"`
	Verdict     metrology.Verdict       `json:"verdict"`
	Required    RequiredPack            `json:"required_pack"`
	Packs       []PackOffered           `json:"packs"`
	PackVerdict metrology.Verdict       `json:"pack_verdict"`
	Order       Length                  `json:"order,omitzero"`
	Sides       *BothSides              `json:"both_sides,omitempty"` // with a far side: the packs of both ends
	Others      []ShaftOut              `json:"others,omitempty"`     // in the order of the shafts asked
	Findings    []Finding               `json:"findings"`
	Next        string                  `json:"next"`
}

// EndFloat turns push-pull readings into the pack that mends the float F:
//
//	pack reduces the float:   pack = trial + F - target
//	pack increases the float: pack = trial - F + target
//
// aimed at the middle of the target; min and max are the packs that land on
// its ends. A missing washer shows as its own thickness and the float the
// shaft was built with: a float that is not in, and without the target comes
// within 10 % of a washer's thickness, raises the finding that such a washer
// may be missing (common practice). Source: geometry; verdict as metrology.Judge.
func EndFloat(in FloatIn) (FloatOut, error) {
	set, err := in.readings()
	faults := input.Below("", err)
	in.check(&faults)
	maxShims := checkMax(in.MaxShims, &faults)
	stock := checkStock("stock", in.Stock, &faults)
	if len(faults) > 0 {
		return FloatOut{}, faults
	}
	unit := in.Readings[0].Unit.For(in.Units)
	float := quantity.Length(set.Mean.SI())
	lo, hi := in.TargetMin.SI(), in.TargetMax.SI()
	aim := in.packFor(float, (lo+hi)/2)
	pmin, pmax := in.packFor(float, hi), in.packFor(float, lo)
	if in.Sense == PackIncreases {
		pmin, pmax = pmax, pmin
	}
	out := FloatOut{
		Float: set, Verdict: set.Verdict,
		Required:    RequiredPack{quantity.Say(pmin, unit), quantity.Say(aim, unit), quantity.Say(pmax, unit)},
		Packs:       []PackOffered{},
		PackVerdict: metrology.Out, Findings: in.findings(float, set.Verdict),
	}
	if set.Uncertainty.IsSaid() {
		out.Uncertainty.Any = set.Uncertainty
	}
	in.offer(&out, float, aim, stock, maxShims, unit)
	out.Next = in.next(out, pmax)
	if err := in.sides(&out, float, stock, maxShims, unit); err != nil {
		return FloatOut{}, err
	}
	return out, in.others(&out)
}

// EndFloatMethod is EndFloat as the catalogue lists it.
var EndFloatMethod = calculator.Define(examples, calculator.About{
	Name: "end-float", Version: 2,
	Purpose: "push-pull readings of a shaft: float, the pack it needs, and which shims of the drawer make it",
	Formula: "pack = trial + float − target where a pack takes float away; the other sign where it adds " +
		"float",
	Assumes: "the shaft seats at both ends; a float that is out and beyond its target by a listed washer, " +
		"within 10 % of it, suggests that it is missing",
	Sources: []string{"geometry", calculator.GUM, "missing washer at 10 %: " + calculator.Practice},
}, EndFloat)

// packFor is the pack thickness that turns the measured float into target.
func (in FloatIn) packFor(float, target quantity.Length) quantity.Length {
	if in.Sense == PackIncreases {
		return in.TrialPack.SI() - float + target
	}
	return in.TrialPack.SI() + float - target
}

// floatWith is the float that a pack would give.
func (in FloatIn) floatWith(float, pack quantity.Length) quantity.Length {
	change := pack - in.TrialPack.SI()
	if in.Sense == PackIncreases {
		return float + change
	}
	return float - change
}

// offer lists the drawer's packs with the float each would give, judged with
// the uncertainty of the measurement.
func (in FloatIn) offer(out *FloatOut, float, aim quantity.Length, stock []Size, maxShims int, unit *quantity.Unit) {
	half := (in.TargetMax.SI() - in.TargetMin.SI()) / 2
	wanted := max(aim, 0)
	u := math.NaN()
	if out.Uncertainty.IsSaid() {
		u = out.Uncertainty.DifferenceSI()
	}
	limits := metrology.Limits{Lower: float64(in.TargetMin.SI()), Upper: float64(in.TargetMax.SI())}
	for _, p := range BestPacks(wanted, stock, maxShims, DefaultThin) {
		found := describe(p, in.Stock, aim, half, unit)
		after := in.floatWith(float, p.Sum)
		found.Verdict = metrology.Judge(float64(after), u, limits)
		out.Packs = append(out.Packs, PackOffered{found, quantity.Say(after, unit),
			chance(float64(after), out.Float, limits)})
	}
	if len(out.Packs) > 0 {
		out.PackVerdict = out.Packs[0].Verdict
	}
	if out.PackVerdict != metrology.In && aim > 0 {
		out.Order = quantity.Say(toOrder(aim, stock, maxShims), unit)
	}
}

// chance of a float within limits; missing when nothing is known of the spread.
func chance(x float64, set metrology.ReadingSetOut, l metrology.Limits) *float64 {
	u := set.U.DifferenceSI()
	if !set.Uncertainty.IsSaid() || u <= 0 {
		return nil
	}
	p := metrology.Chance(x, u, l)
	return &p
}

// missingWithin is how near the float beyond its target must come to a washer's
// thickness to suggest that the washer is missing. Common practice.
const missingWithin = 0.10

func (in FloatIn) findings(float quantity.Length, v metrology.Verdict) []Finding {
	found := []Finding{}
	if v == metrology.In {
		return found
	}
	washers := in.Washers
	if len(washers) == 0 {
		for _, s := range in.Stock {
			washers = append(washers, Washer{s.Name, s.Thickness})
		}
	}
	offs := map[int]float64{} // by place in found
	for _, w := range washers {
		outside, off := in.offMissing(float, w.Thickness.SI())
		if input.Over(outside, missingWithin*float64(w.Thickness.SI())) {
			continue
		}
		name := w.Name
		if name == "" {
			name = "washer"
		}
		offs[len(found)] = off
		found = append(found, Finding{
			Says: fmt.Sprintf(
				"a washer may be missing: the %s is %s thick, and the float is over by as much. Look for it before you fit anything",
				name,
				w.Thickness,
			),
			Washer: name,
			Size:   w.Thickness,
		})
	}
	return nearestFirst(found, offs)
}

func nearestFirst(found []Finding, offs map[int]float64) []Finding {
	order := make([]int, len(found))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(offs[a], offs[b]) })
	sorted := make([]Finding, len(found))
	for i, at := range order {
		sorted[i] = found[at]
	}
	return sorted
}

// offMissing compares a float with what a missing washer would leave, its
// thickness and a float within the target: how far outside that it lies, and
// how far from its middle. In metres.
func (in FloatIn) offMissing(float, washer quantity.Length) (outside, off float64) {
	beyond, low, high := float64(float-washer), float64(in.TargetMin.SI()), float64(in.TargetMax.SI())
	return math.Max(0, math.Max(beyond-high, low-beyond)), math.Abs(beyond - (low+high)/2)
}

func (in FloatIn) next(out FloatOut, most quantity.Length) string {
	switch {
	case out.Verdict == metrology.In:
		return "The float is in. Leave the pack as it is."
	case out.Verdict == metrology.Undecided && out.Float.Decider != nil:
		return "Undecided: " + out.Float.Decider.Says + "."
	case most < 0 || (most == 0 && in.TrialPack.SI() > 0):
		return "Even with no shims the target cannot be reached. Check that the shaft is seated and the sign of the readings."
	case out.PackVerdict == metrology.Out && out.Order.IsSaid():
		return fmt.Sprintf("No pack from the drawer hits the target. Order %s.", round(out.Order))
	case len(out.Packs) > 0 && out.PackVerdict != metrology.In && out.Order.IsSaid():
		return fmt.Sprintf(
			"The drawer lands beside the middle: pack %s, float %s. Order %s, or fit it and measure again.",
			round(out.Packs[0].Sum), round(out.Packs[0].Float), round(out.Order),
		)
	case len(out.Packs) > 0:
		return fmt.Sprintf("Make up a pack of %s and fit it. Expect a float of %s; measure again.",
			round(out.Packs[0].Sum), round(out.Packs[0].Float))
	}
	return "The drawer is empty. Count what is in it first."
}

// round says a length with the decimals a shop instrument shows.
func round(l Length) string {
	return fmt.Sprintf("%.*f %s", l.Unit.Decimals, l.Value, l.Unit.Symbol)
}

// readings evaluates the set as reading-set does, against the target.
func (in FloatIn) readings() (metrology.ReadingSetOut, error) {
	set := metrology.ReadingSetIn{
		Instrument: in.Instrument, Confidence: in.Confidence, Units: in.Units,
		Lower: in.TargetMin.Any, Upper: in.TargetMax.Any,
	}
	for _, r := range in.Readings {
		set.Readings = append(set.Readings, r.Any)
	}
	out, err := metrology.ReadingSet(set)
	faults := input.Below("", err)
	for i := range faults {
		switch faults[i].Path {
		case "lower":
			faults[i].Path = "target_min"
		case "upper":
			faults[i].Path = "target_max"
		}
	}
	return out, faults.Err()
}

func (in FloatIn) check(faults *input.Fields) {
	if in.Sense != PackReduces && in.Sense != PackIncreases {
		faults.Add("sense", string(PackReduces)+", "+string(PackIncreases),
			"%q is not an effect of a thicker pack", in.Sense)
	}
	checkThickness("trial_pack", in.TrialPack, true, faults)
	for i, r := range in.Readings {
		if math.Abs(float64(r.SI())) > float64(MaxThickness) {
			faults.Add(
				input.Index("readings", i), "a float of some hundredths, below "+quantity.Say(MaxThickness,
					r.Unit).String(),
				"%s is too large for an end float", r,
			)
		}
	}
	for _, t := range []struct {
		name string
		l    Length
	}{{"target_min", in.TargetMin}, {"target_max", in.TargetMax}} {
		if math.Abs(float64(t.l.SI())) > float64(MaxThickness) {
			faults.Add(t.name, "a float of some hundredths", "%s is too large for an end float", t.l)
		}
	}
	for i, w := range in.Washers {
		checkThickness(fmt.Sprintf("washers[%d].thickness", i), w.Thickness, false, faults)
	}
}
