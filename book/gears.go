package book

import (
	"encoding/json"
	"maps"
	"slices"
	"strconv"
	"strings"
)

// MostGears is how many forward gears a route may try.
const MostGears = 6

// CountsGears tells that a route tries the gears one by one.
func (r Route) CountsGears() bool {
	return slices.ContainsFunc(r.Steps(), func(s Step) bool {
		return s.Measure != nil && len(s.Measure.withGears(0).Asks) < len(s.Measure.Asks)
	})
}

// withGears is the route for a unit with so many forward gears, as somebody
// counted them; 0: nobody did. What asks for a higher gear is left away.
func (r Route) withGears(n int) Route {
	if n == 0 {
		return r
	}
	r = r.cloned()
	for i := range r.Stations {
		for j := range r.Stations[i].Steps {
			step := &r.Stations[i].Steps[j]
			if step.Measure != nil {
				m := step.Measure.withGears(n)
				step.Measure = &m
			}
		}
	}
	return r
}

// withGears asks for no gear above the n-th.
func (m MeasureSpec) withGears(n int) MeasureSpec {
	gone := map[string]bool{}
	bind := maps.Clone(m.Bind)
	for name, t := range m.Bind {
		var list []any
		if json.Unmarshal(t, &list) != nil {
			continue
		}
		left := slices.DeleteFunc(list, func(x any) bool { return beyond(x, name, n, gone) })
		if raw, err := json.Marshal(left); err == nil { // it was JSON a moment ago
			bind[name] = Template(raw)
		}
	}
	m.Bind = bind
	m.Asks = slices.DeleteFunc(slices.Clone(m.Asks), func(a Ask) bool { return gone[FromEntries+"."+a.ID] })
	return m
}

// beyond tells that an element of an input is of a gear there is not, and notes
// the entries it would have taken.
func beyond(x any, input string, n int, gone map[string]bool) bool {
	cell, ok := x.(map[string]any)
	if !ok {
		return input == "gears" && gearOf(x) > n
	}
	if gearOf(cell["gear"]) <= n {
		return false
	}
	for _, v := range cell {
		if source, ok := v.(string); ok && strings.HasPrefix(source, FromEntries+".") {
			gone[source] = true
		}
	}
	return true
}

// gearOf is the number of a forward gear, 0 for reverse and whatever is none.
func gearOf(x any) int {
	text, _ := x.(string)
	n, _ := strconv.Atoi(strings.TrimPrefix(text, literal))
	return n
}
