// Package files reads the book from YAML. Everything is checked at load; an
// error names file and line.
package files

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"

	"handwerk/book"
	"handwerk/core/input"
)

// Load reads the book, of steps of these kinds, from layers of directories; docs/book.md says which file
// holds what. A later layer adds, and overrides what has the same id.
func Load(kinds book.Kinds, layers ...fs.FS) (book.Book, error) {
	b, _, err := LoadWithRemarks(kinds, layers...)
	return b, err
}

// LoadWithRemarks is Load, with what is no fault but worth a look: a fragment
// that no route uses any more.
func LoadWithRemarks(kinds book.Kinds, layers ...fs.FS) (book.Book, Problems, error) {
	l := loader{fragments: map[string]*fragmentFile{}, used: map[string]bool{}, testFiles: map[string]place{}}
	l.book.Kinds = kinds
	var files []file
	for _, layer := range layers {
		more, err := yamlFiles(layer)
		if err != nil {
			return l.book, nil, err
		}
		files = append(files, more...)
	}
	parseAll(files)
	for _, f := range files {
		l.take(f)
	}
	l.checkTests()
	l.loadRoutes()
	for _, id := range slices.Sorted(maps.Keys(l.fragments)) {
		l.book.Fragments = append(l.book.Fragments, l.fragments[id].Fragment)
	}
	return l.book, l.orphans(), l.problems.err()
}

// loader gathers the book from its files.
type loader struct {
	book       book.Book
	problems   Problems
	fragments  map[string]*fragmentFile
	routes     map[string]looseRoute // after all they may refer to
	routeOrder []string
	used       map[string]bool // fragments
	testFiles  map[string]place

	diagnosisBroken bool
}

// place is where in a file something was written.
type place struct {
	file
	at string
}

type looseRoute struct {
	file
	data map[string]any
}

// take reads one file; its name or directory tells what it holds.
func (l *loader) take(f file) {
	switch dir := path.Dir(f.name); {
	case f.name == "cautions.yaml":
		l.book.Cautions = override(l.book.Cautions, func(x book.Caution) string { return x.ID },
			read[cautionsFile](f, &l.problems).Cautions...)
	case f.name == "conditions.yaml":
		list := read[conditionsFile](f, &l.problems).Conditions
		l.problems.add(f, book.CheckConditions(list))
		l.book.Conditions = override(l.book.Conditions, func(x book.Condition) string { return x.ID }, list...)
	case f.name == "materials.yaml":
		l.book.Materials = override(l.book.Materials, func(x book.Material) string { return x.ID },
			read[materialsFile](f, &l.problems).Materials...)
	case f.name == "answers.yaml":
		l.book.Answers = override(l.book.Answers, func(x book.Answers) string { return x.ID },
			read[answersFile](f, &l.problems).Answers...)
	case f.name == "figures.yaml":
		figures := read[figuresFile](f, &l.problems).Figures
		if l.book.Figures == nil {
			l.book.Figures = map[string]json.RawMessage{}
		}
		maps.Copy(l.book.Figures, figures)
	case f.name == "glossary.yaml":
		list := read[glossaryFile](f, &l.problems).Glossary
		var c book.Checker
		for i, x := range list {
			x.Check(&c, input.Index("glossary", i))
		}
		l.problems.add(f, c.Fields)
		l.book.Glossary = override(l.book.Glossary, func(x book.Figure) string { return x.Path }, list...)
	case f.name == "instruments.yaml":
		l.book.Instruments = override(
			l.book.Instruments, func(x book.Instrument) string { return x.ID },
			read[instrumentsFile](f, &l.problems).Instruments...,
		)
	case dir == "sheets":
		sheet := read[book.SpecSheet](f, &l.problems)
		l.problems.add(f, sheet.Check())
		l.book.Sheets = override(l.book.Sheets, func(x book.SpecSheet) string { return x.ID }, sheet)
	case dir == "diagnosis":
		l.takeDiagnosis(f)
	case dir == "fragments":
		maps.Copy(l.fragments, readFragments(f, &l.problems))
	case dir == "routes":
		l.takeRoute(f)
	case f.name != scenarioFile:
		l.problems.add(
			f,
			input.At(
				"",
				"conditions.yaml, cautions.yaml, materials.yaml, answers.yaml, instruments.yaml, figures.yaml, glossary.yaml; "+
					"sheets/, fragments/, routes/, diagnosis/",
				"nobody reads this file",
			),
		)
	}
}

// The files that hold a list under one key.
type (
	conditionsFile struct {
		Conditions []book.Condition `json:"conditions"`
	}
	cautionsFile struct {
		Cautions []book.Caution `json:"cautions"`
	}
	materialsFile struct {
		Materials []book.Material `json:"materials"`
	}
	answersFile struct {
		Answers []book.Answers `json:"answers"`
	}
	instrumentsFile struct {
		Instruments []book.Instrument `json:"instruments"`
	}
	glossaryFile struct {
		Glossary []book.Figure `json:"glossary"`
	}
	figuresFile struct {
		Figures map[string]json.RawMessage `json:"figures"`
	}
	diagnosisFile struct {
		Causes []book.Cause    `json:"causes,omitempty"`
		Tests  []book.BookTest `json:"tests,omitempty"`
	}
)

