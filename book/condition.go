package book

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"handwerk/core/input"
)

// Condition is a thing at the vehicle that the work puts out of its place: the
// battery, the spring brakes, the drain plug. Its states are in the words of the
// trade; the first is the one it is handed over in.
type Condition struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`   // within a sentence's beginning: Spring brakes
	States []string `json:"states"` // in words; the one at hand-over first
}

// Home is how it is handed over, and how it comes in.
func (c Condition) Home() string { return c.States[0] }

// Says is how it stands, in words: "spring brakes caged".
func (c Condition) Says(state string) string { return c.Name + " " + state }

// States says how things stand: by condition, by "torque.GROUP" of the sheet, or
// by part of a stack, "STEP.PART" ("strip.carrier"). What a step wants may name
// several states, parted by a bar: "in | on trial".
type States map[string]string

// Either are the states that are good where a step wants them.
func Either(wanted string) []string {
	if wanted == "" {
		return nil
	}
	list := strings.Split(wanted, "|")
	for i := range list {
		list[i] = strings.TrimSpace(list[i])
	}
	return list
}

// The states of what follows from the route itself: the parts of a stack, and the
// bolts of a torque group.
const (
	PartsIn  = "in"
	PartsOut = "out"
	OnTrial  = "on trial" // together to be measured; it comes apart once more
	AtTorque = "at torque"
	Loose    = "loose"
)

const torqueRoom = "torque."

// KeyOfTorque is the condition of a torque group's bolts.
func KeyOfTorque(group string) string { return torqueRoom + group }

// Changed is a step that leaves a condition in a state. Item and Outcome are set
// where one answer does. The other answers of such a line stand beside it, with no
// state: they leave it as it is. An answer possible in some states alone has Only.
type Changed struct {
	Step    string
	Item    string // of a check or a test; empty: the step itself, or its choice
	Outcome string
	State   string
	Only    []string
}

// Fits tells whether it can be so answered when things stand so.
func (ch Changed) Fits(state string) bool {
	return len(ch.Only) == 0 || slices.Contains(ch.Only, state)
}

// Standing is one condition of a route: who changes it, who wants it.
type Standing struct {
	Condition
	Changes []Changed
	Wants   []Wanted
}

// Wanted is a step that wants a condition so; Key is how it is written there.
type Wanted struct {
	Step  string
	Key   string
	Named string // as the line at the bench says it: the part, or the condition
	Any   []string
}

// Standings are the conditions a route touches, those of the book first, then its
// torques and stacks, each in the order of its steps.
func (r Route) Standings(known []Condition) []Standing {
	t := standings{route: r, byKey: map[string]*Standing{}}
	for _, c := range known {
		t.add(c)
	}
	steps := r.Steps()
	for _, s := range steps {
		if s.Work == Remove {
			t.add(Condition{s.ID, s.partsNamed(), []string{PartsIn, PartsOut, OnTrial}})
		}
		if s.Group != "" {
			t.add(Condition{KeyOfTorque(s.Group), s.Title, []string{AtTorque, Loose}})
			t.byKey[KeyOfTorque(s.Group)].Name = s.Title // as they are tightened last
		}
	}
	for _, s := range steps {
		t.step(s)
	}
	var list []Standing
	for _, key := range t.order {
		if x := t.byKey[key]; len(x.Changes)+len(x.Wants) > 0 {
			list = append(list, *x)
		}
	}
	return list
}

// lowered is a name within a sentence.
func lowered(name string) string {
	first, size := utf8.DecodeRuneInString(name)
	if size == 0 {
		return name
	}
	return string(unicode.ToLower(first)) + name[size:]
}

// partsNamed are the parts of a stack in short: "Flange nut to front cover".
func (s Step) partsNamed() string {
	switch n := len(s.Parts); n {
	case 0:
		return s.Title
	case 1:
		return s.Parts[0].Name
	default:
		return s.Parts[0].Name + " to " + lowered(s.Parts[n-1].Name)
	}
}

type standings struct {
	route Route
	byKey map[string]*Standing
	order []string
}

func (t *standings) add(c Condition) {
	if t.byKey[c.ID] == nil {
		t.byKey[c.ID], t.order = &Standing{Condition: c}, append(t.order, c.ID)
	}
}

// of finds the condition that a key names, and the name to say it by.
func (t *standings) of(key string) (*Standing, string) {
	if s := t.byKey[key]; s != nil {
		return s, s.Name
	}
	stack, part, _ := strings.Cut(key, ".")
	step, _, ok := t.route.Step(stack)
	if !ok || t.byKey[stack] == nil {
		return nil, ""
	}
	i := slices.IndexFunc(step.Parts, func(p Part) bool { return p.ID == part })
	if i < 0 {
		return nil, ""
	}
	return t.byKey[stack], step.Parts[i].Name
}

// step gathers what one step wants and leaves: what it says itself, what its
// answers say, and what follows from its kind.
func (t *standings) step(s Step) {
	for _, key := range slices.Sorted(maps.Keys(s.Wants)) {
		if c, named := t.of(key); c != nil {
			c.Wants = append(c.Wants, Wanted{s.ID, key, named, Either(s.Wants[key])})
		}
	}
	t.leaves(s.Leaves, s.ID)
	if t.route.mayBeLeft(s.ID) {
		defer t.orAsItIs(s.ID)
	}
	var choices Item
	for _, x := range s.Choices {
		choices.Outcomes = append(choices.Outcomes, Outcome{ID: x.ID, Good: !x.Holds, Leaves: x.Leaves, Wants: x.Wants})
	}
	t.line(s.ID, choices)
	for i, item := range s.Items {
		for k, other := range s.Items { // after an answer that ends the step no other is asked for
			item.Optional = item.Optional || (k != i && slices.ContainsFunc(other.Outcomes,
				func(o Outcome) bool { return o.Ends }))
		}
		t.line(s.ID, item)
	}
	switch s.Work {
	case Remove:
		t.leaves(States{s.ID: PartsOut}, s.ID)
	case Fit:
		t.leaves(States{s.Of: PartsIn}, s.ID)
	case Inspect:
		if c := t.byKey[s.Of]; c != nil {
			c.Wants = append(c.Wants, Wanted{s.ID, s.Of, c.Name, []string{PartsOut, OnTrial}})
		}
	}
	if s.Group != "" {
		t.leaves(States{KeyOfTorque(s.Group): AtTorque}, s.ID)
	}
	if c := t.byKey[oilID]; c != nil && s.Fill != nil && s.Fill.Like != "" {
		t.leaves(States{oilID: c.Home()}, s.ID)
	}
}

// oilID is the condition that a fill sets right.
const oilID = "oil"

// leaves is what a step leaves, whatever is answered there.
func (t *standings) leaves(states States, step string) {
	for _, key := range slices.Sorted(maps.Keys(states)) {
		if c, _ := t.of(key); c != nil {
			c.Changes = append(c.Changes, Changed{Step: step, State: states[key]})
		}
	}
}

// mayBeLeft tells that some decision leaves a step away.
func (r Route) mayBeLeft(id string) bool {
	return slices.ContainsFunc(r.Steps(), func(s Step) bool {
		return slices.ContainsFunc(s.Choices, func(x Choice) bool { return slices.Contains(x.Without, id) })
	})
}

// orAsItIs: what a step leaves, it may leave as it was, when it is left away.
func (t *standings) orAsItIs(step string) {
	for _, c := range t.byKey {
		if slices.ContainsFunc(c.Changes, func(ch Changed) bool { return ch.Step == step && ch.Item == "" }) {
			c.Changes = append(c.Changes, Changed{Step: step})
		}
	}
}

// line takes the answers of one line, for each condition that one of them touches.
func (t *standings) line(step string, item Item) {
	touched := map[*Standing]bool{}
	for _, o := range item.Outcomes {
		for key := range o.Leaves {
			if c, _ := t.of(key); c != nil {
				touched[c] = true
			}
		}
	}
	for c := range touched {
		for _, o := range item.Outcomes {
			if left := t.in(o.Leaves, c); left != "" || o.Good || o.Reason {
				c.Changes = append(c.Changes, Changed{step, item.ID, o.ID, left, Either(t.in(o.Wants, c))})
			}
		}
		if item.Optional {
			c.Changes = append(c.Changes, Changed{Step: step, Item: item.ID})
		}
	}
}

// in is what some states say of a condition.
func (t *standings) in(states States, c *Standing) string {
	for key, state := range states {
		if x, _ := t.of(key); x == c {
			return state
		}
	}
	return ""
}

// checkStates refuses states that no condition has.
func (c *Checker) checkStates(r Route) {
	t := standings{route: r, byKey: map[string]*Standing{}}
	for _, x := range r.Standings(c.known.Conditions) {
		t.add(x.Condition)
	}
	for _, x := range c.known.Conditions {
		t.add(x)
	}
	for i, st := range r.Stations {
		for j, s := range st.Steps {
			at := fmt.Sprintf("stations[%d].steps[%d]", i, j)
			c.states(t, input.Join(at, "wants"), s.Wants)
			c.states(t, input.Join(at, "leaves"), s.Leaves)
			for k, x := range s.Choices {
				here := input.Index(input.Join(at, "choices"), k)
				c.states(t, input.Join(here, "leaves"), x.Leaves)
				c.states(t, input.Join(here, "wants"), x.Wants)
			}
			for k, item := range s.Items {
				for n, o := range item.Outcomes {
					here := input.Index(input.Join(input.Index(input.Join(at, "items"), k), "outcomes"), n)
					c.states(t, input.Join(here, "leaves"), o.Leaves)
					c.states(t, input.Join(here, "wants"), o.Wants)
				}
			}
		}
	}
}

func (c *Checker) states(t standings, at string, said States) {
	for _, key := range slices.Sorted(maps.Keys(said)) {
		x, _ := t.of(key)
		if x == nil {
			c.Add(
				input.Join(at, key),
				"a condition of the book, torque.GROUP of a torque step here, or STEP.PART of a stack",
				"%q is none",
				key,
			)
			continue
		}
		for _, state := range Either(said[key]) {
			if !slices.Contains(x.States, state) {
				c.Add(input.Join(at, key), strings.Join(x.States, ", "), "%s is never %q", x.Name, state)
			}
		}
	}
}

// CheckConditions finds conditions that nobody could hold anything against.
func CheckConditions(list []Condition) input.Fields {
	c := Checker{}
	Unique(&c, "conditions", list, func(x Condition) string { return x.ID })
	for i, x := range list {
		at := input.Index("conditions", i)
		c.Text(input.Join(at, "name"), x.Name)
		if len(x.States) < 2 {
			c.Add(input.Join(at, "states"), "two or more, the one at hand-over first", "%d of them", len(x.States))
		}
	}
	return c.Fields
}
