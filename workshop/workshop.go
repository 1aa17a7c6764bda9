// Package workshop joins the rooms below it to one service: it opens rebuilds,
// takes entries, and reads pages over more than one of them. It keeps nothing
// itself; see Store.
package workshop

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/ringpinion"
	"handwerk/core/text"
	"handwerk/picture"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/seal"
	"handwerk/workshop/shop"
)

// Store keeps the record. Each method is one transaction; what it has
// acknowledged survives the death of anything.
type Store interface {
	// Open keeps a new rebuild and its plan and gives it a number. The same
	// key with the same order gives the rebuild kept before; replayed says so.
	Open(ctx context.Context, r record.Rebuild, link shop.Link, p *record.Plan, w Write) (opened record.Rebuild,
		replayed bool, err error)
	// Ledger reads one rebuild with its whole record.
	Ledger(ctx context.Context, id string) (record.Ledger, error)
	// Append asks decide for the entry and keeps it with its moves, if nothing
	// was written in between; otherwise it asks again. The same key with the
	// same draft gives the entry kept before; replayed says so.
	Append(ctx context.Context, id string, w Write,
		decide func(record.Ledger) (record.Proposal, error)) (e record.Entry, replayed bool, err error)
	// Board lists rebuilds, the earliest promise first.
	Board(ctx context.Context, q BoardQuery) ([]record.Rebuild, error)
	// Plan reads a copy of the book by its hash.
	Plan(ctx context.Context, hash string) (*record.Plan, error)
	shop.Store
	PageStore
	// LastAxle is what the last axle of a family that was set up right teaches of the
	// next; nil where there is none.
	LastAxle(ctx context.Context, sheet string) (*ringpinion.Learned, error)
	// Exists tells whether there is such a rebuild; the error says no.
	Exists(ctx context.Context, id string) error
	// KeepPhoto keeps a picture of a rebuild.
	KeepPhoto(ctx context.Context, p Photo) error
	// Photo reads a picture.
	Photo(ctx context.Context, id string) (Photo, error)
}

// Write identifies one request: its key, the digest of what was asked, and the
// session it came in, which must hold when it is kept; empty for our own.
type Write struct{ Key, Digest, Session string }

// BoardQuery picks what the board shows.
type BoardQuery struct {
	Closed bool
	Limit  int
	After  *BoardPlace // go on behind this one
}

// BoardPlace is a place in the list: by promised day, then by number.
type BoardPlace struct{ Promised, Number string }

// Photo is a picture of a rebuild, with who took it in.
type Photo struct {
	picture.Picture
	ID      string
	Rebuild string
	By      people.Person
	At      time.Time
}

// Workshop is the record with its rules, ready for requests.
type Workshop struct {
	shop.Office
	store Store
	book  book.Book
	now   func() time.Time

	mu    sync.Mutex
	plans map[planKey]*record.Plan // copies taken so far
}

// planKey is what a copy is taken from.
type planKey struct {
	route, sheet, vehicle                      string
	routeVersion, sheetVersion, vehicleVersion int
	gears                                      int
	rate                                       quantity.Money
	lash                                       string
}

// New joins store, book and clock.
func New(store Store, book book.Book, now func() time.Time) *Workshop {
	return &Workshop{Office: shop.New(store, book, now), store: store, book: book, now: now,
		plans: map[planKey]*record.Plan{}}
}

// Order is what a person says to open a rebuild.
type Order struct {
	Vehicle   string      `json:"vehicle"`
	Unit      string      `json:"unit"`
	Complaint string      `json:"complaint"`
	Promised  string      `json:"promised"`
	Odometer  string      `json:"odometer,omitempty"`
	Use       string      `json:"use,omitempty"`
	Told      string      `json:"told,omitempty"`  // what the customer was told
	Facts     *shop.Facts `json:"facts,omitempty"` // as they are now; without them those known of the vehicle
}

// maxAhead bounds a promised date; further away it is a slip.
const maxAhead = 3 * 365 * 24 * time.Hour

