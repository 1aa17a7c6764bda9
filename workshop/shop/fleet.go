package shop

import (
	"crypto/rand"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/gearing"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
	"handwerk/workshop/say"
	"handwerk/workshop/seal"
)

// Customer is whose it is. Name and ways to reach him stand apart from the
// sealed record, which holds a digest in their place.
type Customer struct {
	ID       string     `json:"id"`
	Name     string     `json:"name"`
	Phone    string     `json:"phone,omitempty"`
	Mail     string     `json:"mail,omitempty"`
	Address  string     `json:"address,omitempty"`
	Since    time.Time  `json:"since"`
	ErasedAt *time.Time `json:"erased_at,omitempty"`
}

// Vehicle of a customer. In an order it is the vehicle as it was said then,
// without its registration, which leads to a person.
type Vehicle struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Owner string `json:"owner"` // as text; in orders from before customers stood apart
	Units []Unit `json:"units,omitempty"`

	Registration string `json:"registration,omitempty"`
	Customer     string `json:"customer,omitempty"` // id
	Facts        *Facts `json:"facts,omitempty"`
}

// Unit is the assembly; its serial number keeps its history across rebuilds.
type Unit struct {
	ID     string `json:"id"`
	Kind   string `json:"kind"`
	Name   string `json:"name"`
	Serial string `json:"serial"`
	Sheet  string `json:"sheet"`
	Route  string `json:"route"`
	Gears  int    `json:"gears,omitempty"` // forward, as somebody counted them; 0: nobody did
}

// Facts are what is known of the vehicle a unit sits in, as it was typed. What
// steps ask for they take from here before the spec sheet.
type Facts struct {
	EngineTorque string `json:"engine_torque,omitempty"` // the greatest
	Tyre         string `json:"tyre,omitempty"`          // size as on its wall
	ColdestStart string `json:"coldest_start,omitempty"`
}

// IsZero tells that nothing is known.
func (f *Facts) IsZero() bool { return f == nil || *f == Facts{} }

// Figures are the facts as figures of a spec sheet.
func (f *Facts) Figures() map[string]json.RawMessage {
	if f.IsZero() {
		return nil
	}
	figures := map[string]json.RawMessage{}
	say := func(path string, v any) { figures[path], _ = json.Marshal(v) } // plain texts, cannot fail
	if f.EngineTorque != "" {
		say("figures.engine-torque", f.EngineTorque)
	}
	if f.Tyre != "" {
		say("figures.tyre", map[string]string{"size": f.Tyre})
	}
	if f.ColdestStart != "" {
		say("figures.coldest-start", f.ColdestStart)
	}
	return figures
}

// Check names facts that cannot be.
func (f *Facts) Check(faults *input.Fields, at string) {
	if f == nil {
		return
	}
	if f.EngineTorque != "" {
		if t, err := quantity.ParseAs[quantity.Torque](f.EngineTorque); err != nil || t.SI() <= 0 || t.SI() > 100_000 {
			faults.Add(input.Join(at, "engine_torque"), "a torque, like 280 N·m or 206 lb-ft",
				"%q is not a possible engine torque", f.EngineTorque)
		}
	}
	if f.ColdestStart != "" {
		if t, err := quantity.ParseAs[quantity.Temperature](f.ColdestStart); err != nil || t.SI() < 190 ||
			t.SI() > 330 {
			faults.Add(input.Join(at, "coldest_start"), "a temperature, like -8 °C or 17 °F",
				"%q is not a possible starting temperature", f.ColdestStart)
		}
	}
	if f.Tyre != "" && !gearing.IsTyreSize(f.Tyre) {
		faults.Add(input.Join(at, "tyre"), "a size as on the tyre, like 205/75 R16 or 31x10.5 R15",
			"%q is not a tyre size", f.Tyre)
	}
}

// Whose says to whom a rebuild belongs, as it is known now; no part of the record.
type Whose struct {
	Customer     string `json:"customer,omitempty"` // id
	Name         string `json:"name,omitempty"`
	Phone        string `json:"phone,omitempty"`
	Registration string `json:"registration,omitempty"`
	Erased       bool   `json:"erased,omitempty"`
}

// Check gives a customer as he is kept.
func (c Customer) Check() (Customer, error) {
	var faults input.Fields
	c.Name = say.OneLine(&faults, "name", c.Name, 1, 120)
	c.Phone = say.OneLine(&faults, "phone", c.Phone, 0, 60)
	c.Mail = say.OneLine(&faults, "mail", c.Mail, 0, 120)
	c.Address = strings.TrimSpace(c.Address)
	if text.Length(c.Address) > 300 {
		faults.Add("address", "up to 300 characters", "the text is too long")
	}
	if c.Mail != "" && (!strings.Contains(c.Mail, "@") || strings.ContainsAny(c.Mail, " <>,;")) {
		faults.Add("mail", "an address with an @, or empty", "%q is not an email address", c.Mail)
	}
	return c, faults.Err()
}

// SayName is the one form in which the same customer, typed by two, is the same.
func (c Customer) SayName() string {
	digits := strings.Map(func(r rune) rune {
		if r >= '0' && r <= '9' || r == '+' {
			return r
		}
		return -1
	}, c.Phone)
	return say.FoldCase(c.Name) + "/" + digits
}

// Check gives a vehicle as it is kept.
func (v Vehicle) Check() (Vehicle, error) {
	var faults input.Fields
	v.Name = say.OneLine(&faults, "name", v.Name, 1, 120)
	v.Registration = say.OneLine(&faults, "registration", v.Registration, 0, 40)
	if v.Customer == "" {
		faults.Add("customer", "the customer it belongs to", "missing")
	}
	v.Facts.Check(&faults, "facts")
	v.Owner, v.Units = "", nil
	return v, faults.Err()
}

// Check gives a unit as it is kept, on a route of the book.
func (u Unit) Check(b book.Book) (Unit, error) {
	var faults input.Fields
	u.Name = say.OneLine(&faults, "name", u.Name, 1, 120)
	u.Serial = say.OneLine(&faults, "serial", u.Serial, 0, 80) // the plate may be gone
	route, ok := b.Route(u.Route)
	if !ok {
		faults.Add("route", "a route of the book", "%q is not a route", u.Route)
	} else {
		u.Kind = route.UnitKind
	}
	if u.Gears < 0 || u.Gears > book.MostGears || u.Gears > 0 && !route.CountsGears() {
		faults.Add("gears", fmt.Sprintf("1 to %d forward gears of a gearbox, or nothing", book.MostGears),
			"%d cannot be", u.Gears)
	}
	return u, faults.Err()
}

// SayName is the one form in which the same unit, typed by two, is the same; without
// a serial number it is one of its vehicle.
func (u Unit) SayName(vehicle string) string {
	if u.Serial == "" {
		return say.FoldCase(u.Name) + "/ in " + vehicle
	}
	return say.FoldCase(u.Name) + "/" + say.FoldCase(u.Serial)
}

// SerialWords say it, or that there is none.
func (u Unit) SerialWords() string {
	if u.Serial == "" {
		return "no serial number"
	}
	return "serial " + u.Serial
}

// Link leads from a rebuild to its customer as long as he is not erased.
type Link struct{ Customer, Salt string }

// NewLink makes the salt; Digest is what the record says.
func NewLink(customer string) Link { return Link{customer, rand.Text()} }

// Digest stands in the sealed order for the customer.
func (l Link) Digest() string { return seal.Digest("customer", l.Salt, l.Customer) }
