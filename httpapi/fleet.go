package httpapi

import (
	"net/http"

	"handwerk/workshop"
	"handwerk/workshop/paper"
	"handwerk/workshop/shop"
)

// NewCustomer is somebody who brings something, or how he is reached now.
type NewCustomer struct {
	Name    string `json:"name"`
	Phone   string `json:"phone,omitempty"`
	Mail    string `json:"mail,omitempty"`
	Address string `json:"address,omitempty"`
}

// CustomerChange is how a customer is reached now.
type CustomerChange struct {
	ID string `path:"id" json:"-"`
	NewCustomer
}

// NewVehicle is a vehicle of a customer.
type NewVehicle struct {
	Name         string      `json:"name"`
	Registration string      `json:"registration,omitempty"`
	Customer     string      `json:"customer"` // id
	Facts        *shop.Facts `json:"facts,omitempty"`
}

// VehicleChange is a vehicle as it is now; another customer is another owner.
type VehicleChange struct {
	ID string `path:"id" json:"-"`
	NewVehicle
}

// NewUnit is a unit of a vehicle. Without a sheet it begins one.
type NewUnit struct {
	Vehicle string `path:"id" json:"-"`
	Name    string `json:"name"`
	Serial  string `json:"serial"`
	Route   string `json:"route"`
	Sheet   string `json:"sheet,omitempty"`
	Gears   int    `json:"gears,omitempty"` // forward, as counted; 0: nobody did
}

// UnitChange moves a unit to another vehicle, or gives it another sheet or route, or
// says how many forward gears it has.
type UnitChange struct {
	ID      string `path:"id" json:"-"`
	Vehicle string `json:"vehicle,omitempty"`
	Sheet   string `json:"sheet,omitempty"`
	Route   string `json:"route,omitempty"`
	Gears   int    `json:"gears,omitempty"`
}

type idIn struct {
	ID string `path:"id"`
}

type findIn struct {
	Question string `query:"q" description:"words, each found anywhere: number, customer, registration, serial, family, complaint, cause"`
}

type promisesIn struct {
	From  string `query:"from" description:"a day: 2026-11-27"`
	Route string `query:"route" description:"a route, to say how long such jobs took"`
}

// findsView is what was found along the way.
type findsView struct {
	Found []paper.Find `json:"found"`
}

// promisesView are how many rebuilds are promised for each day.
type promisesView struct {
	Days []workshop.Promises `json:"days"`
	Took *shop.Took          `json:"took,omitempty"` // where enough such jobs were done
}

// routesView are the routes a rebuild may go.
type routesView struct {
	Routes []shop.RouteChoice `json:"routes"`
}

func (n NewCustomer) customer(id string) shop.Customer {
	return shop.Customer{ID: id, Name: n.Name, Phone: n.Phone, Mail: n.Mail, Address: n.Address}
}

func (n NewVehicle) vehicle(id string) shop.Vehicle {
	return shop.Vehicle{ID: id, Name: n.Name, Registration: n.Registration, Customer: n.Customer, Facts: n.Facts}
}

