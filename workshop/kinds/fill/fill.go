// Package fill is the step of a fluid: which class, and how much.
package fill

import (
	"encoding/json"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/fluid"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Kind: a class of fluid, and how much of it.
var Kind = record.Kind{
	Name: book.Fill,
	Nature: book.Nature{
		Check: checkFill,
		Sample: func(_ book.Step, what []string) (any, bool) {
			return measure.One("L"), what[0] == "value"
		},
		Wants:   func(s book.Step) []string { return append([]string{"fills." + s.Fill.Of}, measure.WeighsWant(s)...) },
		Misfits: measure.WeighsMisfit,
		Whole:   func(s book.Step) bool { return s.Fill != nil && s.Measure == nil },
		// A fluid is not chosen before one knows what it has to suit.
		WaitsForAll: true,
	},
	Takes: []*record.Act{{
		Act: acts.Filled{}, Accept: acceptFill,
		Says: func(_ *record.State, step *record.Step, e *record.Entry) string {
			said := record.As[acts.Filled](e)
			return said.Words() + ", " + fluidClass(step, said.Outcome)
		},
	}},
	Needs: needsFill,
	Open: func(*record.State, *record.Step, time.Time) []record.OpenAct {
		return []record.OpenAct{record.MayDo(acts.Filled{})}
	},
	View: viewFill,
	Gives: func(s *record.State, step *record.Step, _ []string) (any, bool, error) {
		return items.ReadAt(s, step, record.Place{}, func(said *acts.Filled) any { return said.Value })
	},
	Usual: usualFill,
	Empty: func() record.StepView { return &FillStep{} },
	Buys:  buysFluid,
	Sums:  sumsFilled,
}

// FillStep is a fill as the bench shows it.
type FillStep struct {
	record.StepFrame
	Kind   book.Kind       `json:"kind" const:"fill"`
	Units  []string        `json:"units"` // to type in
	Fluids []book.Fluid    `json:"fluids"`
	Fill   *book.FillLimit `json:"fill,omitempty"`   // nobody knows where it is not there
	Chosen string          `json:"chosen,omitempty"` // the fluid chosen at the step this one follows
}

// FillResult is a filled quantity in the units of three shops.
type FillResult struct {
	Litre    quantity.Said[quantity.Volume] `json:"litre"`
	USQuart  quantity.Said[quantity.Volume] `json:"us_quart"`
	ImpPint  quantity.Said[quantity.Volume] `json:"imp_pint"`
	Min      quantity.Said[quantity.Volume] `json:"min,omitzero"`
	Max      quantity.Said[quantity.Volume] `json:"max,omitzero"`
	Verdict  metrology.Verdict              `json:"verdict"`
	FluidIs  string                         `json:"fluid"`
	FluidWhy string                         `json:"why"`
	// Weighed is what the calculators said of the choice, by their names.
	Weighed map[string]json.RawMessage `json:"weighed,omitempty"`
}

func checkFill(c *book.Checker, at string, s book.Step) {
	measure.CheckWeighs(c, at, s)
	f, at := s.Fill, input.Join(at, "fill")
	if f != nil && f.Like != "" {
		if like, ok := c.Earlier(f.Like); !ok || like.Fill == nil || like.Fill.Like != "" || len(f.Fluids) > 0 {
			c.Add(input.Join(at, "like"), "an earlier fill step, and no fluids here", "%q cannot be followed", f.Like)
		}
		return
	}
	if f == nil || len(f.Fluids) == 0 {
		c.Add(at, "of, unit and at least one fluid; or like: an earlier fill step", "nothing to fill")
		return
	}
	c.Unit(input.Join(at, "unit"), f.Unit, quantity.DimVolume)
	book.Unique(c, input.Join(at, "fluids"), f.Fluids, func(f book.Fluid) string { return f.ID })
}

func viewFill(v record.Viewer, f record.StepFrame) (record.StepView, error) {
	spec := v.Step.Fill
	var err error
	if f.Weighed, err = measure.WeighFor(v); err != nil {
		return nil, err
	}
	view := &FillStep{
		StepFrame: f, Kind: book.Fill, Units: quantity.ChoicesIn(v.State.Units, spec.Unit),
		Fluids: fluidsFor(v.Step, measure.ResultsOf(f.Weighed)),
	}
	if limit, ok := v.State.On.Sheet.Fills[spec.Of]; ok {
		view.Fill = &limit
	}
	if spec.Like != "" {
		like, _ := v.Ledger.Plan.Step(spec.Like)
		e, _ := v.State.At(like).Has(acts.Filled{}, record.Place{})
		view.Chosen = acts.OutcomeOf(e.ReadAct())
	}
	return view, nil
}

func needsFill(s *record.State, step *record.Step) record.Need {
	e, ok := s.At(step).Has(acts.Filled{}, record.Place{})
	switch {
	case !ok:
		return record.Need{What: record.FluidIn}
	case e.Verdict != metrology.In && !s.IsBlind(step):
		return record.Need{What: record.RightQuantity}
	}
	return record.Need{}
}

func acceptFill(p *record.Attempt) error {
	said := record.Saying[acts.Filled](p)
	p.Draft.Item = record.Place{}
	if err := p.WantOutcome(say.IDs(p.Step.Fill.Fluids, func(x book.Fluid) string { return x.ID })...); err != nil {
		return err
	}
	views, err := measure.Weigh(p)
	if err != nil {
		return err
	}
	weighed := measure.ResultsOf(views)
	fluids := fluidsFor(p.Step, weighed)
	fluid := fluids[slices.IndexFunc(fluids, func(x book.Fluid) bool { return x.ID == said.Outcome })]
	if fluid.Forbids != "" {
		return input.At("outcome", "another fluid", "%s", fluid.Forbids)
	}
	if err := asChosen(p); err != nil {
		return err
	}
	if err := p.WantValue(quantity.DimVolume); err != nil {
		return err
	}
	limit := p.State.On.Sheet.Fills[p.Step.Fill.Of]
	volume := quantity.Volume(said.Value.SI())
	if volume <= 0 {
		return input.At("value", "more than 0", "%s is not a quantity of oil", said.Value)
	}
	in := func(symbol string) quantity.Said[quantity.Volume] {
		return quantity.Say(volume, quantity.Named(symbol))
	}
	if p.Verdict = metrology.None; !p.State.IsBlind(p.Step) {
		p.Verdict = metrology.Judge(float64(volume), 0,
			metrology.Limits{Lower: float64(limit.Min.SI()), Upper: float64(limit.Max.SI())})
	}
	return p.KeepResult("quantity/1", FillResult{
		in("L"), in("US qt"), in("imp pt"), limit.Min, limit.Max, p.Verdict, fluid.Class, fluid.Why, weighed,
	})
}

// asChosen: what goes in is what was chosen before.
func asChosen(p *record.Attempt) error {
	if p.Step.Fill.Like == "" {
		return nil
	}
	like, _ := p.Ledger.Plan.Step(p.Step.Fill.Like)
	before, ok := p.State.At(like).Has(acts.Filled{}, record.Place{})
	if chosen := acts.OutcomeOf(before.ReadAct()); ok && chosen != acts.OutcomeOf(p.Draft.Says) {
		return input.At("outcome", fluidClass(like, chosen), "a different class was chosen at %q; correct that first",
			like.Title)
	}
	return nil
}

// usualFill is the middle of the range, of the fluid chosen or the first that may go in.
func usualFill(v record.StepView) record.Draft {
	x := v.(*FillStep)
	i := slices.IndexFunc(x.Fluids, func(f book.Fluid) bool {
		return f.ID == x.Chosen ||
			(x.Chosen == "" && f.Forbids == "")
	})
	mid := quantity.Say(quantity.Litre, quantity.Named("L")) // where nobody knows how much
	if x.Fill != nil {
		mid = quantity.Say((x.Fill.Min.SI()+x.Fill.Max.SI())/2, quantity.Named("L"))
	}
	return record.Draft{Says: &acts.Filled{Outcome: x.Fluids[i].ID, Measured: acts.Measured{Value: mid.Any}}}
}

func fluidClass(step *record.Step, id string) string {
	if step.Fill == nil {
		return id
	}
	return say.NameOf(step.Fill.Fluids, id, func(f book.Fluid) (string, string) { return f.ID, f.Class })
}

// buysFluid is the fluid that was chosen.
func buysFluid(s *record.State, step *record.Step) (list []record.ToBuy, all bool) {
	b, _ := record.FindAct[acts.Filled](s, step, record.Place{})
	if b == nil {
		return nil, true
	}
	return []record.ToBuy{{
		Line: record.FluidPrefix + step.ID, Name: fluidClass(step, b.Outcome), Pieces: 1,
		Why: b.Words() + " wanted", Asked: true,
	}}, true
}

func sumsFilled(s *record.State, step *record.Step, sum *record.Summary) {
	if e, ok := s.At(step).Has(acts.Filled{}, record.Place{}); ok {
		sum.Fitted = append(sum.Fitted, step.Title+": "+record.Words(s, step, &e))
	}
}

// fluidsFor are the fluids of a step as its unit wants them: those that the
// class forbids say why, and the best stands first.
func fluidsFor(step *record.Step, results map[string]json.RawMessage) []book.Fluid {
	fluids := slices.Clone(step.Fill.Fluids)
	var found fluid.ChooseOut
	if raw, ok := results[fluid.ChooseMethod.Name]; !ok || json.Unmarshal(raw, &found) != nil {
		return fluids
	}
	rank := map[string]int{}
	for i, c := range found.Classes {
		rank[c.ID] = i
		for j, f := range fluids {
			if f.Rule == c.ID && f.Forbids == "" {
				fluids[j].Forbids = c.Stop
			}
		}
	}
	modified := slices.ContainsFunc(found.Needed, func(s string) bool {
		return strings.Contains(s,
			"friction modifier")
	})
	last := len(found.Classes)
	key := func(f book.Fluid) int {
		at, ok := rank[f.Rule]
		if !ok {
			at = last
		}
		k := 4 * at
		if f.Modifier != modified {
			k += 2
		}
		if f.Forbids != "" {
			k += 8 * (last + 1)
		}
		return k
	}
	slices.SortStableFunc(fluids, func(a, b book.Fluid) int { return key(a) - key(b) })
	return fluids
}
