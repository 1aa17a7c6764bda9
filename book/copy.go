package book

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"handwerk/core/input"
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
		return Copy{}, input.At("route", b.routeNames(), "the book has no route %q", routeID)
	}
	sheet, ok := b.Sheet(sheetID)
	if !ok {
		return Copy{}, input.At("unit", "a unit with a spec sheet", "the book has no spec sheet %q", sheetID)
	}
	sheet.Figures = b.figures(sheet)
	c := Copy{Route: route, Sheet: sheet, Cautions: []Caution{}, Instruments: []Instrument{}, Causes: b.causesOf(route), Tests: b.testsOf(route)}
	cautions, materials, instruments := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, step := range route.Steps() {
		for _, id := range step.Cautions {
			cautions[id] = true
		}
		for _, id := range step.Materials {
			materials[id] = true
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
	for _, material := range b.Materials {
		if materials[material.ID] {
			c.Materials = append(c.Materials, material)
		}
	}
	for _, instrument := range b.Instruments {
		if instruments[instrument.Kind] {
			c.Instruments = append(c.Instruments, instrument)
		}
	}
	return c, c.checkSheet()
}

// figures are the shop's with those of the sheet over them.
func (b Book) figures(sheet SpecSheet) map[string]json.RawMessage {
	if len(b.Figures)+len(sheet.Figures) == 0 {
		return nil
	}
	all := map[string]json.RawMessage{}
	maps.Copy(all, b.Figures)
	maps.Copy(all, sheet.Figures)
	return all
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
	var faults input.Fields
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
		if step.Measure != nil {
			for _, f := range c.checkMeasure(*step.Measure) {
				faults.Add("sheet."+f.Path, f.Accepted, "step %q: %s", step.Title, f.Problem)
			}
		}
	}
	return faults.Err()
}

// checkMeasure asks the sheet for what a measuring step takes from it.
func (c Copy) checkMeasure(m MeasureSpec) input.Fields {
	var faults input.Fields
	want := []string{}
	if m.Limit != "" {
		want = append(want, "limits."+m.Limit)
	}
	for _, a := range m.Asks {
		if a.Sheet != "" {
			want = append(want, a.Sheet)
		}
	}
	for _, t := range m.Bind {
		sources, _ := t.Sources()
		for _, s := range sources {
			if s.Room == FromSheet {
				want = append(want, strings.Join(s.Path, "."))
			}
		}
	}
	for _, path := range want {
		if _, ok := c.Sheet.Lookup(path); !ok {
			faults.Add(path, "", "the spec sheet %q lacks it", c.Sheet.ID)
		}
	}
	if len(faults) > 0 {
		return faults
	}
	seen := map[string]Step{}
	for _, s := range c.Route.Steps() {
		seen[s.ID] = s
	}
	calculator, _ := calculators.Named(m.Calc)
	for _, f := range input.Below("", fits(calculator, m, seen, &c.Sheet)) {
		faults.Add("figures", f.Accepted, "%s asks for %s: %s", m.Calc, f.Path, f.Problem)
	}
	return faults
}

// Lookup finds a figure by its path: "limits.output-end-float.min".
func (s SpecSheet) Lookup(path string) (json.RawMessage, bool) {
	raw, err := json.Marshal(s)
	if err != nil {
		return nil, false
	}
	return Within(raw, strings.Split(path, "."))
}

// Within finds a figure in JSON by its path.
func Within(raw json.RawMessage, path []string) (json.RawMessage, bool) {
	for _, name := range path {
		var object map[string]json.RawMessage
		if json.Unmarshal(raw, &object) != nil {
			return nil, false
		}
		var ok bool
		if raw, ok = object[name]; !ok {
			return nil, false
		}
	}
	return raw, len(raw) > 0
}

// Complete fills in what the YAML leaves to be understood: station titles,
// items and choices that the book holds, the items of a test that repeats an
// earlier one, and the gate to a step whose figures are bound.
func (b Book) Complete(r *Route) {
	for i := range r.Stations {
		st := &r.Stations[i]
		st.Title = StationTitle(st.ID)
		for j := range st.Steps {
			s := &st.Steps[j]
			b.fill(s, *r)
			for k := range s.Parts {
				// A seal disturbed is a seal renewed: by rule, not by memory.
				s.Parts[k].Once = s.Parts[k].Once || s.Parts[k].Shape == "seal"
			}
			if earlier, _, ok := r.Step(s.Beside); ok && len(s.Items) == 0 {
				s.Items = earlier.Items
			}
			if s.Fill != nil && s.Fill.Like != "" {
				like, _, _ := r.Step(s.Fill.Like)
				filled := *like.Fill
				filled.Like = s.Fill.Like
				s.Fill = &filled
			}
			for _, step := range s.BoundTo() {
				if !slices.Contains(s.After, step) {
					s.After = append(s.After, step)
				}
			}
		}
	}
}

// BoundTo lists the earlier steps whose figures a step takes.
func (s Step) BoundTo() []string {
	var steps []string
	if s.Measure != nil {
		for _, name := range slices.Sorted(maps.Keys(s.Measure.Bind)) {
			sources, _ := s.Measure.Bind[name].Sources()
			for _, x := range sources {
				if x.Room == FromSteps {
					steps = append(steps, x.Path[0])
				}
			}
		}
	}
	if s.Fill != nil && s.Fill.Like != "" {
		steps = append(steps, s.Fill.Like)
	}
	for _, item := range s.Items {
		if step, _, ok := strings.Cut(item.Same, "."); ok {
			steps = append(steps, step)
		}
	}
	return steps
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
