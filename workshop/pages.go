package workshop

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
	"handwerk/workshop/buying"
	"handwerk/workshop/paper"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// CustomerPage is a customer with what he has and had here.
type CustomerPage struct {
	shop.Customer
	Vehicles []shop.Vehicle   `json:"vehicles"`
	Rebuilds []record.Rebuild `json:"rebuilds"`
	Found    []paper.Find     `json:"found"` // along the way, on any of his vehicles
	More     bool             `json:"more,omitempty"`
}

// Found is what a question finds, best first.
type Found struct {
	Rebuilds  []record.Rebuild  `json:"rebuilds"`
	Customers []shop.Customer   `json:"customers"`
	Vehicles  []shop.Vehicle    `json:"vehicles"`
	Units     []FoundUnit       `json:"units"`
	Sheets    []shop.FoundSheet `json:"sheets"`
	More      bool              `json:"more,omitempty"`
}

// FoundUnit is a unit with the vehicle it sits in, and whether it is in work.
type FoundUnit struct {
	shop.Unit
	Vehicle     string `json:"vehicle"` // id
	VehicleName string `json:"vehicle_name"`
	Open        string `json:"open,omitempty"` // number of the rebuild it is in
}

// Promises are how many rebuilds are promised for a day.
type Promises struct {
	Day   string `json:"day"`
	Count int    `json:"count"`
}

// Customer reads one with what he has here.
func (w *Workshop) Customer(ctx context.Context, id string) (CustomerPage, error) {
	page, err := w.store.Customer(ctx, id, mostOfCustomer+1)
	if err != nil {
		return page, err
	}
	var moreVehicles, moreFinds bool
	page.Vehicles, moreVehicles = say.Cut(page.Vehicles, mostOfCustomer)
	page.Rebuilds, page.More = say.Cut(page.Rebuilds, mostOfCustomer)
	vehicles := make([]string, len(page.Vehicles))
	for i, v := range page.Vehicles {
		vehicles[i] = v.ID
	}
	page.Found, moreFinds, err = listFinds(ctx, w.store, vehicles)
	page.More = page.More || moreVehicles || moreFinds
	return page, err
}

// Find looks for a question's words, each anywhere.
func (w *Workshop) Find(ctx context.Context, question string) (Found, error) {
	words := strings.Fields(strings.ToLower(question))
	if len(words) > 8 {
		words = words[:8]
	}
	none := Found{
		Rebuilds: []record.Rebuild{}, Customers: []shop.Customer{}, Vehicles: []shop.Vehicle{}, Units: []FoundUnit{},
		Sheets: []shop.FoundSheet{},
	}
	if len(words) == 0 {
		return none, nil
	}
	found, err := w.store.Find(ctx, words, mostFound+1)
	if err != nil {
		return none, err
	}
	sheets, err := w.Sheets.List(ctx)
	for _, s := range sheets {
		has := func(word string) bool { return strings.Contains(strings.ToLower(s.Family), word) }
		if !slices.ContainsFunc(words, func(word string) bool { return !has(word) }) {
			found.Sheets = append(found.Sheets, s)
		}
	}
	found.cut(mostFound)
	return found, err
}

// cut leaves so many of each kind, and says so.
func (f *Found) cut(most int) {
	more := [5]bool{}
	f.Rebuilds, more[0] = say.Cut(f.Rebuilds, most)
	f.Customers, more[1] = say.Cut(f.Customers, most)
	f.Vehicles, more[2] = say.Cut(f.Vehicles, most)
	f.Units, more[3] = say.Cut(f.Units, most)
	f.Sheets, more[4] = say.Cut(f.Sheets, most)
	f.More = slices.Contains(more[:], true)
}

// Promises are what else is promised in the two weeks from a day on.
func (w *Workshop) Promises(ctx context.Context, from string) ([]Promises, error) {
	day, err := time.Parse(time.DateOnly, from)
	if err != nil {
		return nil, input.At("from", "a day like 2026-11-27", "%q is not a day", from)
	}
	return w.store.Promises(ctx, from, day.AddDate(0, 0, 13).Format(time.DateOnly))
}

// How many of a kind are shown; an answer says when there are more.
const (
	mostFound      = 8   // by a question
	mostOfCustomer = 200 // of his vehicles and rebuilds
	mostOfUnit     = 50  // of its rebuilds
	mostFinds      = 200 // rebuilds with something found along the way
)

