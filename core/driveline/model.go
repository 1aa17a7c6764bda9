package driveline

import (
	"fmt"
	"slices"

	"handwerk/core/input"
)

// Kinds of member.
const (
	shaft        = "shaft"
	joint        = "joint"
	gear         = "gear"
	clutch       = "clutch"
	oneWay       = "one_way"
	viscous      = "viscous"
	differential = "differential"
)

// Ways a member can fail.
type mode int

const (
	broken    mode = iota // carries no torque, ever
	stuck                 // carries always: clutch in, differential seized
	worn                  // limited differential acts as open
	lockFails             // the lock does not engage
)

type failure struct {
	member int
	mode   mode
}

var modesOf = map[string][]mode{
	shaft: {broken}, joint: {broken}, gear: {broken}, clutch: {broken, stuck},
	oneWay: {broken, stuck}, viscous: {broken, stuck}, differential: {broken, stuck},
}

// modeNames and modeWords say a mode by kind: the id, then in the shop's words.
func (m *model) say(f failure) Failure {
	x := m.in.Members[f.member]
	name := x.Says
	if name == "" {
		name = x.ID
	}
	id, says := "broken", "broken"
	switch {
	case f.mode == worn:
		id, says = "worn", "plates worn, acts as open"
	case f.mode == lockFails:
		id, says = "lock_fails", "lock does not engage"
	case f.mode == stuck && x.Kind == clutch:
		id, says = "stuck", "stays engaged"
	case f.mode == stuck && x.Kind == oneWay:
		id, says = "stuck", "locked both ways"
	case f.mode == stuck:
		id, says = "stuck", "seized"
	case x.Kind == clutch:
		id, says = "slips", "slips"
	case x.Kind == oneWay:
		id, says = "slips", "free both ways"
	case x.Kind == viscous:
		id, says = "slips", "carries no torque"
	case x.Kind == differential:
		says = "gears broken"
	}
	return Failure{x.ID, id, name + ": " + says}
}

// Bounds of a question; those that split or slip make the work.
const (
	maxMembers      = 60
	maxSplitting    = 12
	maxObservations = 30
)

// model is a checked question, shafts numbered.
type model struct {
	in       In
	shafts   map[string]int
	members  []member
	split    []int // members that are differentials, viscous or one-way clutches
	observed []observation
	work     *solver
}

type member struct {
	kind      string
	a, b, c   int
	ratio     float64
	split     float64
	limited   bool
	lockable  bool
	engagedBy string
}

type observation struct {
	says   string
	turned int
	speed  float64
	limit  float64 // effort that whoever turns can give
	with   []int
	held   []int
	ground []bool // by shaft
	wheels []int  // those on the ground
	in     []bool // member is engaged, or its differential locked, when sound
	felt   string
	moved  []motion
}

type motion struct {
	shaft int
	way   string
}

func (in In) model() (*model, error) {
	m := &model{in: in, shafts: map[string]int{}}
	var c input.Checks
	if len(in.Members) < 1 || len(in.Members) > maxMembers {
		c.Add("members", fmt.Sprintf("1 to %d members", maxMembers), "%d members", len(in.Members))
		return nil, c.Err()
	}
	if len(in.Observations) < 1 || len(in.Observations) > maxObservations {
		c.Add("observations", fmt.Sprintf("1 to %d observations", maxObservations), "%d observations",
			len(in.Observations))
		return nil, c.Err()
	}
	seen := m.takeMembers(&c, in.Members)
	if n := len(m.split); n > maxSplitting {
		c.Add("members", fmt.Sprintf("up to %d differentials, viscous and one-way clutches", maxSplitting),
			"%d of them", n)
	}
	for i, o := range in.Observations {
		m.observed = append(m.observed, m.observation(&c, input.Index("observations", i), i, o))
	}
	for i, id := range in.Whole {
		if !seen[id] {
			c.Add(input.Index("whole", i), "a member", "%q is not one", id)
		}
	}
	m.work = newSolver(len(m.shafts), len(m.members))
	return m, c.Err()
}

