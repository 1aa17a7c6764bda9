package workshop

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
)

// FleetStore keeps customers, vehicles and units.
type FleetStore interface {
	// Fleet lists vehicles with their units, the first few hundred.
	Fleet(ctx context.Context) ([]Vehicle, error)
	// Vehicle reads one with its units; the zero value when there is none.
	Vehicle(ctx context.Context, id string) (Vehicle, error)
	// AddCustomer keeps one; there says that he was known, and gives him.
	AddCustomer(ctx context.Context, c Customer) (kept Customer, there bool, err error)
	ChangeCustomer(ctx context.Context, c Customer) error
	// Customer reads one with vehicles and rebuilds.
	Customer(ctx context.Context, id string) (CustomerPage, error)
	// EraseCustomer forgets who he was, if none of his rebuilds is open.
	EraseCustomer(ctx context.Context, id string, now time.Time) error
	AddVehicle(ctx context.Context, v Vehicle) error
	ChangeVehicle(ctx context.Context, v Vehicle) error
	AddUnit(ctx context.Context, vehicle string, u Unit) error
	// Ledgers reads the records of rebuilds that were just listed.
	Ledgers(ctx context.Context, list []Rebuild) ([]Ledger, error)
	// Unit reads one with the vehicle it sits in and its rebuilds, the latest first.
	Unit(ctx context.Context, id string) (Unit, Vehicle, []Rebuild, error)
	// FoundIn lists the rebuilds of vehicles in which something was found along the
	// way, the oldest first.
	FoundIn(ctx context.Context, vehicles []string) ([]Rebuild, error)
	ChangeUnit(ctx context.Context, u Unit, vehicle string) error
	// Find looks for all words of a question in everything.
	Find(ctx context.Context, words []string, most int) (Found, error)
	// Promises counts open rebuilds by promised day, from a day to another.
	Promises(ctx context.Context, from, to string) ([]Promises, error)
	// OpenPromises are the open rebuilds in somebody's hands, the earliest promise
	// first, but for one of them.
	OpenPromises(ctx context.Context, login, but string) ([]OpenPromise, error)
	// HowLong is how many days each of the last rebuilds along a route took.
	HowLong(ctx context.Context, route string, most int) ([]float64, error)
}

// CustomerPage is a customer with what he has and had here.
type CustomerPage struct {
	Customer
	Vehicles []Vehicle `json:"vehicles"`
	Rebuilds []Rebuild `json:"rebuilds"`
	Found    []Find    `json:"found"` // along the way, on any of his vehicles
}

// Found is what a question finds, best first.
type Found struct {
	Rebuilds  []Rebuild    `json:"rebuilds"`
	Customers []Customer   `json:"customers"`
	Vehicles  []Vehicle    `json:"vehicles"`
	Units     []FoundUnit  `json:"units"`
	Sheets    []FoundSheet `json:"sheets"`
}

// FoundUnit is a unit with the vehicle it sits in, and whether it is in work.
type FoundUnit struct {
	Unit
	Vehicle     string `json:"vehicle"` // id
	VehicleName string `json:"vehicle_name"`
	Open        string `json:"open,omitempty"` // number of the rebuild it is in
}

// FoundSheet is a family there is a spec sheet for.
type FoundSheet struct {
	ID      string `json:"id"`
	Family  string `json:"family"`
	Version int    `json:"version"`
}

// Promises are how many rebuilds are promised for a day.
type Promises struct {
	Day   string `json:"day"`
	Count int    `json:"count"`
}

// mayWrite: readers look on.
func mayWrite(by Person) error {
	if by.Role != Mechanic && by.Role != Lead {
		return refuse(Forbidden, ReadersLook)
	}
	return nil
}

// AddCustomer takes somebody in; who is there already is given as he is.
func (w *Workshop) AddCustomer(ctx context.Context, c Customer, by Person) (Customer, bool, error) {
	if err := mayWrite(by); err != nil {
		return c, false, err
	}
	c, err := c.Check()
	if err != nil {
		return c, false, err
	}
	c.ID, c.Since = NewID(), w.now().UTC().Truncate(time.Microsecond)
	return w.store.AddCustomer(ctx, c)
}

// ChangeCustomer writes down how he is reached now.
func (w *Workshop) ChangeCustomer(ctx context.Context, c Customer, by Person) (CustomerPage, error) {
	if err := mayWrite(by); err != nil {
		return CustomerPage{}, err
	}
	c, err := c.Check()
	if err != nil {
		return CustomerPage{}, err
	}
	if err := w.store.ChangeCustomer(ctx, c); err != nil {
		return CustomerPage{}, err
	}
	return w.Customer(ctx, c.ID)
}

