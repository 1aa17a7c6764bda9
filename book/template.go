package book

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"handwerk/core/input"
)

// Template is JSON in which texts are sources: the shape of a calculator's
// input with a note where each value comes from. Numbers, true and false stand
// for themselves, and so does a text that begins with "= ". An object with the
// one key each_trial becomes a list, once for every trial of the step.
type Template json.RawMessage

// UnmarshalJSON keeps the JSON as it is written.
func (t *Template) UnmarshalJSON(raw []byte) error {
	*t = Template(bytes.Clone(raw))
	return nil
}

// MarshalJSON writes the JSON as it was kept.
func (t Template) MarshalJSON() ([]byte, error) {
	if len(t) == 0 {
		return []byte("null"), nil
	}
	return t, nil
}

// JSONSchemaBytes says to schema writers that anything may stand here.
func (Template) JSONSchemaBytes() ([]byte, error) {
	return []byte(`{"description":"a source such as entries.readings, entries.ASK, steps.STEP.WHAT, sheet.PATH, instrument, drawer, book.causes, or \"= a text\"; a number, true or false; a list or an object of these"}`), nil
}

// eachTrial is the key that repeats a template.
const eachTrial = "each_trial"

// The rooms a source may lie in.
const (
	FromEntries    = "entries"    // this step: readings, pack, or what was asked
	FromSteps      = "steps"      // an earlier step: an item, an answer, result.<path>
	FromSheet      = "sheet"      // the spec sheet: limits.x.min, figures.y
	FromInstrument = "instrument" // the instrument read with
	FromDrawer     = "drawer"     // what is in stock
	FromBook       = "book"       // causes, tests, seen
)

// Source is one place a value comes from: "steps.pedal.free-play" has the
// room steps and the path pedal, free-play.
type Source struct {
	Room string
	Path []string
}

func (s Source) String() string { return strings.Join(append([]string{s.Room}, s.Path...), ".") }

// readSource reads a text of a template; false if it names no room.
func readSource(text string) (Source, bool) {
	parts := strings.Split(text, ".")
	s := Source{parts[0], parts[1:]}
	least := map[string]int{FromEntries: 1, FromSteps: 2, FromSheet: 1, FromInstrument: 0, FromDrawer: 0, FromBook: 1}
	n, known := least[s.Room]
	return s, known && len(s.Path) >= n && (n > 0 || len(s.Path) == 0) && !slices.Contains(parts, "")
}

// Sources lists where a template's values come from. Texts that are none come
// back in bad.
func (t Template) Sources() (sources []Source, bad []string) {
	var loose any
	if json.Unmarshal(t, &loose) != nil {
		return nil, []string{string(t)}
	}
	eachText(loose, func(text string) {
		if strings.HasPrefix(text, literal) {
			return
		}
		if s, ok := readSource(text); ok {
			sources = append(sources, s)
		} else {
			bad = append(bad, text)
		}
	})
	return sources, bad
}

const literal = "= "

func eachText(v any, visit func(string)) {
	switch v := v.(type) {
	case string:
		visit(v)
	case []any:
		for _, x := range v {
			eachText(x, visit)
		}
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(v)) {
			eachText(v[k], visit)
		}
	}
}

// Filler gives the values of sources.
type Filler interface {
	// Value of a source in a trial (counted from 0); false when there is none:
	// an optional answer not given, then its key stays away.
	Value(s Source, trial int) (any, bool, error)
	// Trials is how many there are; templates outside each_trial take the last.
	Trials() int
}

// FillAll fills the templates of a calculator's inputs.
func FillAll(bind map[string]Template, f Filler) (map[string]any, error) {
	in := map[string]any{}
	var faults input.Fields
	for _, name := range slices.Sorted(maps.Keys(bind)) {
		var loose any
		if err := json.Unmarshal(bind[name], &loose); err != nil {
			return nil, fmt.Errorf("the binding of %s is not JSON: %w", name, err)
		}
		v, ok, err := fill(loose, f, f.Trials()-1)
		faults = append(faults, input.Below(name, err)...)
		if ok {
			in[name] = v
		}
	}
	return in, faults.Err()
}

// fill gives the value of a template, false when it has none.
func fill(v any, f Filler, trial int) (any, bool, error) {
	switch v := v.(type) {
	case string:
		if text, ok := strings.CutPrefix(v, literal); ok {
			return text, true, nil
		}
		s, _ := readSource(v)
		return f.Value(s, trial)
	case []any:
		return fillList(v, f, trial)
	case map[string]any:
		if each, ok := v[eachTrial]; ok && len(v) == 1 {
			repeated := make([]any, 0, f.Trials())
			for i := range f.Trials() {
				x, _, err := fill(each, f, i)
				if err != nil {
					return nil, false, err
				}
				repeated = append(repeated, x)
			}
			return repeated, true, nil
		}
		object := map[string]any{}
		for _, k := range slices.Sorted(maps.Keys(v)) {
			x, ok, err := fill(v[k], f, trial)
			if err != nil {
				return nil, false, input.Below(k, err)
			}
			if ok {
				object[k] = x
			}
		}
		return object, true, nil
	}
	return v, true, nil
}

func fillList(list []any, f Filler, trial int) (any, bool, error) {
	out := make([]any, 0, len(list))
	for i, item := range list {
		x, ok, err := fill(item, f, trial)
		if err != nil {
			return nil, false, input.Below(input.Index("", i), err)
		}
		if ok {
			out = append(out, x)
		}
	}
	return out, true, nil
}
