package measure

import (
	"encoding/json"
	"math"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/workshop/record"
)

// Measured is what a step measured last: by readings or one of its questions.
type Measured struct {
	Ask    string       `json:"ask,omitempty"` // id; empty for readings
	Text   string       `json:"text,omitempty"`
	Value  quantity.Any `json:"value"`
	Says   string       `json:"says"`
	Number string       `json:"number"` // of the rebuild
	At     time.Time    `json:"at"`
	Found  bool         `json:"found,omitempty"` // before it came apart, in this rebuild

	Limit *book.Limit `json:"-"`
}

// ReadMeasured is what a step of a rebuild measured in its last trial that says
// something.
func ReadMeasured(l record.Ledger, id string) []Measured {
	step, ok := l.Plan.Step(id)
	if !ok || step.Measure == nil {
		return nil
	}
	trials := Trials(l.State(), step)
	i := len(trials) - 1
	for i > 0 && trials[i].Result == nil && len(trials[i].Readings)+len(trials[i].Asked) == 0 {
		i--
	}
	return readMeasured(l, step, trials[i])
}

func readMeasured(l record.Ledger, step *record.Step, t Trial) []Measured {
	var all []Measured
	add := func(m Measured, e record.Entry) {
		m.Number, m.At, m.Says = l.Rebuild.Number, e.At, m.Value.String()
		all = append(all, m)
	}
	if n := len(t.Readings); n > 0 {
		first, sum := valueOf(t.Readings[0]), 0.0
		for _, e := range t.Readings {
			sum += valueOf(e).SI()
		}
		mean := quantity.Say(quantity.Magnitude(sum/float64(n)), first.Unit).Any
		mean.Value = roundTo(mean.Value, first.Unit.Decimals+
			1) // a mean says little beyond the instrument's last figure
		add(Measured{Value: mean, Limit: limitAt(l, "limits."+record.LimitOf(step))}, t.Readings[n-1])
	}
	for _, a := range step.Measure.Asks {
		e, ok := t.answer(a.ID)
		if ok && len(a.Choices) == 0 && valueOf(e).IsSaid() {
			path, _ := a.OnSheet()
			add(Measured{Ask: a.ID, Text: a.Text, Value: valueOf(e), Limit: limitAt(l, path)}, e)
		}
	}
	return all
}

func roundTo(v float64, decimals int) float64 {
	scale := math.Pow10(decimals)
	return math.Round(v*scale) / scale
}

// readBefore is what was measured before it came apart, and in the unit's rebuilds
// before this one, of each figure the last time.
func readBefore(l record.Ledger, step *record.Step) ([]Measured, error) {
	var all []Measured
	if found := step.Measure.Found; found != "" {
		all = ReadMeasured(l, found)
		for i := range all {
			all[i].Found = true
		}
	}
	if l.Earlier == nil {
		return all, nil
	}
	earlier, err := l.Earlier()
	for _, other := range earlier {
		for _, m := range ReadMeasured(other, step.ID) {
			if !slices.ContainsFunc(all, func(x Measured) bool { return x.Ask == m.Ask && !x.Found }) {
				all = append(all, m)
			}
		}
	}
	return all, err
}

// limitAt reads a limit of the sheet; nil where there is none.
func limitAt(l record.Ledger, path string) *book.Limit {
	var limit book.Limit
	raw, ok := l.State().On.Figures[path]
	if !ok || json.Unmarshal(raw, &limit) != nil || (!limit.Min.IsSaid() && !limit.Max.IsSaid()) {
		return nil
	}
	return &limit
}
