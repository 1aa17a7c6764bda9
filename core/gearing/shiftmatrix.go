package gearing

import (
	"fmt"
	"slices"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
)

// The states in which a gear is tried, and how it can feel.
var (
	shiftStates       = []string{"engine_off", "standing", "clutch_held", "rolling"}
	shiftTemperatures = []string{"cold", "warm"}
	shiftFeels        = []string{"in", "stiff", "crunches", "refuses", "jumps_out"}
)

// ShiftCell is how a gear felt. A cell without a feel was not tried.
type ShiftCell struct {
	Gear        string `json:"gear"`
	State       string `json:"state" enum:"engine_off,standing,clutch_held,rolling"` // engine_off, standing, clutch_held (standing, after another gear has stopped the shafts), rolling
	Temperature string `json:"temperature" enum:"cold,warm"`                         // cold, warm
	Feel        string `json:"feel,omitempty" enum:"in,stiff,crunches,refuses,jumps_out"`
}

// ShiftMatrixIn is a gearbox tried gear by gear.
type ShiftMatrixIn struct {
	Gears  []string    `json:"gears"`            // in the order of the gate: 1, 2, 3, ... and reverse
	Planes [][]string  `json:"planes,omitempty"` // of the gate; default: pairs in order, reverse by itself
	Cells  []ShiftCell `json:"cells"`
	Before []ShiftCell `json:"before,omitempty"`
}

// ShiftChange is a cell that feels otherwise than before.
type ShiftChange struct {
	Gear        string `json:"gear"`
	State       string `json:"state" enum:"engine_off,standing,clutch_held,rolling"`
	Temperature string `json:"temperature" enum:"cold,warm"`
	From        string `json:"from"`
	To          string `json:"to"`
	Better      bool   `json:"better"`
}

// TestOutcome is what the matrix says as a test of the book would.
type TestOutcome struct {
	Test    string `json:"test"`
	Outcome string `json:"outcome"`
}

// ShiftMatrixOut names the pattern with what speaks for and against each.
type ShiftMatrixOut struct {
	Pattern string                 `json:"pattern"`         // none, drag, synchronisers, linkage, thick_oil, detent, mixed
	Gears   []string               `json:"gears,omitempty"` // whose synchronisers or detents
	Plane   string                 `json:"plane,omitempty"` // of the linkage
	For     map[string][]ShiftCell `json:"for"`
	Against map[string][]ShiftCell `json:"against"`
	Worst   *ShiftCell             `json:"worst,omitempty"`
	Changed []ShiftChange          `json:"changed"`
	Better  int                    `json:"better"` // of the changed
	Worse   int                    `json:"worse"`
	Hints   []TestOutcome          `json:"hints"`
	Next    []ShiftCell            `json:"next"` // to be tried before a pattern that begins to show can be named
	Says    string                 `json:"says"`
}

const maxShiftGears, maxShiftCells = 24, 400

// The patterns.
const (
	noPattern    = "none"
	clutchDrag   = "drag"
	synchronised = "synchronisers"
	gateLinkage  = "linkage"
	thickOil     = "thick_oil"
	detents      = "detent"
	severalCause = "mixed"
)

// ShiftMatrix reads the pattern of a gearbox tried in every gear.
//
// In with the engine off but not standing is drag of the clutch; a gear that
// refuses standing and goes in after another has stopped the shafts, or while
// rolling, wants its synchroniser, as does one that crunches while rolling;
// stiff cold and right warm is the oil, or the boot; a plane of the gate that
// refuses in every state is the linkage; jumping out is detent, wear or travel.
// A gear that alone refuses standing while others go in is no drag: a clutch
// that drags does it to all. A pattern is named from cells that were tried
// alone; where one that it rests on was not, Next asks for it.
//
// Source: common practice.
func ShiftMatrix(in ShiftMatrixIn) (ShiftMatrixOut, error) {
	m, err := newMatrix(in)
	if err != nil {
		return ShiftMatrixOut{}, err
	}
	m.linkage()
	m.detent()
	m.oil()
	m.refusing()
	out := m.conclude()
	out.Changed = changes(in)
	for _, c := range out.Changed {
		if c.Better {
			out.Better++
		} else {
			out.Worse++
		}
	}
	if n := len(in.Before); n > 0 {
		out.Says += "; " + sayChanged(out)
	}
	return out, nil
}

