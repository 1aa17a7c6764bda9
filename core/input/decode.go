// Package strict decodes JSON into Go types and refuses whatever the type
// does not name. Unlike encoding/json it goes on after the first fault and
// reports every bad field with its path.
//
// A field is required unless its tag says omitempty or omitzero.
package input

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"reflect"
	"slices"
	"strings"

	"handwerk/core/text"
)

// maxItems bounds lists, so that accepted input means bounded work.
const maxItems = 10000

// Decode fills into (a pointer) from raw. The error is fault.Fields.
func Decode(raw []byte, into any) error {
	var tree any
	if json.Unmarshal(raw, &tree) != nil {
		return At("", "one JSON value", "this is not readable JSON")
	}
	if !readable(tree) {
		return Garbled{garbled("", tree, nil)}
	}
	if namesIn(raw) != keysIn(tree) {
		return twice("", json.NewDecoder(bytes.NewReader(raw)), nil).Err()
	}
	return decodeAs(raw, tree, into)
}

// Garbled is input with characters that cannot stand in a text, whatever it
// was meant for.
type Garbled struct{ Fields Fields }

func (g Garbled) Error() string { return g.Fields.Error() }

// Unwrap gives the faults to whoever treats them like any other.
func (g Garbled) Unwrap() error { return g.Fields }

// readable tells whether every text of plain data can be read, names included.
func readable(tree any) bool {
	switch x := tree.(type) {
	case string:
		return text.Bad(x) == ""
	case []any:
		return !slices.ContainsFunc(x, func(item any) bool { return !readable(item) })
	case map[string]any:
		for name, item := range x {
			if text.Bad(name) != "" || !readable(item) {
				return false
			}
		}
	}
	return true
}

// garbled finds the texts of plain data, names included, that are not readable.
func garbled(path string, tree any, faults Fields) Fields {
	if len(faults) >= Most {
		return faults
	}
	switch x := tree.(type) {
	case string:
		if problem := text.Bad(x); problem != "" {
			faults.Add(path, text.Accepted, "%s", problem)
		}
	case []any:
		for i, item := range x {
			faults = garbled(Index(path, i), item, faults)
		}
	case map[string]any:
		for _, name := range slices.Sorted(maps.Keys(x)) {
			if problem := text.Bad(name); problem != "" {
				faults.Add(path, text.Accepted, "a name in it: %s", problem)
			}
			faults = garbled(Join(path, name), x[name], faults)
		}
	}
	return faults
}

// DecodeTree is Decode for plain data that was read from another notation:
// maps by text, lists, texts, numbers, true and false.
func DecodeTree(tree, into any) error {
	raw, err := json.Marshal(tree)
	if err != nil {
		return At("", "plain data", "this holds something that is not plain data")
	}
	return decodeAs(raw, tree, into)
}

// decodeAs reads what is well shaped at once; otherwise it goes through it
// again, slowly, and names every fault.
func decodeAs(raw []byte, tree, into any) error {
	v := reflect.ValueOf(into).Elem()
	if wellShaped(tree, v.Type()) && json.Unmarshal(raw, into) == nil {
		return nil
	}
	v.SetZero()
	var faults Fields
	decode("", raw, v, &faults)
	return faults.Err()
}

func decode(path string, raw json.RawMessage, v reflect.Value, faults *Fields) {
	if len(*faults) >= Most {
		return // nobody reads on
	}
	if u, ok := v.Addr().Interface().(json.Unmarshaler); ok {
		if err := u.UnmarshalJSON(raw); err != nil {
			*faults = append(*faults, Below(path, err)...)
		}
		return
	}
	if readsText(v.Type()) {
		var text string
		if isNull(raw) || json.Unmarshal(raw, &text) != nil {
			faults.Add(path, "a text", "%.40s does not fit here", raw)
		} else if err := json.Unmarshal(raw, v.Addr().Interface()); err != nil {
			*faults = append(*faults, Below(path, err)...)
		}
		return
	}
	switch v.Kind() {
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		decode(path, raw, v.Elem(), faults)
	case reflect.Struct:
		decodeStruct(path, raw, v, faults)
	case reflect.Map:
		decodeMap(path, raw, v, faults)
	case reflect.Slice:
		decodeSlice(path, raw, v, faults)
	case reflect.Array:
		decodeArray(path, raw, v, faults)
	case reflect.Float64, reflect.Int, reflect.Uint64:
		decodeNumber(path, raw, v, faults)
	default:
		if isNull(raw) || json.Unmarshal(raw, v.Addr().Interface()) != nil {
			faults.Add(path, kindWord(v.Kind()), "%.40s does not fit here", raw)
		}
	}
}

