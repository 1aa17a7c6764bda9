package shop

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// SheetStore keeps the spec sheets the shop wrote itself, every version.
type SheetStore interface {
	// Sheets lists the latest version of each, without what is on it.
	Sheets(ctx context.Context) ([]FoundSheet, error)
	// SheetVersions reads one, the latest first; none when the shop wrote none.
	SheetVersions(ctx context.Context, id string, most int) ([]Written[book.SpecSheet], error)
	// KeepSheet keeps the next version; false when somebody was quicker.
	KeepSheet(ctx context.Context, v Written[book.SpecSheet]) (bool, error)
}

// Written is one version of what a lead writes for the shop.
type Written[T any] struct {
	ID      string
	Version int
	Says    T
	By      people.Person
	At      time.Time
	Why     string
}

// SheetPage is a spec sheet with how it came to be.
type SheetPage struct {
	Sheet   book.SpecSheet `json:"sheet"`
	Of      book.Holder    `json:"of,omitempty" enum:"vehicle"` // whose it is, where it is no family's
	History []Change       `json:"history"`                     // the latest first; empty for a sheet of the book
	More    bool           `json:"more,omitempty"`              // versions, before those
	Lines   []SheetLine    `json:"lines"`                       // what it says
	Figures []FigureAsked  `json:"figures"`                     // what else the book knows a sheet may say
}

// SheetLine is one figure of a sheet with what the book knows of it.
type SheetLine struct {
	FigureAsked
	Value json.RawMessage `json:"value"`
	Says  string          `json:"says"`
}

// Change is what one version changed.
type Change struct {
	Version int           `json:"version"`
	By      people.Person `json:"by"`
	At      time.Time     `json:"at"`
	Why     string        `json:"why"`
	Changes []string      `json:"changes"`
}

// SpecSheet is the sheet of a family as it is now, the shop's own or the book's, or
// that of a vehicle.
func (w Sheets) Now(ctx context.Context, id string) (book.SpecSheet, error) {
	if vehicle, ok := strings.CutPrefix(id, VehicleSheet); ok {
		return w.ofVehicle(ctx, vehicle)
	}
	own, err := w.store.SheetVersions(ctx, id, 1)
	if err != nil {
		return book.SpecSheet{}, err
	}
	if len(own) > 0 {
		return own[0].Says, nil
	}
	if s, ok := w.book.Sheet(id); ok {
		return s, nil
	}
	return book.SpecSheet{}, input.At("", "a unit with a spec sheet", "there is no spec sheet %q", id)
}

// Find is one that somebody asks for by its address; a store that is away
// says so itself.
func (w Sheets) Find(ctx context.Context, id string) (book.SpecSheet, error) {
	s, err := w.Now(ctx, id)
	if _, none := errors.AsType[input.Fields](err); none {
		err = say.Refuse(say.NotFound, say.NoSuchSheet, id)
	}
	return s, err
}

// Sheets lists all families there is a sheet for.
func (w Sheets) List(ctx context.Context) ([]FoundSheet, error) {
	list, err := w.store.Sheets(ctx)
	for _, s := range w.book.Sheets {
		if !slices.ContainsFunc(list, func(x FoundSheet) bool { return x.ID == s.ID }) {
			list = append(list, FoundSheet{s.ID, s.Family, s.Version})
		}
	}
	slices.SortFunc(list, func(a, b FoundSheet) int { return strings.Compare(a.Family, b.Family) })
	return list, err
}

// OwnSheet begins the id of a sheet that the shop began itself.
const OwnSheet = "own-"

// mostVersions of a sheet are shown.
const mostVersions = 50

// SheetPage reads a sheet with its history.
func (w Sheets) Page(ctx context.Context, id string) (SheetPage, error) {
	page := SheetPage{History: []Change{}, Lines: []SheetLine{}, Figures: []FigureAsked{}}
	own, err := w.store.SheetVersions(ctx, id, mostVersions+1)
	if err != nil {
		return page, err
	}
	base, _ := w.book.Sheet(id)
	if strings.HasPrefix(id, VehicleSheet) {
		page.Of = book.OfVehicle
	}
	if len(own) > 0 {
		page.Sheet = own[0].Says
	} else if page.Sheet, err = w.Find(ctx, id); err != nil {
		return page, err
	}
	for i, v := range own {
		before := base
		if i+1 < len(own) {
			before = own[i+1].Says
		}
		page.History = append(page.History, Change{v.Version, v.By, v.At, v.Why,
			Differences(w.book.Glossary, before, v.Says)})
	}
	page.History, page.More = say.Cut(page.History, mostVersions)
	shop, _, err := w.store.Shop(ctx)
	if err != nil {
		return page, err
	}
	return page, page.layOut(w.glossaryFor(id), shop.Units)
}