// ShiftMatrixMethod is ShiftMatrix as the catalogue lists it.
var ShiftMatrixMethod = calculator.Define(examples, calculator.About{
	Name: "shift-matrix", Version: 1,
	Purpose: "which pattern a gearbox shows that was tried in every gear: drag, synchronisers, linkage, " +
		"thick oil, detent; and what a repair has changed",
	Formula: "in with the engine off but not standing: drag; refuses standing, in after another gear has " +
		"stopped the shafts or while rolling: its synchroniser; stiff cold, right warm: oil or " +
		"boot; a plane of the gate refuses in every state: linkage; jumps out: detent, wear or " +
		"travel",
	Assumes: "a clutch that drags does it to all gears; cells that were not tried say nothing; the gate " +
		"pairs the gears in order unless planes are given",
	Sources: []string{calculator.Practice},
}, ShiftMatrix)

// matrix is what was felt, and what it speaks for.
type matrix struct {
	in     ShiftMatrixIn
	planes [][]string
	felt   map[[3]string]string // by gear, state, temperature
	yes    map[string][]ShiftCell
	no     map[string][]ShiftCell
	gears  map[string][]string // by pattern
	plane  string
	taken  map[string]bool // gears that the linkage explains
	next   []ShiftCell     // what a pattern that begins to show still rests on
}

func newMatrix(in ShiftMatrixIn) (*matrix, error) {
	var c input.Checks
	if len(in.Gears) < 1 || len(in.Gears) > maxShiftGears {
		c.Add("gears", fmt.Sprintf("1 to %d gears", maxShiftGears), "%d gears", len(in.Gears))
		return nil, c.Err()
	}
	for i, g := range in.Gears {
		ownName(&c, input.Index("gears", i), g, slices.Index(in.Gears, g) < i)
	}
	m := &matrix{in: in, yes: map[string][]ShiftCell{}, no: map[string][]ShiftCell{}, gears: map[string][]string{},
		taken: map[string]bool{}}
	m.felt = readCells(&c, "cells", in.Gears, in.Cells)
	readCells(&c, "before", in.Gears, in.Before)
	if len(m.felt) == 0 && c.Err() == nil {
		c.Add("cells", "at least one gear tried", "nothing was tried")
	}
	m.planes = in.Planes
	stands := map[string]bool{}
	for i, p := range in.Planes {
		for k, g := range p {
			at := fmt.Sprintf("planes[%d][%d]", i, k)
			if !slices.Contains(in.Gears, g) {
				c.Add(at, strings.Join(in.Gears, ", "), "%q is no gear", g)
			}
			if stands[g] {
				c.Add(at, "each gear in one plane, once", "%q stands in a plane already", g)
			}
			stands[g] = true
		}
	}
	if m.planes == nil {
		m.planes = pairs(in.Gears)
	}
	return m, c.Err()
}

func readCells(c *input.Checks, at string, gears []string, cells []ShiftCell) map[[3]string]string {
	felt := map[[3]string]string{}
	if len(cells) > maxShiftCells {
		c.Add(at, fmt.Sprintf("up to %d cells", maxShiftCells), "%d cells", len(cells))
		return felt
	}
	for i, x := range cells {
		here := input.Index(at, i)
		oneOf(c, here+".gear", x.Gear, gears)
		oneOf(c, here+".state", x.State, shiftStates)
		oneOf(c, here+".temperature", x.Temperature, shiftTemperatures)
		if x.Feel == "" {
			continue
		}
		oneOf(c, here+".feel", x.Feel, shiftFeels)
		key := [3]string{x.Gear, x.State, x.Temperature}
		if before, twice := felt[key]; twice && before != x.Feel {
			c.Add(
				here, "one feel for a gear in a state", "%s, %s, %s has two answers, %s and %s", x.Gear, words(x.State),
				x.Temperature, words(before), words(x.Feel),
			)
		}
		felt[key] = x.Feel
	}
	return felt
}

