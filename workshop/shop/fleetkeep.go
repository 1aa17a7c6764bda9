package shop

import (
	"cmp"
	"context"
	"time"

	"handwerk/core/input"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// FleetStore keeps customers, vehicles and units.
type FleetStore interface {
	// Fleet lists vehicles with their units, the first few hundred.
	Fleet(ctx context.Context, most int) ([]Vehicle, error)
	// Vehicle reads one with its units; the zero value when there is none.
	Vehicle(ctx context.Context, id string) (Vehicle, error)
	// AddCustomer stores one. If the customer is already known, there is true and the
	// stored customer is returned.
	AddCustomer(ctx context.Context, c Customer) (kept Customer, there bool, err error)
	ChangeCustomer(ctx context.Context, c Customer) error
	// EraseCustomer forgets who he was, if none of his rebuilds is open.
	EraseCustomer(ctx context.Context, id string, now time.Time) error
	AddVehicle(ctx context.Context, v Vehicle) error
	ChangeVehicle(ctx context.Context, v Vehicle) error
	AddUnit(ctx context.Context, vehicle string, u Unit) error
	// Unit reads one with the vehicle it sits in.
	Unit(ctx context.Context, id string) (Unit, Vehicle, error)
	ChangeUnit(ctx context.Context, u Unit, vehicle string) error
	// HowLong is how many days each of the last rebuilds along a route took.
	HowLong(ctx context.Context, route string, most int) ([]float64, error)
}

// FoundSheet is a family there is a spec sheet for.
type FoundSheet struct {
	ID      string `json:"id"`
	Family  string `json:"family"`
	Version int    `json:"version"`
}

// mostVehicles are listed; beyond, one looks for them.
const mostVehicles = 500

// List gives the vehicles that units come out of, and whether there are more.
func (w Fleet) List(ctx context.Context) (list []Vehicle, more bool, err error) {
	list, err = w.store.Fleet(ctx, mostVehicles+1)
	list, more = say.Cut(list, mostVehicles)
	return list, more, err
}

// AddCustomer takes a customer in; one who is already known is returned as stored.
func (w Fleet) AddCustomer(ctx context.Context, c Customer, by people.Person) (Customer, bool, error) {
	if err := people.MayWrite(by); err != nil {
		return c, false, err
	}
	c, err := c.Check()
	if err != nil {
		return c, false, err
	}
	c.ID, c.Since = say.NewID(), w.now().UTC().Truncate(time.Microsecond)
	return w.store.AddCustomer(ctx, c)
}

// ChangeCustomer writes down how he is reached now.
func (w Fleet) ChangeCustomer(ctx context.Context, c Customer, by people.Person) error {
	if err := people.MayWrite(by); err != nil {
		return err
	}
	c, err := c.Check()
	if err != nil {
		return err
	}
	return w.store.ChangeCustomer(ctx, c)
}

// EraseCustomer forgets who a customer was. His rebuilds stay as they are, their
// chains too; nobody can tell any more whose they were.
func (w Fleet) EraseCustomer(ctx context.Context, id string, by people.Person) error {
	if by.Role != people.Lead {
		return say.Refuse(say.Forbidden, say.LeadErases)
	}
	return w.store.EraseCustomer(ctx, id, w.now().UTC().Truncate(time.Microsecond))
}

// AddVehicle takes a vehicle of a customer in.
func (w Fleet) AddVehicle(ctx context.Context, v Vehicle, by people.Person) (Vehicle, error) {
	if err := people.MayWrite(by); err != nil {
		return v, err
	}
	v, err := v.Check()
	if err != nil {
		return v, err
	}
	v.ID = say.NewID()
	return v, w.store.AddVehicle(ctx, v)
}

// ChangeVehicle writes a vehicle down as it is now; with another customer it
// has another owner. Orders keep what they said.
func (w Fleet) ChangeVehicle(ctx context.Context, v Vehicle, by people.Person) (Vehicle, error) {
	if err := people.MayWrite(by); err != nil {
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
func (w Fleet) AddUnit(ctx context.Context, vehicle string, u Unit, by people.Person) (Unit, error) {
	if err := people.MayWrite(by); err != nil {
		return u, err
	}
	u, err := u.Check(w.book)
	if err != nil {
		return u, err
	}
	if u.Sheet == "" {
		u.Sheet, err = w.sheets().BeginFor(ctx, u.Name, by)
	} else {
		_, err = w.sheets().Now(ctx, u.Sheet)
	}
	if err != nil {
		return u, input.Below("sheet", err)
	}
	u.ID = say.NewID()
	return u, w.store.AddUnit(ctx, vehicle, u)
}

// ChangeUnit moves a unit to another vehicle, gives it another sheet or route, or
// says how many forward gears it has.
func (w Fleet) ChangeUnit(ctx context.Context, u Unit, vehicle string, by people.Person) error {
	if err := people.MayWrite(by); err != nil {
		return err
	}
	if u.Route != "" {
		if _, ok := w.book.Route(u.Route); !ok {
			return input.At("route", "a route of the book", "%q is not a route", u.Route)
		}
	}
	if u.Gears != 0 {
		now, _, err := w.store.Unit(ctx, u.ID)
		if err != nil {
			return err
		}
		now.Gears, now.Route = u.Gears, cmp.Or(u.Route, now.Route)
		if _, err := now.Check(w.book); err != nil {
			return err
		}
	}
	if u.Sheet != "" {
		if _, err := w.sheets().Now(ctx, u.Sheet); err != nil {
			return input.Below("sheet", err)
		}
	}
	return w.store.ChangeUnit(ctx, u, vehicle)
}
