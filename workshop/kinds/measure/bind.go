package measure

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/calc"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// calculators is the catalogue the steps bind to.
var calculators = calc.All()

// computeTrials runs the step's calculator with one trial as given, once the
// trial has all it needs; ask is the one being answered, for the fault's place.
func computeTrials(p *record.Attempt, trials []Trial, t Trial, ask string) error {
	m := p.Step.Measure
	if t.asksLeft(p.Step) > 0 || len(t.Readings) < min(1, m.MinReadings) {
		return nil
	}
	if p.State.IsBlind(p.Step) {
		p.Verdict = metrology.None
		return nil
	}
	c, ok := calculators.Named(m.Calc)
	if !ok {
		return fmt.Errorf("step %s binds calculator %q, which this program does not have", p.Step.ID, m.Calc)
	}
	trials = append(slices.Clone(trials[:t.Number-1]), t) // later ones are not known to it
	in, err := p.Step.Bindings.Fill(binder{p, trials})
	if err != nil {
		return err
	}
	if in, err = t.alsoSeen(in); err != nil {
		return err
	}
	raw, err := json.Marshal(in)
	if err != nil {
		return err
	}
	result, verdict, err := c.Judge(raw)
	if tooFew := len(t.Readings) < m.MinReadings && onlyReadings(err); tooFew {
		return nil // it will answer when there are enough
	}
	if err != nil {
		return atTheField(p, err, ask, len(t.Readings)-1)
	}
	p.Result, p.Method, p.Verdict = result, c.Method(), metrology.Verdict(verdict)
	return nil
}

// onlyReadings tells whether all that is wrong is how many readings there are.
func onlyReadings(err error) bool {
	faults := input.Below("", err)
	return len(faults) == 1 && (faults[0].Path == "readings" || strings.HasSuffix(faults[0].Path, ".readings"))
}

// atTheField moves a fault of what is being typed to the field the person sees.
func atTheField(p *record.Attempt, err error, ask string, reading int) error {
	faults := input.Below("", err)
	for i, f := range faults {
		name, _, _ := strings.Cut(strings.ReplaceAll(f.Path, "[", "."), ".")
		typed := ask != "" && slices.ContainsFunc(
			p.Step.Bindings.Sources[name], func(s book.Source) bool {
				return s.Room == book.FromEntries &&
					s.Path[0] == ask
			},
		)
		if typed || (ask == "" && strings.HasSuffix("."+f.Path, "."+input.Index("readings", reading))) {
			faults[i].Path = "value"
		}
	}
	return faults
}

// binder gives a calculator's inputs from where the step says they come from.
type binder struct {
	*record.Attempt
	trials []Trial
}

// Trials is how many there are so far.
func (b binder) Trials() int { return len(b.trials) }

// Sparse leaves out what nobody answered: a gear that the box does not have.
func (b binder) Sparse() bool { return true }

// Value of a source; see plan.Template.
func (b binder) Value(s book.Source, trial int) (any, bool, error) {
	t := b.trials[trial]
	switch s.Room {
	case book.FromEntries:
		return b.entry(t, s.Path[0])
	case book.FromSteps:
		return b.earlier(s)
	case book.FromInstrument:
		return b.instrument(t)
	case book.FromDrawer:
		stock, err := stockOf(b.Attempt, t)
		return stock, true, err
	case book.FromBook:
		return b.book(s.Path[0])
	case book.FromLearned:
		raw, ok := b.State.Plan.Learned[s.Path[0]]
		return raw, ok, nil
	case book.FromRefit:
		return along(t.refit, s.Path)
	}
	raw, ok := b.State.On.Figures[s.Key()]
	if !ok && s.Optional {
		return nil, false, nil
	}
	if !ok {
		return nil, false, fmt.Errorf("the spec sheet has no %s", s)
	}
	return raw, true, nil
}

func (b binder) entry(t Trial, what string) (any, bool, error) {
	switch what {
	case "readings":
		readings := []quantity.Any{}
		for _, e := range t.Readings {
			readings = append(readings, valueOf(e))
		}
		return readings, true, nil
	case "pack":
		return t.Sum, true, nil
	}
	return answerOf(b.Step, t, what)
}

// answerOf binds what was said to an ask; false when an optional one was left.
func answerOf(step *record.Step, t Trial, ask string) (any, bool, error) {
	e, ok := t.answer(ask)
	if !ok {
		return nil, false, nil
	}
	a := step.Measure.Asks[slices.IndexFunc(step.Measure.Asks, func(a book.Ask) bool { return a.ID == ask })]
	said := record.As[acts.Reading](&e)
	if len(a.Choices) > 0 {
		i := slices.IndexFunc(a.Choices, func(x book.AskChoice) bool { return x.ID == said.Outcome })
		if i < 0 { // only a record that comes from elsewhere can say so
			return nil, false, input.At("item", "", "%q is not a choice for %q", said.Outcome, a.Text)
		}
		return a.Choices[i].Binds(), true, nil
	}
	if a.Bare {
		u, _ := quantity.UnitNamed(a.Unit)
		return quantity.Say(quantity.Magnitude(said.Value.SI()), u).Value, true, nil
	}
	return said.Value, true, nil
}

// ErrNotYet is what a kind gives for a figure that is not there yet.
var ErrNotYet = errors.New("not measured yet")

// earlier takes a figure from a step done before.
func (b binder) earlier(s book.Source) (any, bool, error) {
	step, _ := b.Ledger.Plan.Step(s.Path[0])
	if b.State.IsSkipped(step) {
		return nil, false, nil
	}
	v, ok, err := step.Rules.Gives(b.State, step, s.Path[1:])
	if errors.Is(err, ErrNotYet) {
		err = say.Refuse(say.GateClosed, say.FirstTakesFrom, step.Title)
	}
	return v, ok, err
}

// instrument is the one last read with.
func (b binder) instrument(t Trial) (any, bool, error) {
	var i book.Instrument
	ok := false
	for _, e := range append(slices.Clone(t.Asked), t.Readings...) {
		switch said := record.As[acts.Reading](&e); {
		case said.Gauge != nil:
			i, ok = said.Gauge.Instrument, true
		case said.Instrument != "":
			i, ok = b.Ledger.Plan.Instrument(said.Instrument)
		}
	}
	return metrology.Instrument{Name: i.Name, Resolution: i.Resolution, MPE: i.MPE, Repeatability: i.Repeatability},
		ok, nil
}

// book gives what the diagnosis asks for.
func (b binder) book(what string) (any, bool, error) {
	in, err := Reasoning(b.Ledger, b.State)
	if err != nil {
		return nil, false, err
	}
	switch what {
	case "causes":
		return in.Causes, true, nil
	case "tests":
		return in.Tests, true, nil
	}
	if what == "lacks" {
		return append([]string{}, in.Lacks...), true, nil
	}
	return in.Seen, true, nil
}

// valueOf is what was read, or answered.
func valueOf(e record.Entry) quantity.Any { return record.As[acts.Reading](&e).Value }
