package shop

import (
	"context"
	"math"
	"regexp"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// DrawerPage is a drawer of the shop: what lies in it, and what went in and out.
type DrawerPage struct {
	ID    string       `json:"id"`
	Title string       `json:"title"` // as the shop typed it
	Items []DrawerItem `json:"items"` // the smallest first
	Moves []DrawerMove `json:"moves"` // the latest first
}

// DrawerName names a drawer.
type DrawerName struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// DrawerItem is one size of shim, washer, dowel, circlip or can.
type DrawerItem struct {
	Size  string `json:"size"` // a quantity: 0.54 mm, 1 L
	Name  string `json:"name"`
	Count int    `json:"count"`
	Place string `json:"place,omitempty"` // where it lies
	Least int    `json:"least"`           // fewer are too few
}

// Short tells that there are fewer than there should be.
func (i DrawerItem) Short() bool { return i.Count < i.Least }

// DrawerMove is what went in (or out, below zero) of one size.
type DrawerMove struct {
	Size   string    `json:"size"`
	Change int       `json:"change"`
	Why    string    `json:"why"`
	Number string    `json:"number,omitempty"` // of the rebuild it was fitted in
	By     string    `json:"by"`
	At     time.Time `json:"at"`
}

// DrawerLine says how it is with one size; what is not said stays as it is.
type DrawerLine struct {
	Size  string          `json:"size"`
	Count *quantity.Count `json:"count,omitempty"`
	Was   *quantity.Count `json:"was,omitempty"` // the count that was seen; another one by now is said
	Name  *string         `json:"name,omitempty"`
	Place *string         `json:"place,omitempty"`
	Least *quantity.Count `json:"least,omitempty"`
}

// DrawerStore keeps drawers.
type DrawerStore interface {
	// Drawers lists all, with the last moves of each.
	Drawers(ctx context.Context) ([]DrawerPage, error)
	// KeepDrawer keeps what a drawer holds now, all lines or none.
	KeepDrawer(ctx context.Context, d DrawerName, lines []DrawerLine, why string, by people.Person, at time.Time) error
	// KeepFamilyDrawer keeps which drawer is meant where the book wants one, for a
	// family. A drawer that is not there is NotFound.
	KeepFamilyDrawer(ctx context.Context, sheet, wanted, drawer string) error
}

var drawerID = regexp.MustCompile(`^[a-z][a-z0-9-]{0,39}$`)

const (
	mostLines = 2000
	mostHeld  = 100_000
)

// Drawers lists what the shop has.
func (w Drawers) List(ctx context.Context) ([]DrawerPage, error) {
	list, err := w.store.Drawers(ctx)
	for _, d := range list {
		slices.SortStableFunc(d.Items, bySize)
	}
	return list, err
}

func bySize(a, b DrawerItem) int {
	var x, y quantity.Any
	if x.UnmarshalText([]byte(a.Size)) != nil || y.UnmarshalText([]byte(b.Size)) != nil || x.SI() == y.SI() {
		return strings.Compare(a.Size, b.Size)
	}
	if x.SI() < y.SI() {
		return -1
	}
	return 1
}

// SetDrawer counts a drawer, or some sizes of it. A title that is not said stays.
func (w Drawers) Set(ctx context.Context, d DrawerName, lines []DrawerLine, why string,
	by people.Person) ([]DrawerPage, error) {
	if err := people.MayWrite(by); err != nil {
		return nil, err
	}
	var faults input.Fields
	if !drawerID.MatchString(d.ID) {
		faults.Add("id", "a short name in small letters: thrust-washers", "%q cannot be a drawer name", d.ID)
	}
	if len(lines) == 0 || len(lines) > mostLines {
		faults.Add("lines", "one to 2000 sizes", "%d of them", len(lines))
	}
	why = say.OneLine(&faults, "why", why, 1, 200)
	d.Title = say.OneLine(&faults, "title", d.Title, 0, 80)
	sizes := map[string]bool{}
	lie := w.sizesOf(ctx, d.ID)
	dimension := quantity.Dimension("")
	if len(lie) > 0 {
		dimension = lie[0].Dimension()
	}
	lines = slices.Clone(lines) // they are put into the form in which they are kept
	for i := range lines {
		at := input.Index("lines", i)
		lines[i].check(&faults, at, &dimension)
		lie = lines[i].asThere(lie)
		if sizes[lines[i].Size] {
			faults.Add(at+".size", "each size once", "%s is listed twice", lines[i].Size)
		}
		sizes[lines[i].Size] = true
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	if err := w.store.KeepDrawer(ctx, d, lines, why, by, w.now().UTC().Truncate(time.Microsecond)); err != nil {
		return nil, err
	}
	return w.List(ctx)
}

// sizesOf are those that lie in a drawer.
func (w Drawers) sizesOf(ctx context.Context, id string) (sizes []quantity.Any) {
	list, _ := w.store.Drawers(ctx) // a fault comes again where it is kept
	for _, page := range list {
		for _, item := range page.Items {
			var size quantity.Any
			if page.ID == id && size.UnmarshalText([]byte(item.Size)) == nil {
				sizes = append(sizes, size)
			}
		}
	}
	return sizes
}

// asThere says a size as it is said in the drawer already: 500 µm is 0.5 mm, and
// one line. It gives all sizes with this one.
func (l *DrawerLine) asThere(lie []quantity.Any) []quantity.Any {
	var size quantity.Any
	if size.UnmarshalText([]byte(l.Size)) != nil {
		return lie
	}
	for _, there := range lie {
		if math.Abs(there.SI()-size.SI()) <= 1e-9*math.Abs(size.SI()) {
			l.Size = there.String()
			return lie
		}
	}
	return append(lie, size)
}

// check puts a line into the form in which it is kept.
func (l *DrawerLine) check(faults *input.Fields, at string, dimension *quantity.Dimension) {
	var size quantity.Any
	switch err := size.UnmarshalText([]byte(l.Size)); {
	case err != nil || size.SI() <= 0:
		faults.Add(at+".size", "a size with its unit: 0.54 mm, 20 thou, 1 L", "%q is not a size", l.Size)
	case *dimension != "" && size.Dimension() != *dimension:
		faults.Add(at+".size", "a "+string(*dimension)+", like the rest", "%s is a %s", size, size.Dimension())
	default:
		*dimension, l.Size = size.Dimension(), size.String()
	}
	for name, n := range map[string]*quantity.Count{"count": l.Count, "least": l.Least} {
		if n != nil && (*n < 0 || *n > mostHeld) {
			faults.Add(at+"."+name, "from 0 to 100000", "%d is not a possible count", *n)
		}
	}
	for name, s := range map[string]*string{"name": l.Name, "place": l.Place} {
		if s != nil {
			*s = say.OneLine(faults, at+"."+name, *s, 0, 80)
		}
	}
}
