package workshop

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

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
// An item is "<trial>.<n>" for a reading, "<trial>.<ask>" for an answer,
// "<trial>" for what began the trial and for its reckoning.
func (s *State) Trials(step book.Step) []Trial {
	st := s.of(step.ID)
	trials := []Trial{newTrial(1, step)}
	for e := range st.each(st.live) {
		last := len(trials)
		switch {
		case e.Act == ActFit:
			t, said := newTrial(last+1, step), e.Said()
			t.Pack, t.Sum, t.Expected = said.Pack, sumOf(said.Pack, t.Sum), e.Result
			trials = append(trials, t)
		case e.Act == ActAgain:
			t := newTrial(last+1, step)
			t.Pack, t.Sum, t.Changed = trials[last-1].Pack, trials[last-1].Sum, e.Said().Reason
			trials = append(trials, t)
		case e.Act == ActReckon && trialOf(e.Item) > last:
			trials = append(trials, newTrial(last+1, step))
		}
	}
	for i := range trials {
		trials[i].collect(st, step)
	}
	return trials
}

func newTrial(n int, step book.Step) Trial {
	return Trial{Number: n, Pack: []Piece{}, Sum: step.Measure.StartPack, Readings: []Entry{}, Asked: []Entry{}}
}

// collect gathers what belongs to the trial; its result is the last one worked
// out, as long as nothing it rests on was struck since.
func (t *Trial) collect(st stepLog, step book.Step) {
	for e := range st.each(st.live) {
		if trialOf(e.Item) != t.Number {
			continue
		}
		switch {
		case e.Act == ActAccept:
			t.Accepted = e.Said().Reason
		case e.Act == ActReckon:
			t.Result, t.Verdict, t.at = e.Result, e.Verdict, e.Seq
		case e.Act == ActReading && askOf(e.Item) == "":
			t.Readings = append(t.Readings, *e)
		case e.Act == ActReading:
			t.Asked = append(t.Asked, *e)
		}
	}
	slices.SortFunc(t.Readings, func(a, b Entry) int { return readingOf(a.Item) - readingOf(b.Item) })
	if len(t.Readings)+len(t.Asked) == 0 || t.asksLeft(step) > 0 {
		return
	}
	for e := range st.each(st.computed) {
		if e.Act != ActFit && trialOf(e.Item) == t.Number {
			t.Result, t.Verdict, t.at = e.Result, e.Verdict, e.Seq
		}
	}
}

// trialOf is the trial an item belongs to, 0 when it names none.
func trialOf(item string) int {
	trial, _, _ := strings.Cut(item, ".")
	n, _ := strconv.Atoi(trial)
	return n
}

// readingOf is the number of a reading within its trial, 0 for anything else.
func readingOf(item string) int {
	_, reading, _ := strings.Cut(item, ".")
	n, _ := strconv.Atoi(reading)
	return n
}

// askOf is the ask an item answers; empty for a reading.
func askOf(item string) string {
	_, ask, _ := strings.Cut(item, ".")
	if ask == "" || ask[0] < 'a' {
		return ""
	}
	return ask
}

// asksLeft counts what the step asks for and the trial has not yet.
func (t Trial) asksLeft(step book.Step) int {
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
	i := slices.IndexFunc(t.Asked, func(e Entry) bool { return askOf(e.Item) == ask })
	if i < 0 {
		return Entry{}, false
	}
	return t.Asked[i], true
}

func needsMeasure(s *State, step book.Step) string {
	trials := s.Trials(step)
	t := trials[len(trials)-1]
	if t.Accepted != "" {
		return ""
	}
	if left := t.asksLeft(step); left > 0 {
		return countOf(left, "figure", "figures")
	}
	if left := step.Measure.MinReadings - len(t.Readings); left > 0 {
		return countOf(left, "reading", "readings")
	}
	switch changed := s.changedSince(step, t.at); {
	case t.Result == nil:
		return "work it out"
	case changed != "":
		return changed + " was changed since: measure again"
	case t.Verdict == metrology.Undecided:
		return "undecided: read again or finer"
	case t.Verdict == metrology.Out && step.Measure.Drawer != "":
		return "out: fit a pack and measure again"
	case t.Verdict == metrology.Out:
		return "out: mend it and measure again"
	}
	return ""
}

