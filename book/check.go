package book

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/supply"
)

// IsID tells whether something can be named so.
func IsID(s string) bool { return idShape.MatchString(s) }

var idShape = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,59}$`)

// Known is what a route may refer to beyond itself.
type Known struct {
	Kinds     Kinds
	Cautions  map[string]bool
	Materials map[string]bool
	Answers   map[string]bool
	Tests     map[string]bool
	Causes    map[string]bool
	// Conditions are the things that stand one way or another; CautionsIn is what
	// each caution speaks of.
	Conditions []Condition
	CautionsIn map[string]States
}

// Known is what the book's routes may refer to.
func (b Book) Known() Known {
	return Known{
		Kinds:     b.Kinds,
		Cautions:  idsOf(b.Cautions, func(x Caution) string { return x.ID }),
		Materials: idsOf(b.Materials, func(x Material) string { return x.ID }),
		Answers:   idsOf(b.Answers, func(x Answers) string { return x.ID }),
		Tests:     idsOf(withSeconds(slices.Clone(b.Tests)), func(x BookTest) string { return x.ID }),
		Causes:    idsOf(b.Causes, func(x Cause) string { return x.ID }),

		Conditions: b.Conditions,
		CautionsIn: cautionsIn(b.Cautions),
	}
}

func cautionsIn(list []Caution) map[string]States {
	in := map[string]States{}
	for _, x := range list {
		in[x.ID] = x.In
	}
	return in
}

func idsOf[T any](list []T, id func(T) string) map[string]bool {
	ids := make(map[string]bool, len(list))
	for _, x := range list {
		ids[id(x)] = true
	}
	return ids
}

// Check finds what would leave a mechanic stuck on the route. Paths are those
// of the YAML.
func (r Route) Check(known Known) input.Fields {
	c := Checker{known: known, seen: map[string]Step{}}
	c.ID("id", r.ID)
	c.Text("title", r.Title)
	c.Text("unit_kind", r.UnitKind)
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
		order := StationAt(st.ID)
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
	if c.checkStates(r); len(c.Fields) == 0 { // else the ways lead nowhere
		c.ways(r)
	}
	return c.Fields
}

// gates refuses gates that lead nowhere or wait for themselves. A gate may
// name a step of a later station: sealant goes on after the dry run.
func (c *Checker) gates(r Route) {
	after := map[string][]string{}
	for _, s := range r.Steps() {
		after[s.ID] = slices.Concat(s.After, s.BoundTo())
	}
	for i, st := range r.Stations {
		for j, s := range st.Steps {
			c.without(fmt.Sprintf("stations[%d].steps[%d]", i, j), s, after)
			for k, gate := range s.After {
				at := fmt.Sprintf("stations[%d].steps[%d].after[%d]", i, j, k)
				if _, ok := after[gate]; !ok {
					c.Add(at, "a step of this route", "%q is not a step; the gate would never open", gate)
				} else if waitsFor(gate, s.ID, after, map[string]bool{}) {
					c.Add(at, "a step that does not wait for this one", "%q waits for %q, which waits for it in turn",
						s.ID, gate)
				}
			}
		}
	}
}

// without refuses choices that leave away what is no step.
func (c *Checker) without(at string, s Step, steps map[string][]string) {
	for k, x := range s.Choices {
		for n, id := range x.Without {
			if _, ok := steps[id]; !ok {
				c.Add(
					fmt.Sprintf("%s.choices[%d].without[%d]", at, k, n),
					"a step of this route",
					"%q is not a step",
					id,
				)
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

// Checker gathers what is wrong with a route, a sheet, a test.
type Checker struct {
	input.Fields
	known Known
	seen  map[string]Step // steps before the one being checked
}

// Known is what the route may refer to.
func (c *Checker) Known() Known { return c.known }

// Earlier finds a step before the one being checked.
func (c *Checker) Earlier(id string) (Step, bool) {
	s, ok := c.seen[id]
	return s, ok
}

// Gives tells whether an earlier step gives what a source names.
func (c *Checker) Gives(s Source) bool {
	_, ok := c.known.Kinds.Sample(c.Earlier, s)
	return ok
}

// ID checks the form of an id.
func (c *Checker) ID(path, id string) {
	if !IsID(id) {
		c.Add(path, "lower-case words joined by hyphens", "%q is not an id", id)
	}
}

// Text checks that something is said.
func (c *Checker) Text(path, s string) {
	if strings.TrimSpace(s) == "" {
		c.Add(path, "a text", "nothing stands here")
	}
}

func (c *Checker) step(at string, s Step) {
	c.ID(input.Join(at, "id"), s.ID)
	c.Text(input.Join(at, "title"), s.Title)
	c.Text(input.Join(at, "say"), s.Say)
	if _, twice := c.seen[s.ID]; twice {
		c.Add(input.Join(at, "id"), "an id of its own", "two steps are called %q", s.ID)
	}
	c.cautions(at, s)
	if _, earlier := c.seen[s.OnlyWith]; s.OnlyWith != "" && !earlier {
		c.Add(input.Join(at, "only_with"), "an earlier step of this route", "%q is not one", s.OnlyWith)
	}
	for i, id := range s.Materials {
		if !c.known.Materials[id] {
			c.Add(input.Index(input.Join(at, "materials"), i), "a material of the book", "%q is not in the materials",
				id)
		}
	}
	if s.Role != "" && s.Role != "lead" && s.Role != "mechanic" {
		c.Add(input.Join(at, "role"), "mechanic, lead", "%q is not a role that works at a step", s.Role)
	}
	if nature, ok := c.known.Kinds[s.Kind]; ok {
		nature.Check(c, at, s)
	} else {
		c.Add(input.Join(at, "kind"), c.known.Kinds.names(), "%q is not a kind of step", s.Kind)
	}
	c.seen[s.ID] = s
}

// cautions refuses hazards that the book does not know, of the step and of its answers.
func (c *Checker) cautions(at string, s Step) {
	known := func(at string, ids []string) {
		for i, id := range ids {
			if !c.known.Cautions[id] {
				c.Add(
					input.Index(input.Join(at, "cautions"), i),
					"a caution of the book",
					"%q is not in the cautions",
					id,
				)
			}
		}
	}
	known(at, s.Cautions)
	for i, item := range s.Items {
		for k, o := range item.Outcomes {
			known(input.Index(input.Join(input.Index(input.Join(at, "items"), i), "outcomes"), k), o.Cautions)
		}
	}
}

// Check finds figures on a sheet that cannot be.
func (s SpecSheet) Check() input.Fields {
	c := Checker{}
	c.ID("id", s.ID)
	c.Text("family", s.Family)
	for name, l := range s.Limits {
		c.limit("limits."+name, l)
	}
	for i, w := range s.Washers {
		if w.Thickness.SI() <= 0 {
			c.Add(fmt.Sprintf("washers[%d].thickness", i), "more than zero", "%s is no washer", w.Thickness)
		}
	}
	for name, g := range s.Torques {
		if g.Bolts < 1 || g.Torque.SI() <= 0 || g.Tolerance <= 0 || g.Tolerance > 0.5 {
			c.Add("torques."+name, "bolts and torque above zero, tolerance up to 0.5", "%d bolts at %s ± %g", g.Bolts,
				g.Torque, g.Tolerance)
		}
	}
	for name, f := range s.Fills {
		if f.Min.SI() <= 0 || f.Min.SI() > f.Max.SI() {
			c.Add("fills."+name+".min", "more than zero, not above max", "%s to %s", f.Min, f.Max)
		}
	}
	for step, parts := range s.Stacks {
		c.Parts("stacks."+step, parts)
	}
	for part, w := range s.Wears {
		c.Text("wears."+part+".what", w.What)
		if !w.New.IsSaid() || !w.Limit.IsSaid() || w.New.Dimension() != w.Limit.Dimension() ||
			w.New.SI() == w.Limit.SI() {
			c.Add("wears."+part+".limit", "two different sizes of one kind: as new, and at the limit", "%s and %s",
				w.New, w.Limit)
		}
	}
	c.Fields = append(c.Fields, supply.CheckSingles("singles", s.Singles)...)
	c.Fields = append(c.Fields, supply.CheckKits("kits", s.Kits)...)
	return c.Fields
}

// Parts finds what nobody could take apart by: parts without a name, two of one
// id, a way to face that is none.
func (c *Checker) Parts(at string, parts []Part) {
	if len(parts) == 0 {
		c.Add(at, "the parts in removal order", "the stack is empty")
	}
	Unique(c, at, parts, func(p Part) string { return p.ID })
	for i, p := range parts {
		here := input.Index(at, i)
		c.Text(input.Join(here, "name"), p.Name)
		if p.Facing != "" && !slices.Contains(Facings, p.Facing) {
			c.Add(input.Join(here, "facing"), strings.Trim(fmt.Sprint(Facings), "[]"), "%q is no way to face", p.Facing)
		}
		if p.Pieces < 0 || p.Pieces > 200 {
			c.Add(input.Join(here, "pieces"), "1 to 200", "%d of them cannot be", p.Pieces)
		}
		if p.Facing != "" && p.Faces == "" {
			c.Add(input.Join(here, "faces"), "words beside facing", "nobody sees by what it faces %s", p.Facing)
		}
	}
}

func (c *Checker) limit(at string, l Limit) {
	both := l.Min.IsSaid() && l.Max.IsSaid()
	switch {
	case !l.Min.IsSaid() && !l.Max.IsSaid():
		c.Add(at, "min, max or both", "the limit has no figure")
	case both && l.Min.Dimension() != l.Max.Dimension():
		c.Add(at+".max", string(l.Min.Dimension()), "%s and %s cannot be compared", l.Min, l.Max)
	case both && l.Min.SI() > l.Max.SI():
		c.Add(at+".min", "a lower limit that is not above the upper", "%s lies above %s", l.Min, l.Max)
	}
}

func stationNames() string {
	var names []string
	for _, s := range stationTitles {
		names = append(names, string(s.ID))
	}
	return strings.Join(names, ", ")
}

// Unit checks that a symbol is a unit of a dimension; of any, when none is named.
func (c *Checker) Unit(path, symbol string, want quantity.Dimension) {
	u, ok := quantity.UnitNamed(symbol)
	if !ok || (want != "" && u.Dimension != want) {
		c.Add(path, "a unit of "+string(want), "%q is not one", symbol)
	}
}

// Unique checks that ids are well formed and not used twice.
func Unique[T any](c *Checker, path string, list []T, id func(T) string) {
	seen := map[string]bool{}
	for i, item := range list {
		at := input.Join(input.Index(path, i), "id")
		c.ID(at, id(item))
		if seen[id(item)] {
			c.Add(at, "an id of its own", "%q is there twice", id(item))
		}
		seen[id(item)] = true
	}
}