func (a shopDesk) fleetEndpoints() []endpoint {
	w := a.Workshop
	return []endpoint{
		get(a.api, "/find", "find", "whatever has all these words: rebuilds, customers, vehicles, units, spec sheets",
			signedIn, func(
				c call, in findIn,
			) (workshop.Found, error) {
				return w.Find(c.Context(), in.Question)
			}),
		get(a.api, "/vehicles/:id/found", "found", "what was found along the way on a vehicle, open and grave first",
			signedIn, func(
				c call, in idIn,
			) (findsView, error) {
				list, err := w.FindsOn(c.Context(), in.ID)
				return findsView{list}, err
			}),
		get(
			a.api,
			"/promises",
			"promises",
			"how many rebuilds are promised for each of the two weeks from a day on, and how long such jobs took",
			signedIn,
			func(
				c call, in promisesIn,
			) (promisesView, error) {
				days, err := w.Promises(c.Context(), in.From)
				if err != nil {
					return promisesView{}, err
				}
				took, err := w.Fleet.HowLong(c.Context(), in.Route)
				return promisesView{days, took}, err
			},
		),
		get(a.api, "/routes", "routes", "what a unit can be taken along, by its kind", signedIn, func(
			c call, _ nothing,
		) (routesView, error) {
			list, err := w.Routes.List(c.Context())
			return routesView{list}, err
		}),
		post(a.api, "/customers", "addCustomer", "somebody new; who is known by that name and number is given as he is",
			hands, http.StatusCreated, func(
				c call, in NewCustomer,
			) (shop.Customer, error) {
				kept, there, err := w.Fleet.AddCustomer(c.Context(), in.customer(""), c.person())
				if there {
					c.replayed()
				}
				return kept, err
			}),
		get(a.api, "/customers/:id", "customer", "a customer with vehicles and rebuilds: all that is kept of him",
			signedIn, func(
				c call, in idIn,
			) (workshop.CustomerPage, error) {
				return w.Customer(c.Context(), in.ID)
			}),
		post(a.api, "/customers/:id", "changeCustomer", "how a customer is reached now", hands, http.StatusOK, func(
			c call, in CustomerChange,
		) (workshop.CustomerPage, error) {
			if err := w.Fleet.ChangeCustomer(c.Context(), in.customer(in.ID), c.person()); err != nil {
				return workshop.CustomerPage{}, err
			}
			return w.Customer(c.Context(), in.ID)
		}),
		post(a.api, "/customers/:id/erase", "eraseCustomer", "forget who a customer was; his rebuilds stay, and verify",
			leads, http.StatusNoContent, func(
				c call, in idIn,
			) (nothing, error) {
				err := w.Fleet.EraseCustomer(c.Context(), in.ID, c.person())
				if err == nil {
					a.security(c, "customer erased", "customer", in.ID, "by", c.person().Login)
				}
				return nothing{}, err
			}),
		post(a.api, "/vehicles", "addVehicle", "a vehicle of a customer", hands, http.StatusCreated, func(
			c call, in NewVehicle,
		) (shop.Vehicle, error) {
			return w.Fleet.AddVehicle(c.Context(), in.vehicle(""), c.person())
		}),
		post(a.api, "/vehicles/:id", "changeVehicle", "a vehicle as it is now, perhaps of another owner", hands,
			http.StatusOK, func(
				c call, in VehicleChange,
			) (shop.Vehicle, error) {
				return w.Fleet.ChangeVehicle(c.Context(), in.vehicle(in.ID), c.person())
			}),
		post(a.api, "/vehicles/:id/units", "addUnit", "a unit of a vehicle; its spec sheet may be empty", hands,
			http.StatusCreated, func(
				c call, in NewUnit,
			) (shop.Unit, error) {
				return w.Fleet.AddUnit(
					c.Context(), in.Vehicle,
					shop.Unit{Name: in.Name, Serial: in.Serial, Route: in.Route, Sheet: in.Sheet, Gears: in.Gears},
					c.person(),
				)
			}),
		get(a.api, "/units/:id", "unit", "a unit: every rebuild of it, what was measured each time, fitted and found",
			signedIn, func(
				c call, in idIn,
			) (paper.UnitPage, error) {
				return w.Unit(c.Context(), in.ID)
			}),
		post(
			a.api,
			"/units/:id",
			"changeUnit",
			"move a unit to another vehicle, give it another sheet or route, or say its gears",
			hands,
			http.StatusOK,
			func(
				c call, in UnitChange,
			) (paper.UnitPage, error) {
				if err := w.Fleet.ChangeUnit(
					c.Context(), shop.Unit{ID: in.ID, Sheet: in.Sheet, Route: in.Route, Gears: in.Gears}, in.Vehicle,
					c.person(),
				); err != nil {
					return paper.UnitPage{}, err
				}
				return w.Unit(c.Context(), in.ID)
			},
		),
	}
}
