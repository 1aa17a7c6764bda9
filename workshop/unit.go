package workshop

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// UnitPage is a unit over all its rebuilds.
type UnitPage struct {
	Unit     Unit          `json:"unit"`
	Vehicle  Vehicle       `json:"vehicle"` // it sits in now
	Family   string        `json:"family"`  // of its spec sheet
	Rebuilds []UnitRebuild `json:"rebuilds"`
	Trends   []Trend       `json:"trends"`
	Found    []Find        `json:"found"` // along the way, on the vehicle it sits in
}

// UnitRebuild is one rebuild of a unit, in short.
type UnitRebuild struct {
	ID        string    `json:"id"`
	Number    string    `json:"number"`
	OpenedAt  time.Time `json:"opened_at"`
	Closed    bool      `json:"closed"`
	Vehicle   string    `json:"vehicle"` // it came out of then
	Complaint string    `json:"complaint"`
	Told      string    `json:"told,omitempty"`  // what the customer was told then
	Cause     string    `json:"cause,omitempty"` // found
	Fitted    []string  `json:"fitted"`          // parts that were replaced or reworked
}

// Trend is one measured figure over the rebuilds, oldest first.
type Trend struct {
	Step   string       `json:"step"`
	Title  string       `json:"title"`
	What   string       `json:"what,omitempty"` // the question; empty for the readings of the step
	Unit   string       `json:"unit"`
	Min    *float64     `json:"min,omitempty"` // limits in that unit, of the latest sheet
	Max    *float64     `json:"max,omitempty"`
	Points []TrendPoint `json:"points"`
}

// TrendPoint is what was measured in one rebuild.
type TrendPoint struct {
	Number string    `json:"number"`
	At     time.Time `json:"at"`
	Value  float64   `json:"value"`
	Says   string    `json:"says"`
	// Anew: a part of the unit was renewed or reworked since the point before, which
	// was measured on the old one.
	Anew bool `json:"anew,omitempty"`
}

// Measured is what a step measured last: by readings or one of its questions.
type Measured struct {
	Ask    string       `json:"ask,omitempty"` // id; empty for readings
	Text   string       `json:"text,omitempty"`
	Value  quantity.Any `json:"value"`
	Says   string       `json:"says"`
	Number string       `json:"number"` // of the rebuild
	At     time.Time    `json:"at"`

	limit *book.Limit `json:"-"`
}

// MeasuredAt is what a step of a rebuild measured in its last trial that says
// something.
func (l Ledger) MeasuredAt(id string) []Measured {
	step, ok := l.Plan.Step(id)
	if !ok || step.Measure == nil {
		return nil
	}
	trials := l.State().Trials(step)
	i := len(trials) - 1
	for i > 0 && trials[i].Result == nil && len(trials[i].Readings)+len(trials[i].Asked) == 0 {
		i--
	}
	return l.measured(step, trials[i])
}

func (l Ledger) measured(step *Step, t Trial) []Measured {
	var all []Measured
	add := func(m Measured, e Entry) {
		m.Number, m.At, m.Says = l.Rebuild.Number, e.At, m.Value.String()
		all = append(all, m)
	}
	if n := len(t.Readings); n > 0 {
		first, sum := t.Readings[0].Said().Value, 0.0
		for _, e := range t.Readings {
			sum += e.Said().Value.SI()
		}
		mean := quantity.Say(quantity.Magnitude(sum/float64(n)), first.Unit).Any
		mean.Value = rounded(mean.Value, first.Unit.Decimals+1) // a mean says little beyond the instrument's last figure
		add(Measured{Value: mean, limit: l.limitAt("limits." + limitOf(step))}, t.Readings[n-1])
	}
	for _, a := range step.Measure.Asks {
		e, ok := t.answer(a.ID)
		if ok && len(a.Choices) == 0 && e.Said().Value.IsSaid() {
			path, _ := a.OnSheet()
			add(Measured{Ask: a.ID, Text: a.Text, Value: e.Said().Value, limit: l.limitAt(path)}, e)
		}
	}
	return all
}

func rounded(v float64, decimals int) float64 {
	scale := math.Pow10(decimals)
	return math.Round(v*scale) / scale
}

// before is what a step measured in the unit's rebuilds before this one, of
// each figure the last time.
func (l Ledger) before(step string) ([]Measured, error) {
	if l.Earlier == nil {
		return nil, nil
	}
	earlier, err := l.Earlier()
	var all []Measured
	for _, other := range earlier {
		for _, m := range other.MeasuredAt(step) {
			if !slices.ContainsFunc(all, func(x Measured) bool { return x.Ask == m.Ask }) {
				all = append(all, m)
			}
		}
	}
	return all, err
}

