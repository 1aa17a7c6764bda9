package shop

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// RouteStore keeps what the shop does otherwise on the book's routes, every version.
type RouteStore interface {
	// OwnRoutes reads the latest version for each route that has one.
	OwnRoutes(ctx context.Context) ([]Written[book.OwnRoute], error)
	// OwnRouteVersions reads those of one route, the latest first.
	OwnRouteVersions(ctx context.Context, id string, most int) ([]Written[book.OwnRoute], error)
	// KeepOwnRoute keeps the next version; false when somebody was quicker.
	KeepOwnRoute(ctx context.Context, v Written[book.OwnRoute]) (bool, error)
}

// RouteChoice is a route a unit of its kind can be taken along.
type RouteChoice struct {
	ID     string `json:"id"`
	Title  string `json:"title"`
	Kind   string `json:"kind"`             // of unit
	Unused bool   `json:"unused,omitempty"` // the shop does not offer it
	Own    int    `json:"own,omitempty"`    // version of what the shop does otherwise; 0 as the book has it
	Gears  bool   `json:"gears,omitempty"`  // the forward gears are tried one by one: how many there are is asked
}

// Routes lists what a unit can be taken along, those the shop does not offer too.
func (w Routes) List(ctx context.Context) ([]RouteChoice, error) {
	own, err := w.store.OwnRoutes(ctx)
	if err != nil {
		return nil, err
	}
	list := make([]RouteChoice, len(w.book.Routes))
	for i, r := range w.book.Routes {
		list[i] = RouteChoice{ID: r.ID, Title: r.Title, Kind: r.UnitKind, Gears: r.CountsGears()}
		if k := slices.IndexFunc(own, func(v Written[book.OwnRoute]) bool { return v.ID == r.ID }); k >= 0 {
			list[i].Unused, list[i].Own = own[k].Says.Unused, own[k].Version
		}
	}
	slices.SortStableFunc(list, func(a, b RouteChoice) int { return strings.Compare(a.Kind, b.Kind) })
	return list, nil
}

// RoutePage is a route of the book, with what the shop does otherwise on it.
type RoutePage struct {
	ID       string        `json:"id"`
	Title    string        `json:"title"`
	Kind     string        `json:"kind"`     // of unit
	Stations []RouteLines  `json:"stations"` // as the book has them
	Own      book.OwnRoute `json:"own"`
	Version  int           `json:"version"`        // of own; 0 when nobody changed anything
	History  []Change      `json:"history"`        // the latest first
	More     bool          `json:"more,omitempty"` // versions, before those
	Pieces   []RoutePiece  `json:"pieces"`         // of the book, that can be put in
	// Unfit says why own does not fit the book any more, after the book changed.
	Unfit []string `json:"unfit"`
}

// RouteLines are the steps of a station, for choosing among them.
type RouteLines struct {
	ID    book.StationID `json:"id"`
	Title string         `json:"title"`
	Steps []RouteLine    `json:"steps"`
}

// RouteLine is one step of the book.
type RouteLine struct {
	ID    string     `json:"id"`
	Kind  book.Kind  `json:"kind"`
	Title string     `json:"title"`
	Say   string     `json:"say"`
	Ways  []RouteWay `json:"ways"` // approaches of a wait, choices of a decision
}

// RouteWay is one of the ways practitioners go at a step.
type RouteWay struct {
	ID      string `json:"id"`
	Title   string `json:"title"`
	Why     string `json:"why,omitempty"`
	Default bool   `json:"default,omitempty"` // as the book has it
}

// RoutePiece is a fragment of the book.
type RoutePiece struct {
	ID    string            `json:"id"`
	Steps []string          `json:"steps"` // their titles
	Words map[string]string `json:"words"` // and what they say unless the shop says otherwise
}

// RoutePage reads a route with what the shop does otherwise, and how that came to be.
func (w Routes) Page(ctx context.Context, id string) (RoutePage, error) {
	r, ok := w.book.Route(id)
	if !ok {
		return RoutePage{}, say.Refuse(say.NotFound, say.NoSuchRoute, id)
	}
	versions, err := w.store.OwnRouteVersions(ctx, id, mostVersions+1)
	if err != nil {
		return RoutePage{}, err
	}
	page := RoutePage{
		ID: r.ID, Title: r.Title, Kind: r.UnitKind, Stations: []RouteLines{}, History: []Change{},
		Pieces: []RoutePiece{},
		Unfit:  []string{},
	}
	for _, st := range r.Stations {
		page.Stations = append(page.Stations, linesOf(st))
	}
	for _, f := range w.book.Fragments {
		page.Pieces = append(page.Pieces, pieceOf(f))
	}
	for i, v := range versions {
		var before book.OwnRoute
		if i+1 < len(versions) {
			before = versions[i+1].Says
		}
		page.History = append(page.History, Change{v.Version, v.By, v.At, v.Why, otherwise(r, before, v.Says)})
	}
	page.History, page.More = say.Cut(page.History, mostVersions)
	if len(versions) > 0 {
		page.Own, page.Version = versions[0].Says, versions[0].Version
		if _, err := w.book.Going(r, page.Own); err != nil {
			for _, f := range input.Below("", err) {
				page.Unfit = append(page.Unfit, f.Error())
			}
		}
	}
	return page, nil
}