// PageStore reads what stands on pages about more than one rebuild.
type PageStore interface {
	// Ledgers reads the records of rebuilds that were just listed.
	Ledgers(ctx context.Context, list []record.Rebuild) ([]record.Ledger, error)
	// Customer reads one with so many of his vehicles and rebuilds.
	Customer(ctx context.Context, id string, most int) (CustomerPage, error)
	// RebuildsOf a unit, the latest first.
	RebuildsOf(ctx context.Context, unit string, most int) ([]record.Rebuild, error)
	// FoundIn lists the rebuilds of vehicles in which something was found along the
	// way, the oldest first.
	FoundIn(ctx context.Context, vehicles []string, most int) ([]record.Rebuild, error)
	// Find looks for all words of a question in everything.
	Find(ctx context.Context, words []string, most int) (Found, error)
	// Promises counts open rebuilds by promised day, from a day to another.
	Promises(ctx context.Context, from, to string) ([]Promises, error)
	// OpenPromises are the open rebuilds in somebody's hands, the earliest promise
	// first, but for one of them.
	OpenPromises(ctx context.Context, login, but string) ([]buying.OpenPromise, error)
}

// FindsOn lists what was found along the way on a vehicle, what is open and grave
// first.
func (w *Workshop) FindsOn(ctx context.Context, vehicle string) ([]paper.Find, error) {
	if v, err := w.store.Vehicle(ctx, vehicle); err != nil || v.ID == "" {
		return nil, cmp.Or(err, error(say.Refuse(say.NotFound, say.NoSuchVehicle)))
	}
	finds, _, err := listFinds(ctx, w.store, []string{vehicle})
	return finds, err
}

// listFinds reads the finds on vehicles, and whether there are more.
func listFinds(ctx context.Context, store Store, vehicles []string) ([]paper.Find, bool, error) {
	list, err := store.FoundIn(ctx, vehicles, mostFinds+1)
	if err != nil {
		return nil, false, err
	}
	list, more := say.Cut(list, mostFinds)
	finds, err := findsIn(ctx, store, list)
	return finds, more, err
}

// findsIn reads the finds of rebuilds that were listed, the oldest first.
func findsIn(ctx context.Context, store Store, list []record.Rebuild) ([]paper.Find, error) {
	ledgers, err := store.Ledgers(ctx, list)
	if err != nil {
		return nil, err
	}
	all := []paper.Find{}
	for _, l := range ledgers {
		for _, f := range record.Finds(l.State()) {
			all = paper.KeepLatest(all, paper.Find{
				FoundLine: f, Rebuild: l.Rebuild.ID, Number: l.Rebuild.Number, Vehicle: l.Rebuild.Vehicle.ID,
				Open: f.Settled == paper.Advised,
			})
		}
	}
	slices.SortStableFunc(all, func(a, b paper.Find) int {
		return cmp.Or(b.Rank()-a.Rank(), record.Graveness(b.Severity)-record.Graveness(a.Severity))
	})
	return all, nil
}

// Unit reads a unit with all its rebuilds.
func (w *Workshop) Unit(ctx context.Context, id string) (paper.UnitPage, error) {
	page := paper.UnitPage{Rebuilds: []paper.UnitRebuild{}, Trends: []paper.Trend{}}
	var err error
	if page.Unit, page.Vehicle, err = w.store.Unit(ctx, id); err != nil {
		return page, err
	}
	list, err := w.store.RebuildsOf(ctx, id, mostOfUnit+1)
	if err != nil {
		return page, err
	}
	list, page.More = say.Cut(list, mostOfUnit)
	sheet, err := w.Sheets.Now(ctx, page.Unit.Sheet)
	if _, none := errors.AsType[input.Fields](err); err != nil && !none {
		return page, err
	}
	page.Family = sheet.Family
	ledgers, err := w.store.Ledgers(ctx, list)
	if err != nil {
		return page, err
	}
	for _, l := range ledgers {
		page.Rebuilds = append(page.Rebuilds, paper.RebuildOf(l))
	}
	renewed := map[string]bool{} // rebuilds that renewed something, by number
	for _, r := range page.Rebuilds {
		renewed[r.Number] = len(r.Fitted) > 0
	}
	for _, l := range slices.Backward(ledgers) {
		page.AddPoints(l, renewed)
	}
	page.Found, err = w.FindsOn(ctx, page.Vehicle.ID)
	return page, err
}

// Promise works out the day that somebody can promise for a rebuild, going a
// way; an empty one is the way that was taken.
func (w *Workshop) Promise(ctx context.Context, id, way string, by people.Person) (buying.PromiseView, error) {
	l, err := w.store.Ledger(ctx, id)
	if err != nil {
		return buying.PromiseView{}, err
	}
	open, err := w.store.OpenPromises(ctx, by.Login, id)
	if err != nil {
		return buying.PromiseView{}, err
	}
	for i, o := range open {
		other, err := w.store.Ledger(ctx, o.Rebuild)
		if err != nil {
			return buying.PromiseView{}, err
		}
		s := other.State()
		open[i].Left = record.RangeLeft(s, s.Standing())
	}
	shop, _, err := w.store.Shop(ctx)
	if err != nil {
		return buying.PromiseView{}, err
	}
	return buying.Promise(l, way, open, shop, w.now())
}
