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
// input with a note where each value comes from: "sheet.figures.wet-pack, else true"
// goes on with what the route knows while the figure is not known. Numbers, true and false stand
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
	return []byte(`{"description":"a source such as entries.readings, entries.ASK, steps.STEP.WHAT, ` +
		`sheet.PATH (sheet.PATH? where the sheet may lack it), instrument, drawer, learned.WHAT, book.causes, or \"= a text\"; ` +
		`a number, true or false; a list or an object of these"}`), nil
}

const (
	eachTrial = "each_trial" // the key that repeats a template
	literal   = "= "         // begins a text that stands for itself
	otherwise = ", else "    // before what the route itself knows, where nobody says
)

// The rooms a source may lie in.
const (
	FromEntries    = "entries"    // this step: readings, pack, or what was asked
	FromSteps      = "steps"      // an earlier step: an item, an answer, result.<path>
	FromSheet      = "sheet"      // the spec sheet: limits.x.min, figures.y
	FromInstrument = "instrument" // the instrument read with
	FromDrawer     = "drawer"     // what is in stock
	FromBook       = "book"       // causes, tests, seen
	FromLearned    = "learned"    // what earlier units of the family taught
	FromRefit      = "refit"      // of a trial that fitted what was offered: before.<path>, plan.<path>
)

// LearnedLash is how backlash answered a shift of the ring on earlier axles of the family.
const LearnedLash = "lash"

// Source is one place a value comes from: "steps.pedal.free-play" has the
// room steps and the path pedal, free-play.
type Source struct {
	Room string
	Path []string
	// Optional figures of the sheet are written with a question mark at the end:
	// where the sheet does not have them, the input stays away.
	Optional bool
	// Known is set where the route goes on with what it knows itself.
	Known bool
}

func (s Source) String() string { return strings.Join(append([]string{s.Room}, s.Path...), ".") }

// Key is the path as one text.
func (s Source) Key() string { return strings.Join(s.Path, ".") }

// readSource reads a text of a template; false if it names no room.
func readSource(text string) (Source, bool) {
	said, optional := strings.CutSuffix(text, "?")
	parts := strings.Split(said, ".")
	s := Source{Room: parts[0], Path: parts[1:], Optional: optional}
	least := map[string]int{FromEntries: 1, FromSteps: 2, FromSheet: 1, FromInstrument: 0, FromDrawer: 0, FromBook: 1,
		FromLearned: 1, FromRefit: 2}
	n, known := least[s.Room]
	return s, known && len(s.Path) >= n && (n > 0 || len(s.Path) == 0) && !slices.Contains(parts, "") &&
		(!optional || s.Room == FromSheet)
}

// Bindings are the templates of a calculator's inputs, ready to be filled. They
// are made once, when a plan is read.
type Bindings struct {
	// Sources are where the values of each input come from.
	Sources map[string][]Source
	// Bad are the texts of each input that are no source.
	Bad map[string][]string
	// Feeds tells for a source, as it is written, the first place in the
	// calculator's input that takes it: "readings[2].reading".
	Feeds map[string]string

	inputs []part
}

// part is one input, or one field of an object, with its template.
type part struct {
	name string
	fill filler
}

// filler gives the value of a part of a template in a trial, false when it has none.
type filler func(f Filler, trial int) (any, bool, error)

// Bind makes templates ready. Texts that are no source are listed, and fill
// with nothing.
func Bind(templates map[string]Template) Bindings {
	b := Bindings{Sources: map[string][]Source{}, Bad: map[string][]string{}, Feeds: map[string]string{}}
	for _, name := range slices.Sorted(maps.Keys(templates)) {
		var loose any
		if json.Unmarshal(templates[name], &loose) != nil {
			b.Bad[name] = append(b.Bad[name], string(templates[name]))
			continue
		}
		b.inputs = append(b.inputs, part{name, b.compile(name, name, loose)})
	}
	return b
}

// All lists the sources of all inputs.
func (b Bindings) All() []Source {
	var all []Source
	for _, in := range b.inputs {
		all = append(all, b.Sources[in.name]...)
	}
	return all
}