func oneOf(c *input.Checks, at, said string, accepted []string) {
	if !slices.Contains(accepted, said) {
		c.Add(at, strings.Join(accepted, ", "), "%q is not one of these", said)
	}
}

// pairs are the planes of a usual gate: first and second, third and fourth; the
// last one by itself where nothing is left to pair it with, as reverse is.
func pairs(gears []string) (planes [][]string) {
	var forward []string
	for _, g := range gears {
		if isReverse(g) {
			planes = append(planes, []string{g})
		} else {
			forward = append(forward, g)
		}
	}
	return append(slices.Collect(slices.Chunk(forward, 2)), planes...)
}

func isReverse(gear string) bool { return strings.HasPrefix(strings.ToLower(gear), "r") }

// feels of a gear in a state, cold before warm, those that were tried.
func (m *matrix) feels(gear, state string) (cells []ShiftCell) {
	for _, t := range shiftTemperatures {
		if f, ok := m.felt[[3]string{gear, state, t}]; ok {
			cells = append(cells, ShiftCell{gear, state, t, f})
		}
	}
	return cells
}

func (m *matrix) all(gear string) (cells []ShiftCell) {
	for _, s := range shiftStates {
		cells = append(cells, m.feels(gear, s)...)
	}
	return cells
}

func refuses(c ShiftCell) bool { return c.Feel == "refuses" || c.Feel == "crunches" }
func goesIn(c ShiftCell) bool  { return c.Feel == "in" || c.Feel == "stiff" }

func some(cells []ShiftCell, is func(ShiftCell) bool) bool { return slices.ContainsFunc(cells, is) }

func (m *matrix) conclude() ShiftMatrixOut {
	out := ShiftMatrixOut{For: lists(m.yes), Against: lists(m.no), Worst: m.worst(), Changed: []ShiftChange{},
		Hints: m.hints(), Next: m.toTry()}
	var found []string
	if m.plane != "" {
		found = append(found, gateLinkage)
	}
	for _, p := range []string{clutchDrag, synchronised, thickOil, detents} {
		if p == clutchDrag && len(m.no[clutchDrag]) > 0 && len(m.gears[synchronised]) > 0 {
			continue // it does it to all gears
		}
		if len(m.yes[p]) > 0 {
			found = append(found, p)
		}
	}
	switch len(found) {
	case 0:
		out.Pattern = noPattern
		if m.worst() != nil {
			out.Pattern = severalCause
		}
	case 1:
		out.Pattern = found[0]
		out.Gears = m.gears[found[0]]
		if found[0] == gateLinkage {
			out.Plane = m.plane
		}
	default:
		out.Pattern = severalCause
	}
	out.Says = m.say(out, found)
	return out
}

// lists leaves out patterns nothing speaks of.
func lists(of map[string][]ShiftCell) map[string][]ShiftCell {
	for pattern, cells := range of {
		if len(cells) == 0 {
			delete(of, pattern)
		}
	}
	return of
}

// toTry are the cells still wanted, each once, in the order of the gate.
func (m *matrix) toTry() []ShiftCell {
	list := []ShiftCell{}
	for _, s := range shiftStates {
		for _, g := range m.in.Gears {
			c := ShiftCell{Gear: g, State: s, Temperature: "cold"}
			if slices.Contains(m.next, c) {
				list = append(list, c)
			}
		}
	}
	return list
}

// wants asks for a cell that was not tried, cold or warm.
func (m *matrix) wants(gear, state string) {
	if len(m.feels(gear, state)) == 0 {
		m.next = append(m.next, ShiftCell{Gear: gear, State: state, Temperature: "cold"})
	}
}

// badness orders feels from right to worst.
func badness(feel string) int { return slices.Index(shiftFeels, feel) }

func (m *matrix) worst() *ShiftCell {
	var worst *ShiftCell
	for _, g := range m.in.Gears {
		for _, c := range m.all(g) {
			if c.Feel != "in" && (worst == nil || badness(c.Feel) > badness(worst.Feel)) {
				worst = &c
			}
		}
	}
	return worst
}
