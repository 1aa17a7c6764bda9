// Package calculator makes a function of core one that can be asked from
// outside: by name, from JSON to JSON, with its sources and a worked example.
// The chapters define theirs beside the functions; calc lists them all.
package calculator

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"reflect"

	"handwerk/core/input"
)

// MaxInput bounds the JSON a calculator reads.
const MaxInput = 1 << 20

// Sources that several chapters name.
const (
	Practice = "common practice"
	GUM      = "JCGM 100:2008 (GUM) 4.2, 4.3.7, annex G"
	ISO14253 = "ISO 14253-1:2017 (decision rule, idea of)"
	Shigley  = "Shigley, Mechanical Engineering Design"
)

// About says what a calculator is, for people.
type About struct {
	Name    string
	Version int
	Purpose string // the question it answers, in shop words
	Formula string
	Assumes string // and the range it is valid in
	Schools string // where practitioners differ, and which way it goes
	Sources []string
	Example string // a worked input as JSON: examples/<name>.json of its chapter
}

// Method names calculator and version, as stored with each result.
func (a About) Method() string { return fmt.Sprintf("%s/%d", a.Name, a.Version) }

// Is tells whether a name is this calculator's.
func (a About) Is(name string) bool { return a.Name == name }

// Calculator is one that is asked in JSON.
type Calculator struct {
	About

	run     func(raw []byte) (any, error)
	reads   func(raw []byte) error
	in, out any
}

// Typed is a calculator that the house asks in its own types.
type Typed[In, Out any] struct {
	Calculator

	f func(In) (Out, error)
}

// Define binds a function to its name and its example.
func Define[In, Out any](examples embed.FS, about About, f func(In) (Out, error)) Typed[In, Out] {
	example, err := examples.ReadFile("examples/" + about.Name + ".json")
	if err != nil {
		panic(err) // a calculator that nobody can try
	}
	about.Example = string(bytes.TrimSpace(example))
	t := Typed[In, Out]{f: f}
	t.Calculator = Calculator{
		About: about, in: *new(In), out: *new(Out),
		reads: func(raw []byte) error { return input.Decode(raw, new(In)) },
		run: func(raw []byte) (any, error) {
			var in In
			if err := input.Decode(raw, &in); err != nil {
				return nil, err
			}
			return t.Call(in)
		},
	}
	return t
}

// Call works it out. Errors are input.Fields with the paths of the input.
func (t Typed[In, Out]) Call(in In) (Out, error) {
	out, err := t.f(in)
	tidy(reflect.ValueOf(&out).Elem())
	return out, err
}

// Entry is the calculator itself, as the catalogue lists it.
func (c Calculator) Entry() Calculator { return c }

// Run computes from JSON to JSON. Errors are input.Fields with the paths of
// the input. The result begins with its method and sources.
func (c Calculator) Run(raw []byte) (json.RawMessage, error) {
	result, _, err := c.Judge(raw)
	return result, err
}

// Judge is Run with the verdict of the result; empty where there is none.
func (c Calculator) Judge(raw []byte) (result json.RawMessage, verdict string, err error) {
	if len(raw) > MaxInput {
		return nil, "", input.At("", "up to 1 MB", "the input is too large")
	}
	out, err := c.run(raw)
	if err != nil {
		return nil, "", err
	}
	result, err = c.Write(out)
	if v := reflect.ValueOf(out).FieldByName("Verdict"); v.IsValid() && v.Kind() == reflect.String {
		verdict = v.String()
	}
	return result, verdict, err
}

// Write says a result as JSON, with its method and sources before it.
func (c Calculator) Write(out any) (json.RawMessage, error) {
	body, err := json.Marshal(out)
	if err != nil {
		// Figures each of which can be, and no workshop has together.
		return nil, input.At("", "figures of a size that occurs in a workshop", "%s has no answer for these",
			c.Name)
	}
	head, err := json.Marshal(struct {
		Method string   `json:"method"`
		Source []string `json:"source"`
	}{c.Method(), c.Sources})
	if err != nil {
		return nil, err
	}
	// {"method":..,"source":[..]} + {"mean":..} = one object
	return append(append(head[:len(head)-1], ','), body[1:]...), nil
}

// Reads tells whether the input has the right shape, without computing.
func (c Calculator) Reads(raw []byte) error { return c.reads(raw) }

// In is a zero value of the input type, for schemas.
func (c Calculator) In() any { return c.in }

// Out is a zero value of the output type.
func (c Calculator) Out() any { return c.out }
