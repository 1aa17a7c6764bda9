package book

import (
	"encoding/json"
	"fmt"
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

// Copy takes a sheet of the book along a route, and refuses one that lacks what
// the route asks of it.
func (b Book) Copy(routeID, sheetID string) (Copy, error) {
	sheet, ok := b.Sheet(sheetID)
	if !ok {
		return Copy{}, input.At("unit", "a unit with a spec sheet", "the book has no spec sheet %q", sheetID)
	}
	c, err := b.CopyWith(routeID, sheet)
	if err != nil {
		return c, err
	}
	return c, c.checkSheet(b.Kinds)
}

// CopyWith takes from the book what a rebuild of that route and sheet needs.
// What the sheet lacks is asked for at the bench.
func (b Book) CopyWith(routeID string, sheet SpecSheet) (Copy, error) {
	route, ok := b.Route(routeID)
	if !ok {
		return Copy{}, b.noRoute(routeID)
	}
	return b.CopyAlong(route, sheet, 0), nil
}

func (b Book) noRoute(id string) error {
	return input.At("route", b.routeNames(), "the book has no route %q", id)
}

// Filled is a spec sheet with what the shop says where the sheet does not.
func (b Book) Filled(sheet SpecSheet) SpecSheet {
	sheet.Figures = b.figures(sheet)
	return sheet
}

// CopyAlong is CopyWith along a route as the shop goes it, for a unit with so many
// forward gears; 0 where nobody counted them.
func (b Book) CopyAlong(route Route, sheet SpecSheet, gears int) Copy {
	sheet, route = b.Filled(sheet), route.stacked(sheet.Stacks).withGears(gears)
	var cautions, materials, gauges []string
	anyGauge := false // a part that is looked at may be measured with any
	for _, step := range route.Steps() {
		cautions, materials = append(cautions, step.AllCautions()...), append(materials, step.Materials...)
		anyGauge = anyGauge || step.Work == Inspect
		if step.Measure != nil {
			gauges = append(gauges, step.Measure.Gauge)
		}
	}
	c := Copy{
		Route: route, Sheet: sheet, Causes: b.causesOf(route), Tests: withSeconds(b.testsOf(route)),
		Cautions: append([]Caution{}, only(b.Cautions,
			func(x Caution) bool { return slices.Contains(cautions, x.ID) })...),
		Materials: only(b.Materials, func(x Material) bool { return slices.Contains(materials, x.ID) }),
		Instruments: append([]Instrument{}, only(b.Instruments,
			func(x Instrument) bool { return anyGauge || slices.Contains(gauges, x.Kind) })...),
	}
	if len(c.Materials) == 0 {
		c.Materials = nil
	}
	c.Glossary = b.glossaryOf(route)
	for _, x := range route.Standings(b.Conditions) {
		if slices.ContainsFunc(b.Conditions, func(known Condition) bool { return known.ID == x.ID }) {
			c.Conditions = append(c.Conditions, x.Condition)
		}
	}
	return c
}

// stacked is the route with a family's own parts where it takes them off; the
// book's route stays as it is.
func (r Route) stacked(stacks map[string][]Part) Route {
	if len(stacks) == 0 {
		return r
	}
	r = r.cloned()
	for i := range r.Stations {
		for j := range r.Stations[i].Steps {
			step := &r.Stations[i].Steps[j]
			if parts := stacks[step.ID]; len(parts) > 0 && step.Work == Remove {
				step.Parts = parts
			}
		}
	}
	return r
}

// glossaryOf are the figures that a route's steps want of the sheet.
func (b Book) glossaryOf(route Route) []Figure {
	wanted := map[string]bool{}
	for _, step := range route.Steps() {
		if wants := b.Kinds[step.Kind].Wants; wants != nil {
			for _, path := range wants(step) {
				wanted[Answer(path)] = true
			}
		}
	}
	return only(b.Glossary, func(f Figure) bool { return wanted[f.Path] })
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

// Ground is what a step is worked on: the sheet with its figures at hand, the
// other steps, and what the book knows of their kinds.
type Ground struct {
	Sheet   SpecSheet
	Figures Figures
	Steps   map[string]Step
	Kinds   Kinds
}

// Step finds a step of the route.
func (g Ground) Step(id string) (Step, bool) {
	s, ok := g.Steps[id]
	return s, ok
}

// checkSheet makes sure that every figure the route asks for is on the sheet.
func (c Copy) checkSheet(kinds Kinds) error {
	figures, err := c.Sheet.AllFigures()
	if err != nil {
		return err
	}
	ground := Ground{c.Sheet, figures, map[string]Step{}, kinds}
	for _, s := range c.Route.Steps() {
		ground.Steps[s.ID] = s
	}
	var faults input.Fields
	for _, step := range c.Route.Steps() {
		for _, f := range kinds[step.Kind].Misses(step, ground) {
			faults.Add("sheet."+f.Path, f.Accepted, "step %q: %s", step.Title, f.Problem)
		}
	}
	return faults.Err()
}

// Figures are the figures of a sheet by their paths, and what holds them:
// "limits.output-end-float.min" and "limits.output-end-float".
type Figures map[string]json.RawMessage

// Answer is the path of what is said at once for a figure: a limit with both its
// sides, a torque group, a fill, a whole list.
func Answer(path string) string {
	parts := strings.SplitN(path, ".", 3)
	if slices.Contains(lists, parts[0]) || len(parts) == 1 {
		return parts[0]
	}
	return parts[0] + "." + parts[1]
}

// AllFigures lays a sheet out, to look figures up.
func (s SpecSheet) AllFigures() (Figures, error) {
	raw, err := json.Marshal(s)
	if err != nil {
		return nil, fmt.Errorf("the spec sheet %q cannot be written: %w", s.ID, err)
	}
	all := Figures{}
	all.lay("", raw)
	return all, nil
}

func (f Figures) lay(path string, raw json.RawMessage) {
	if path != "" {
		f[path] = raw
	}
	var object map[string]json.RawMessage
	if len(raw) == 0 || raw[0] != '{' || json.Unmarshal(raw, &object) != nil {
		return
	}
	for name, x := range object {
		f.lay(input.Join(path, name), x)
	}
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
			b.completeStep(&st.Steps[j], *r)
		}
	}
}

func (b Book) completeStep(s *Step, r Route) {
	b.fill(s, r)
	s.understand(r)
}

// understand fills in what a step takes from other steps and from rules.
func (s *Step) understand(r Route) {
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

// AllCautions are those of the step, of its lines and of their answers.
func (s Step) AllCautions() []string {
	all := slices.Clone(s.Cautions)
	add := func(ids []string) {
		for _, id := range ids {
			if !slices.Contains(all, id) {
				all = append(all, id)
			}
		}
	}
	for _, item := range s.Items {
		add(item.Cautions)
		for _, o := range item.Outcomes {
			add(o.Cautions)
		}
	}
	return all
}

// BoundTo lists the earlier steps whose figures a step takes.
func (s Step) BoundTo() []string {
	var steps []string
	if s.Measure != nil {
		for _, x := range Bind(s.Measure.Bind).All() {
			if x.Room == FromSteps {
				steps = append(steps, x.Path[0])
			}
		}
	}
	for _, w := range s.Weighs {
		for _, x := range Bind(w.Bind).All() {
			if x.Room == FromSteps {
				steps = append(steps, x.Path[0])
			}
		}
	}
	if s.Fill != nil && s.Fill.Like != "" {
		steps = append(steps, s.Fill.Like)
	}
	for _, item := range s.Items {
		if item.Same != (ItemAt{}) {
			steps = append(steps, item.Same.Step)
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
