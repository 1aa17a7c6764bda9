package shop

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// Gauge is an instrument of the shop with the day its calibration is due.
type Gauge struct {
	book.Instrument
	Due     string `json:"due,omitempty"`     // a day; empty: never
	Ended   bool   `json:"ended,omitempty"`   // read with no more
	Address string `json:"address,omitempty"` // host:port at which it speaks
}

// AsRead is the gauge as a reading keeps it: where its cable ends is no part of that.
func (g Gauge) AsRead() Gauge {
	g.Address = ""
	return g
}

// Teach is the gauge with what its own repeat readings have taught of it; as it was
// said to be where they are too few.
func (g Gauge) Teach(p metrology.Pool) Gauge {
	if s := p.Deviation(g.Resolution.Unit); s.IsSaid() {
		g.Repeatability = s
	}
	return g
}

// OverdueAt tells whether the calibration was due before a time, by the shop's clock.
func (g Gauge) OverdueAt(at time.Time, zone *time.Location) bool {
	return g.Due != "" && g.Due < say.DayOf(at, zone)
}

// GaugeView is a gauge as a screen shows it.
type GaugeView struct {
	Gauge
	Overdue bool         `json:"overdue,omitempty"`
	Speaks  bool         `json:"speaks,omitempty"`  // it can be followed
	Learned quantity.Any `json:"learned,omitzero"`  // its repeatability by its own readings
	Repeats int          `json:"repeats,omitempty"` // how many of them tell it
}

// View is the gauge as a screen shows it at a time.
func (g Gauge) View(at time.Time, zone *time.Location) GaugeView {
	return GaugeView{Gauge: g, Overdue: g.OverdueAt(at, zone), Speaks: g.Address != "" && !g.Ended}
}

// GaugesPage is what the shop reads with, and the kinds that steps ask for.
type GaugesPage struct {
	Gauges []GaugeView `json:"gauges"`
	Kinds  []string    `json:"kinds"`
}

// GaugeStore keeps gauges.
type GaugeStore interface {
	Gauges(ctx context.Context) ([]Gauge, error)
	// Pools are what the gauges' repeat readings tell of them, by their ids.
	Pools(ctx context.Context) (map[string]metrology.Pool, error)
	KeepGauge(ctx context.Context, g Gauge, by people.Person, at time.Time) error
}

// LayOver lays the shop's own gauges over the book's, by id.
func LayOver(own []Gauge, ofBook []book.Instrument) []Gauge {
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
	pools, err := w.store.Pools(ctx)
	if err != nil {
		return page, err
	}
	for _, g := range LayOver(own, w.book.Instruments) {
		view := g.View(w.now(), zone)
		if p := pools[g.ID]; g.Resolution.IsSaid() && p.DOF > 0 {
			view.Repeats, view.Learned = p.DOF, p.Deviation(g.Resolution.Unit)
		}
		page.Gauges = append(page.Gauges, view)
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

// Speaking is a gauge that speaks.
func (w Gauges) Speaking(ctx context.Context, id string) (Gauge, error) {
	own, err := w.store.Gauges(ctx)
	if err != nil {
		return Gauge{}, err
	}
	i := slices.IndexFunc(own, func(g Gauge) bool { return g.ID == id && g.Address != "" && !g.Ended })
	if i < 0 {
		return Gauge{}, say.Refuse(say.NotFound, say.NoSuchGauge)
	}
	return own[i], nil
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
func (w Gauges) Set(ctx context.Context, g Gauge, by people.Person) error {
	if by.Role != people.Lead {
		return say.Refuse(say.Forbidden, say.LeadGauges)
	}
	if err := g.check(); err != nil {
		return err
	}
	own, err := w.store.Gauges(ctx)
	if err != nil {
		return err
	}
	all := LayOver(own, w.book.Instruments)
	if err := g.checkName(all); err != nil {
		return err
	}
	if g.ID == "" {
		g.ID = say.NewID()
	} else if !slices.ContainsFunc(all, func(x Gauge) bool { return x.ID == g.ID }) {
		return say.Refuse(say.NotFound, say.NoSuchGauge)
	}
	return w.store.KeepGauge(ctx, g, by, w.now().UTC().Truncate(time.Microsecond))
}

// checkName refuses the name of another gauge: which of the two was read with could
// not be told from the record.
func (g *Gauge) checkName(all []Gauge) error {
	if !g.Ended && slices.ContainsFunc(all, func(x Gauge) bool {
		return x.ID != g.ID && !x.Ended && strings.EqualFold(x.Name, g.Name)
	}) {
		return input.At(
			"name",
			"a name that no other gauge has, like Dial indicator no. 3",
			"there is a gauge %s already",
			g.Name,
		)
	}
	return nil
}

func (g *Gauge) check() error {
	var faults input.Fields
	g.Name = say.OneLine(&faults, "name", g.Name, 1, 80)
	g.Kind = say.OneLine(&faults, "kind", g.Kind, 1, 40)
	if g.Resolution.SI() <= 0 {
		faults.Add("resolution", "smallest division, like 0.01 mm or 0.5 thou", "missing, or not more than zero")
	}
	for name, q := range map[string]quantity.Any{"mpe": g.MPE, "repeatability": g.Repeatability} {
		if q.IsSaid() && (q.Dimension() != g.Resolution.Dimension() || q.DifferenceSI() < 0) {
			faults.Add(name, "a "+string(g.Resolution.Dimension())+", 0 or more; or empty",
				"%s is not allowed", q)
		}
	}
	if _, err := time.Parse(time.DateOnly, g.Due); g.Due != "" && err != nil {
		faults.Add("due", "a date like 2027-03-31, or empty", "%q is not a date", g.Due)
	}
	return faults.Err()
}