// limitAt reads a limit of the sheet; nil where there is none.
func (l Ledger) limitAt(path string) *book.Limit {
	var limit book.Limit
	raw, ok := l.State().on.figures[path]
	if !ok || json.Unmarshal(raw, &limit) != nil || (!limit.Min.IsSaid() && !limit.Max.IsSaid()) {
		return nil
	}
	return &limit
}

// Unit reads a unit with all its rebuilds.
func (w *Workshop) Unit(ctx context.Context, id string) (UnitPage, error) {
	page := UnitPage{Rebuilds: []UnitRebuild{}, Trends: []Trend{}}
	var err error
	if page.Unit, page.Vehicle, err = w.store.Unit(ctx, id); err != nil {
		return page, err
	}
	list, err := w.store.RebuildsOf(ctx, id)
	if err != nil {
		return page, err
	}
	sheet, err := w.Sheets.Now(ctx, page.Unit.Sheet)
	if _, none := errors.AsType[input.Fields](err); err != nil && !none {
		return page, err
	}
	page.Family = sheet.Family
	ledgers, err := w.store.Ledgers(ctx, list)
	if err != nil {
		return page, err
	}
	for _, l := range ledgers {
		page.Rebuilds = append(page.Rebuilds, unitRebuild(l))
	}
	renewed := map[string]bool{} // rebuilds that renewed something, by number
	for _, r := range page.Rebuilds {
		renewed[r.Number] = len(r.Fitted) > 0
	}
	for _, l := range slices.Backward(ledgers) {
		page.addPoints(l, renewed)
	}
	page.Found, err = w.FindsOn(ctx, page.Vehicle.ID)
	return page, err
}

func unitRebuild(l Ledger) UnitRebuild {
	r := l.Rebuild
	out := UnitRebuild{
		ID: r.ID, Number: r.Number, OpenedAt: r.OpenedAt, Closed: r.Place.Closed, Vehicle: r.Vehicle.Name, Complaint: r.Complaint, Told: r.Told,
		Cause: l.Cause(), Fitted: []string{},
	}
	s := l.State()
	for _, removal := range removals(l.Plan.Steps) {
		for _, p := range s.Stack(removal) {
			if p.Verdict == partReplace || p.Verdict == partRework {
				out.Fitted = append(out.Fitted, p.Name+": "+p.Verdict)
			}
		}
	}
	return out
}

// Cause is the root cause that was decided on, in words; empty before.
func (l Ledger) Cause() string {
	s := l.State()
	for _, step := range l.Plan.Steps {
		if step.FromBook != book.FromCauses {
			continue
		}
		if e, ok := s.of(step).has(ActDecision, Place{}); ok {
			return s.words(step, &e)
		}
	}
	return ""
}

// addPoints puts what one rebuild measured behind what was measured before. What a
// part showed before it was renewed is no earlier figure of the new one.
func (p *UnitPage) addPoints(l Ledger, renewed map[string]bool) {
	for _, step := range l.Plan.Steps {
		for _, m := range l.MeasuredAt(step.ID) {
			i := slices.IndexFunc(p.Trends, func(t Trend) bool { return t.Step == step.ID && t.What == m.Text })
			if i < 0 {
				p.Trends = append(p.Trends, Trend{Step: step.ID, Title: step.Title, What: m.Text, Unit: m.Value.Unit.Symbol})
				i = len(p.Trends) - 1
			}
			t := &p.Trends[i]
			u := quantity.Named(t.Unit)
			if m.Value.Dimension() != u.Dimension {
				continue // another route asked for something else under the same name
			}
			in := func(x quantity.Any) float64 { return quantity.Say(quantity.Magnitude(x.SI()), u).Value }
			anew := len(t.Points) > 0 && renewed[t.Points[len(t.Points)-1].Number]
			t.Points = append(t.Points, TrendPoint{m.Number, m.At, in(m.Value), m.Says, anew})
			t.Min, t.Max = nil, nil
			if m.limit != nil {
				for _, side := range []struct {
					of quantity.Any
					to **float64
				}{{m.limit.Min, &t.Min}, {m.limit.Max, &t.Max}} {
					if side.of.IsSaid() && side.of.Dimension() == u.Dimension {
						v := in(side.of)
						*side.to = &v
					}
				}
			}
		}
	}
}
