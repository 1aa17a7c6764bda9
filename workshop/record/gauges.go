package record

import (
	"slices"

	"handwerk/workshop/acts"
	"handwerk/workshop/shop"
)

// GaugesFor are those that a step may be read with: the shop's own as they are now,
// and what was copied from the book.
func (l Ledger) GaugesFor(step *Step) ([]shop.Gauge, error) {
	var own []shop.Gauge
	if l.Gauges != nil {
		all, err := l.Gauges()
		if err != nil {
			return nil, err
		}
		own = all
	}
	if step.Measure == nil { // a part may be measured with any
		return slices.DeleteFunc(shop.LayOver(own, l.Plan.Instruments), func(g shop.Gauge) bool { return g.Ended }), nil
	}
	list := shop.LayOver(own, l.Plan.Gauges(step.Step))
	list = slices.DeleteFunc(list, func(g shop.Gauge) bool { return g.Ended || g.Kind != step.Measure.Gauge })
	if l.Repeats == nil || len(list) == 0 {
		return list, nil
	}
	pools, err := l.Repeats()
	for i := range list {
		list[i] = list[i].Teach(pools[list[i].ID])
	}
	return list, err
}

// Gauges are what the step may be read with, as a screen shows them.
func (v Viewer) Gauges() ([]shop.GaugeView, error) {
	gauges, err := v.Ledger.GaugesFor(v.Step)
	views := make([]shop.GaugeView, 0, len(gauges))
	for _, g := range gauges {
		view := g.View(v.Now, v.State.Zone)
		view.Gauge = g.AsRead()
		views = append(views, view)
	}
	return views, err
}

// GaugeWords names what was read with, and says when its calibration was overdue.
func GaugeWords(s *State, e Entry) string {
	read := acts.ReadWith(e.ReadAct())
	if read == nil {
		return ""
	}
	switch g := read.Gauge; {
	case g != nil && g.OverdueAt(e.At, s.Zone):
		return ", " + g.Name + ", its calibration overdue since " + g.Due
	case g != nil:
		return ", " + g.Name
	}
	if i, ok := s.Plan.Instrument(read.Instrument); ok {
		return ", " + i.Name
	}
	return ""
}
