package workshop

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/gearing"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
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

// figures are the facts as figures of a spec sheet.
func (f *Facts) figures() map[string]json.RawMessage {
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

func (f *Facts) check(faults *input.Fields, at string) {
	if f == nil {
		return
	}
	if f.EngineTorque != "" {
		if t, err := quantity.ParseAs[quantity.Torque](f.EngineTorque); err != nil || t.SI() <= 0 || t.SI() > 100_000 {
			faults.Add(input.Join(at, "engine_torque"), "a torque, like 280 N·m or 206 lb-ft", "%q is none an engine has", f.EngineTorque)
		}
	}
	if f.ColdestStart != "" {
		if t, err := quantity.ParseAs[quantity.Temperature](f.ColdestStart); err != nil || t.SI() < 190 || t.SI() > 330 {
			faults.Add(input.Join(at, "coldest_start"), "a temperature, like -8 °C or 17 °F", "%q is none a vehicle starts at", f.ColdestStart)
		}
	}
	if f.Tyre != "" && !gearing.IsTyreSize(f.Tyre) {
		faults.Add(input.Join(at, "tyre"), "a size as it stands on the tyre, like 205/75 R16 or 31x10.5 R15", "%q is not read", f.Tyre)
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

// Owner is whose unit it is, as it is known now.
func (r Rebuild) Owner() string {
	switch {
	case r.Whose != nil && r.Whose.Erased:
		return OwnerErased
	case r.Whose != nil && r.Whose.Name != "":
		return r.Whose.Name
	}
	return r.Vehicle.Owner // from before customers stood apart
}

// oneLine checks a short text on a line of its own and gives it without blanks
// around it.
func oneLine(faults *input.Fields, path, s string, least, most int) string {
	s = strings.TrimSpace(s)
	if n := text.Length(s); n < least || n > most || strings.ContainsAny(s, "\r\n\t") {
		faults.Add(path, "one line of "+itoa(least)+" to "+itoa(most)+" characters", "missing or too long")
	}
	return s
}

// Check gives a customer as he is kept.
func (c Customer) Check() (Customer, error) {
	var faults input.Fields
	c.Name = oneLine(&faults, "name", c.Name, 1, 120)
	c.Phone = oneLine(&faults, "phone", c.Phone, 0, 60)
	c.Mail = oneLine(&faults, "mail", c.Mail, 0, 120)
	c.Address = strings.TrimSpace(c.Address)
	if text.Length(c.Address) > 300 {
		faults.Add("address", "up to 300 characters", "the text is too long")
	}
	if c.Mail != "" && (!strings.Contains(c.Mail, "@") || strings.ContainsAny(c.Mail, " <>,;")) {
		faults.Add("mail", "an address with an @, or nothing", "%q is none", c.Mail)
	}
	return c, faults.Err()
}

// KnownAs is the one form in which the same customer, typed by two, is the same.
func (c Customer) KnownAs() string {
	digits := strings.Map(func(r rune) rune {
		if r >= '0' && r <= '9' || r == '+' {
			return r
		}
		return -1
	}, c.Phone)
	return folded(c.Name) + "/" + digits
}

// folded is a text as it is compared: small letters, single blanks.
func folded(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }

// Check gives a vehicle as it is kept.
func (v Vehicle) Check() (Vehicle, error) {
	var faults input.Fields
	v.Name = oneLine(&faults, "name", v.Name, 1, 120)
	v.Registration = oneLine(&faults, "registration", v.Registration, 0, 40)
	if v.Customer == "" {
		faults.Add("customer", "the customer it belongs to", "missing")
	}
	v.Facts.check(&faults, "facts")
	v.Owner, v.Units = "", nil
	return v, faults.Err()
}

// Check gives a unit as it is kept, on a route of the book.
func (u Unit) Check(b book.Book) (Unit, error) {
	var faults input.Fields
	u.Name = oneLine(&faults, "name", u.Name, 1, 120)
	u.Serial = oneLine(&faults, "serial", u.Serial, 1, 80)
	route, ok := b.Route(u.Route)
	if !ok {
		faults.Add("route", "a route of the book", "%q is none", u.Route)
	} else {
		u.Kind = route.UnitKind
	}
	return u, faults.Err()
}

// KnownAs is the one form in which the same unit, typed by two, is the same.
func (u Unit) KnownAs() string { return folded(u.Name) + "/" + folded(u.Serial) }

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
	return w.store.Customer(ctx, c.ID)
}

// Customer reads one with what he has here.
func (w *Workshop) Customer(ctx context.Context, id string) (CustomerPage, error) {
	return w.store.Customer(ctx, id)
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

// ChangeUnit moves a unit to another vehicle, or gives it another sheet or route.
func (w *Workshop) ChangeUnit(ctx context.Context, u Unit, vehicle string, by Person) error {
	if err := mayWrite(by); err != nil {
		return err
	}
	if u.Route != "" {
		if _, ok := w.book.Route(u.Route); !ok {
			return input.At("route", "a route of the book", "%q is none", u.Route)
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

// Took says how long such jobs took in this shop: whole days, begun ones counted.
type Took struct {
	Jobs       int `json:"jobs"`
	Half       int `json:"half"`         // of them took so many days or fewer
	EightInTen int `json:"eight_in_ten"` // the same of eight in ten
}

// fewJobs say nothing yet of how long such a job takes; more than mostJobs lie too far back.
const fewJobs, mostJobs = 5, 100

// HowLong says how long rebuilds along a route took; nil where too few did.
func (w *Workshop) HowLong(ctx context.Context, route string) (*Took, error) {
	if route == "" {
		return nil, nil
	}
	days, err := w.store.HowLong(ctx, route, mostJobs)
	if err != nil || len(days) < fewJobs {
		return nil, err
	}
	slices.Sort(days)
	at := func(share float64) int {
		return max(1, int(math.Ceil(days[int(math.Ceil(share*float64(len(days))))-1])))
	}
	return &Took{len(days), at(0.5), at(0.8)}, nil
}

// Promises are what else is promised in the two weeks from a day on.
func (w *Workshop) Promises(ctx context.Context, from string) ([]Promises, error) {
	day, err := time.Parse(time.DateOnly, from)
	if err != nil {
		return nil, input.At("from", "a day like 2026-11-27", "%q is not a day", from)
	}
	return w.store.Promises(ctx, from, day.AddDate(0, 0, 13).Format(time.DateOnly))
}

// Link leads from a rebuild to its customer as long as he is not erased.
type Link struct{ Customer, Salt string }

// newLink makes the salt; Digest is what the record says.
func newLink(customer string) Link { return Link{customer, rand.Text()} }

// Digest stands in the sealed order for the customer.
func (l Link) Digest() string { return digest("customer", l.Salt, l.Customer) }
