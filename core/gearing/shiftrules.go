package gearing

import (
	"slices"
	"strings"
)

// The rules of shift-matrix, one for each pattern: which cells speak for it,
// which against.

// linkage: a plane whose every gear refuses with the engine off, and with it
// running as far as tried, which was at least once.
func (m *matrix) linkage() {
	var bad []string
	for _, plane := range m.planes {
		var cells []ShiftCell
		for _, g := range plane {
			cells = append(cells, m.all(g)...)
		}
		still := slices.DeleteFunc(slices.Clone(cells), func(c ShiftCell) bool { return c.State != "engine_off" })
		all := m.refusesWhole(plane, cells, still)
		m.weighPlane(cells, still, all)
		if all {
			bad = append(bad, strings.Join(plane, "-"))
			for _, g := range plane {
				m.taken[g] = true
			}
		}
	}
	m.plane = strings.Join(bad, ", ")
}

// refusesWhole tells whether a plane refuses however it was tried, and asks for
// what was not tried yet.
func (m *matrix) refusesWhole(plane []string, cells, still []ShiftCell) bool {
	if len(still) == 0 || some(cells, func(c ShiftCell) bool { return c.Feel != "refuses" }) {
		return false
	}
	for _, g := range plane {
		m.wants(g, "engine_off")
	}
	if len(still) == len(cells) {
		m.wants(plane[0], "standing")
		return false
	}
	return !slices.ContainsFunc(plane, func(g string) bool { return len(m.feels(g, "engine_off")) == 0 })
}

// weighPlane puts the cells of a plane for or against its linkage.
func (m *matrix) weighPlane(cells, still []ShiftCell, all bool) {
	for _, c := range cells {
		switch {
		case all || (c.State == "engine_off" && c.Feel == "refuses"):
			m.yes[gateLinkage] = append(m.yes[gateLinkage], c)
		case c.State == "engine_off" && goesIn(c) && some(still, refuses):
			m.no[gateLinkage] = append(m.no[gateLinkage], c)
		}
	}
}

func (m *matrix) detent() {
	for _, g := range m.in.Gears {
		out := slices.DeleteFunc(m.all(g), func(c ShiftCell) bool { return c.Feel != "jumps_out" })
		if len(out) > 0 {
			m.gears[detents] = append(m.gears[detents], g)
			m.yes[detents] = append(m.yes[detents], out...)
			m.no[detents] = append(
				m.no[detents],
				slices.DeleteFunc(m.feels(g, "rolling"), func(c ShiftCell) bool { return c.Feel == "jumps_out" })...,
			)
		}
	}
}

// oil: stiff, or worse, cold and right warm.
func (m *matrix) oil() {
	for _, g := range m.in.Gears {
		for _, s := range shiftStates {
			cells := m.feels(g, s)
			if len(cells) < 2 {
				continue
			}
			cold, warm := cells[0], cells[1]
			switch {
			case cold.Feel == "stiff" && warm.Feel == "in":
				m.yes[thickOil] = append(m.yes[thickOil], cold, warm)
			case warm.Feel == "stiff" || (cold.Feel == "in" && warm.Feel == "in"):
				m.no[thickOil] = append(m.no[thickOil], cold, warm)
			}
		}
	}
}

// refusing parts drag from synchronisers among the gears that refuse or crunch
// standing and go in with the engine off, and takes those that crunch rolling.
func (m *matrix) refusing() {
	var fine []ShiftCell // gears that go in standing
	for _, g := range m.in.Gears {
		fine = append(fine, slices.DeleteFunc(m.feels(g, "standing"), func(c ShiftCell) bool { return !goesIn(c) })...)
	}
	for _, g := range m.in.Gears {
		if m.taken[g] {
			continue
		}
		standing := slices.DeleteFunc(m.feels(g, "standing"), func(c ShiftCell) bool { return !refuses(c) })
		off, held, rolling := m.feels(g, "engine_off"), m.feels(g, "clutch_held"), m.feels(g, "rolling")
		crunching := slices.DeleteFunc(slices.Clone(rolling), func(c ShiftCell) bool { return c.Feel != "crunches" })
		switch {
		case len(standing) > 0 && some(off, refuses):
			m.no[clutchDrag] = append(m.no[clutchDrag], off...)
			m.no[synchronised] = append(m.no[synchronised], off...)
		case len(standing) > 0 && (some(held, goesIn) ||
			(!some(held, refuses) && some(rolling, goesIn) && len(fine) > 0)):
			m.synchroniser(g, standing, slices.Concat(off, held, rolling))
			m.no[clutchDrag] = append(m.no[clutchDrag],
				slices.DeleteFunc(held, func(c ShiftCell) bool { return !goesIn(c) })...)
		case len(standing) > 0 && len(fine) > 0 && !some(held, refuses):
			m.wants(g, "clutch_held") // a synchroniser, if it goes in when another has stopped the shafts
		case len(standing) > 0 && !some(off, goesIn):
			m.wants(g, "engine_off") // what refuses with it off too is no drag
		case len(standing) > 0:
			m.yes[clutchDrag] = append(m.yes[clutchDrag], slices.Concat(standing, off)...)
		case len(crunching) > 0:
			m.synchroniser(g, crunching, nil)
		}
	}
	if len(m.yes[clutchDrag]) > 0 || len(m.gears[synchronised]) > 0 {
		m.no[clutchDrag] = append(m.no[clutchDrag], fine...)
	}
}

func (m *matrix) synchroniser(gear string, bad, good []ShiftCell) {
	m.gears[synchronised] = append(m.gears[synchronised], gear)
	m.yes[synchronised] = append(m.yes[synchronised], bad...)
	m.yes[synchronised] = append(m.yes[synchronised],
		slices.DeleteFunc(slices.Clone(good), func(c ShiftCell) bool { return !goesIn(c) })...)
}
