package gearing

import (
	"fmt"
	"slices"
	"strings"

	"handwerk/core/input"
)

func words(id string) string { return strings.ReplaceAll(id, "_", " ") }

func (m *matrix) say(out ShiftMatrixOut, found []string) string {
	of := map[string]string{
		gateLinkage:  "the linkage: " + m.plane + " refuses in every state",
		clutchDrag:   "the clutch drags: gears go in with the engine off but not running",
		synchronised: "the synchroniser of " + strings.Join(m.gears[synchronised], " and "),
		thickOil:     "the oil is too thick, or the boot is stiff: stiff cold, right warm",
		detents:      "detent, wear or travel: " + strings.Join(m.gears[detents], " and ") + " jumps out",
	}
	switch {
	case out.Pattern == noPattern:
		return "every gear that was tried goes in"
	case len(found) == 0:
		w := out.Worst
		return fmt.Sprintf("no clear pattern yet; worst: %s, %s, %s", w.Gear, words(w.State),
			words(w.Feel)) + sayNext(out.Next)
	}
	var parts []string
	for _, p := range found {
		parts = append(parts, of[p])
	}
	return strings.Join(parts, "; and ")
}

// sayNext names the first cell to try.
func sayNext(next []ShiftCell) string {
	if len(next) == 0 {
		return ""
	}
	return fmt.Sprintf("; try next: %s, %s", next[0].Gear, words(next[0].State))
}

// changes are the cells that were tried before and now, and feel otherwise.
func changes(in ShiftMatrixIn) []ShiftChange {
	list := []ShiftChange{}
	var none input.Checks
	now := readCells(&none, "cells", in.Gears, in.Cells)
	before := readCells(&none, "before", in.Gears, in.Before)
	for _, g := range in.Gears {
		for _, s := range shiftStates {
			for _, t := range shiftTemperatures {
				key := [3]string{g, s, t}
				is, tried := now[key]
				if was, ok := before[key]; ok && tried && was != is {
					list = append(list, ShiftChange{g, s, t, was, is, badness(is) < badness(was)})
				}
			}
		}
	}
	return list
}

func sayChanged(out ShiftMatrixOut) string {
	switch {
	case len(out.Changed) == 0:
		return "no change from before"
	case out.Worse == 0:
		return fmt.Sprintf("%d better than before, none worse", out.Better)
	}
	return fmt.Sprintf("%d better than before, %d worse", out.Better, out.Worse)
}

// hints are the outcomes of the book's tests that the matrix comes to.
func (m *matrix) hints() []TestOutcome {
	hints := []TestOutcome{}
	add := func(test, outcome string) {
		if outcome != "" {
			hints = append(hints, TestOutcome{test, outcome})
		}
	}
	add("gears-engine-off", m.sum("engine_off", map[string]string{"stiff": "stiff", "one": "one-refuses",
		"all": "cannot-find"}))
	add("gears-standing", m.sum("standing", map[string]string{"low": "low-refuse", "one": "one-refuses",
		"all": "grinds-all"}))
	if s := m.gears[synchronised]; len(s) > 0 && some(m.yes[synchronised],
		func(c ShiftCell) bool { return c.State == "clutch_held" }) {
		add("third-first", "goes-in")
	}
	switch {
	case len(m.gears[detents]) > 0:
		add("gears-rolling", "jumps")
	default:
		add("gears-rolling", m.sum("rolling", map[string]string{"one": "crunches", "all": "all-crunch"}))
	}
	if len(m.yes[thickOil]) > 0 {
		add("cold-and-warm", "stiff-cold")
	}
	return hints
}

// sum says how a state went as a whole; empty where it says nothing.
func (m *matrix) sum(state string, as map[string]string) string {
	var bad []string
	tried, stiff := 0, 0
	for _, g := range m.in.Gears {
		cells := m.feels(g, state)
		if len(cells) == 0 {
			continue
		}
		tried++
		if some(cells, refuses) {
			bad = append(bad, g)
		} else if some(cells, func(c ShiftCell) bool { return c.Feel == "stiff" }) {
			stiff++
		}
	}
	low := m.in.Gears[:min(2, len(m.in.Gears))]
	switch {
	case tried == 0:
		return ""
	case len(bad) == 0 && stiff == tried && as["stiff"] != "":
		return as["stiff"]
	case len(bad) == 0 && 2*tried < len(m.in.Gears): // too few to say so
		return ""
	case len(bad) == 0:
		return "all"
	case len(bad) == 1:
		return as["one"]
	case slices.Equal(bad, low) && tried > 2 && as["low"] != "":
		return as["low"]
	case len(bad) == tried || 2*len(bad) > tried:
		return as["all"]
	}
	return as["one"]
}
