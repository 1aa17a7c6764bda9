// Package acts holds what a person can say at a step: one type an act, with its
// fields. Who may say it where, and what comes of it, are rules of the record and
// of the kinds.
package acts

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// Name of an act, as it stands in the record and on the wire.
type Name string

// Act is what somebody says: one of the types of this package.
type Act interface {
	Name() Name
	// Seconds is how long he was at the step before he said it.
	Seconds() int
}

// Spent is a part of every act.
type Spent struct {
	// AtStep are seconds at the step before it was said, since the screen was opened
	// there or the last entry.
	AtStep int `json:"spent,omitempty"`
}

// Seconds at the step.
func (s Spent) Seconds() int { return s.AtStep }

// Measured is a value with the text it was written as.
type Measured struct {
	Value quantity.Any `json:"value,omitzero"`
	Typed string       `json:"typed,omitempty" set:"us"` // as it was written
}

// Words say a value as it was written.
func (m Measured) Words() string {
	if m.Typed != "" {
		return m.Typed
	}
	return m.Value.String()
}

// Pictured is a picture that goes with it.
type Pictured struct {
	Photo string `json:"photo,omitempty"` // id
	// PhotoHash is the SHA-256 of the picture, so that the chain covers it.
	PhotoHash string `json:"photo_hash,omitempty" set:"us"`
}

// Read is what a figure was read with.
type Read struct {
	Instrument string      `json:"instrument,omitempty"`     // id
	Gauge      *shop.Gauge `json:"gauge,omitempty" set:"us"` // the shop's own, as it was when it was read with
}

// decoders make an empty act of each name.
var decoders = map[Name]reflect.Type{}

// names in the order of the trade.
var names []Name

func init() {
	for _, a := range All() {
		decoders[a.Name()] = reflect.TypeOf(a)
		names = append(names, a.Name())
	}
}

// Find is an empty act of a name; nil where there is none.
func Find(name Name) Act {
	t, ok := decoders[name]
	if !ok {
		return nil
	}
	return reflect.New(t).Interface().(Act)
}

// Decode reads the body of an act; every field that is not its own is named.
func Decode(name Name, raw []byte) (Act, error) {
	a := Find(name)
	if a == nil {
		return nil, input.At("act", ListOf(names), "%q is no act", name)
	}
	err := input.Decode(raw, a)
	if err == nil {
		return a, nil
	}
	faults := input.Below("", err)
	for i, f := range faults {
		if f.Problem == "unknown field" && !strings.ContainsAny(f.Path, ".[") {
			faults[i].Accepted, faults[i].Problem = strings.Join(
				Fields(a),
				", ",
			), fmt.Sprintf(
				"does not go with %q",
				name,
			)
		}
	}
	return nil, faults
}

// Lenient reads a body of a record, as far as it can be read.
func Lenient(name Name, raw []byte) Act {
	a := Find(name)
	if a == nil {
		return &Note{}
	}
	_ = json.Unmarshal(raw, a) // written by this program, or looked at on its way in
	return a
}

// ListOf names, as a refusal says what is accepted.
func ListOf(list []Name) string { return say.ListOf(list, func(n Name) string { return string(n) }) }

// Fields are those that a person may fill in.
func Fields(a Act) (list []string) {
	for _, f := range fieldsOf(a) {
		if f.name != "spent" && f.tag.Get("set") == "" {
			list = append(list, f.name)
		}
	}
	return list
}

// field is one of an act, with its value.
type field struct {
	name  string
	tag   reflect.StructTag
	value reflect.Value
}

func fieldsOf(a Act) (list []field) {
	v := reflect.Indirect(reflect.ValueOf(a))
	for _, f := range reflect.VisibleFields(v.Type()) {
		if name, _, _ := strings.Cut(f.Tag.Get("json"), ","); name != "" {
			list = append(list, field{name, f.Tag, v.FieldByIndex(f.Index)})
		}
	}
	return list
}

// Check names what no act may hold: what only we set, and texts too long to read.
func Check(a Act) error {
	faults := Sound(a)
	for _, f := range fieldsOf(a) {
		if f.tag.Get("set") != "" && !f.value.IsZero() {
			faults.Add(f.name, strings.Join(Fields(a), ", "), "does not go with %q", a.Name())
		}
	}
	if s := a.Seconds(); s < 0 || s > say.MostMinutes*60 {
		faults.Add("spent", "0 to 86400 seconds", "%d seconds is not possible", s)
	}
	slices.SortStableFunc(faults, func(a, b input.Field) int { return strings.Compare(a.Path, b.Path) })
	return faults.Err()
}

// Sound names the texts that are too long for a record.
func Sound(a Act) (faults input.Fields) {
	for _, f := range fieldsOf(a) {
		if f.value.Kind() == reflect.String && text.Length(f.value.String()) > say.MaxText {
			faults.Add(f.name, "up to 2000 characters", "the text is too long")
		}
	}
	return faults
}

// textOf is a text field of an act, by its name on the wire; empty where it has none.
func textOf(a Act, name string) string {
	for _, f := range fieldsOf(a) {
		if f.name == name && f.value.Kind() == reflect.String {
			return f.value.String()
		}
	}
	return ""
}

// Reason is why, where an act is given one.
func Reason(a Act) string { return textOf(a, "reason") }

// NoteOf is what was written with it.
func NoteOf(a Act) string { return textOf(a, "note") }

// PictureOf is the picture that goes with an act; nil where it takes none.
func PictureOf(a Act) *Pictured {
	if v := reflect.Indirect(reflect.ValueOf(a)).FieldByName("Pictured"); v.IsValid() && v.CanAddr() {
		return v.Addr().Interface().(*Pictured)
	}
	return nil
}

// ValueOf is the value that an act gives; nil where it gives none.
func ValueOf(a Act) *Measured {
	if v := reflect.Indirect(reflect.ValueOf(a)).FieldByName("Measured"); v.IsValid() && v.CanAddr() {
		return v.Addr().Interface().(*Measured)
	}
	return nil
}

// OutcomeOf is the id that an act chose; empty where it chose none.
func OutcomeOf(a Act) string { return textOf(a, "outcome") }

// Copy is an act to be changed, with lists of its own.
func Copy(a Act) Act {
	from := reflect.Indirect(reflect.ValueOf(a))
	v := reflect.New(from.Type())
	v.Elem().Set(from)
	for i := range from.NumField() {
		switch f := v.Elem().Field(i); {
		case f.Kind() == reflect.Slice && !f.IsNil():
			own := reflect.MakeSlice(f.Type(), f.Len(), f.Len())
			reflect.Copy(own, f)
			f.Set(own)
		case f.Kind() == reflect.Pointer && !f.IsNil():
			own := reflect.New(f.Type().Elem())
			own.Elem().Set(f.Elem())
			f.Set(own)
		}
	}
	return v.Interface().(Act)
}

// ReadWith is what an act was read with; nil where it takes no gauge.
func ReadWith(a Act) *Read {
	if v := reflect.Indirect(reflect.ValueOf(a)).FieldByName("Read"); v.IsValid() && v.CanAddr() {
		return v.Addr().Interface().(*Read)
	}
	return nil
}

// Spend says how long somebody was at the step before he said it.
func Spend(a Act, seconds int) {
	reflect.ValueOf(a).Elem().FieldByName("Spent").Set(reflect.ValueOf(Spent{seconds}))
}

// Ours are the fields that only we fill in.
func Ours(a Act) (list []string) {
	for _, f := range fieldsOf(a) {
		if f.tag.Get("set") != "" {
			list = append(list, f.name)
		}
	}
	return list
}
