package workshop

import (
	"cmp"
	"context"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Gauge is an instrument of the shop with the day its calibration is due.
type Gauge struct {
	book.Instrument
	Due   string `json:"due,omitempty"`   // a day; empty: never
	Ended bool   `json:"ended,omitempty"` // read with no more
}

// OverdueAt tells whether the calibration was due before a time, by the shop's clock.
func (g Gauge) OverdueAt(at time.Time, zone *time.Location) bool {
	return g.Due != "" && g.Due < dayOf(at, zone)
}

func dayOf(at time.Time, zone *time.Location) string {
	if zone == nil {
		zone = time.UTC
	}
	return at.In(zone).Format(time.DateOnly)
}

// GaugeView is a gauge as a screen shows it.
type GaugeView struct {
	Gauge
	Overdue bool `json:"overdue,omitempty"`
}

// GaugesPage is what the shop reads with, and the kinds that steps ask for.
type GaugesPage struct {
	Gauges []GaugeView `json:"gauges"`
	Kinds  []string    `json:"kinds"`
}

// GaugeStore keeps gauges.
type GaugeStore interface {
	Gauges(ctx context.Context) ([]Gauge, error)
	KeepGauge(ctx context.Context, g Gauge, by Person, at time.Time) error
}

// with lays the shop's own gauges over the book's, by id.
func with(own []Gauge, ofBook []book.Instrument) []Gauge {
	list := slices.Clone(own)
	for _, i := range ofBook {
		if !slices.ContainsFunc(own, func(g Gauge) bool { return g.ID == i.ID }) {
			list = append(list, Gauge{Instrument: i})
		}
	}
	return list
}

// Gauges lists what the shop reads with.
func (w Gauges) List(ctx context.Context, zone *time.Location) (GaugesPage, error) {
	page := GaugesPage{Gauges: []GaugeView{}, Kinds: []string{}}
	own, err := w.store.Gauges(ctx)
	if err != nil {
		return page, err
	}
	for _, g := range with(own, w.book.Instruments) {
		page.Gauges = append(page.Gauges, GaugeView{g, g.OverdueAt(w.now(), zone)})
	}
	slices.SortStableFunc(page.Gauges, func(a, b GaugeView) int {
		return cmp.Or(compareEnded(a.Ended, b.Ended), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Name, b.Name))
	})
	for _, r := range w.book.Routes {
		for _, s := range r.Steps() {
			if s.Measure != nil && s.Measure.Gauge != "" && !slices.Contains(page.Kinds, s.Measure.Gauge) {
				page.Kinds = append(page.Kinds, s.Measure.Gauge)
			}
		}
	}
	slices.Sort(page.Kinds)
	return page, nil
}

func compareEnded(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	}
	return -1
}

// SetGauge says how it is with a gauge from now on; without an id it is a new one.
func (w Gauges) Set(ctx context.Context, g Gauge, by Person) error {
	if by.Role != Lead {
		return refuse(Forbidden, leadGauges)
	}
	if err := g.check(); err != nil {
		return err
	}
	if g.ID == "" {
		g.ID = NewID()
	} else if own, err := w.store.Gauges(ctx); err != nil {
		return err
	} else if !slices.ContainsFunc(with(own, w.book.Instruments), func(x Gauge) bool { return x.ID == g.ID }) {
		return refuse(NotFound, noSuchGauge)
	}
	return w.store.KeepGauge(ctx, g, by, w.now().UTC().Truncate(time.Microsecond))
}

func (g *Gauge) check() error {
	var faults input.Fields
	g.Name = oneLine(&faults, "name", g.Name, 1, 80)
	g.Kind = oneLine(&faults, "kind", g.Kind, 1, 40)
	if g.Resolution.SI() <= 0 {
		faults.Add("resolution", "what one division says: 0.01 mm, 0.5 thou", "missing, or not more than zero")
	}
	for name, q := range map[string]quantity.Any{"mpe": g.MPE, "repeatability": g.Repeatability} {
		if q.IsSaid() && (q.Dimension() != g.Resolution.Dimension() || q.DifferenceSI() < 0) {
			faults.Add(name, "a "+string(g.Resolution.Dimension())+" that is not below zero, or nothing", "%s is none", q)
		}
	}
	if _, err := time.Parse(time.DateOnly, g.Due); g.Due != "" && err != nil {
		faults.Add("due", "a day like 2027-03-31, or nothing", "%q is none", g.Due)
	}
	return faults.Err()
}

// gauges are those that a step may be read with: the shop's own as they are now,
// and what was copied from the book.
func (l Ledger) gauges(step *Step) ([]Gauge, error) {
	var own []Gauge
	if l.Gauges != nil {
		all, err := l.Gauges()
		if err != nil {
			return nil, err
		}
		own = all
	}
	if step.Measure == nil { // a part may be measured with any
		return slices.DeleteFunc(with(own, l.Plan.Instruments), func(g Gauge) bool { return g.Ended }), nil
	}
	list := with(own, l.Plan.Gauges(step.Step))
	return slices.DeleteFunc(list, func(g Gauge) bool { return g.Ended || g.Kind != step.Measure.Gauge }), nil
}

// gauges are what the step may be read with, as a screen shows them.
func (v viewer) gauges() ([]GaugeView, error) {
	gauges, err := v.ledger.gauges(v.step)
	views := make([]GaugeView, 0, len(gauges))
	for _, g := range gauges {
		views = append(views, GaugeView{g, g.OverdueAt(v.now, v.state.zone)})
	}
	return views, err
}

// gaugeWords names what was read with, and says when its calibration was overdue.
func (s *State) gaugeWords(e Entry) string {
	b := e.Said()
	switch {
	case b.Gauge != nil && b.Gauge.OverdueAt(e.At, s.zone):
		return ", " + b.Gauge.Name + ", its calibration overdue since " + b.Gauge.Due
	case b.Gauge != nil:
		return ", " + b.Gauge.Name
	}
	if i, ok := s.plan.Instrument(b.Instrument); ok {
		return ", " + i.Name
	}
	return ""
}
