// Package measure is the step with a calculator: readings and answers go in, in
// trials, and what it says is the verdict. What other kinds weigh a choice by is
// worked out here too.
package measure

import (
	"encoding/json"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/gearing"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// Kind: a calculator with a face. Readings and answers go in, in trials;
// what it says is the verdict. trial.go holds the trials, bind.go where the
// calculator's inputs come from, pack.go the packs of a drawer.
var Kind = record.Kind{
	Name: book.Measure,
	Nature: book.Nature{
		Check:   checkMeasure,
		Sample:  measureSample,
		Wants:   measureWants,
		Shows:   measureShows,
		Misfits: measureMisfits,
		Whole:   func(s book.Step) bool { return s.Measure != nil && s.Fill == nil },
	},
	Takes: []*record.Act{
		{Act: acts.Reading{}, Accept: acceptReading, Strike: strikeReading, Says: readingSaid},
		{Act: acts.Fit{}, Accept: acceptFit, Strike: strikeTrial, Says: fitWords},
		{
			Act:    acts.Again{},
			Accept: acceptAgain,
			Strike: strikeTrial,
			Says:   record.ReasonWords("changed, measure again"),
		},
		{Act: acts.Reckon{}, Accept: acceptReckon, Says: reckonWords},
		{Act: acts.Accept{}, Accept: acceptAsItIs, Says: record.ReasonWords("accepted as it is"), Remark: true},
	},
	Needs: needsMeasure,
	Open:  openMeasure,
	View:  viewMeasure,
	Gives: givesMeasure,
	Usual: usualReading,
	Empty: func() record.StepView { return &MeasureStep{} },
	Bad:   badCells,
	Left:  listAccepted,
	Sums:  sumsMeasured,
	Buys:  buysWorn,
}

// MeasureStep is a measuring bench.
type MeasureStep struct {
	record.StepFrame
	Kind        book.Kind        `json:"kind" const:"measure"`
	Calc        string           `json:"calc"`
	Asks        []AskView        `json:"asks"`
	MinReadings int              `json:"min_readings"`
	Units       []string         `json:"units"`             // to type readings in
	Reckons     bool             `json:"reckons,omitempty"` // can be worked out from sheet and record alone
	Trials      []Trial          `json:"trials"`
	GaugeKind   string           `json:"gauge_kind,omitempty"` // what it is read with
	Instruments []shop.GaugeView `json:"instruments"`
	// Input is what the calculator is given, as far as it is known: for drawing.
	Input map[string]any `json:"input"`
	// Packs is given where a drawer holds what is fitted.
	Packs  *PacksView  `json:"packs,omitempty"`
	Limits *book.Limit `json:"limits,omitempty"` // that the readings lie between
	// Before is what was measured before it came apart, and here in earlier rebuilds of the unit.
	Before []Measured `json:"before,omitempty"`
}

// AskView is one figure asked for, with what the sheet says of it.
type AskView struct {
	ID       string           `json:"id"`
	Text     string           `json:"text"`
	Units    []string         `json:"units,omitempty"` // to type it in, the shop's own first
	Choices  []book.AskChoice `json:"choices,omitempty"`
	Optional bool             `json:"optional,omitempty"`
	Sheet    json.RawMessage  `json:"sheet,omitempty"` // a limit or a figure
	Feeds    string           `json:"feeds,omitempty"` // its place in the calculator's input: readings[2].reading
}

// PacksView is the drawer the packs come from.
type PacksView struct {
	Drawer  string            `json:"drawer"`  // empty: which one it is was not said for this family
	Stock   record.Drawer     `json:"stock"`   // what it holds
	Drawers []shop.DrawerName `json:"drawers"` // of the shop, to say which
	Units   []string          `json:"units"`   // to type a size in
	// Asked is set where what is in there counts for the result: it is said before anything is read.
	Asked bool `json:"asked"`
}

func givesMeasure(s *record.State, step *record.Step, what []string) (any, bool, error) {
	trials := Trials(s, step)
	t := trials[len(trials)-1]
	if what[0] == "result" {
		v, ok := book.Within(t.Result, what[1:])
		if !ok {
			return nil, false, ErrNotYet
		}
		return v, true, nil
	}
	v, ok, err := answerOf(step, t, what[0])
	if err == nil && !ok && t.Result == nil {
		err = ErrNotYet
	}
	return v, ok, err
}

func openMeasure(s *record.State, step *record.Step, _ time.Time) []record.OpenAct {
	trials := Trials(s, step)
	t, m := trials[len(trials)-1], step.Measure
	var open []record.OpenAct
	if m.MinReadings > 0 || len(m.Asks) > 0 {
		open = append(open, record.MayDo(acts.Reading{}))
	}
	if m.Drawer != "" {
		open = append(open, record.MayDo(acts.Fit{}))
	}
	if m.Reckons() || (t.Result == nil && !s.IsBlind(step) && t.asksLeft(step) == 0 &&
		len(t.Readings) >= m.MinReadings) {
		open = append(open, record.MayDo(acts.Reckon{}))
	}
	if t.Result != nil {
		open = append(open, record.MayDoWhy(acts.Again{}))
		if len(t.Readings) >= m.MinReadings {
			open = append(open, record.MayDoWhy(acts.Accept{}))
		}
	}
	return open
}

func viewMeasure(v record.Viewer, f record.StepFrame) (record.StepView, error) {
	m, figures := v.Step.Measure, v.State.On.Figures
	view := &MeasureStep{
		StepFrame: f, Kind: book.Measure, Calc: m.Calc, Asks: []AskView{}, MinReadings: m.MinReadings,
		Units: quantity.ChoicesIn(
			v.State.Units, m.Unit,
		), Reckons: m.Reckons(),
		Trials: Trials(v.State, v.Step), GaugeKind: m.Gauge,
	}
	if limit, ok := v.State.On.Sheet.Limits[record.LimitOf(v.Step)]; ok {
		view.Limits = &limit
	}
	for _, a := range m.Asks {
		on, _ := a.OnSheet()
		view.Asks = append(view.Asks, AskView{
			a.ID, a.Text, quantity.ChoicesIn(v.State.Units, a.Unit), a.Choices, a.Optional, figures[on],
			v.Step.Bindings.Feeds["entries."+a.ID],
		})
	}
	p := &record.Attempt{Ledger: v.Ledger, State: v.State, Step: v.Step}
	var err error
	if view.Instruments, err = v.Gauges(); err != nil {
		return nil, err
	}
	if view.Before, err = readBefore(v.Ledger, v.Step); err != nil {
		return nil, err
	}
	if view.Input, err = v.Step.Bindings.Fill(soFar{binder{p, view.Trials}}); err != nil {
		return view, err
	}
	if view.Input, err = view.Trials[len(view.Trials)-1].alsoSeen(view.Input); err != nil || m.Drawer == "" {
		return view, err
	}
	view.Packs, err = packsView(p)
	return view, err
}

// soFar is a binder that leaves away what is not known yet. What fills a margin
// of its own, causes and tests, is left to the calculator.
type soFar struct{ binder }

// Sparse keeps the places of what is not answered yet: they are drawn.
func (x soFar) Sparse() bool { return false }

// Value of a source, if it is there.
func (x soFar) Value(s book.Source, trial int) (any, bool, error) {
	if s.Room == book.FromBook || s.Room == book.FromDrawer {
		return nil, false, nil
	}
	v, ok, err := x.binder.Value(s, trial)
	return v, ok && err == nil, nil
}

// usualReading answers what is asked as the sheet says, reads in the middle of
// the limits, fits the best pack offered, and else takes it as it is.
func usualReading(v record.StepView) record.Draft {
	x := v.(*MeasureStep)
	t := x.Trials[len(x.Trials)-1]
	for _, a := range x.Asks {
		if _, ok := t.answer(a.ID); !ok && !a.Optional {
			return record.Draft{Item: record.Place{Name: a.ID}, Says: usualAnswer(a)}
		}
	}
	if t.Result == nil && x.MinReadings == 0 && len(t.Asked) == 0 && len(x.Asks) > 0 && len(x.Asks[0].Choices) > 0 {
		return record.Draft{
			Item: record.Place{Name: x.Asks[0].ID},
			Says: usualAnswer(x.Asks[0]),
		} // all may stay open, but not all do
	}
	if len(t.Readings) < x.MinReadings || (t.Verdict == metrology.Undecided && x.MinReadings > 0 &&
		len(t.Readings) < 2*x.MinReadings) {
		read := &acts.Reading{}
		if read.Value = middleOfLimit(x.Limits, quantity.Named(x.Units[0])); len(x.Instruments) > 0 {
			read.Instrument = x.Instruments[0].ID
		}
		return record.Draft{Says: read}
	}
	var offer struct {
		Packs []struct {
			Pieces []acts.Piece `json:"pieces"`
		} `json:"packs"`
	}
	switch {
	case t.Result == nil:
		return record.Draft{Says: &acts.Reckon{}}
	case t.Verdict == metrology.Out && json.Unmarshal(t.Result, &offer) == nil && len(offer.Packs) > 0:
		return record.Draft{Says: &acts.Fit{Pack: offer.Packs[0].Pieces}}
	}
	return record.Draft{Says: &acts.Accept{Reason: "as good as it gets"}}
}

func usualAnswer(a AskView) acts.Act {
	if len(a.Choices) > 0 {
		return &acts.Reading{Outcome: a.Choices[0].ID}
	}
	return &acts.Reading{Measured: acts.Measured{Value: middleOf(a.Sheet, slices.Concat(a.Units, []string{""})[0])}}
}

// middleOf is the middle of a limit, or a figure itself, in a unit.
func middleOf(raw json.RawMessage, unit string) quantity.Any {
	u := quantity.Named(unit)
	var limit book.Limit
	var figure quantity.Any
	var number float64
	switch {
	case json.Unmarshal(raw, &number) == nil:
		return quantity.Any{Value: number, Unit: u}
	case json.Unmarshal(raw, &figure) == nil:
		return quantity.Say(quantity.Magnitude(figure.SI()), u).Any
	case json.Unmarshal(raw, &limit) == nil:
		return middleOfLimit(&limit, u)
	}
	return quantity.Any{Value: 1, Unit: u}
}

func middleOfLimit(limit *book.Limit, u *quantity.Unit) quantity.Any {
	switch {
	case limit == nil:
		return quantity.Any{Value: 1, Unit: u}
	case limit.Min.IsSaid() && limit.Max.IsSaid():
		return quantity.Say(quantity.Magnitude((limit.Min.SI()+limit.Max.SI())/2), u).Any
	case limit.Max.IsSaid():
		return quantity.Say(quantity.Magnitude(limit.Max.SI()/2), u).Any
	case limit.Min.IsSaid():
		return quantity.Say(quantity.Magnitude(limit.Min.SI()*1.5), u).Any
	}
	return quantity.Any{Value: 1, Unit: u}
}

// triesGears: every gear is tried and answered for itself.
func triesGears(step *record.Step) bool { return gearing.ShiftMatrixMethod.Is(step.Measure.Calc) }

// badCells are the gears that do not go in as they should, where all are tried.
func badCells(s *record.State, step *record.Step) (list []record.Point) {
	if !triesGears(step) {
		return nil
	}
	trials := Trials(s, step)
	t := trials[len(trials)-1]
	for _, e := range t.Asked {
		if o := acts.OutcomeOf(e.ReadAct()); o != "" && o != "in" {
			list = append(list, record.Point{
				Step:  step.ID,
				Title: step.Title,
				Says:  readingWords(step, e.Item, record.As[acts.Reading](&e)),
				By:    e.By.Name,
				Left:  t.Accepted,
				Item:  e.Item.String(),
			})
		}
	}
	return list
}

// listAccepted are the trials that were taken although they are out.
func listAccepted(s *record.State, step *record.Step) (list []record.Point) {
	if triesGears(step) {
		return nil // each gear says itself why it was left
	}
	st := s.At(step)
	for e := range st.Each(st.Live) {
		if e.Is(acts.Accept{}) {
			list = append(list, record.Point{Step: step.ID, Title: step.Title, Says: "left as it is",
				Left: acts.Reason(e.ReadAct()), By: e.By.Name})
		}
	}
	return list
}
