package plan

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/core/fault"
)

// Route finds a route by id.
func (b Book) Route(id string) (Route, bool) {
	i := slices.IndexFunc(b.Routes, func(r Route) bool { return r.ID == id })
	if i < 0 {
		return Route{}, false
	}
	return b.Routes[i], true
}

// Sheet finds a spec sheet by id.
func (b Book) Sheet(id string) (SpecSheet, bool) {
	i := slices.IndexFunc(b.Sheets, func(s SpecSheet) bool { return s.ID == id })
	if i < 0 {
		return SpecSheet{}, false
	}
	return b.Sheets[i], true
}

// Copy takes from the book what a rebuild of that route and sheet needs, and
// refuses a sheet that lacks what the route asks of it.
func (b Book) Copy(routeID, sheetID string) (Copy, error) {
	route, ok := b.Route(routeID)
	if !ok {
		return Copy{}, fault.At("route", b.routeNames(), "the book has no route %q", routeID)
	}
	sheet, ok := b.Sheet(sheetID)
	if !ok {
		return Copy{}, fault.At("unit", "a unit with a spec sheet", "the book has no spec sheet %q", sheetID)
	}
	c := Copy{Route: route, Sheet: sheet, Cautions: []Caution{}, Instruments: []Instrument{}}
	cautions, instruments := map[string]bool{}, map[string]bool{}
	for _, step := range route.Steps() {
		for _, id := range step.Cautions {
			cautions[id] = true
		}
		if step.Measure != nil {
			instruments[step.Measure.Gauge] = true
		}
	}
	for _, caution := range b.Cautions {
		if cautions[caution.ID] {
			c.Cautions = append(c.Cautions, caution)
		}
	}
	for _, instrument := range b.Instruments {
		if instruments[instrument.Kind] {
			c.Instruments = append(c.Instruments, instrument)
		}
	}
	return c, c.checkSheet()
}

func (b Book) routeNames() string {
	var names []string
	for _, r := range b.Routes {
		names = append(names, r.ID)
	}
	return strings.Join(names, ", ")
}

// checkSheet makes sure that every figure the route asks for is on the sheet.
func (c Copy) checkSheet() error {
	var faults fault.Fields
	for _, step := range c.Route.Steps() {
		if step.Kind == Torque {
			if _, ok := c.Sheet.Torques[step.Group]; !ok {
				faults.Add("sheet.torques."+step.Group, "", "step %q asks for it, the spec sheet %q lacks it", step.Title, c.Sheet.ID)
			}
		}
		if step.Fill != nil {
			if _, ok := c.Sheet.Fills[step.Fill.Of]; !ok {
				faults.Add("sheet.fills."+step.Fill.Of, "", "step %q asks for it, the spec sheet %q lacks it", step.Title, c.Sheet.ID)
			}
		}
		if step.Measure == nil {
			continue
		}
		for _, from := range step.Measure.Bind {
			if path, ok := strings.CutPrefix(from, "sheet."); ok {
				if _, ok := c.Sheet.Lookup(path); !ok {
					faults.Add("sheet."+path, "", "step %q asks for it, the spec sheet %q lacks it", step.Title, c.Sheet.ID)
				}
			}
		}
	}
	return faults.Err()
}

// Lookup finds a figure by its path: "limits.output-end-float.min".
func (s SpecSheet) Lookup(path string) (json.RawMessage, bool) {
	raw, err := json.Marshal(s)
	if err != nil {
		return nil, false
	}
	for name := range strings.SplitSeq(path, ".") {
		var object map[string]json.RawMessage
		if json.Unmarshal(raw, &object) != nil {
			return nil, false
		}
		var ok bool
		if raw, ok = object[name]; !ok {
			return nil, false
		}
	}
	return raw, true
}

// Complete fills in what the YAML leaves to be understood: station titles, and
// the items of a test that repeats an earlier one.
func (r *Route) Complete() {
	for i := range r.Stations {
		st := &r.Stations[i]
		st.Title = StationTitle(st.ID)
		for j := range st.Steps {
			if earlier, _, ok := r.Step(st.Steps[j].Beside); ok && len(st.Steps[j].Items) == 0 {
				st.Steps[j].Items = earlier.Items
			}
		}
	}
}

// Steps lists all steps in order.
func (r Route) Steps() []Step {
	var steps []Step
	for _, st := range r.Stations {
		steps = append(steps, st.Steps...)
	}
	return steps
}

// Step finds a step and the station it stands in.
func (r Route) Step(id string) (Step, StationID, bool) {
	for _, st := range r.Stations {
		for _, step := range st.Steps {
			if step.ID == id {
				return step, st.ID, true
			}
		}
	}
	return Step{}, "", false
}

// Caution finds a caution of the copy.
func (c Copy) Caution(id string) (Caution, bool) {
	i := slices.IndexFunc(c.Cautions, func(x Caution) bool { return x.ID == id })
	if i < 0 {
		return Caution{}, false
	}
	return c.Cautions[i], true
}

// Gauges lists the shop's instruments of the kind a step measures with.
func (c Copy) Gauges(step Step) []Instrument {
	list := []Instrument{}
	for _, i := range c.Instruments {
		if step.Measure != nil && i.Kind == step.Measure.Gauge {
			list = append(list, i)
		}
	}
	return list
}

// Instrument finds an instrument of the copy.
func (c Copy) Instrument(id string) (Instrument, bool) {
	i := slices.IndexFunc(c.Instruments, func(x Instrument) bool { return x.ID == id })
	if i < 0 {
		return Instrument{}, false
	}
	return c.Instruments[i], true
}