func (b Bindings) compile(of, at string, v any) filler {
	switch v := v.(type) {
	case string:
		return b.text(of, at, v)
	case []any:
		return b.list(of, at, v)
	case map[string]any:
		if each, ok := v[eachTrial]; ok && len(v) == 1 {
			return repeated(b.compile(of, at, each))
		}
		return b.object(of, at, v)
	}
	return func(Filler, int) (any, bool, error) { return v, true, nil }
}

func (b Bindings) text(of, at, text string) filler {
	if own, ok := strings.CutPrefix(text, literal); ok {
		return func(Filler, int) (any, bool, error) { return own, true, nil }
	}
	text, known, falls := strings.Cut(text, otherwise)
	s, ok := readSource(text)
	var instead any
	if !ok || (falls && json.Unmarshal([]byte(known), &instead) != nil) {
		b.Bad[of] = append(b.Bad[of], text)
		return func(Filler, int) (any, bool, error) { return nil, false, nil }
	}
	s.Known = falls
	b.Sources[of] = append(b.Sources[of], s)
	if _, fed := b.Feeds[text]; !fed {
		b.Feeds[text] = at
	}
	return func(f Filler, trial int) (any, bool, error) {
		v, ok, err := f.Value(s, trial)
		if falls && (err != nil || !ok) {
			return instead, true, nil
		}
		return v, ok, err
	}
}

func (b Bindings) list(of, at string, items []any) filler {
	each := make([]filler, len(items))
	for i, item := range items {
		each[i] = b.compile(of, input.Index(at, i), item)
	}
	return func(f Filler, trial int) (any, bool, error) {
		out := make([]any, 0, len(each))
		for i, item := range each {
			x, ok, err := item(f, trial)
			if err != nil {
				return nil, false, input.Below(input.Index("", i), err)
			}
			if ok {
				out = append(out, x)
			}
		}
		return out, true, nil
	}
}

func (b Bindings) object(of, at string, fields map[string]any) filler {
	parts := make([]part, 0, len(fields))
	var asked, refit []string // what is answered at the step, and what a refit says
	for _, key := range slices.Sorted(maps.Keys(fields)) {
		parts = append(parts, part{key, b.compile(of, input.Join(at, key), fields[key])})
		if text, is := fields[key].(string); is && strings.HasPrefix(text, FromEntries+".") {
			asked = append(asked, key)
		} else if is && strings.HasPrefix(text, FromRefit+".") {
			refit = append(refit, key)
		}
	}
	return func(f Filler, trial int) (any, bool, error) {
		out := make(map[string]any, len(parts))
		for _, p := range parts {
			x, ok, err := p.fill(f, trial)
			if err != nil {
				return nil, false, input.Below(p.name, err)
			}
			if ok {
				out[p.name] = x
			}
		}
		said := func(key string) bool { return out[key] != nil }
		if len(refit) > 0 && !slices.ContainsFunc(refit, said) {
			return nil, false, nil // nothing was refitted
		}
		return out, !f.Sparse() || len(asked) == 0 || slices.ContainsFunc(asked, said), nil
	}
}

func repeated(each filler) filler {
	return func(f Filler, _ int) (any, bool, error) {
		out := make([]any, 0, f.Trials())
		for i := range f.Trials() {
			x, _, err := each(f, i)
			if err != nil {
				return nil, false, err
			}
			out = append(out, x)
		}
		return out, true, nil
	}
}

// Filler gives the values of sources.
type Filler interface {
	// Value of a source in a trial (counted from 0); false when there is none:
	// an optional answer not given, then its key stays away.
	Value(s Source, trial int) (any, bool, error)
	// Sparse tells that an object none of whose answers was given stays away too.
	Sparse() bool
	// Trials is how many there are; templates outside each_trial take the last.
	Trials() int
}

// Fill gives the calculator's inputs.
func (b Bindings) Fill(f Filler) (map[string]any, error) {
	in := make(map[string]any, len(b.inputs))
	var faults input.Fields
	for name, bad := range b.Bad {
		return nil, fmt.Errorf("the binding of %s cannot be read: %q", name, bad)
	}
	for _, x := range b.inputs {
		v, ok, err := x.fill(f, f.Trials()-1)
		if err != nil {
			faults = append(faults, input.Below(x.name, err)...)
		}
		if ok {
			in[x.name] = v
		}
	}
	return in, faults.Err()
}