// Open takes an order and copies its route from the book.
func (w *Workshop) Open(ctx context.Context, o Order, by people.Person, key string) (opened record.Rebuild,
	replayed bool, err error) {
	if by.Role != people.Mechanic && by.Role != people.Lead {
		return record.Rebuild{}, false, say.Refuse(say.Forbidden, say.ReadersOpen)
	}
	known, err := w.store.Vehicle(ctx, o.Vehicle)
	if err != nil {
		return record.Rebuild{}, false, err
	}
	now := w.now().UTC().Truncate(time.Microsecond)
	vehicle, unit, err := o.check(known, now)
	if err != nil {
		return record.Rebuild{}, false, err
	}
	p, err := w.copy(ctx, unit, vehicle.ID)
	if err != nil {
		return record.Rebuild{}, false, err
	}
	r := record.Rebuild{
		ID: say.NewID(), Complaint: strings.TrimSpace(o.Complaint), Vehicle: vehicle, Unit: unit,
		Use: o.Use, Odometer: o.Odometer, Promised: o.Promised, OpenedAt: now, OpenedBy: by,
		PlanHash: p.Hash, Told: strings.TrimSpace(o.Told), Facts: cmp.Or(o.Facts, known.Facts),
	}
	r.Place = record.Ledger{Rebuild: r, Plan: p}.State().Standing()
	var link shop.Link
	if known.Customer != "" {
		link = shop.NewLink(known.Customer)
		r.Customer = link.Digest()
	}
	asked, err := json.Marshal(o)
	if err != nil {
		return record.Rebuild{}, false, err
	}
	return w.store.Open(ctx, r, link, p, Write{Key: key, Digest: seal.Digest("order", string(asked), by.Login)})
}

func (o Order) check(vehicle shop.Vehicle, now time.Time) (shop.Vehicle, shop.Unit, error) {
	var faults input.Fields
	if vehicle.ID == "" {
		faults.Add("vehicle", "a vehicle of the fleet", "%q is not a known vehicle", o.Vehicle)
	}
	unit := withID(vehicle.Units, o.Unit, func(u shop.Unit) string { return u.ID })
	if unit.ID == "" { // of old, a unit was named within its vehicle
		unit = withID(vehicle.Units, vehicle.ID+"."+o.Unit, func(u shop.Unit) string { return u.ID })
	}
	if vehicle.ID != "" && unit.ID == "" {
		faults.Add("unit", say.ListOf(vehicle.Units, func(u shop.Unit) string { return u.ID }), "%s has no unit %q",
			vehicle.Name, o.Unit)
	}
	o.Facts.Check(&faults, "facts")
	if text.Length(o.Told) > say.MaxText {
		faults.Add("told", "up to 2000 characters", "the text is too long")
	}
	if strings.TrimSpace(o.Complaint) == "" || text.Length(o.Complaint) > say.MaxText {
		faults.Add("complaint", "the customer's words, up to 2000 characters", "type the customer's complaint")
	}
	if day, err := time.Parse(time.DateOnly, o.Promised); err != nil {
		faults.Add("promised", "a day like 2026-11-27", "%q is not a day", o.Promised)
	} else if day.Before(now.AddDate(0, 0, -1)) || day.After(now.Add(maxAhead)) {
		faults.Add("promised", "today or later", "%s is in the past", o.Promised)
	}
	for name, said := range map[string]string{"odometer": o.Odometer, "use": o.Use} {
		if text.Length(said) > 200 {
			faults.Add(name, "up to 200 characters", "the text is too long")
		}
	}
	return shop.Vehicle{ID: vehicle.ID, Name: vehicle.Name}, unit, faults.Err()
}

// withID finds one of a list; the zero value when there is none.
func withID[T any](list []T, id string, of func(T) string) (found T) {
	if i := slices.IndexFunc(list, func(x T) bool { return of(x) == id }); i >= 0 {
		found = list[i]
	}
	return found
}

// Kept is an entry that is on record, and the record as it was right after it.
type Kept struct {
	record.Entry
	after record.Ledger
	step  string
	by    people.Person
	now   time.Time
}

// Now is how rebuild and step stand with the entry; the step is left out when it
// has more entries than most.
func (k Kept) Now(most int) (record.Sheet, record.StepView, error) {
	step, _ := k.after.Plan.Step(k.step)
	sheet := record.MakeSheet(k.after)
	if len(k.after.State().At(step).All) > most {
		return sheet, nil, nil
	}
	view, err := record.MakeStep(k.after, k.step, k.by, k.now)
	return sheet, view, err
}

// Asking is the session, by its digest, of somebody signed in who writes, and since
// when it is; the zero value where nobody is.
type Asking struct {
	Session string
	Since   time.Time
}

// provedFor is how long somebody who said who he is may sign without saying it again.
const provedFor = 2 * time.Minute