// Customer reads one with what he has here.
func (w *Workshop) Customer(ctx context.Context, id string) (CustomerPage, error) {
	page, err := w.store.Customer(ctx, id)
	if err != nil {
		return page, err
	}
	vehicles := make([]string, len(page.Vehicles))
	for i, v := range page.Vehicles {
		vehicles[i] = v.ID
	}
	list, err := w.store.FoundIn(ctx, vehicles)
	if err != nil {
		return page, err
	}
	page.Found, err = w.findsIn(ctx, list)
	return page, err
}

// EraseCustomer forgets who a customer was. His rebuilds stay as they are, their
// chains too; nobody can tell any more whose they were.
func (w *Workshop) EraseCustomer(ctx context.Context, id string, by Person) error {
	if by.Role != Lead {
		return refuse(Forbidden, leadErases)
	}
	return w.store.EraseCustomer(ctx, id, w.now().UTC().Truncate(time.Microsecond))
}

// AddVehicle takes a vehicle of a customer in.
func (w *Workshop) AddVehicle(ctx context.Context, v Vehicle, by Person) (Vehicle, error) {
	if err := mayWrite(by); err != nil {
		return v, err
	}
	v, err := v.Check()
	if err != nil {
		return v, err
	}
	v.ID = NewID()
	return v, w.store.AddVehicle(ctx, v)
}

// ChangeVehicle writes a vehicle down as it is now; with another customer it
// has another owner. Orders keep what they said.
func (w *Workshop) ChangeVehicle(ctx context.Context, v Vehicle, by Person) (Vehicle, error) {
	if err := mayWrite(by); err != nil {
		return v, err
	}
	v, err := v.Check()
	if err != nil {
		return v, err
	}
	if err := w.store.ChangeVehicle(ctx, v); err != nil {
		return v, err
	}
	return w.store.Vehicle(ctx, v.ID)
}

// AddUnit takes a unit of a vehicle in. Without a spec sheet it gets one of its
// own that says no more than its name: the sheet grows at the bench.
func (w *Workshop) AddUnit(ctx context.Context, vehicle string, u Unit, by Person) (Unit, error) {
	if err := mayWrite(by); err != nil {
		return u, err
	}
	u, err := u.Check(w.book)
	if err != nil {
		return u, err
	}
	if u.Sheet == "" {
		u.Sheet, err = w.newSheet(ctx, u.Name, by)
	} else {
		_, err = w.SpecSheet(ctx, u.Sheet)
	}
	if err != nil {
		return u, input.Below("sheet", err)
	}
	u.ID = NewID()
	return u, w.store.AddUnit(ctx, vehicle, u)
}

// ChangeUnit moves a unit to another vehicle, gives it another sheet or route, or
// says how many forward gears it has.
func (w *Workshop) ChangeUnit(ctx context.Context, u Unit, vehicle string, by Person) error {
	if err := mayWrite(by); err != nil {
		return err
	}
	if u.Route != "" {
		if _, ok := w.book.Route(u.Route); !ok {
			return input.At("route", "a route of the book", "%q is none", u.Route)
		}
	}
	if u.Gears != 0 {
		now, _, _, err := w.store.Unit(ctx, u.ID)
		if err != nil {
			return err
		}
		now.Gears, now.Route = u.Gears, cmp.Or(u.Route, now.Route)
		if _, err := now.Check(w.book); err != nil {
			return err
		}
	}
	if u.Sheet != "" {
		if _, err := w.SpecSheet(ctx, u.Sheet); err != nil {
			return input.Below("sheet", err)
		}
	}
	return w.store.ChangeUnit(ctx, u, vehicle)
}

// mostFound of each kind are shown of what a question finds.
const mostFound = 8

// Find looks for a question's words, each anywhere.
func (w *Workshop) Find(ctx context.Context, question string) (Found, error) {
	words := strings.Fields(strings.ToLower(question))
	if len(words) > 8 {
		words = words[:8]
	}
	none := Found{[]Rebuild{}, []Customer{}, []Vehicle{}, []FoundUnit{}, []FoundSheet{}}
	if len(words) == 0 {
		return none, nil
	}
	found, err := w.store.Find(ctx, words, mostFound)
	if err != nil {
		return none, err
	}
	sheets, err := w.Sheets(ctx)
	for _, s := range sheets {
		has := func(word string) bool { return strings.Contains(strings.ToLower(s.Family), word) }
		if len(found.Sheets) < mostFound && !slices.ContainsFunc(words, func(word string) bool { return !has(word) }) {
			found.Sheets = append(found.Sheets, s)
		}
	}
	return found, err
}

// Promises are what else is promised in the two weeks from a day on.
func (w *Workshop) Promises(ctx context.Context, from string) ([]Promises, error) {
	day, err := time.Parse(time.DateOnly, from)
	if err != nil {
		return nil, input.At("from", "a day like 2026-11-27", "%q is not a day", from)
	}
	return w.store.Promises(ctx, from, day.AddDate(0, 0, 13).Format(time.DateOnly))
}