// takeMembers reads the members and notes which of them split a speed.
func (m *model) takeMembers(c *input.Checks, members []Member) (seen map[string]bool) {
	seen = map[string]bool{}
	for i, x := range members {
		at := input.Index("members", i)
		if x.ID == "" || seen[x.ID] {
			c.Add(at+".id", "an id of its own", "%q is there twice, or empty", x.ID)
		}
		seen[x.ID] = true
		m.members = append(m.members, m.member(c, at, x))
		if kind := m.members[i].kind; kind == differential || kind == viscous || kind == oneWay {
			m.split = append(m.split, i)
		}
	}
	return seen
}

func (m *model) member(c *input.Checks, at string, x Member) member {
	if _, ok := modesOf[x.Kind]; !ok {
		c.Add(at+".kind", "shaft, joint, gear, clutch, one_way, viscous, differential", "%q is not a kind of member",
			x.Kind)
	}
	out := member{kind: x.Kind, a: m.shaft(c, at+".a", x.A), b: m.shaft(c, at+".b", x.B), ratio: 1, split: 0.5,
		engagedBy: x.EngagedBy}
	if x.A == x.B {
		c.Add(at+".b", "another shaft than a", "both ends are %q", x.A)
	}
	if x.Ratio != 0 {
		out.ratio = input.Number(c, at+".ratio", x.Ratio, 0.01, 1000)
		if x.Kind != gear {
			c.Add(at+".ratio", "only for a gear", "a %s has no ratio", x.Kind)
		}
	}
	if x.Kind != differential {
		if x.Carrier != "" || x.Split != 0 || x.Limited {
			c.Add(at, "carrier, split and limited for a differential only", "this is a %s", x.Kind)
		}
		if x.EngagedBy != "" && x.Kind != clutch {
			c.Add(at+".engaged_by", "only for a clutch or a differential", "a %s is not engaged", x.Kind)
		}
		return out
	}
	out.c = m.shaft(c, at+".carrier", x.Carrier)
	if out.c == out.a || out.c == out.b {
		c.Add(at+".carrier", "a shaft of its own", "%q is an output too", x.Carrier)
	}
	if x.Split != 0 {
		out.split = input.Number(c, at+".split", x.Split, 0.01, 0.99)
	}
	out.limited, out.lockable = x.Limited, x.EngagedBy != ""
	return out
}

func (m *model) shaft(c *input.Checks, at, name string) int {
	if name == "" {
		c.Add(at, "the name of a shaft", "missing")
	}
	i, ok := m.shafts[name]
	if !ok {
		i = len(m.shafts)
		m.shafts[name] = i
	}
	return i
}

// known finds a shaft that a member names.
func (m *model) known(c *input.Checks, path, name string) int {
	i, ok := m.shafts[name]
	if !ok {
		c.Add(path, "a shaft that a member names", "%q is not one", name)
	}
	return i
}

// allKnown finds several.
func (m *model) allKnown(c *input.Checks, path string, names []string) []int {
	var all []int
	for i, name := range names {
		all = append(all, m.known(c, input.Index(path, i), name))
	}
	return all
}

// oneOf reads a word out of a few; none is the usual one.
func oneOf(c *input.Checks, path, word, usual string, words ...string) string {
	if word == "" {
		return usual
	}
	if !slices.Contains(words, word) {
		c.Add(path, fmt.Sprint(words), "%q is not one of them", word)
	}
	return word
}