func (a Asking) isStale(now time.Time) bool { return a.Session != "" && now.Sub(a.Since) > provedFor }

// Append writes one entry at a step. Where somebody signed in asks: if his session
// has ended, or his role is another, nothing is kept.
func (w *Workshop) Append(ctx context.Context, from Asking, id, step string, d record.Draft, by people.Person,
	key string) (Kept, bool, error) {
	asked, err := json.Marshal(d)
	if err != nil {
		return Kept{}, false, err
	}
	write := Write{key, seal.Digest(step, string(asked), by.Login), from.Session}
	kept := Kept{step: step, by: by}
	var after record.Ledger
	e, replayed, err := w.store.Append(ctx, id, write, func(l record.Ledger) (record.Proposal, error) {
		kept.now = w.now()
		l.Stale = from.isStale(kept.now)
		l.SheetNow = func() (book.SpecSheet, error) { return w.sheetFor(ctx, l) }
		p, err := record.Propose(l, step, d, by, kept.now)
		after = p.After
		return p, err
	})
	kept.Entry, kept.after = e, after
	if err == nil && replayed { // it was kept before: the record is as it is by now
		kept.now = w.now()
		kept.after, err = w.store.Ledger(ctx, id)
	}
	return kept, replayed, err
}

// Preview answers what Append would, and keeps nothing.
func (w *Workshop) Preview(ctx context.Context, id, step string, d record.Draft, by people.Person) (record.Entry,
	error) {
	l, err := w.store.Ledger(ctx, id)
	if err != nil {
		return record.Entry{}, err
	}
	l.SheetNow = func() (book.SpecSheet, error) { return w.sheetFor(ctx, l) }
	entry, _, err := record.Try(l, step, d, by, w.now())
	return entry, err
}

// Sheet reads a rebuild at one glance.
func (w *Workshop) Sheet(ctx context.Context, id string) (record.Sheet, error) {
	l, err := w.store.Ledger(ctx, id)
	if err != nil {
		return record.Sheet{}, err
	}
	return record.MakeSheet(l), nil
}

// Step reads one step as the bench shows it to a person.
func (w *Workshop) Step(ctx context.Context, id, step string, by people.Person) (record.StepView, error) {
	l, err := w.store.Ledger(ctx, id)
	if err != nil {
		return nil, err
	}
	l.SheetNow = func() (book.SpecSheet, error) { return w.sheetFor(ctx, l) }
	l.Shop = func() (shop.Shop, error) {
		shop, _, err := w.store.Shop(ctx)
		return shop, err
	}
	return record.MakeStep(l, step, by, w.now())
}

// Ledger reads a rebuild with its record, for reports.
func (w *Workshop) Ledger(ctx context.Context, id string) (record.Ledger, error) {
	return w.store.Ledger(ctx, id)
}

// Board lists rebuilds.
func (w *Workshop) Board(ctx context.Context, q BoardQuery) ([]record.Rebuild, error) {
	return w.store.Board(ctx, q)
}

// Plan reads a copy of the book by its hash.
func (w *Workshop) Plan(ctx context.Context, hash string) (*record.Plan, error) {
	return w.store.Plan(ctx, hash)
}

// Exists tells whether there is such a rebuild; the error says no.
func (w *Workshop) Exists(ctx context.Context, id string) error { return w.store.Exists(ctx, id) }

// KeepPhoto keeps a picture for a rebuild, under a new id. One that is sent again
// with its key is kept once.
func (w *Workshop) KeepPhoto(ctx context.Context, rebuild string, p picture.Picture, key string,
	by people.Person) (Photo, error) {
	if by.Role != people.Mechanic && by.Role != people.Lead {
		return Photo{}, say.Refuse(say.Forbidden, say.ReadersPicture)
	}
	id := say.NewID()
	if key != "" {
		id = uuid.NewSHA1(uuid.NameSpaceOID, []byte(rebuild+" "+by.Login+" "+key+" "+p.SHA256)).String()
	}
	photo := Photo{Picture: p, ID: id, Rebuild: rebuild, By: by, At: w.now().UTC().Truncate(time.Microsecond)}
	return photo, w.store.KeepPhoto(ctx, photo)
}

// Photo reads a picture.
func (w *Workshop) Photo(ctx context.Context, id string) (Photo, error) {
	return w.store.Photo(ctx, id)
}