// stackFigures are the stacks a sheet may have of its own: one for each step
// that takes parts off, to begin as one of the book's routes has it.
func stackFigures(kinds book.Kinds, routes []book.Route) (figures []book.Figure) {
	at := map[string]int{}
	for _, r := range routes {
		for _, step := range r.Steps() {
			if apart := kinds[step.Kind].TakesApart; apart == nil || !apart(step) || len(step.Parts) == 0 {
				continue
			}
			path := "stacks." + step.ID
			i, ok := at[path]
			if !ok {
				i = len(figures)
				at[path] = i
				figures = append(figures, book.Figure{Path: path, Title: step.Title, Shape: book.ShapeRows})
			}
			if figures[i].Title != step.Title { // routes call it differently
				figures[i].Title = "Parts of the unit"
			}
			raw, err := json.Marshal(step.Parts)
			if err == nil { // it was YAML a moment ago
				figures[i].Starts = append(figures[i].Starts, book.Start{Title: r.Title, Value: raw})
			}
		}
	}
	return figures
}

// layOut says line by line what the sheet says, and what else it could.
func (p *SheetPage) layOut(glossary []book.Figure, units quantity.System) error {
	lines, err := p.Sheet.Lines()
	if err != nil {
		return err
	}
	said := map[string]bool{}
	for _, l := range lines {
		f := book.NameFigure(glossary, l.Path)
		said[l.Path] = true
		p.Lines = append(p.Lines, SheetLine{AskIn(units, f), l.Figure, book.FigureWords(l.Figure)})
	}
	for _, f := range glossary {
		if !said[f.Path] {
			p.Figures = append(p.Figures, AskIn(units, f))
		}
	}
	return nil
}

// LayOver lays lines that say a figure in part over what the sheet says.
func (w Sheets) LayOver(ctx context.Context, id string, lines []book.Line) ([]book.Line, error) {
	s, err := w.Find(ctx, id)
	if err != nil {
		return nil, err
	}
	now, err := s.Lines()
	if err != nil {
		return nil, err
	}
	stands := map[string]json.RawMessage{}
	for _, l := range now {
		stands[l.Path] = l.Figure
	}
	whole := make([]book.Line, len(lines))
	for i, l := range lines {
		whole[i].Path = l.Path
		if whole[i].Figure, err = book.LayOver(stands[l.Path], l.Figure); err != nil {
			return nil, err
		}
	}
	return whole, nil
}

// SetFigures writes the next version of a sheet with some of its lines said
// otherwise; a line without a figure is no longer said.
func (w Sheets) SetFigures(ctx context.Context, id string, version int, lines []book.Line, why string,
	by people.Person) (SheetPage, error) {
	if by.Role != people.Lead {
		return SheetPage{}, say.Refuse(say.Forbidden, say.LeadSheets)
	}
	s, err := w.Find(ctx, id)
	if err != nil {
		return SheetPage{}, err
	}
	var faults input.Fields
	if len(lines) == 0 {
		faults.Add("lines", "at least one", "nothing has changed")
	}
	for i, l := range lines {
		at := fmt.Sprintf("lines[%d]", i)
		if len(l.Figure) > MaxFigure {
			faults.Add(at, "up to 20 kB", "the figure is too long")
			continue
		}
		if string(l.Figure) == "null" {
			l.Figure = nil
		}
		known := book.NameFigure(w.book.Glossary, l.Path)
		figure, err := known.Typed(l.Figure)
		if err == nil {
			err = s.Lay(l.Path, figure)
		}
		if err != nil {
			faults = append(faults, input.Below(at, Unwrap(err))...)
			continue
		}
		for _, f := range known.Misfit(s) {
			faults.Add(at, f.Accepted, "%s: %s", f.Path, f.Problem)
		}
	}
	if err := faults.Err(); err != nil {
		return SheetPage{}, err
	}
	s.Version = version
	return w.Write(ctx, s, why, by)
}

