package measure

import (
	"encoding/json"
	"slices"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// Trial is one assembly that was measured: the pack in place, what was
// expected of it, the answers and readings, and what they mean.
type Trial struct {
	Number   int               `json:"number"`
	Pack     []acts.Piece      `json:"pack"`
	Sum      quantity.Any      `json:"sum,omitzero"`
	Changed  string            `json:"changed,omitempty"` // what was changed before this trial
	Expected json.RawMessage   `json:"expected,omitempty"`
	Readings []record.Entry    `json:"readings"`
	Asked    []record.Entry    `json:"asked"`
	Result   json.RawMessage   `json:"result,omitempty"`
	Verdict  metrology.Verdict `json:"verdict,omitempty"`
	Accepted string            `json:"accepted,omitempty"`

	at    int // sequence of the entry that gave the result
	plan  int // of the last trial's offers that was fitted for this one, from 1
	refit any // what the last trial came to, and that plan
}

// Trials reads the trials of a measuring step, the last one being the present.
// What begins a trial and what it is reckoned to stands at the trial itself,
// readings and answers at places of their own in it.
func Trials(s *record.State, step *record.Step) []Trial { return trialsBut(s, step, "") }

// trialsBut are the trials as they would be without one entry.
func trialsBut(s *record.State, step *record.Step, id string) []Trial {
	st := s.At(step)
	first := newTrial(1, step)
	first.Pack, first.Sum = packBefore(s, step, first)
	trials := []Trial{first}
	for e := range st.Each(st.Live) {
		last := len(trials)
		switch {
		case e.ID == id:
		case e.Is(acts.Fit{}) && e.Item.Trial == last:
			t, said := &trials[last-1], record.As[acts.Fit](e)
			t.Pack, t.Sum = said.Pack, sumOf(said.Pack, step.Measure.StartPack)
			if e.Result != nil {
				t.Expected = e.Result
			}
		case e.Is(acts.Fit{}):
			t, said := newTrial(last+1, step), record.As[acts.Fit](e)
			t.Pack, t.Sum, t.Expected = said.Pack, sumOf(said.Pack, t.Sum), e.Result
			trials = append(trials, t)
		case e.Is(acts.Again{}):
			t := newTrial(last+1, step)
			t.Pack, t.Sum, t.Changed = trials[last-1].Pack, trials[last-1].Sum, acts.Reason(e.ReadAct())
			t.plan = record.As[acts.Again](e).Plan
			trials = append(trials, t)
		case e.Is(acts.Reckon{}) && e.Item.Trial > last:
			trials = append(trials, newTrial(last+1, step))
		}
	}
	for i := range trials {
		trials[i].collect(st, step)
		if i > 0 {
			trials[i].refit = refitOf(trials[i-1].Result, trials[i].plan)
		}
	}
	return trials
}

// packBefore is the pack that stands in the place from an earlier measurement of
// it: the float as it will run begins from what the trial assembly was fitted with.
func packBefore(s *record.State, step *record.Step, first Trial) ([]acts.Piece, quantity.Any) {
	if step.Measure.Drawer == "" {
		return first.Pack, first.Sum
	}
	for _, before := range slices.Backward(s.Plan.Steps[:step.At]) {
		if fitsTheSame(before, step) {
			trials := Trials(s, before)
			last := trials[len(trials)-1]
			return last.Pack, last.Sum
		}
	}
	return first.Pack, first.Sum
}

// fitsTheSame tells two steps that measure one pack.
func fitsTheSame(s *record.Step, x *record.Step) bool {
	return s.Measure != nil && x.Measure != nil && x.Measure.Drawer != "" && s.Measure.Drawer == x.Measure.Drawer &&
		s.Measure.Calc == x.Measure.Calc && record.LimitOf(s) == record.LimitOf(x)
}

func newTrial(n int, step *record.Step) Trial {
	return Trial{Number: n, Pack: []acts.Piece{}, Sum: step.Measure.StartPack, Readings: []record.Entry{},
		Asked: []record.Entry{}}
}

// collect gathers what belongs to the trial; its result is the last one worked
// out, as long as nothing it rests on was struck since.
func (t *Trial) collect(st record.StepLog, step *record.Step) {
	for e := range st.Each(st.Live) {
		if e.Item.Trial != t.Number {
			continue
		}
		switch {
		case e.Is(acts.Accept{}):
			t.Accepted = acts.Reason(e.ReadAct())
		case e.Is(acts.Reckon{}):
			t.Result, t.Verdict, t.at = e.Result, e.Verdict, e.Seq
		case e.Is(acts.Reading{}) && e.Item.Ask() == "":
			t.Readings = append(t.Readings, *e)
		case e.Is(acts.Reading{}):
			t.Asked = append(t.Asked, *e)
		}
	}
	slices.SortFunc(t.Readings, func(a, b record.Entry) int { return a.Item.Reading - b.Item.Reading })
	if len(t.Readings)+len(t.Asked) == 0 || t.asksLeft(step) > 0 {
		return
	}
	for e := range st.Each(st.Computed) {
		if !e.Is(acts.Fit{}) && e.Item.Trial == t.Number {
			t.Result, t.Verdict, t.at = e.Result, e.Verdict, e.Seq
		}
	}
}

// asksLeft counts what the step asks for and the trial has not yet.
func (t Trial) asksLeft(step *record.Step) int {
	left := 0
	for _, a := range step.Measure.Asks {
		if _, ok := t.answer(a.ID); !ok && !a.Optional {
			left++
		}
	}
	return left
}

// answer is what was last said to an ask.
func (t Trial) answer(ask string) (record.Entry, bool) {
	i := slices.IndexFunc(t.Asked, func(e record.Entry) bool { return e.Item.Ask() == ask })
	if i < 0 {
		return record.Entry{}, false
	}
	return t.Asked[i], true
}

func needsMeasure(s *record.State, step *record.Step) record.Need {
	trials := Trials(s, step)
	t := trials[len(trials)-1]
	if t.Accepted != "" {
		return record.Need{}
	}
	if left := t.asksLeft(step); left > 0 {
		return record.Need{What: record.Figures, Count: left}
	}
	if left := step.Measure.MinReadings - len(t.Readings); left > 0 {
		return record.Need{What: record.Readings, Count: left}
	}
	if bad, is := record.FindOpen(s, step); is {
		return bad
	}
	switch changed := sayChange(s, step, t.at); {
	case s.IsBlind(step):
		return record.Need{} // measured without a verdict, and it says so
	case t.Result == nil:
		return record.Need{What: record.Reckoning}
	case changed != "":
		return record.Need{What: record.MeasuredAgain, Names: []string{changed}}
	case t.Verdict == metrology.Undecided:
		return record.Need{What: record.Decisive}
	case t.Verdict == metrology.Out && step.Measure.Renews != "":
		return record.Need{} // it is replaced, and the parts list says so
	case t.Verdict == metrology.Out && step.Measure.Drawer != "":
		return record.Need{What: record.AnotherPack}
	case t.Verdict == metrology.Out:
		return record.Need{What: record.Mended}
	}
	return record.Need{}
}

// sayChange names an earlier step whose figures this one took and that was
// changed after the answer was worked out.
func sayChange(s *record.State, step *record.Step, seq int) string {
	for _, id := range step.Takes {
		if before, ok := s.Plan.Step(id); ok && s.At(before).Changed > seq {
			return id
		}
	}
	return s.FigureSince(step, seq)
}

// acceptAsItIs takes a trial although it is out.
func acceptAsItIs(p *record.Attempt) error {
	trials := Trials(p.State, p.Step)
	t := trials[len(trials)-1]
	p.Draft.Item = record.Place{Trial: t.Number}
	if t.Result == nil || len(t.Readings) < p.Step.Measure.MinReadings {
		return say.Refuse(
			say.Conflict,
			say.MeasureFirst,
			record.NeedWords(p.State, p.Step, needsMeasure(p.State, p.Step)),
		)
	}
	return p.WantReason("why you accept it as it is")
}

func acceptReading(p *record.Attempt) error {
	trials, said := Trials(p.State, p.Step), record.Saying[acts.Reading](p)
	t := trials[len(trials)-1]
	if err := CheckInstrument(p, &said.Read); err != nil {
		return err
	}
	if p.Old != nil {
		n := p.Old.Item.Trial
		if n < 1 || n > len(trials) {
			return say.Refuse(say.Conflict, say.TrialStruck)
		}
		t = trials[n-1].without(p.Old.ID)
	}
	ask, err := placeReading(p, t)
	if err != nil {
		return err
	}
	if len(said.Figure) > 0 && !isSeen(p.Draft.Item) {
		return input.At("figure", "nothing: a value or an outcome", "this line has its own answers")
	}
	if ask == "" && !said.Value.IsSaid() {
		return input.At("value", "a reading with its unit", "missing")
	}
	if ask == "" && said.Outcome != "" {
		return input.At("outcome", "value: a reading", "a reading takes no outcome")
	}
	return computeTrials(p, trials, t.with(record.Entry{Act: said.Name(), Item: p.Draft.Item}.Saying(said)), ask)
}

// placeReading gives the new entry its item: an answer to an ask, or the next reading.
func placeReading(p *record.Attempt, t Trial) (ask string, err error) {
	m := p.Step.Measure
	item := p.Draft.Item.String()
	if p.Old != nil {
		item = p.Old.Item.Ask()
	}
	i := slices.IndexFunc(m.Asks, func(a book.Ask) bool { return a.ID == item })
	if takesSeen(m) && (item == seen || isSeen(record.Place{Trial: t.Number, Name: item})) {
		return item, placeSeen(p, t, item)
	}
	switch {
	case i >= 0:
		if p.Old == nil {
			p.Draft.Item = record.Place{Trial: t.Number, Name: item}
		}
		return item, checkAnswer(p, m.Asks[i])
	case p.Old != nil:
		return "", nil
	case m.MinReadings == 0:
		return "", input.At("item", say.ListOf(m.Asks, func(a book.Ask) string { return a.ID }),
			"%q is not asked for here", item)
	}
	n := 1
	for _, e := range t.Readings {
		n = max(n, e.Item.Reading+1)
	}
	p.Draft.Item = record.Place{Trial: t.Number, Reading: n}
	return "", nil
}

// checkAnswer checks that the draft says what an ask wants.
func checkAnswer(p *record.Attempt, a book.Ask) error {
	if len(a.Choices) > 0 {
		if acts.ValueOf(p.Draft.Says).Value.IsSaid() {
			return input.At(
				"value",
				"outcome: one of the choices",
				"choose an answer for %q; it is not measured",
				a.Text,
			)
		}
		return p.WantOutcome(say.IDs(a.Choices, func(x book.AskChoice) string { return x.ID })...)
	}
	if acts.OutcomeOf(p.Draft.Says) != "" {
		return input.At("outcome", "value: a quantity", "measure %q; it has no choices", a.Text)
	}
	u, _ := quantity.UnitNamed(a.Unit)
	return p.WantValue(u.Dimension)
}

// CheckInstrument: what was read with is a gauge of this shop.
func CheckInstrument(p *record.Attempt, with *acts.Read) error {
	if with.Instrument == "" {
		return nil
	}
	gauges, err := p.Ledger.GaugesFor(p.Step)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(gauges, func(g shop.Gauge) bool { return g.ID == with.Instrument })
	if i < 0 {
		kind := "gauge"
		if p.Step.Measure != nil {
			kind = p.Step.Measure.Gauge
		}
		return input.At("instrument", say.ListOf(gauges, func(g shop.Gauge) string { return g.ID }),
			"%q is no %s of this shop", with.Instrument, kind)
	}
	read := gauges[i].AsRead()
	if copied, ok := p.Ledger.Plan.Instrument(read.ID); !ok || (shop.Gauge{Instrument: copied}) != read {
		with.Gauge = &read
	}
	return nil
}

// acceptReckon works out a step that asks for nothing of its own, or one that
// was read before its figures were known.
func acceptReckon(p *record.Attempt) error {
	trials := Trials(p.State, p.Step)
	t := trials[len(trials)-1]
	waits := t.Result == nil && t.asksLeft(p.Step) == 0 && len(t.Readings) >= p.Step.Measure.MinReadings
	if (!p.Step.Measure.Reckons() && !waits) || p.Old != nil {
		return input.At("act", "reading, again, accept", "this step works out its own result")
	}
	if t.Result != nil {
		t = newTrial(t.Number+1, p.Step)
	}
	p.Draft.Item = record.Place{Trial: t.Number}
	return computeTrials(p, trials, t, "")
}

// with is the trial with one more entry.
func (t Trial) with(e record.Entry) Trial {
	if e.Item.Ask() != "" {
		t.Asked = append(slices.Clone(t.Asked), e)
		return t
	}
	t.Readings = append(slices.Clone(t.Readings), e)
	return t
}

// without is the trial with an entry taken out.
func (t Trial) without(id string) Trial {
	is := func(e record.Entry) bool { return e.ID == id }
	t.Readings = slices.DeleteFunc(slices.Clone(t.Readings), is)
	t.Asked = slices.DeleteFunc(slices.Clone(t.Asked), is)
	return t
}

// strikeReading withdraws a reading and computes what is left.
func strikeReading(p *record.Attempt) error {
	trials := Trials(p.State, p.Step)
	n := p.Old.Item.Trial
	if n < 1 || n > len(trials) {
		return say.Refuse(say.Conflict, say.TrialStruck)
	}
	return computeTrials(p, trials, trials[n-1].without(p.Old.ID), "")
}

// strikeTrial withdraws a fit, or another trial in which nothing was read.
func strikeTrial(p *record.Attempt) error {
	trials := Trials(p.State, p.Step)
	last := trials[len(trials)-1]
	if last.Number != p.Old.Item.Trial || len(last.Readings)+len(last.Asked) > 0 {
		return say.Refuse(say.Conflict, say.PackMeasured)
	}
	if p.Old.Is(acts.Fit{}) {
		without := trialsBut(p.State, p.Step, p.Old.ID)
		moveShims(p, last.Pack, without[len(without)-1].Pack)
	}
	return nil
}

// buysWorn is the part that a measurement condemned.
func buysWorn(s *record.State, step *record.Step) (list []record.ToBuy, all bool) {
	trials := Trials(s, step)
	if t := trials[len(trials)-1]; step.Measure.Renews == "" || t.Verdict != metrology.Out || t.Accepted != "" {
		return nil, true
	}
	return []record.ToBuy{{
		Line: step.ID + ".worn", Name: say.Raise(step.Measure.Renews), Pieces: 1, Why: "worn: " + say.Lower(step.Title),
		Asked: true, ByName: true,
	}}, true
}