func linesOf(st book.Station) RouteLines {
	lines := RouteLines{ID: st.ID, Title: st.Title, Steps: []RouteLine{}}
	for _, s := range st.Steps {
		line := RouteLine{ID: s.ID, Kind: s.Kind, Title: s.Title, Say: s.Say, Ways: []RouteWay{}}
		for _, x := range s.Schools {
			line.Ways = append(line.Ways, RouteWay{x.ID, x.Title, x.Why, x.Default})
		}
		if s.FromBook == "" {
			for _, x := range s.Choices {
				line.Ways = append(line.Ways, RouteWay{x.ID, x.Text, x.Why, x.Default})
			}
		}
		lines.Steps = append(lines.Steps, line)
	}
	return lines
}

func pieceOf(f book.Fragment) RoutePiece {
	p := RoutePiece{ID: f.ID, Steps: []string{}, Words: map[string]string{}}
	maps.Copy(p.Words, f.With)
	steps, _ := f.Put("", nil)
	for _, s := range steps {
		title, _ := s["title"].(string)
		p.Steps = append(p.Steps, title)
	}
	return p
}

// otherwise says what one version does that the one before did not, and the
// other way round.
func otherwise(r book.Route, before, after book.OwnRoute) []string {
	was, is := sayOwn(r, before), sayOwn(r, after)
	changes := []string{}
	for _, line := range is {
		if !slices.Contains(was, line) {
			changes = append(changes, line)
		}
	}
	for _, line := range was {
		if !slices.Contains(is, line) {
			changes = append(changes, "removed: "+line)
		}
	}
	return changes
}

// sayOwn puts what a shop does otherwise in words, a line each.
func sayOwn(r book.Route, own book.OwnRoute) []string {
	var lines []string
	if own.Unused {
		lines = append(lines, "not offered at intake")
	}
	for _, id := range slices.Sorted(maps.Keys(own.Steps)) {
		step, _, _ := r.Step(id)
		title := step.Title
		if title == "" {
			title = id
		}
		x := own.Steps[id]
		for _, one := range []struct {
			said bool
			line string
		}{
			{x.LeftOut, "left out"},
			{x.Title != "", fmt.Sprintf("called %q", x.Title)},
			{x.Say != "", fmt.Sprintf("instruction: %q", x.Say)},
			{x.Minutes > 0, fmt.Sprintf("takes %d minutes", x.Minutes)},
			{x.School != "", "suggested approach: " + x.School},
		} {
			if one.said {
				lines = append(lines, title+": "+one.line)
			}
		}
	}
	for _, a := range own.Added {
		lines = append(lines, fmt.Sprintf("%s added after %s", a.Fragment, a.Behind))
	}
	return lines
}

// WriteRoute keeps the next version of what the shop does otherwise on a route,
// checked as the book is.
func (w Routes) Write(ctx context.Context, id string, version int, own book.OwnRoute, why string,
	by people.Person) (RoutePage, error) {
	if by.Role != people.Lead {
		return RoutePage{}, say.Refuse(say.Forbidden, say.LeadRoutes)
	}
	r, ok := w.book.Route(id)
	if !ok {
		return RoutePage{}, say.Refuse(say.NotFound, say.NoSuchRoute, id)
	}
	var faults input.Fields
	why = say.OneLine(&faults, "why", why, 1, 200)
	if _, err := w.book.Going(r, own); err != nil {
		faults = append(faults, input.Below("own", err)...)
	}
	if err := faults.Err(); err != nil {
		return RoutePage{}, err
	}
	now, err := w.store.OwnRouteVersions(ctx, id, 1)
	if err != nil {
		return RoutePage{}, err
	}
	if len(now) > 0 && now[0].Version != version || len(now) == 0 && version != 0 {
		return RoutePage{}, say.Refuse(say.Conflict, say.RouteMovedOn)
	}
	kept, err := w.store.KeepOwnRoute(ctx, Written[book.OwnRoute]{id, version + 1, own, by,
		w.now().UTC().Truncate(time.Microsecond), why})
	if err == nil && !kept {
		err = say.Refuse(say.Conflict, say.RouteMovedOn)
	}
	if err != nil {
		return RoutePage{}, err
	}
	return w.Page(ctx, id)
}

// Going is a route as the shop goes it, with the version of what it does otherwise.
func (w Routes) Going(ctx context.Context, id string) (book.Route, int, error) {
	r, ok := w.book.Route(id)
	if !ok {
		return r, 0, say.Refuse(say.NotFound, say.NoSuchRoute, id)
	}
	own, err := w.store.OwnRouteVersions(ctx, id, 1)
	if err != nil || len(own) == 0 {
		return r, 0, err
	}
	r, err = w.book.Going(r, own[0].Says)
	if err != nil {
		err = say.Refuse(say.Conflict, say.RouteUnfit, r.Title, err.Error())
	}
	return r, own[0].Version, err
}

// UnfitRoutes names what the shop does otherwise that the book no longer
// allows: a rebuild cannot be opened along such a route until a lead mends it.
func (w Routes) Unfit(ctx context.Context) ([]string, error) {
	own, err := w.store.OwnRoutes(ctx)
	var unfit []string
	for _, v := range own {
		if r, ok := w.book.Route(v.ID); ok {
			if _, err := w.book.Going(r, v.Says); err != nil {
				unfit = append(unfit, fmt.Sprintf("%s: %v", r.Title, err))
			}
		}
	}
	return unfit, err
}
