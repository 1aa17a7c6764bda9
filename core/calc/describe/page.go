package describe

import (
	"fmt"
	"reflect"
	"strings"

	"handwerk/core/calc"
	"handwerk/core/calculator"
	"handwerk/core/quantity"
)

// Page writes the catalogue as Markdown: docs/calculators.md is this, and a
// stale page fails CI.
func Page(all calc.Catalogue) string {
	var b strings.Builder
	b.WriteString(`# Calculators

Made from the catalogue by ` + "`make generate`" + `; do not edit. Each calculator is the same on the command line
(` + "`handwerk calc NAME < in.json`" + `), over HTTP (` + "`POST /api/v1/calc/NAME`" +
		`) and at a step of a rebuild. A quantity is
` + "`\"7 thou\"` or `{\"value\": 7, \"unit\": \"thou\"}`" +
		`; results answer in the unit family of the input. Angles are degrees; a
clock position is a number, 12 at the top, clockwise, seen from behind the engine. Unknown fields, missing units and
impossible figures are refused with the field's path. "From memory" marks a value that is checked in the tests by a second
derivation.

`)
	for _, x := range all.List() {
		fmt.Fprintf(&b, "- [%s](#%s): %s\n", x.Name, x.Name, x.Purpose)
	}
	for _, x := range all.List() {
		section(&b, x)
	}
	return b.String()
}

func section(b *strings.Builder, c calculator.Calculator) {
	fmt.Fprintf(b, "\n## %s\n\n%s. Version %d.\n\n", c.Name, upper(c.Purpose), c.Version)
	fmt.Fprintf(b, "- **In:** %s\n- **Out:** %s\n", fieldList(reflect.TypeOf(c.In())),
		fieldList(reflect.TypeOf(c.Out())))
	for _, part := range [][2]string{{
		"Formula", c.Formula,
	}, {"Assumes", c.Assumes}, {"Schools", c.Schools}, {"Sources", strings.Join(c.Sources, "; ")}} {
		if part[1] != "" {
			fmt.Fprintf(b, "- **%s:** %s\n", part[0], part[1])
		}
	}
	fmt.Fprintf(b, "\n```\n%s\n```\n", c.Example)
}

func upper(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// fieldList names the fields of a type with what they hold; optional ones in
// parentheses.
func fieldList(t reflect.Type) string {
	var words []string
	for _, f := range reflect.VisibleFields(t) {
		name, opts, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" || name == "-" {
			continue
		}
		word := "`" + name + "` " + typeWord(f.Type)
		if strings.Contains(opts, "omit") {
			word = "(" + word + ")"
		}
		words = append(words, word)
	}
	return strings.Join(words, ", ")
}

func typeWord(t reflect.Type) string {
	if q, ok := reflect.New(t).Elem().Interface().(interface{ Asks() quantity.Dimension }); ok {
		if q.Asks() == "" {
			return "quantity"
		}
		return string(q.Asks())
	}
	switch t.Kind() {
	case reflect.Pointer:
		return typeWord(t.Elem())
	case reflect.Slice, reflect.Array:
		return "list of " + typeWord(t.Elem())
	case reflect.Struct:
		var names []string
		for _, f := range reflect.VisibleFields(t) {
			if name, _, _ := strings.Cut(f.Tag.Get("json"), ","); name != "" && name != "-" {
				names = append(names, name)
			}
		}
		return "{" + strings.Join(names, ", ") + "}"
	case reflect.Float64:
		return "number"
	case reflect.Int, reflect.Uint64:
		return "whole number"
	case reflect.Bool:
		return "true or false"
	}
	return "text"
}
