package workshop

import (
	"encoding/json"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// fillKind: a class of fluid, and how much of it.
var fillKind = kind{
	name: book.Fill,
	Nature: book.Nature{
		Check: checkFill,
		Sample: func(_ book.Step, what []string) (any, bool) {
			return one("L"), what[0] == "value"
		},
		Wants:   func(s book.Step) []string { return append([]string{"fills." + s.Fill.Of}, weighsWant(s)...) },
		Misfits: weighsMisfit,
		Whole:   func(s book.Step) bool { return s.Fill != nil && s.Measure == nil },
		// A fluid is not chosen before one knows what it has to suit.
		WaitsForAll: true,
	},
	takes:  []Act{ActFilled},
	needs:  needsFill,
	open:   func(*State, *Step, time.Time) []OpenAct { return []OpenAct{{Act: ActFilled}} },
	accept: acceptFill,
	view:   viewFill,
	gives: func(s *State, step *Step, _ []string) (any, bool, error) {
		return saidAt(s, step, ActFilled, Place{}, func(b Body) any { return b.Value })
	},
	usual: usualFill,
	says: func(_ *State, step *Step, e *Entry) string {
		b := e.Said()
		return b.valueWords() + ", " + fluidClass(step, b.Outcome)
	},
	empty: func() StepView { return &FillStep{} },
	buys:  buysFluid,
	sums:  sumsFilled,
}

// FillStep is a fill as the bench shows it.
type FillStep struct {
	StepFrame
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
	checkWeighs(c, at, s)
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

func viewFill(v viewer, f StepFrame) (StepView, error) {
	spec := v.step.Fill
	var err error
	if f.Weighed, err = v.weighed(); err != nil {
		return nil, err
	}
	view := &FillStep{
		StepFrame: f, Kind: book.Fill, Units: quantity.ChoicesIn(v.state.units, spec.Unit),
		Fluids: fluidsFor(v.step, resultsOf(f.Weighed)),
	}
	if limit, ok := v.state.on.sheet.Fills[spec.Of]; ok {
		view.Fill = &limit
	}
	if spec.Like != "" {
		like, _ := v.ledger.Plan.Step(spec.Like)
		e, _ := v.state.of(like).has(ActFilled, Place{})
		view.Chosen = e.Said().Outcome
	}
	return view, nil
}

func needsFill(s *State, step *Step) Need {
	e, ok := s.of(step).has(ActFilled, Place{})
	switch {
	case !ok:
		return Need{What: FluidIn}
	case e.Verdict != metrology.In && !s.isBlind(step):
		return Need{What: RightQuantity}
	}
	return Need{}
}

func acceptFill(p *proposal) error {
	p.draft.Item = Place{}
	if err := p.outcomeAmong(idList(p.step.Fill.Fluids, func(x book.Fluid) string { return x.ID })...); err != nil {
		return err
	}
	views, err := p.weighed()
	if err != nil {
		return err
	}
	weighed := resultsOf(views)
	fluids := fluidsFor(p.step, weighed)
	fluid := fluids[slices.IndexFunc(fluids, func(x book.Fluid) bool { return x.ID == p.draft.Outcome })]
	if fluid.Forbids != "" {
		return input.At("outcome", "another fluid", "%s", fluid.Forbids)
	}
	if err := p.asChosen(); err != nil {
		return err
	}
	if err := p.valueOf(quantity.DimVolume); err != nil {
		return err
	}
	limit := p.state.on.sheet.Fills[p.step.Fill.Of]
	volume := quantity.Volume(p.draft.Value.SI())
	if volume <= 0 {
		return input.At("value", "more than nothing", "%s is no fill", p.draft.Value)
	}
	in := func(symbol string) quantity.Said[quantity.Volume] {
		return quantity.Say(volume, quantity.Named(symbol))
	}
	if p.verdict = metrology.None; !p.state.isBlind(p.step) {
		p.verdict = metrology.Judge(float64(volume), 0, metrology.Limits{Lower: float64(limit.Min.SI()), Upper: float64(limit.Max.SI())})
	}
	return p.computed("quantity/1", FillResult{
		in("L"), in("US qt"), in("imp pt"), limit.Min, limit.Max, p.verdict, fluid.Class, fluid.Why, weighed,
	})
}

// asChosen: what goes in is what was chosen before.
func (p *proposal) asChosen() error {
	if p.step.Fill.Like == "" {
		return nil
	}
	like, _ := p.ledger.Plan.Step(p.step.Fill.Like)
	before, ok := p.state.of(like).has(ActFilled, Place{})
	if chosen := before.Said().Outcome; ok && chosen != p.draft.Outcome {
		return input.At("outcome", fluidClass(like, chosen), "at %q another class was chosen; correct it there first", like.Title)
	}
	return nil
}

// usualFill is the middle of the range, of the fluid chosen or the first that may go in.
func usualFill(v StepView) Draft {
	x := v.(*FillStep)
	i := slices.IndexFunc(x.Fluids, func(f book.Fluid) bool { return f.ID == x.Chosen || (x.Chosen == "" && f.Forbids == "") })
	mid := quantity.Say(quantity.Litre, quantity.Named("L")) // where nobody knows how much
	if x.Fill != nil {
		mid = quantity.Say((x.Fill.Min.SI()+x.Fill.Max.SI())/2, quantity.Named("L"))
	}
	return Draft{Act: ActFilled, Body: Body{Outcome: x.Fluids[i].ID, Value: mid.Any}}
}

func fluidClass(step *Step, id string) string {
	if step.Fill == nil {
		return id
	}
	return named(step.Fill.Fluids, id, func(f book.Fluid) (string, string) { return f.ID, f.Class })
}

// buysFluid is the fluid that was chosen.
func buysFluid(s *State, step *Step) (list []ToBuy, all bool) {
	e, ok := s.of(step).has(ActFilled, Place{})
	if !ok {
		return nil, true
	}
	b := e.Said()
	return []ToBuy{{
		Line: fluidPrefix + step.ID, Name: fluidClass(step, b.Outcome), Pieces: 1, Why: b.valueWords() + " wanted", Asked: true,
	}}, true
}

func sumsFilled(s *State, step *Step, sum *Summary) {
	if e, ok := s.of(step).has(ActFilled, Place{}); ok {
		sum.Fitted = append(sum.Fitted, step.Title+": "+s.words(step, &e))
	}
}