// changedSince names an earlier step whose figures this one took and that was
// changed after the answer was worked out.
func (s *State) changedSince(step book.Step, seq int) string {
	for _, id := range s.plan.bound[s.plan.at[step.ID]] {
		if s.of(id).changed > seq {
			return s.plan.steps[s.plan.at[id]].Title
		}
	}
	return ""
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
		p.draft.Item = itoa(t.Number)
		if t.Result == nil || len(t.Readings) < p.step.Measure.MinReadings {
			return refuse(Conflict, "measure before you accept: %s", needsMeasure(p.state, p.step))
		}
		return p.reason("why it may stay as it is")
	}
	if err := p.knownInstrument(); err != nil {
		return err
	}
	if p.old != nil {
		n := trialOf(p.old.Item)
		if n < 1 || n > len(trials) {
			return refuse(Conflict, "this reading belongs to a trial that was struck")
		}
		t = trials[n-1].without(p.old.ID)
	}
	ask, err := p.place(t)
	if err != nil {
		return err
	}
	if ask == "" && !p.draft.Value.IsSaid() {
		return input.At("value", "a reading with its unit", "missing")
	}
	if ask == "" && p.draft.Outcome != "" {
		return input.At("outcome", "value: a reading", "a reading has no outcome")
	}
	body, err := json.Marshal(p.draft.Body)
	if err != nil {
		return err
	}
	return p.computeTrials(trials, t.with(Entry{Act: ActReading, Item: p.draft.Item, Body: body}), ask)
}

// place gives the new entry its item: an answer to an ask, or the next reading.
func (p *proposal) place(t Trial) (ask string, err error) {
	m := p.step.Measure
	item := p.draft.Item
	if p.old != nil {
		item = askOf(p.old.Item)
	}
	i := slices.IndexFunc(m.Asks, func(a book.Ask) bool { return a.ID == item })
	switch {
	case i >= 0:
		if p.old == nil {
			p.draft.Item = itoa(t.Number) + "." + item
		}
		return item, p.answers(m.Asks[i])
	case p.old != nil:
		return "", nil
	case m.MinReadings == 0:
		return "", input.At("item", idsOf(m.Asks, func(a book.Ask) string { return a.ID }), "%q is not asked for here", item)
	}
	n := 1
	for _, e := range t.Readings {
		n = max(n, readingOf(e.Item)+1)
	}
	p.draft.Item = fmt.Sprintf("%d.%d", t.Number, n)
	return "", nil
}

// answers checks that the draft says what an ask wants.
func (p *proposal) answers(a book.Ask) error {
	if len(a.Choices) > 0 {
		if p.draft.Value.IsSaid() {
			return input.At("value", "outcome: one of the choices", "%q is chosen, not measured", a.Text)
		}
		return p.outcomeAmong(idsOf(a.Choices, func(x book.AskChoice) string { return x.ID }))
	}
	if p.draft.Outcome != "" {
		return input.At("outcome", "value: a quantity", "%q is measured, not chosen", a.Text)
	}
	u, _ := quantity.UnitNamed(a.Unit)
	return p.valueOf(u.Dimension)
}

func (p *proposal) knownInstrument() error {
	gauges := p.ledger.Plan.Gauges(p.step)
	if p.draft.Instrument != "" && !slices.ContainsFunc(gauges, func(i book.Instrument) bool { return i.ID == p.draft.Instrument }) {
		return input.At("instrument", idsOf(gauges, func(i book.Instrument) string { return i.ID }), "%q is no %s of this shop", p.draft.Instrument, p.step.Measure.Gauge)
	}
	return nil
}

// acceptAgain begins another trial after something was changed.
func (p *proposal) acceptAgain(t Trial) error {
	if p.old != nil {
		return refuse(Conflict, "a trial is not corrected: strike it, or begin another")
	}
	if t.Result == nil {
		return refuse(Conflict, "this trial is not measured yet: %s", needsMeasure(p.state, p.step))
	}
	p.draft.Item = itoa(t.Number + 1)
	return p.reason("what was changed before measuring again")
}

// acceptReckon works out a step that asks for nothing of its own.
func (p *proposal) acceptReckon(t Trial) error {
	if !p.step.Measure.Reckons() || p.old != nil {
		return input.At("act", "reading, again, accept", "this step works itself out from what is read")
	}
	if t.Result != nil {
		t = newTrial(t.Number+1, p.step)
	}
	p.draft.Item = itoa(t.Number)
	return p.computeTrials(p.state.Trials(p.step), t, "")
}

// with is the trial with one more entry.
func (t Trial) with(e Entry) Trial {
	if askOf(e.Item) != "" {
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
		n := trialOf(p.old.Item)
		if n < 1 || n > len(trials) {
			return refuse(Conflict, "this reading belongs to a trial that was struck")
		}
		return p.computeTrials(trials, trials[n-1].without(p.old.ID), "")
	case ActFit, ActAgain:
		if itoa(last.Number) != p.old.Item || len(last.Readings)+len(last.Asked) > 0 || len(trials) < 2 {
			return refuse(Conflict, "this pack has been measured; strike its readings first, or fit another")
		}
		if p.old.Act == ActFit {
			p.move(last.Pack, trials[len(trials)-2].Pack)
		}
	}
	return nil
}
