// Package calc is the catalogue: every calculator of core by name, with its
// version, purpose, sources, schemas and a worked example. The command line,
// HTTP and the steps of a rebuild all call it here.
package calc

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"reflect"

	"handwerk/core/input"
	"handwerk/core/metrology"
)

// MaxInput bounds the JSON a calculator reads.
const MaxInput = 1 << 20

// About says what a calculator is, for people.
type About struct {
	Name    string
	Version int
	Purpose string // the question it answers, in shop words
	Formula string
	Assumes string // and the range it is valid in
	Schools string // where practitioners differ, and which way it goes
	Sources []string
	Example string // a worked input as JSON: examples/<name>.json
}

//go:embed examples
var examples embed.FS

// Calculator is one entry of the catalogue.
type Calculator struct {
	About

	run     func(raw []byte) (any, error)
	reads   func(raw []byte) error
	in, out any
}

// Method names calculator and version, as stored with each result.
func (c Calculator) Method() string { return fmt.Sprintf("%s/%d", c.Name, c.Version) }

// define binds a typed function of core to its name and its example.
func define[In, Out any](about About, f func(In) (Out, error)) Calculator {
	var in In
	var out Out
	example, err := examples.ReadFile("examples/" + about.Name + ".json")
	if err != nil {
		panic(err) // a calculator that nobody can try
	}
	about.Example = string(bytes.TrimSpace(example))
	return Calculator{
		About: about, in: in, out: out,
		reads: func(raw []byte) error {
			var in In
			return input.Decode(raw, &in)
		},
		run: func(raw []byte) (any, error) {
			var in In
			if err := input.Decode(raw, &in); err != nil {
				return nil, err
			}
			out, err := f(in)
			tidy(reflect.ValueOf(&out).Elem())
			return out, err
		},
	}
}

// Run computes from JSON to JSON. Errors are fault.Fields with the paths of
// the input. The result begins with its method and sources.
func (c Calculator) Run(raw []byte) (json.RawMessage, error) {
	result, _, err := c.Judge(raw)
	return result, err
}

// Judge is Run with the verdict of the result; empty where there is none.
func (c Calculator) Judge(raw []byte) (json.RawMessage, metrology.Verdict, error) {
	if len(raw) > MaxInput {
		return nil, "", input.At("", "up to 1 MB", "the input is too large")
	}
	result, err := c.run(raw)
	if err != nil {
		return nil, "", err
	}
	written, err := c.write(result)
	var verdict metrology.Verdict
	if v := reflect.ValueOf(result).FieldByName("Verdict"); v.IsValid() {
		verdict, _ = v.Interface().(metrology.Verdict)
	}
	return written, verdict, err
}

// write joins the result to its method and sources.
func (c Calculator) write(result any) (json.RawMessage, error) {
	body, err := json.Marshal(result)
	if err != nil {
		// Figures each of which can be, and no workshop has together.
		return nil, input.At("", "figures of a size that occurs in a workshop", "%s comes to no answer with these", c.Name)
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

// In and Out are zero values of the input and output types, for schemas.
func (c Calculator) In() any { return c.in }

// Out is a zero value of the output type.
func (c Calculator) Out() any { return c.out }

// Catalogue holds the calculators in the order of the trade.
type Catalogue struct {
	list   []Calculator
	byName map[string]Calculator
}

// List gives all calculators.
func (c Catalogue) List() []Calculator { return c.list }

// Named finds one.
func (c Catalogue) Named(name string) (Calculator, bool) {
	found, ok := c.byName[name]
	return found, ok
}

func newCatalogue(list ...Calculator) Catalogue {
	c := Catalogue{list: list, byName: map[string]Calculator{}}
	for _, entry := range list {
		c.byName[entry.Name] = entry
	}
	return c
}