// decodeNumber reads a number, or the text that a hand typed for one.
func decodeNumber(path string, raw json.RawMessage, v reflect.Value, faults *Fields) {
	var typed string
	if json.Unmarshal(raw, &typed) != nil || isNull(raw) {
		if isNull(raw) || json.Unmarshal(raw, v.Addr().Interface()) != nil {
			faults.Add(path, kindWord(v.Kind()), "%.40s does not fit here", raw)
		}
		return
	}
	value, err := ReadNumber(typed)
	switch {
	case err != nil:
		*faults = append(*faults, Below(path, err)...)
	case v.Kind() == reflect.Float64:
		v.SetFloat(value)
	case value == math.Trunc(value) && v.Kind() == reflect.Int:
		v.SetInt(int64(value))
	case value == math.Trunc(value) && value >= 0:
		v.SetUint(uint64(value))
	default:
		faults.Add(path, kindWord(v.Kind()), "%q is not a whole number", typed)
	}
}

func decodeSlice(path string, raw json.RawMessage, v reflect.Value, faults *Fields) {
	var items []json.RawMessage
	if isNull(raw) || json.Unmarshal(raw, &items) != nil {
		faults.Add(path, "a list", "%.40s is not a list", raw)
		return
	}
	if len(items) > maxItems {
		faults.Add(path, fmt.Sprintf("at most %d items", maxItems), "the list has %d items", len(items))
		return
	}
	v.Set(reflect.MakeSlice(v.Type(), len(items), len(items)))
	for i, item := range items {
		decode(Index(path, i), item, v.Index(i), faults)
	}
}

// decodeArray fills a list of fixed length, a pair of teeth.
func decodeArray(path string, raw json.RawMessage, v reflect.Value, faults *Fields) {
	var items []json.RawMessage
	if isNull(raw) || json.Unmarshal(raw, &items) != nil || len(items) != v.Len() {
		faults.Add(path, fmt.Sprintf("a list of %d", v.Len()), "%.40s is none", raw)
		return
	}
	for i, item := range items {
		decode(Index(path, i), item, v.Index(i), faults)
	}
}

// decodeMap fills a map with text keys.
func decodeMap(path string, raw json.RawMessage, v reflect.Value, faults *Fields) {
	var given map[string]json.RawMessage
	if isNull(raw) || json.Unmarshal(raw, &given) != nil {
		faults.Add(path, "an object", "%.40s is not an object", raw)
		return
	}
	v.Set(reflect.MakeMap(v.Type()))
	for _, name := range slices.Sorted(maps.Keys(given)) {
		item := reflect.New(v.Type().Elem()).Elem()
		decode(Join(path, name), given[name], item, faults)
		v.SetMapIndex(reflect.ValueOf(name), item)
	}
}

func decodeStruct(path string, raw json.RawMessage, v reflect.Value, faults *Fields) {
	var given map[string]json.RawMessage
	if isNull(raw) || json.Unmarshal(raw, &given) != nil {
		faults.Add(path, "an object with "+strings.Join(Names(v.Type()), ", "), "%.40s is not an object", raw)
		return
	}
	for _, f := range fields(v.Type()) {
		value, ok := given[f.name]
		delete(given, f.name)
		switch {
		case ok && (!f.optional || !isNull(value)):
			decode(Join(path, f.name), value, v.FieldByIndex(f.index), faults)
		case !ok && !f.optional:
			faults.Add(Join(path, f.name), "", "missing")
		}
	}
	for _, name := range slices.Sorted(maps.Keys(given)) {
		if len(*faults) >= Most {
			return
		}
		faults.Add(Join(path, name), strings.Join(Names(v.Type()), ", "), "unknown field")
	}
}

type field struct {
	name     string
	index    []int
	optional bool
}

// fields lists the JSON fields of a struct, embedded structs flattened.
func fields(t reflect.Type) []field {
	var out []field
	for _, f := range reflect.VisibleFields(t) {
		tag, opts, _ := strings.Cut(f.Tag.Get("json"), ",")
		if !f.IsExported() || tag == "-" || tag == "" {
			continue
		}
		optional := strings.Contains(opts, "omitempty") || strings.Contains(opts, "omitzero")
		out = append(out, field{tag, f.Index, optional})
	}
	return out
}

// Names are the fields of a struct as JSON has them, in their order.
func Names(t reflect.Type) []string {
	var out []string
	for _, f := range fields(t) {
		out = append(out, f.name)
	}
	return out
}

func isNull(raw json.RawMessage) bool { return bytes.Equal(bytes.TrimSpace(raw), []byte("null")) }

func kindWord(k reflect.Kind) string {
	switch k {
	case reflect.String:
		return "a text"
	case reflect.Bool:
		return "true or false"
	case reflect.Float64, reflect.Float32:
		return "a number"
	case reflect.Map:
		return "an object"
	}
	return "a whole number"
}
