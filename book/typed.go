package book

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// wordFields are the fields of a row that are words, whatever they look like: a
// size "205" is no number to reckon with.
var wordFields = []string{"a", "b", "carrier", "compare", "engaged_by", "holds", "id", "kind", "name", "part", "says",
	"size", "supplier", "thickness"}

// Texts are the fields of its rows that are typed in words.
func (f Figure) Texts() []string {
	var texts []string
	for _, s := range f.Starts {
		var start any
		if json.Unmarshal(s.Value, &start) == nil {
			texts = append(texts, textsIn(start)...)
		}
	}
	slices.Sort(texts)
	return slices.Compact(texts)
}

func textsIn(start any) (texts []string) {
	switch x := start.(type) {
	case []any:
		for _, v := range x {
			texts = append(texts, textsIn(v)...)
		}
	case map[string]any:
		for name, v := range x {
			if slices.Contains(wordFields, name) {
				texts = append(texts, name)
			}
			texts = append(texts, textsIn(v)...)
		}
	}
	return texts
}

// numberLike is text that can only be meant as a number.
var numberLike = regexp.MustCompile(`^[-+−]?[\d.,' \x{a0}\x{202f}]*\d[\d.,' \x{a0}\x{202f}]*%?$`)

// Typed reads a figure as a hand typed it: a number, or the numbers in rows, may
// come as texts. Rows that ask for an id get one from what they are called.
func (f Figure) Typed(raw json.RawMessage) (json.RawMessage, error) {
	var said any
	if f.Shape != ShapeNumber && f.Shape != ShapeRows || json.Unmarshal(raw, &said) != nil {
		return raw, nil // limits, torques and fills read their own; what is no JSON is refused where it is laid
	}
	var faults input.Fields
	read := typedLeaves(said, "", &faults)
	if f.Shape == ShapeRows {
		f.giveIDs(read)
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	var before any
	if _ = json.Unmarshal(raw, &before); reflect.DeepEqual(before, read) {
		return raw, nil
	}
	return json.Marshal(read)
}

func typedLeaves(v any, at string, faults *input.Fields) any {
	switch x := v.(type) {
	case []any:
		for i := range x {
			x[i] = typedLeaves(x[i], input.Index(at, i), faults)
		}
	case map[string]any:
		for _, name := range slices.Sorted(maps.Keys(x)) {
			if !slices.Contains(wordFields, name) {
				x[name] = typedLeaves(x[name], input.Join(at, name), faults)
			}
		}
	case string:
		if !numberLike.MatchString(x) {
			return x
		}
		value, err := quantity.ReadShare(x)
		*faults = append(*faults, input.Below(at, err)...)
		return value
	}
	return v
}

// noID are the characters that an id does not have.
var noID = regexp.MustCompile(`[^a-z0-9]+`)

// giveIDs names the rows that have an id in the figure's first start.
func (f Figure) giveIDs(rows any) {
	list, ok := rows.([]any)
	if !ok {
		list = []any{rows}
	}
	if len(f.Starts) == 0 || !strings.Contains(string(f.Starts[0].Value), `"id"`) {
		return
	}
	for i, v := range list {
		row, ok := v.(map[string]any)
		if !ok || row["id"] != nil && row["id"] != "" {
			continue
		}
		called, _ := row["says"].(string)
		if name, named := row["name"].(string); named && called == "" {
			called = name
		}
		row["id"] = strings.Trim(noID.ReplaceAllString(strings.ToLower(called), "-"), "-")
		if row["id"] == "" {
			row["id"] = fmt.Sprintf("line-%d", i+1)
		}
	}
}

// Choices are the fields of its rows that are one of a few words, by their names.
func (f Figure) Choices() map[string][]string {
	if !strings.HasPrefix(f.Path, "stacks.") {
		return nil
	}
	ways := make([]string, len(Facings))
	for i, way := range Facings {
		ways[i] = string(way)
	}
	return map[string][]string{"facing": ways, "shape": Shapes}
}