// Differences are what a version of a sheet says otherwise, a line each.
func Differences(glossary []book.Figure, before, after book.SpecSheet) []string {
	was, is, paths := map[string]json.RawMessage{}, map[string]json.RawMessage{}, map[string]bool{}
	for _, one := range []struct {
		sheet book.SpecSheet
		says  map[string]json.RawMessage
	}{{before, was}, {after, is}} {
		lines, _ := one.sheet.Lines() // it came from the database as JSON
		for _, l := range lines {
			one.says[l.Path] = l.Figure
			paths[l.Path] = true
		}
	}
	title := func(path string) string { return book.NameFigure(glossary, path).Title }
	changes := []string{}
	for _, path := range slices.Sorted(maps.Keys(paths)) {
		old, had := was[path]
		now, has := is[path]
		switch {
		case !had:
			changes = append(changes, title(path)+": "+book.FigureWords(now))
		case !has:
			changes = append(changes, title(path)+": removed, was "+book.FigureWords(old))
		case string(old) != string(now):
			changes = append(changes, fmt.Sprintf("%s: %s, was %s", title(path), book.FigureWords(now),
				book.FigureWords(old)))
		}
	}
	return changes
}

// WriteSheet keeps the next version of a sheet, as a lead wrote it.
func (w Sheets) Write(ctx context.Context, s book.SpecSheet, why string, by people.Person) (SheetPage, error) {
	if by.Role != people.Lead {
		return SheetPage{}, say.Refuse(say.Forbidden, say.LeadSheets)
	}
	var faults input.Fields
	why = say.OneLine(&faults, "why", why, 1, 200)
	for _, f := range s.Check() {
		faults.Add(input.Join("sheet", f.Path), f.Accepted, "%s", f.Problem)
	}
	if len(faults) > 0 {
		return SheetPage{}, faults
	}
	now, err := w.Find(ctx, s.ID)
	if err != nil {
		return SheetPage{}, err
	}
	if now.Version != s.Version {
		return SheetPage{}, say.Refuse(say.Conflict, say.SheetMovedOn, now.Version)
	}
	s.Version++
	kept, err := w.keep(ctx, s, why, by)
	if err == nil && !kept {
		err = say.Refuse(say.Conflict, say.SheetMovedOn, s.Version)
	}
	if err != nil {
		return SheetPage{}, err
	}
	return w.Page(ctx, s.ID)
}

// BeginSheet begins a family's sheet, empty or as a like one is.
func (w Sheets) Begin(ctx context.Context, family, like string, by people.Person) (SheetPage, error) {
	if by.Role != people.Lead {
		return SheetPage{}, say.Refuse(say.Forbidden, say.LeadSheets)
	}
	var faults input.Fields
	s, why := book.SpecSheet{}, "started empty"
	if like != "" {
		var err error
		if s, err = w.Now(ctx, like); err != nil {
			return SheetPage{}, input.Below("like", err)
		}
		why = "copied from " + s.Family
	}
	s.ID, s.Version, s.Family = OwnSheet+say.NewID(), 1, say.OneLine(&faults, "family", family, 1, 120)
	if err := faults.Err(); err != nil {
		return SheetPage{}, err
	}
	if _, err := w.keep(ctx, s, why, by); err != nil {
		return SheetPage{}, err
	}
	return w.Page(ctx, s.ID)
}

// BeginFor begins one that says no more than the family's name.
func (w Sheets) BeginFor(ctx context.Context, family string, by people.Person) (string, error) {
	s := book.SpecSheet{ID: OwnSheet + say.NewID(), Family: family, Version: 1}
	_, err := w.keep(ctx, s, "started at intake", by)
	return s.ID, err
}

func (w Sheets) keep(ctx context.Context, s book.SpecSheet, why string, by people.Person) (bool, error) {
	return w.store.KeepSheet(ctx, Written[book.SpecSheet]{s.ID, s.Version, s, by,
		w.now().UTC().Truncate(time.Microsecond), why})
}
