package paper

import (
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// UnitPage is a unit over all its rebuilds.
type UnitPage struct {
	Unit     shop.Unit     `json:"unit"`
	Vehicle  shop.Vehicle  `json:"vehicle"` // it sits in now
	Family   string        `json:"family"`  // of its spec sheet
	Rebuilds []UnitRebuild `json:"rebuilds"`
	Trends   []Trend       `json:"trends"`
	Found    []Find        `json:"found"` // along the way, on the vehicle it sits in
	More     bool          `json:"more,omitempty"`
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
	// Anew: a part of the unit was replaced or reworked since the point before, which
	// was measured on the old one.
	Anew bool `json:"anew,omitempty"`
	Out  bool `json:"out,omitempty"` // beyond a limit of the latest sheet
}

// RebuildOf is a rebuild in short, as the page of its unit lists it.
func RebuildOf(l record.Ledger) UnitRebuild {
	r := l.Rebuild
	out := UnitRebuild{
		ID: r.ID, Number: r.Number, OpenedAt: r.OpenedAt, Closed: r.Place.Closed, Vehicle: r.Vehicle.Name,
		Complaint: r.Complaint, Told: r.Told,
		Cause: Cause(l), Fitted: []string{},
	}
	s := l.State()
	for _, removal := range stack.Removals(l.Plan.Steps) {
		for _, p := range stack.Stack(s, removal) {
			if p.Verdict == stack.PartReplace || p.Verdict == stack.PartRework {
				out.Fitted = append(out.Fitted, p.Name+": "+p.Verdict)
			}
		}
	}
	return out
}

// Cause is the root cause that was decided on, in words; empty before.
func Cause(l record.Ledger) string {
	s := l.State()
	for _, step := range l.Plan.Steps {
		if step.FromBook != book.FromCauses {
			continue
		}
		if e, ok := s.At(step).Has(acts.Decision{}, record.Place{}); ok {
			return record.Words(s, step, &e)
		}
	}
	return ""
}

// AddPoints puts what one rebuild measured behind what was measured before. What a
// part showed before it was renewed is no earlier figure of the new one.
func (p *UnitPage) AddPoints(l record.Ledger, renewed map[string]bool) {
	for _, step := range l.Plan.Steps {
		for _, m := range measure.ReadMeasured(l, step.ID) {
			p.trendOf(step, m).add(m, renewed)
		}
	}
}

// trendOf is the trend that a measurement belongs to, begun where there is none.
func (p *UnitPage) trendOf(step *record.Step, m measure.Measured) *Trend {
	i := slices.IndexFunc(p.Trends, func(t Trend) bool { return t.Step == step.ID && t.What == m.Text })
	if i < 0 {
		p.Trends = append(p.Trends, Trend{Step: step.ID, Title: step.Title, What: m.Text, Unit: m.Value.Unit.Symbol})
		i = len(p.Trends) - 1
	}
	return &p.Trends[i]
}

func (t *Trend) add(m measure.Measured, renewed map[string]bool) {
	u := quantity.Named(t.Unit)
	if m.Value.Dimension() != u.Dimension {
		return // another route asked for something else under the same name
	}
	in := func(x quantity.Any) *float64 {
		if !x.IsSaid() || x.Dimension() != u.Dimension {
			return nil
		}
		return new(quantity.Say(quantity.Magnitude(x.SI()), u).Value)
	}
	anew := len(t.Points) > 0 && renewed[t.Points[len(t.Points)-1].Number]
	t.Points = append(t.Points, TrendPoint{Number: m.Number, At: m.At, Value: *in(m.Value), Says: m.Says, Anew: anew})
	t.Min, t.Max = nil, nil
	if m.Limit != nil {
		t.Min, t.Max = in(m.Limit.Min), in(m.Limit.Max)
	}
	for i, p := range t.Points {
		t.Points[i].Out = t.Min != nil && p.Value < *t.Min || t.Max != nil && p.Value > *t.Max
	}
}