func (m *model) observation(c *input.Checks, at string, n int, o Observation) observation {
	out := observation{says: o.Says, turned: m.known(c, at+".turned", o.Turned), speed: 1, limit: handLimit,
		ground: make([]bool, len(m.shafts))}
	if out.says == "" {
		out.says = fmt.Sprintf("observation %d", n+1)
	}
	if oneOf(c, at+".way", o.Way, "forward", "forward", "backward") == "backward" {
		out.speed = -1
	}
	if oneOf(c, at+".by", o.By, "hand", "hand", "engine") == "engine" {
		out.limit = engineLimit
	}
	out.with, out.held, out.wheels = m.allKnown(c, at+".with", o.With), m.allKnown(c, at+".held",
		o.Held), m.allKnown(c, at+".ground", o.Ground)
	for _, wheel := range out.wheels {
		out.ground[wheel] = true
	}
	out.in = m.engaged(c, at, o)
	out.felt = oneOf(c, at+".felt", o.Felt, "", light, drags, stands)
	for i, x := range o.Moved {
		p := input.Index(at+".moved", i)
		out.moved = append(out.moved, motion{m.known(c, p+".shaft", x.Shaft),
			oneOf(c, p+".way", x.Way, "", "same", "opposite", "still", "moves")})
		if x.Way == "" {
			c.Add(p+".way", "same, opposite, still, moves", "missing")
		}
	}
	return out
}

// engaged tells of every member whether its lock, the engine or nothing at all
// holds it in.
func (m *model) engaged(c *input.Checks, at string, o Observation) []bool {
	engine := oneOf(c, at+".engine", o.Engine, "off", "off", "on")
	for i, lock := range o.Locks {
		if !slices.ContainsFunc(m.members, func(x member) bool { return x.engagedBy == lock }) {
			c.Add(input.Index(at+".locks", i), "a lock that a member is engaged by", "%q is not one", lock)
		}
	}
	var all []bool
	for _, x := range m.members {
		in := x.engagedBy == "engine_"+engine || slices.Contains(o.Locks, x.engagedBy)
		all = append(all, in || (x.kind == clutch && x.engagedBy == ""))
	}
	return all
}

// failures lists every way every member can fail.
func (m *model) failures() []failure {
	var all []failure
	for i, x := range m.members {
		if slices.Contains(m.in.Whole, m.in.Members[i].ID) {
			continue
		}
		for _, f := range modesOf[x.kind] {
			if x.kind == clutch && f == stuck && x.engagedBy == "" {
				continue // it always carries
			}
			all = append(all, failure{i, f})
		}
		if x.limited {
			all = append(all, failure{i, worn})
		}
		if x.kind == differential && x.lockable {
			all = append(all, failure{i, lockFails})
		}
	}
	return all
}

// nominal predicts what a sound driveline would show.
func (m *model) nominal() []Predicted {
	list := []Predicted{}
	for i := range m.observed {
		o := &m.observed[i]
		felt := m.turn(o, nil)
		p := Predicted{Says: o.says, Felt: felt, Moved: []Motion{}, Fits: m.fits(o, felt)}
		for _, seen := range m.in.Observations[i].Moved {
			p.Moved = append(p.Moved, Motion{seen.Shaft, wayOf(m.work.speed[m.shafts[seen.Shaft]] * o.speed)})
		}
		list = append(list, p)
	}
	return list
}

// explains tells whether the failures would show all that was observed.
func (m *model) explains(observed []observation, failed []failure) bool {
	return m.refuter(observed, failed) < 0
}

// refuter is the first observation that the failures would not show; −1 where
// they would show all.
func (m *model) refuter(observed []observation, failed []failure) int {
	for i := range observed {
		if !m.shows(&observed[i], failed) {
			return i
		}
	}
	return -1
}

// shows tells whether the failures would show one observation; one that claims
// nothing is always shown.
func (m *model) shows(o *observation, failed []failure) bool {
	return o.felt == "" && len(o.moved) == 0 || m.fits(o, m.turn(o, failed))
}

// fits compares the motion just worked out with what was seen.
func (m *model) fits(o *observation, felt string) bool {
	if o.felt != "" && o.felt != felt {
		return false
	}
	for _, seen := range o.moved {
		way := wayOf(m.work.speed[seen.shaft] * o.speed)
		if way != seen.way && (seen.way != "moves" || way == "still") {
			return false
		}
	}
	return true
}

// creep is the share of the turned shaft's speed below which nobody sees a
// shaft move.
const creep = 0.02

func wayOf(speed float64) string {
	switch {
	case speed > creep:
		return "same"
	case speed < -creep:
		return "opposite"
	}
	return "still"
}
