// Package book reads what the shop works by from YAML: routes and cautions
// that ship with the program, and the invented scenario of the demo beside
// them. Everything is checked at load; an error names file and line.
package book

import (
	"embed"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strings"

	"handwerk/core/calc"
	"handwerk/core/fault"
	"handwerk/core/plan"
)

//go:embed shop demo
var embedded embed.FS

// Shop is the part of the book that ships for every workshop.
func Shop() fs.FS { return sub("shop") }

// Demo is the invented archipelago's part: sheets, instruments, fleet, people.
func Demo() fs.FS { return sub("demo") }

func sub(dir string) fs.FS {
	s, err := fs.Sub(embedded, dir)
	if err != nil {
		panic(err) // the directory is embedded by the line above
	}
	return s
}

// Load reads the book from layers of directories, each with any of
// cautions.yaml, instruments.yaml, sheets/*.yaml and routes/*.yaml. A later
// layer adds, and overrides what has the same id.
func Load(layers ...fs.FS) (plan.Book, error) {
	var b plan.Book
	var routes []file
	var problems Problems
	for _, layer := range layers {
		err := eachYAML(layer, func(f file) {
			switch {
			case f.name == "cautions.yaml":
				b.Cautions = override(b.Cautions, func(x plan.Caution) string { return x.ID }, read[struct {
					Cautions []plan.Caution `json:"cautions"`
				}](f, &problems).Cautions...)
			case f.name == "instruments.yaml":
				b.Instruments = override(b.Instruments, func(x plan.Instrument) string { return x.ID }, read[struct {
					Instruments []plan.Instrument `json:"instruments"`
				}](f, &problems).Instruments...)
			case path.Dir(f.name) == "sheets":
				sheet := read[plan.SpecSheet](f, &problems)
				problems.add(f, sheet.Check())
				b.Sheets = override(b.Sheets, func(x plan.SpecSheet) string { return x.ID }, sheet)
			case path.Dir(f.name) == "routes":
				routes = append(routes, f) // after all they may refer to
			}
		})
		if err != nil {
			return b, err
		}
	}
	known := knownTo(b)
	for _, f := range routes {
		before := len(problems)
		route := read[plan.Route](f, &problems)
		if len(problems) == before {
			problems.add(f, route.Check(known))
		}
		route.Complete()
		b.Routes = override(b.Routes, func(x plan.Route) string { return x.ID }, route)
	}
	return b, problems.err()
}

// override adds items to a list; one with an id that is there already takes
// its place.
func override[T any](list []T, id func(T) string, items ...T) []T {
	for _, item := range items {
		if i := slices.IndexFunc(list, func(x T) bool { return id(x) == id(item) }); i >= 0 {
			list[i] = item
			continue
		}
		list = append(list, item)
	}
	return list
}

func knownTo(b plan.Book) plan.Known {
	known := plan.Known{Calculators: map[string]bool{}, Cautions: map[string]bool{}}
	for _, c := range calc.All().List() {
		known.Calculators[c.Name] = true
	}
	for _, c := range b.Cautions {
		known.Cautions[c.ID] = true
	}
	return known
}

// eachYAML visits the YAML files of a layer in order of their names.
func eachYAML(layer fs.FS, visit func(file)) error {
	var names []string
	err := fs.WalkDir(layer, ".", func(name string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && strings.HasSuffix(name, ".yaml") {
			names = append(names, name)
		}
		return err
	})
	if err != nil {
		return fmt.Errorf("book cannot be read: %w", err)
	}
	slices.Sort(names)
	for _, name := range names {
		raw, err := fs.ReadFile(layer, name)
		if err != nil {
			return fmt.Errorf("book cannot be read: %w", err)
		}
		visit(file{name, raw})
	}
	return nil
}

// Problem is one fault with the place where a person can mend it.
type Problem struct {
	File string
	Line int
	fault.Field
}

// Error says "routes/x.yaml:12: stations[0].id: ...".
func (p Problem) Error() string { return fmt.Sprintf("%s:%d: %s", p.File, p.Line, p.Field.Error()) }

// Problems is everything wrong with a book.
type Problems []Problem

func (ps Problems) Error() string {
	lines := make([]string, len(ps))
	for i, p := range ps {
		lines[i] = p.Error()
	}
	return strings.Join(lines, "\n")
}

func (ps Problems) err() error {
	if len(ps) == 0 {
		return nil
	}
	slices.SortStableFunc(ps, func(a, b Problem) int {
		if a.File != b.File {
			return strings.Compare(a.File, b.File)
		}
		return a.Line - b.Line
	})
	return ps
}

func (ps *Problems) add(f file, faults fault.Fields) {
	for _, x := range faults {
		*ps = append(*ps, Problem{f.name, f.line(x.Path), x})
	}
}
