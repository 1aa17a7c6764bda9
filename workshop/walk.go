package workshop

import (
	"encoding/json"
	"slices"
	"strconv"
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Script holds the entries a walk makes at a step before the ordinary ones:
// the story of one demo rebuild.
type Script map[string][]Draft

// Walker takes a rebuild along its route with plausible entries: the demo,
// the load generator and the tests of routes all go this way, through the same
// rules as a person.
type Walker struct {
	Ledger Ledger
	By     func(step book.Step) Person
	Clock  func() time.Time
	Script Script

	// Apply keeps a proposal; nil when the walk only needs the entries.
	Apply func(step string, d Draft, p Proposal) error
}

// WalkUntil makes entries until the step (left untouched), or to the end of
// the route when until is empty. It gives the entries made.
func (w *Walker) WalkUntil(until string) ([]Entry, error) {
	made := len(w.Ledger.Entries)
	for {
		step, ok := w.next(until)
		if !ok {
			return w.Ledger.Entries[made:], nil
		}
		draft, err := w.draft(step)
		if err != nil {
			return nil, err
		}
		if err := w.make(step, draft); err != nil {
			return nil, err
		}
	}
}

// Finish makes the scripted entries of a step and nothing else there.
func (w *Walker) Finish(step string) error {
	for len(w.Script[step]) > 0 {
		d := w.Script[step][0]
		w.Script[step] = w.Script[step][1:]
		if err := w.make(step, d); err != nil {
			return err
		}
	}
	return nil
}

// next is the first step that takes an entry, in the order of the route; a
// story may have more to tell at a step that is done.
func (w *Walker) next(until string) (string, bool) {
	s := w.Ledger.State()
	for _, step := range w.Ledger.Plan.steps {
		status, _ := s.Status(step.ID)
		if step.ID == until && status != Locked {
			return "", false
		}
		if status == Open || (status == Done && len(w.Script[step.ID]) > 0) {
			return step.ID, true
		}
	}
	return "", false
}

func (w *Walker) make(step string, d Draft) error {
	now := w.Clock()
	full, _ := w.Ledger.Plan.Step(step)
	p, err := Propose(w.Ledger, step, d, w.By(full), now)
	if err != nil {
		return err
	}
	if w.Apply != nil {
		if err := w.Apply(step, d, p); err != nil {
			return err
		}
	}
	w.Ledger = p.After
	return nil
}

// draft is the next entry at a step: the caution to acknowledge, then the
// script, then what its kind usually sees.
func (w *Walker) draft(id string) (Draft, error) {
	v, err := MakeStep(w.Ledger, id, w.Clock())
	if err != nil {
		return Draft{}, err
	}
	if d, waits := acknowledge(v); waits {
		return d, nil
	}
	if script := w.Script[id]; len(script) > 0 {
		w.Script[id] = script[1:]
		return script[0], nil
	}
	return usual(v), nil
}

// Plausible is an entry that an open step often sees next: the caution to
// acknowledge, then what its kind takes, as the sheet has it.
func Plausible(v StepView) Draft {
	if d, waits := acknowledge(v); waits {
		return d
	}
	return usual(v)
}

func acknowledge(v StepView) (Draft, bool) {
	for _, c := range v.Cautions {
		if c.By == "" && (c.Grave || v.Step.Kind == book.Care) {
			return Draft{Act: ActAcknowledge, Item: c.ID}, true
		}
	}
	return Draft{}, false
}

// usual is a plausible next entry at an open step.
func usual(v StepView) Draft {
	switch v.Step.Kind {
	case book.Check, book.Test:
		return usualOutcome(v)
	case book.Stack:
		return usualPart(v)
	case book.Measure:
		return usualReading(v)
	case book.Torque:
		if v.Torque.Next == nil {
			return Draft{Act: ActOutcome, Item: checkRound, Body: Body{Outcome: "held"}}
		}
		c := *v.Torque.Next
		return Draft{Act: ActTorqued, Body: Body{Pass: c.Pass, Bolt: c.Bolt, Value: c.Setting.Any}}
	case book.Fill:
		i := slices.IndexFunc(v.Step.Fill.Fluids, func(f book.Fluid) bool { return f.ID == v.Chosen || (v.Chosen == "" && f.Forbids == "") })
		litre, _ := quantity.UnitNamed("L")
		mid := quantity.Say((v.Fill.Min.SI()+v.Fill.Max.SI())/2, litre)
		return Draft{Act: ActFilled, Body: Body{Outcome: v.Step.Fill.Fluids[i].ID, Value: mid.Any}}
	case book.Wait:
		if v.Wait.Started == nil {
			i := slices.IndexFunc(v.Step.Schools, func(s book.School) bool { return s.Default })
			return Draft{Act: ActStart, Body: Body{Outcome: v.Step.Schools[i].ID}}
		}
		d := Draft{Act: ActEnd}
		if v.Wait.Now.Before(*v.Wait.Due) {
			d.Reason = "bead has skinned, touched with a finger"
		}
		return d
	case book.Decide:
		return Draft{Act: ActDecision, Body: Body{Outcome: v.Step.Choices[0].ID}}
	}
	return Draft{Act: ActPhoto, Body: Body{Reason: "no camera at hand"}}
}

func usualOutcome(v StepView) Draft {
	for _, item := range v.Step.Items {
		if slices.ContainsFunc(v.Entries, func(e EntryView) bool { return e.Item == item.ID && e.SupersededBy == "" }) {
			continue
		}
		if item.Value != "" {
			u, _ := quantity.UnitNamed(quantity.DefaultUnit(item.Value))
			return Draft{Act: ActOutcome, Item: item.ID, Body: Body{Value: quantity.Any{Value: plausible(item.Value), Unit: u}}}
		}
		return Draft{Act: ActOutcome, Item: item.ID, Body: Body{Outcome: OutcomesOf(item)[0].ID}}
	}
	return Draft{}
}

// plausible is a value that a check of this kind often shows.
func plausible(d quantity.Dimension) float64 {
	if d == quantity.DimCount {
		return 3
	}
	return 58
}

func usualPart(v StepView) Draft {
	for i, p := range v.Stack {
		switch {
		case v.Step.Work == book.Remove && p.Removed == "":
			return Draft{Act: ActRemoved, Item: p.ID, Body: Body{Outcome: partRemoved, Faces: p.Faces, Tray: "tray " + strconv.Itoa(i/4+1)}}
		case v.Step.Work == book.Inspect && p.Verdict == "" && (p.Once || p.NotFound):
			return Draft{Act: ActVerdict, Item: p.ID, Body: Body{Outcome: partReplace, Reason: "renewed by rule"}}
		case v.Step.Work == book.Inspect && p.Verdict == "":
			return Draft{Act: ActVerdict, Item: p.ID, Body: Body{Outcome: partReuse}}
		}
	}
	for i := len(v.Stack) - 1; i >= 0; i-- {
		if v.Stack[i].Fitted == "" {
			return Draft{Act: ActFitted, Item: v.Stack[i].ID, Body: Body{Outcome: partFitted}}
		}
	}
	return Draft{}
}

// usualReading answers what is asked as the sheet says, reads in the middle of
// the limits, fits the best pack offered, and else takes it as it is.
func usualReading(v StepView) Draft {
	m := v.Step.Measure
	t := v.Measure.Trials[len(v.Measure.Trials)-1]
	for _, a := range m.Asks {
		if _, ok := t.answer(a.ID); !ok && !a.Optional {
			return Draft{Act: ActReading, Item: a.ID, Body: usualAnswer(a, v.Measure)}
		}
	}
	if len(t.Readings) < m.MinReadings || (t.Verdict == metrology.Undecided && m.MinReadings > 0 && len(t.Readings) < 2*m.MinReadings) {
		d := Draft{Act: ActReading, Body: Body{Value: middleOf(v.Measure.Limits, m.Unit)}}
		if len(v.Measure.Instruments) > 0 {
			d.Instrument = v.Measure.Instruments[0].ID
		}
		return d
	}
	var offer struct {
		Packs []struct {
			Pieces []Piece `json:"pieces"`
		} `json:"packs"`
	}
	switch {
	case t.Result == nil:
		return Draft{Act: ActReckon}
	case t.Verdict == metrology.Out && json.Unmarshal(t.Result, &offer) == nil && len(offer.Packs) > 0:
		return Draft{Act: ActFit, Body: Body{Pack: offer.Packs[0].Pieces}}
	}
	return Draft{Act: ActAccept, Body: Body{Reason: "as good as it gets"}}
}

func usualAnswer(a book.Ask, m *MeasureView) Body {
	if len(a.Choices) > 0 {
		return Body{Outcome: a.Choices[0].ID}
	}
	return Body{Value: middleOf(m.Sheet[a.ID], a.Unit)}
}

// middleOf is the middle of a limit, or a figure itself, in a unit.
func middleOf(raw json.RawMessage, unit string) quantity.Any {
	u, _ := quantity.UnitNamed(unit)
	var limit book.Limit
	var figure quantity.Any
	var number float64
	switch {
	case json.Unmarshal(raw, &number) == nil:
		return quantity.Any{Value: number, Unit: u}
	case json.Unmarshal(raw, &figure) == nil:
		return quantity.Say(quantity.Magnitude(figure.SI()), u).Any
	case json.Unmarshal(raw, &limit) == nil && limit.Min.IsSaid() && limit.Max.IsSaid():
		return quantity.Say(quantity.Magnitude((limit.Min.SI()+limit.Max.SI())/2), u).Any
	case limit.Max.IsSaid():
		return quantity.Say(quantity.Magnitude(limit.Max.SI()/2), u).Any
	case limit.Min.IsSaid():
		return quantity.Say(quantity.Magnitude(limit.Min.SI()*1.5), u).Any
	}
	return quantity.Any{Value: 1, Unit: u}
}