func (l *loader) takeDiagnosis(f file) {
	before := len(l.problems)
	d := read[diagnosisFile](f, &l.problems)
	if len(l.problems) > before {
		l.diagnosisBroken = true
		return
	}
	for i, x := range d.Causes {
		at := input.Index("causes", i)
		l.problems.add(f, input.Below(at, x.Check().Err()))
	}
	for i, x := range d.Tests {
		l.testFiles[x.ID] = place{f, input.Index("tests", i)}
	}
	l.book.Causes = override(l.book.Causes, func(x book.Cause) string { return x.ID }, d.Causes...)
	l.book.Tests = override(l.book.Tests, func(x book.BookTest) string { return x.ID }, d.Tests...)
}

// checkTests checks the tests once all causes are known; with a file of causes
// unreadable every test would seem wrong.
func (l *loader) checkTests() {
	if l.diagnosisBroken {
		return
	}
	causes := map[string]bool{}
	for _, x := range l.book.Causes {
		causes[x.ID] = true
	}
	cautions := map[string]bool{}
	for _, x := range l.book.Cautions {
		cautions[x.ID] = true
	}
	for _, t := range l.book.Tests {
		at := l.testFiles[t.ID]
		l.problems.add(at.file, input.Below(at.at, t.Check(causes, cautions).Err()))
	}
}

func (l *loader) takeRoute(f file) {
	loose, ok := readLoose(f, &l.problems)
	if !ok {
		return
	}
	data, ok := loose.(map[string]any)
	id, _ := data["id"].(string)
	if !ok || id == "" {
		l.problems.add(f, input.At("id", "lower-case words joined by hyphens", "missing"))
		return
	}
	if l.routes == nil {
		l.routes = map[string]looseRoute{}
	}
	if _, again := l.routes[id]; !again {
		l.routeOrder = append(l.routeOrder, id)
	}
	l.routes[id] = looseRoute{f, data}
}

// loadRoutes reads the routes side by side; they only look at the rest.
func (l *loader) loadRoutes() {
	known := l.book.Known()
	loaded := make([]loadedRoute, len(l.routeOrder))
	var all sync.WaitGroup
	for i, id := range l.routeOrder {
		all.Go(func() { loaded[i] = l.loadRoute(l.routes[id], known) })
	}
	all.Wait()
	for _, r := range loaded {
		l.problems = append(l.problems, r.problems...)
		maps.Copy(l.used, r.used)
		if len(r.problems) == 0 {
			l.book.Routes = append(l.book.Routes, r.route)
		}
	}
}

// loadedRoute is a route with what is wrong with it and the fragments it uses.
type loadedRoute struct {
	route    book.Route
	problems Problems
	used     map[string]bool
}

func (l *loader) loadRoute(r looseRoute, known book.Known) loadedRoute {
	var out loadedRoute
	x := expand(r.file, r.data, l.fragments, &out.problems)
	out.used = x.used
	x.add(&out.problems, decode(r.data, &out.route))
	if len(out.problems) == 0 {
		x.add(&out.problems, out.route.Check(known))
		x.add(&out.problems, l.book.CheckDiagnosis(out.route))
	}
	if len(out.problems) == 0 {
		l.book.Complete(&out.route)
	}
	return out
}

// orphans names fragments that nothing uses any more.
func (l *loader) orphans() Problems {
	var list Problems
	for _, id := range slices.Sorted(maps.Keys(l.fragments)) {
		if fr := l.fragments[id]; !l.used[id] {
			list.add(fr.file, input.At(fr.at, "a route that uses it", "no route uses fragment %q", id))
		}
	}
	return list
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

// yamlFiles lists the YAML files of a layer in order of their names.
func yamlFiles(layer fs.FS) ([]file, error) {
	var names []string
	err := fs.WalkDir(layer, ".", func(name string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && strings.HasSuffix(name, ".yaml") {
			names = append(names, name)
		}
		return err
	})
	if err != nil {
		return nil, fmt.Errorf("book cannot be read: %w", err)
	}
	slices.Sort(names)
	var files []file
	for _, name := range names {
		raw, err := fs.ReadFile(layer, name)
		if err != nil {
			return nil, fmt.Errorf("book cannot be read: %w", err)
		}
		files = append(files, newFile(name, raw))
	}
	return files, nil
}

// Problem is one fault with the place where a person can mend it.
type Problem struct {
	File string
	Line int
	input.Field
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

func (ps *Problems) add(f file, faults input.Fields) {
	for _, x := range faults {
		*ps = append(*ps, Problem{f.name, f.line(x.Path), x})
	}
}
