package workshop

import (
	"encoding/json"
	"slices"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Trial is one assembly that was measured: the pack in place, what was
// expected of it, the answers and readings, and what they mean.
type Trial struct {
	Number   int               `json:"number"`
	Pack     []Piece           `json:"pack"`
	Sum      quantity.Any      `json:"sum,omitzero"`
	Changed  string            `json:"changed,omitempty"` // what was changed before this trial
	Expected json.RawMessage   `json:"expected,omitempty"`
	Readings []Entry           `json:"readings"`
	Asked    []Entry           `json:"asked"`
	Result   json.RawMessage   `json:"result,omitempty"`
	Verdict  metrology.Verdict `json:"verdict,omitempty"`
	Accepted string            `json:"accepted,omitempty"`

	at int // sequence of the entry that gave the result
}

// Trials reads the trials of a measuring step, the last one being the present.
// What begins a trial and what it is reckoned to stands at the trial itself,
// readings and answers at places of their own in it.
func (s *State) Trials(step *Step) []Trial { return s.trialsBut(step, "") }

// trialsBut are the trials as they would be without one entry.
func (s *State) trialsBut(step *Step, id string) []Trial {
	st := s.of(step)
	first := newTrial(1, step)
	first.Pack, first.Sum = s.packBefore(step, first)
	trials := []Trial{first}
	for e := range st.each(st.live) {
		last := len(trials)
		switch {
		case e.ID == id:
		case e.Act == ActFit && e.Item.Trial == last:
			t, said := &trials[last-1], e.Said()
			t.Pack, t.Sum = said.Pack, sumOf(said.Pack, step.Measure.StartPack)
			if e.Result != nil {
				t.Expected = e.Result
			}
		case e.Act == ActFit:
			t, said := newTrial(last+1, step), e.Said()
			t.Pack, t.Sum, t.Expected = said.Pack, sumOf(said.Pack, t.Sum), e.Result
			trials = append(trials, t)
		case e.Act == ActAgain:
			t := newTrial(last+1, step)
			t.Pack, t.Sum, t.Changed = trials[last-1].Pack, trials[last-1].Sum, e.Said().Reason
			trials = append(trials, t)
		case e.Act == ActReckon && e.Item.Trial > last:
			trials = append(trials, newTrial(last+1, step))
		}
	}
	for i := range trials {
		trials[i].collect(st, step)
	}
	return trials
}

// packBefore is the pack that stands in the place from an earlier measurement of
// it: the float as it will run begins from what the trial assembly was fitted with.
func (s *State) packBefore(step *Step, first Trial) ([]Piece, quantity.Any) {
	if step.Measure.Drawer == "" {
		return first.Pack, first.Sum
	}
	for _, before := range slices.Backward(s.plan.Steps[:step.at]) {
		if before.fitsTheSame(step) {
			trials := s.Trials(before)
			last := trials[len(trials)-1]
			return last.Pack, last.Sum
		}
	}
	return first.Pack, first.Sum
}

// fitsTheSame tells two steps that measure one pack.
func (s *Step) fitsTheSame(x *Step) bool {
	return s.Measure != nil && x.Measure != nil && x.Measure.Drawer != "" && s.Measure.Drawer == x.Measure.Drawer &&
		s.Measure.Calc == x.Measure.Calc && limitOf(s) == limitOf(x)
}

func newTrial(n int, step *Step) Trial {
	return Trial{Number: n, Pack: []Piece{}, Sum: step.Measure.StartPack, Readings: []Entry{}, Asked: []Entry{}}
}

// collect gathers what belongs to the trial; its result is the last one worked
// out, as long as nothing it rests on was struck since.
func (t *Trial) collect(st stepLog, step *Step) {
	for e := range st.each(st.live) {
		if e.Item.Trial != t.Number {
			continue
		}
		switch {
		case e.Act == ActAccept:
			t.Accepted = e.Said().Reason
		case e.Act == ActReckon:
			t.Result, t.Verdict, t.at = e.Result, e.Verdict, e.Seq
		case e.Act == ActReading && e.Item.ask() == "":
			t.Readings = append(t.Readings, *e)
		case e.Act == ActReading:
			t.Asked = append(t.Asked, *e)
		}
	}
	slices.SortFunc(t.Readings, func(a, b Entry) int { return a.Item.Reading - b.Item.Reading })
	if len(t.Readings)+len(t.Asked) == 0 || t.asksLeft(step) > 0 {
		return
	}
	for e := range st.each(st.computed) {
		if e.Act != ActFit && e.Item.Trial == t.Number {
			t.Result, t.Verdict, t.at = e.Result, e.Verdict, e.Seq
		}
	}
}

// asksLeft counts what the step asks for and the trial has not yet.
func (t Trial) asksLeft(step *Step) int {
	left := 0
	for _, a := range step.Measure.Asks {
		if _, ok := t.answer(a.ID); !ok && !a.Optional {
			left++
		}
	}
	return left
}

// answer is what was last said to an ask.
func (t Trial) answer(ask string) (Entry, bool) {
	i := slices.IndexFunc(t.Asked, func(e Entry) bool { return e.Item.ask() == ask })
	if i < 0 {
		return Entry{}, false
	}
	return t.Asked[i], true
}

func needsMeasure(s *State, step *Step) Need {
	trials := s.Trials(step)
	t := trials[len(trials)-1]
	if t.Accepted != "" {
		return Need{}
	}
	if left := t.asksLeft(step); left > 0 {
		return Need{What: Figures, Count: left}
	}
	if left := step.Measure.MinReadings - len(t.Readings); left > 0 {
		return Need{What: Readings, Count: left}
	}
	if bad, is := s.leftOpen(step); is {
		return bad
	}
	switch changed := s.changedSince(step, t.at); {
	case s.isBlind(step):
		return Need{} // measured without a verdict, and it says so
	case t.Result == nil:
		return Need{What: Reckoning}
	case changed != "":
		return Need{What: MeasuredAgain, Names: []string{changed}}
	case t.Verdict == metrology.Undecided:
		return Need{What: Decisive}
	case t.Verdict == metrology.Out && step.Measure.Drawer != "":
		return Need{What: AnotherPack}
	case t.Verdict == metrology.Out:
		return Need{What: Mended}
	}
	return Need{}
}

// changedSince names an earlier step whose figures this one took and that was
// changed after the answer was worked out.
func (s *State) changedSince(step *Step, seq int) string {
	for _, id := range step.takes {
		if before, ok := s.plan.Step(id); ok && s.of(before).changed > seq {
			return id
		}
	}
	return s.figureSince(step, seq)
}

func acceptMeasure(p *proposal) error {
	trials := p.state.Trials(p.step)
	t := trials[len(trials)-1]
	switch p.draft.Act {
	case ActFit:
		return p.acceptFit(trials)
	case ActAgain:
		return p.acceptAgain(t)
	case ActReckon:
		return p.acceptReckon(t)
	case ActAccept:
		p.draft.Item = Place{Trial: t.Number}
		if t.Result == nil || len(t.Readings) < p.step.Measure.MinReadings {
			return refuse(Conflict, measureFirst, p.state.needWords(p.step, needsMeasure(p.state, p.step)))
		}
		return p.reason("why it may stay as it is")
	}
	if err := p.knownInstrument(); err != nil {
		return err
	}
	if p.old != nil {
		n := p.old.Item.Trial
		if n < 1 || n > len(trials) {
			return refuse(Conflict, trialStruck)
		}
		t = trials[n-1].without(p.old.ID)
	}
	ask, err := p.place(t)
	if err != nil {
		return err
	}
	if len(p.draft.Figure) > 0 && !isSeen(p.draft.Item) {
		return input.At("figure", "nothing: a value or an outcome", "this is not a free observation")
	}
	if ask == "" && !p.draft.Value.IsSaid() {
		return input.At("value", "a reading with its unit", "missing")
	}
	if ask == "" && p.draft.Outcome != "" {
		return input.At("outcome", "value: a reading", "a reading has no outcome")
	}
	return p.computeTrials(trials, t.with(Entry{Act: ActReading, Item: p.draft.Item, said: &p.draft.Body}), ask)
}

// place gives the new entry its item: an answer to an ask, or the next reading.
func (p *proposal) place(t Trial) (ask string, err error) {
	m := p.step.Measure
	item := p.draft.Item.String()
	if p.old != nil {
		item = p.old.Item.ask()
	}
	i := slices.IndexFunc(m.Asks, func(a book.Ask) bool { return a.ID == item })
	if takesSeen(m) && (item == seen || isSeen(Place{Trial: t.Number, Name: item})) {
		return item, p.seen(t, item)
	}
	switch {
	case i >= 0:
		if p.old == nil {
			p.draft.Item = Place{Trial: t.Number, Name: item}
		}
		return item, p.answers(m.Asks[i])
	case p.old != nil:
		return "", nil
	case m.MinReadings == 0:
		return "", input.At("item", idsOf(m.Asks, func(a book.Ask) string { return a.ID }), "%q is not asked for here", item)
	}
	n := 1
	for _, e := range t.Readings {
		n = max(n, e.Item.Reading+1)
	}
	p.draft.Item = Place{Trial: t.Number, Reading: n}
	return "", nil
}

// answers checks that the draft says what an ask wants.
func (p *proposal) answers(a book.Ask) error {
	if len(a.Choices) > 0 {
		if p.draft.Value.IsSaid() {
			return input.At("value", "outcome: one of the choices", "%q is chosen, not measured", a.Text)
		}
		return p.outcomeAmong(idList(a.Choices, func(x book.AskChoice) string { return x.ID })...)
	}
	if p.draft.Outcome != "" {
		return input.At("outcome", "value: a quantity", "%q is measured, not chosen", a.Text)
	}
	u, _ := quantity.UnitNamed(a.Unit)
	return p.valueOf(u.Dimension)
}

func (p *proposal) knownInstrument() error {
	if p.draft.Instrument == "" {
		return nil
	}
	gauges, err := p.ledger.gauges(p.step)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(gauges, func(g Gauge) bool { return g.ID == p.draft.Instrument })
	if i < 0 {
		kind := "gauge"
		if p.step.Measure != nil {
			kind = p.step.Measure.Gauge
		}
		return input.At("instrument", idsOf(gauges, func(g Gauge) string { return g.ID }), "%q is no %s of this shop", p.draft.Instrument, kind)
	}
	if copied, ok := p.ledger.Plan.Instrument(gauges[i].ID); !ok || (Gauge{Instrument: copied}) != gauges[i] {
		p.draft.Gauge = &gauges[i]
	}
	return nil
}

// acceptAgain begins another trial after something was changed.
func (p *proposal) acceptAgain(t Trial) error {
	if p.old != nil {
		return refuse(Conflict, trialNotCorrected)
	}
	if t.Result == nil {
		return refuse(Conflict, trialNotMeasured, p.state.needWords(p.step, needsMeasure(p.state, p.step)))
	}
	p.draft.Item = Place{Trial: t.Number + 1}
	return p.reason("what was changed before measuring again")
}

// acceptReckon works out a step that asks for nothing of its own, or one that
// was read before its figures were known.
func (p *proposal) acceptReckon(t Trial) error {
	waits := t.Result == nil && t.asksLeft(p.step) == 0 && len(t.Readings) >= p.step.Measure.MinReadings
	if (!p.step.Measure.Reckons() && !waits) || p.old != nil {
		return input.At("act", "reading, again, accept", "this step works itself out from what is read")
	}
	if t.Result != nil {
		t = newTrial(t.Number+1, p.step)
	}
	p.draft.Item = Place{Trial: t.Number}
	return p.computeTrials(p.state.Trials(p.step), t, "")
}

// with is the trial with one more entry.
func (t Trial) with(e Entry) Trial {
	if e.Item.ask() != "" {
		t.Asked = append(slices.Clone(t.Asked), e)
		return t
	}
	t.Readings = append(slices.Clone(t.Readings), e)
	return t
}

// without is the trial with an entry taken out.
func (t Trial) without(id string) Trial {
	is := func(e Entry) bool { return e.ID == id }
	t.Readings = slices.DeleteFunc(slices.Clone(t.Readings), is)
	t.Asked = slices.DeleteFunc(slices.Clone(t.Asked), is)
	return t
}

// strikeMeasure withdraws a reading, a fit or a trial and computes what is left.
func strikeMeasure(p *proposal) error {
	trials := p.state.Trials(p.step)
	last := trials[len(trials)-1]
	switch p.old.Act {
	case ActReading:
		n := p.old.Item.Trial
		if n < 1 || n > len(trials) {
			return refuse(Conflict, trialStruck)
		}
		return p.computeTrials(trials, trials[n-1].without(p.old.ID), "")
	case ActFit, ActAgain:
		if last.Number != p.old.Item.Trial || len(last.Readings)+len(last.Asked) > 0 {
			return refuse(Conflict, packMeasured)
		}
		if p.old.Act == ActFit {
			without := p.state.trialsBut(p.step, p.old.ID)
			p.move(last.Pack, without[len(without)-1].Pack)
		}
	}
	return nil
}
