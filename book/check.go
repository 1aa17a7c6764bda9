package book

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

var idShape = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,59}$`)

// Known is what a route may refer to beyond itself.
type Known struct {
	Cautions  map[string]bool
	Materials map[string]bool
	Answers   map[string]bool
	Tests     map[string]bool
	Causes    map[string]bool
}

// Check finds what would leave a mechanic stuck on the route. Paths are those
// of the YAML.
func (r Route) Check(known Known) input.Fields {
	c := checker{known: known, seen: map[string]Step{}}
	c.id("id", r.ID)
	c.text("title", r.Title)
	c.text("unit_kind", r.UnitKind)
	for i, id := range r.LeavesOut {
		if !known.Causes[id] && !known.Tests[id] {
			c.Add(input.Index("leaves_out", i), "a cause or a test of the book", "%q is neither", id)
		}
	}
	if len(r.Stations) == 0 {
		c.Add("stations", "at least one station", "the route has no stations")
	}
	last := -1
	for i, st := range r.Stations {
		at := input.Index("stations", i)
		order := stationOrder(st.ID)
		switch {
		case order < 0:
			c.Add(input.Join(at, "id"), stationNames(), "%q is not a station", st.ID)
		case order <= last:
			c.Add(input.Join(at, "id"), stationNames()+", in this order", "%q stands out of order", st.ID)
		}
		last = max(last, order)
		for j, step := range st.Steps {
			c.step(input.Index(input.Join(at, "steps"), j), step)
		}
	}
	c.gates(r)
	return c.Fields
}

// gates refuses gates that lead nowhere or wait for themselves. A gate may
// name a step of a later station: sealant goes on after the dry run.
func (c *checker) gates(r Route) {
	after := map[string][]string{}
	for _, s := range r.Steps() {
		after[s.ID] = slices.Concat(s.After, s.BoundTo())
	}
	for i, st := range r.Stations {
		for j, s := range st.Steps {
			for k, gate := range s.After {
				at := fmt.Sprintf("stations[%d].steps[%d].after[%d]", i, j, k)
				if _, ok := after[gate]; !ok {
					c.Add(at, "a step of this route", "%q is not a step; the gate would never open", gate)
				} else if waitsFor(gate, s.ID, after, map[string]bool{}) {
					c.Add(at, "a step that does not wait for this one", "%q waits for %q, which waits for it in turn", s.ID, gate)
				}
			}
		}
	}
}

// waitsFor tells whether step waits, over any number of gates, for target.
func waitsFor(step, target string, after map[string][]string, seen map[string]bool) bool {
	if step == target {
		return true
	}
	if seen[step] {
		return false
	}
	seen[step] = true
	return slices.ContainsFunc(after[step], func(s string) bool { return waitsFor(s, target, after, seen) })
}

type checker struct {
	input.Fields
	known Known
	seen  map[string]Step // steps before the one being checked
}

func (c *checker) id(path, id string) {
	if !idShape.MatchString(id) {
		c.Add(path, "lower-case words joined by hyphens", "%q is not an id", id)
	}
}

func (c *checker) text(path, s string) {
	if strings.TrimSpace(s) == "" {
		c.Add(path, "a text", "nothing stands here")
	}
}

func (c *checker) step(at string, s Step) {
	c.id(input.Join(at, "id"), s.ID)
	c.text(input.Join(at, "title"), s.Title)
	c.text(input.Join(at, "say"), s.Say)
	if _, twice := c.seen[s.ID]; twice {
		c.Add(input.Join(at, "id"), "an id of its own", "two steps are called %q", s.ID)
	}
	for i, id := range s.Cautions {
		if !c.known.Cautions[id] {
			c.Add(input.Index(input.Join(at, "cautions"), i), "a caution of the book", "%q is not in the cautions", id)
		}
	}
	for i, id := range s.Materials {
		if !c.known.Materials[id] {
			c.Add(input.Index(input.Join(at, "materials"), i), "a material of the book", "%q is not in the materials", id)
		}
	}
	if s.Role != "" && s.Role != "lead" && s.Role != "mechanic" {
		c.Add(input.Join(at, "role"), "mechanic, lead", "%q is not a role that works at a step", s.Role)
	}
	c.kind(at, s)
	c.seen[s.ID] = s
}

// kind checks the fields that belong to the step's kind.
func (c *checker) kind(at string, s Step) {
	switch s.Kind {
	case Check, Test:
		c.items(at, s)
	case Stack:
		c.stack(at, s)
	case Measure:
		c.measure(at, s)
	case Torque:
		c.text(input.Join(at, "group"), s.Group)
		if s.Wrench != nil {
			c.unit(input.Join(at, "wrench.unit"), s.Wrench.Unit, quantity.DimTorque)
		}
	case Fill:
		c.fill(input.Join(at, "fill"), s.Fill)
	case Wait:
		c.schools(at, s)
	case Decide:
		c.choices(at, s)
	case Care:
		if len(s.Cautions) == 0 {
			c.Add(input.Join(at, "cautions"), "a caution of the book", "a caution step names no caution")
		}
	case Photo:
	default:
		c.Add(input.Join(at, "kind"), kindNames(), "%q is not a kind of step", s.Kind)
	}
}

func (c *checker) fill(at string, f *FillSpec) {
	if f != nil && f.Like != "" {
		if like, ok := c.seen[f.Like]; !ok || like.Fill == nil || like.Fill.Like != "" || len(f.Fluids) > 0 {
			c.Add(input.Join(at, "like"), "an earlier fill step, and no fluids here", "%q cannot be followed", f.Like)
		}
		return
	}
	if f == nil || len(f.Fluids) == 0 {
		c.Add(at, "of, unit and at least one fluid; or like: an earlier fill step", "nothing to fill")
		return
	}
	c.unit(input.Join(at, "unit"), f.Unit, quantity.DimVolume)
	unique(c, input.Join(at, "fluids"), f.Fluids, func(f Fluid) string { return f.ID })
}

func (c *checker) choices(at string, s Step) {
	if s.FromBook != "" && s.FromBook != fromCauses {
		c.Add(input.Join(at, "from_book"), fromCauses, "%q cannot be chosen from", s.FromBook)
	}
	at = input.Join(at, "choices")
	if len(s.Choices) == 0 && s.FromBook == "" {
		c.Add(at, "at least one choice", "nothing to decide")
	}
	unique(c, at, s.Choices, func(x Choice) string { return x.ID })
	if n := len(only(s.Choices, func(x Choice) bool { return x.Default })); n > 1 {
		c.Add(at, "one choice marked default, or none", "%d are marked", n)
	}
}

func (c *checker) items(at string, s Step) {
	if s.FromBook != "" && (s.Kind != Test || (s.FromBook != fromComplaint && s.FromBook != fromTests)) {
		c.Add(input.Join(at, "from_book"), "complaint or tests, at a test", "%q gives no lines here", s.FromBook)
	}
	at = input.Join(at, "items")
	if len(s.Items) == 0 && s.Beside == "" && s.FromBook == "" {
		c.Add(at, "at least one item, or beside: an earlier test", "nothing to look at")
	}
	unique(c, at, s.Items, func(i Item) string { return i.ID })
	for i, item := range s.Items {
		c.item(input.Index(at, i), s, item)
	}
	if s.Beside != "" {
		if other, ok := c.seen[s.Beside]; !ok || other.Kind != Test {
			c.Add(strings.TrimSuffix(at, ".items")+".beside", "an earlier test", "%q is not one", s.Beside)
		}
	}
}

func (c *checker) item(path string, s Step, item Item) {
	if item.Answers != "" && !c.known.Answers[item.Answers] {
		c.Add(input.Join(path, "answers"), "a list of answers of the book", "%q is not one", item.Answers)
	}
	if item.Test != "" && !c.known.Tests[item.Test] {
		c.Add(input.Join(path, "test"), "a test of the book", "%q is not one", item.Test)
	}
	if item.Test == "" {
		c.text(input.Join(path, "text"), item.Text)
	}
	unique(c, input.Join(path, "outcomes"), item.Outcomes, func(o Outcome) string { return o.ID })
	if len(item.Outcomes) == 0 && item.Value == "" && item.Answers == "" && item.Test == "" && s.Kind == Test {
		c.Add(input.Join(path, "outcomes"), "outcomes, answers, test, or value: temperature", "a test needs outcomes to choose from")
	}
	if item.Value != "" && quantity.DefaultUnit(item.Value) == "" {
		c.Add(input.Join(path, "value"), "length, torque, volume, temperature, time, count", "%q is not measured here", item.Value)
	}
	if item.Same != "" {
		step, id, _ := strings.Cut(item.Same, ".")
		earlier := slices.IndexFunc(c.seen[step].Items, func(x Item) bool { return x.ID == id && x.Value == item.Value })
		if earlier < 0 || item.Value == "" {
			c.Add(input.Join(path, "same"), "step.item of an earlier value of the same kind", "%q is none", item.Same)
		}
	}
}

func (c *checker) stack(at string, s Step) {
	switch s.Work {
	case Remove:
		if len(s.Parts) == 0 {
			c.Add(input.Join(at, "parts"), "the parts in removal order", "the stack is empty")
		}
		unique(c, input.Join(at, "parts"), s.Parts, func(p Part) string { return p.ID })
		for i, p := range s.Parts {
			c.facing(input.Index(input.Join(at, "parts"), i), p)
		}
	case Inspect, Fit:
		if of, ok := c.seen[s.Of]; !ok || of.Kind != Stack || of.Work != Remove {
			c.Add(input.Join(at, "of"), "an earlier stack that is taken apart", "%q is not one", s.Of)
		}
		if len(s.Parts) > 0 {
			c.Add(input.Join(at, "parts"), "of", "the parts come from the stack taken apart; leave them out here")
		}
	default:
		c.Add(input.Join(at, "work"), "remove, inspect, fit", "%q is not work on a stack", s.Work)
	}
}

func (c *checker) facing(at string, p Part) {
	if p.Facing != "" && !slices.Contains(Facings, p.Facing) {
		c.Add(input.Join(at, "facing"), strings.Trim(fmt.Sprint(Facings), "[]"), "%q is no way to face", p.Facing)
	}
	if p.Facing != "" && p.Faces == "" {
		c.Add(input.Join(at, "faces"), "words beside facing", "nobody sees by what it faces %s", p.Facing)
	}
}

func (c *checker) schools(at string, s Step) {
	at = input.Join(at, "schools")
	if len(s.Schools) == 0 {
		c.Add(at, "at least one school", "nothing to wait for")
	}
	unique(c, at, s.Schools, func(x School) string { return x.ID })
	defaults := 0
	for i, school := range s.Schools {
		if school.Wait.SI() < 0 || school.Wait.SI() > 7*24*3600 {
			c.Add(input.Index(at, i)+".wait", "0 min to 168 h", "%s cannot be waited for", school.Wait)
		}
		if school.Default {
			defaults++
		}
	}
	if len(s.Schools) > 0 && defaults != 1 {
		c.Add(at, "one school marked default", "%d are marked", defaults)
	}
}

func (c *checker) unit(path, symbol string, want quantity.Dimension) {
	u, ok := quantity.UnitNamed(symbol)
	if !ok || (want != "" && u.Dimension != want) {
		c.Add(path, "a unit of "+string(want), "%q is not one", symbol)
	}
}

// unique checks that ids are well formed and not used twice.
func unique[T any](c *checker, path string, list []T, id func(T) string) {
	seen := map[string]bool{}
	for i, item := range list {
		at := input.Join(input.Index(path, i), "id")
		c.id(at, id(item))
		if seen[id(item)] {
			c.Add(at, "an id of its own", "%q is there twice", id(item))
		}
		seen[id(item)] = true
	}
}

// Check finds figures on a sheet that cannot be.
func (s SpecSheet) Check() input.Fields {
	c := checker{}
	c.id("id", s.ID)
	c.text("family", s.Family)
	for name, l := range s.Limits {
		at := "limits." + name
		switch {
		case !l.Min.IsSaid() && !l.Max.IsSaid():
			c.Add(at, "min, max or both", "the limit has no figure")
		case l.Min.IsSaid() && l.Max.IsSaid() && l.Min.Dimension() != l.Max.Dimension():
			c.Add(at+".max", string(l.Min.Dimension()), "%s and %s cannot be compared", l.Min, l.Max)
		case l.Min.IsSaid() && l.Max.IsSaid() && l.Min.SI() > l.Max.SI():
			c.Add(at+".min", "a lower limit that is not above the upper", "%s lies above %s", l.Min, l.Max)
		}
	}
	for i, w := range s.Washers {
		if w.Thickness.SI() <= 0 {
			c.Add(fmt.Sprintf("washers[%d].thickness", i), "more than zero", "%s is no washer", w.Thickness)
		}
	}
	for name, g := range s.Torques {
		if g.Bolts < 1 || g.Torque.SI() <= 0 || g.Tolerance <= 0 || g.Tolerance > 0.5 {
			c.Add("torques."+name, "bolts and torque above zero, tolerance up to 0.5", "%d bolts at %s ± %g", g.Bolts, g.Torque, g.Tolerance)
		}
	}
	for name, f := range s.Fills {
		if f.Min.SI() <= 0 || f.Min.SI() > f.Max.SI() {
			c.Add("fills."+name+".min", "more than zero, not above max", "%s to %s", f.Min, f.Max)
		}
	}
	return c.Fields
}

func stationNames() string {
	var names []string
	for _, s := range stationTitles {
		names = append(names, string(s.ID))
	}
	return strings.Join(names, ", ")
}

func kindNames() string {
	var names []string
	for _, k := range kinds {
		names = append(names, string(k))
	}
	return strings.Join(names, ", ")
}
