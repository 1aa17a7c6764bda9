package book

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Line is what a sheet says at once, by the path of the answer.
type Line struct {
	Path   string          `json:"path"`
	Figure json.RawMessage `json:"figure"`
}

// rooms of a sheet in the order in which they are read.
var rooms = []string{"limits", "torques", "fills", "washers", "stacks", "wears", "ways", "singles", "kits", "figures"}

// lists are the rooms that are said at once, as one list.
var lists = []string{"washers", "ways", "singles", "kits"}

// Lines are all that a sheet says, in the order of its rooms.
func (s SpecSheet) Lines() ([]Line, error) {
	all, err := s.AllFigures()
	if err != nil {
		return nil, err
	}
	lines := []Line{}
	for _, path := range slices.Sorted(maps.Keys(all)) {
		room, _, deep := strings.Cut(path, ".")
		if slices.Contains(rooms, room) && Answer(path) == path && (deep || slices.Contains(lists, room)) {
			lines = append(lines, Line{path, all[path]})
		}
	}
	slices.SortStableFunc(lines, func(a, b Line) int { return roomAt(a.Path) - roomAt(b.Path) })
	return lines, nil
}

func roomAt(path string) int {
	room, _, _ := strings.Cut(path, ".")
	return slices.Index(rooms, room)
}

// Lay writes what an answer says into a sheet; nothing takes it off.
func (s *SpecSheet) Lay(path string, raw json.RawMessage) error {
	room, name, _ := strings.Cut(path, ".")
	if !slices.Contains(rooms, room) || Answer(path) != path || (name == "") != slices.Contains(lists, room) {
		return input.At("", "limits.x, torques.x, fills.x, figures.x, washers, ways, singles, kits",
			"a spec sheet has no %q", path)
	}
	switch room {
	case "limits":
		return layIn(&s.Limits, name, raw)
	case "torques":
		return layIn(&s.Torques, name, raw)
	case "fills":
		return layIn(&s.Fills, name, raw)
	case "figures":
		return layIn(&s.Figures, name, raw)
	case "stacks":
		return layIn(&s.Stacks, name, raw)
	case "wears":
		return layIn(&s.Wears, name, raw)
	case "washers":
		return layList(&s.Washers, raw)
	case "singles":
		return layList(&s.Singles, raw)
	case "kits":
		return layList(&s.Kits, raw)
	}
	return layList(&s.Ways, raw)
}

func layIn[T any](into *map[string]T, name string, raw json.RawMessage) error {
	all := maps.Clone(*into)
	if all == nil {
		all = map[string]T{}
	}
	delete(all, name)
	if raw != nil {
		var v T
		if err := input.Decode(raw, &v); err != nil {
			return err
		}
		all[name] = v
	}
	*into = all
	return nil
}

func layList[T any](into *[]T, raw json.RawMessage) error {
	*into = nil
	if raw == nil {
		return nil
	}
	return input.Decode(raw, into)
}

// LayOver lays what was said of a figure over what stands there, leaf over
// leaf: what is not named stays, and a null takes its leaf away. Nothing is left
// when the last leaf goes.
func LayOver(before, said json.RawMessage) (json.RawMessage, error) {
	var old, next any
	if len(before) > 0 {
		if err := json.Unmarshal(before, &old); err != nil {
			return nil, err
		}
	}
	if err := json.Unmarshal(said, &next); err != nil {
		return nil, err
	}
	if laid := laidOver(old, next); laid != nil {
		return json.Marshal(laid)
	}
	return nil, nil
}

func laidOver(old, next any) any {
	switch n := next.(type) {
	case map[string]any:
		if list, ok := old.([]any); ok {
			return laidOverPlaces(list, n)
		}
		under, _ := old.(map[string]any)
		if _, aQuantity := plain(under).(string); aQuantity || under == nil {
			under = map[string]any{}
		}
		all := maps.Clone(under)
		for name, v := range n {
			if all[name] = laidOver(under[name], v); all[name] == nil {
				delete(all, name)
			}
		}
		if len(all) == 0 {
			return nil
		}
		return all
	case []any:
		under, _ := old.([]any)
		all := slices.Clone(under)
		for i, v := range n {
			if i < len(all) {
				all[i] = laidOver(all[i], v)
			} else {
				all = append(all, laidOver(nil, v))
			}
		}
		return slices.DeleteFunc(all, func(v any) bool { return v == nil })
	}
	return next
}

// laidOverPlaces lays what names places, counted from one, over a list.
func laidOverPlaces(list []any, said map[string]any) any {
	all := slices.Clone(list)
	for place, v := range said {
		i, err := strconv.Atoi(place)
		if err != nil || i < 1 || i > len(all) {
			return said // no place of the list: refused where it is read
		}
		all[i-1] = laidOver(all[i-1], v)
	}
	return slices.DeleteFunc(all, func(v any) bool { return v == nil })
}

// NameFigure is what the book knows of a figure, or its bare name.
func NameFigure(glossary []Figure, path string) Figure {
	if i := slices.IndexFunc(glossary, func(f Figure) bool { return f.Path == path }); i >= 0 {
		return glossary[i]
	}
	_, name, _ := strings.Cut(path, ".")
	f := Figure{Path: path, Title: strings.ReplaceAll(name, "-", " "), Shape: ShapeOf(path)}
	if f.Title == "" {
		f.Title = path
	}
	return f
}

// Misfit says what of a figure is in another dimension than the book knows it
// in; torques and fills cannot be.
func (f Figure) Misfit(s SpecSheet) (faults input.Fields) {
	want, known := quantity.UnitNamed(f.Unit)
	if !known {
		return nil
	}
	_, name, _ := strings.Cut(f.Path, ".")
	said := map[string]quantity.Any{}
	switch f.Shape {
	case ShapeLimit:
		said["min"], said["max"] = s.Limits[name].Min, s.Limits[name].Max
	case ShapeQuantity:
		var q quantity.Any
		if raw, ok := s.Figures[name]; ok && input.Decode(raw, &q) != nil {
			faults.Add(f.Path, "a "+string(want.Dimension)+" with its unit", "%s is none", FigureWords(raw))
		}
		said[""] = q
	}
	for _, part := range slices.Sorted(maps.Keys(said)) {
		if q := said[part]; q.IsSaid() && q.Dimension() != want.Dimension {
			faults.Add(input.Join(f.Path, part), "a "+string(want.Dimension), "%s is a %s", q, q.Dimension())
		}
	}
	return faults
}

// Rows lays a figure out as its leaves: a path each, lists counted from one, and
// what stands there as people write it.
func (l Line) Rows() ([]Row, error) {
	var v any
	if err := json.Unmarshal(l.Figure, &v); err != nil {
		return nil, fmt.Errorf("%s: %w", l.Path, err)
	}
	return rowsOf(l.Path, v), nil
}

// Row is one leaf of a sheet.
type Row struct {
	Path  string // limits.backlash.min, washers.1.thickness
	Value any    // text, number, bool, or nothing for an empty list
}

func rowsOf(path string, v any) (rows []Row) {
	switch x := v.(type) {
	case map[string]any:
		if words, ok := plain(x).(string); ok { // a quantity is one leaf
			return []Row{{path, words}}
		}
		for _, name := range slices.Sorted(maps.Keys(x)) {
			rows = append(rows, rowsOf(path+"."+name, x[name])...)
		}
		return rows
	case []any:
		for i, item := range x {
			rows = append(rows, rowsOf(fmt.Sprintf("%s.%d", path, i+1), item)...)
		}
		return rows
	}
	return []Row{{path, v}}
}
