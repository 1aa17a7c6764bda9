// Package record holds the rules of the record: what a rebuild is, which entries
// a step takes and in which order, what is done and what comes next. A kind of
// step is a value that it asks; kinds has them all. It keeps nothing itself.
package record

import (
	"encoding/json"
	"sync"
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
	"handwerk/workshop/seal"
	"handwerk/workshop/shop"
)

// Rebuild is the order: one unit out of one vehicle, from complaint to
// hand-over.
type Rebuild struct {
	ID        string        `json:"id"`
	Number    string        `json:"number"` // like 26-014
	Complaint string        `json:"complaint"`
	Vehicle   shop.Vehicle  `json:"vehicle"`
	Unit      shop.Unit     `json:"unit"`
	Use       string        `json:"use,omitempty"`
	Odometer  string        `json:"odometer,omitempty"`
	Promised  string        `json:"promised"` // a day: 2026-11-27
	OpenedAt  time.Time     `json:"opened_at"`
	OpenedBy  people.Person `json:"opened_by"`
	PlanHash  string        `json:"plan_hash"` // of the copy taken from the book
	Head      Head          `json:"head"`
	Place     Standing      `json:"place"`

	// Told is what the customer was told when he left it here; Facts are the
	// vehicle's figures then; Customer is the digest that stands for him. Sealed
	// where they are said.
	Told     string      `json:"told,omitempty"`
	Facts    *shop.Facts `json:"facts,omitempty"`
	Customer string      `json:"customer,omitempty"`
	// Whose it is now stands apart from the record; nil where nobody asks.
	Whose *shop.Whose `json:"whose,omitempty"`
}

// More is what orders say since customers stand apart; the zero value in those
// from before.
type More struct {
	Told     string      `json:"told,omitempty"`
	Facts    *shop.Facts `json:"facts,omitempty"`
	Customer string      `json:"customer,omitempty"`
}

// More of the order, as it is sealed and kept; nil when it says no more.
func (r Rebuild) More() json.RawMessage {
	if r.Told == "" && r.Facts.IsZero() && r.Customer == "" {
		return nil
	}
	raw, _ := json.Marshal(More{r.Told, r.Facts, r.Customer}) // plain texts, cannot fail
	return raw
}

// Head is the end of the rebuild's chain of entries.
type Head struct {
	Seq  int    `json:"seq"`
	Hash string `json:"hash"`
}

// Standing says where the rebuild stands, for the board.
type Standing struct {
	Station   book.StationID    `json:"station"`
	Step      string            `json:"step"`
	WaitsFor  string            `json:"waits_for"`
	Verdict   metrology.Verdict `json:"verdict,omitempty"` // the one that keeps it there
	Held      bool              `json:"held,omitempty"`
	Done      int               `json:"done"`
	Steps     int               `json:"steps"`
	Closed    bool              `json:"closed"`
	Promised  string            `json:"promised"`             // a day, as it was said last
	HoursLeft float64           `json:"hours_left,omitempty"` // of work, by the way that was taken; 0 where nobody knows
}

// Entry is one append-only record at a step.
type Entry struct {
	ID         string            `json:"id"`
	Seq        int               `json:"seq"`
	Step       string            `json:"step"`
	Act        acts.Name         `json:"act"`
	Item       Place             `json:"item,omitzero"`
	Supersedes string            `json:"supersedes,omitempty"`
	Body       json.RawMessage   `json:"body"`
	Result     json.RawMessage   `json:"result,omitempty"`
	Method     string            `json:"method,omitempty"`
	Verdict    metrology.Verdict `json:"verdict,omitempty"`
	By         people.Person     `json:"by"`
	At         time.Time         `json:"at"`
	Hash       string            `json:"hash"`

	said *decoded // the body, once it was read
}

// decoded is read by whoever asks first.
type decoded struct {
	once sync.Once
	act  acts.Act
}

// ReadAct is what was said.
func (e Entry) ReadAct() acts.Act {
	if e.said == nil {
		return acts.Lenient(e.Act, e.Body)
	}
	e.said.once.Do(func() { e.said.act = acts.Lenient(e.Act, e.Body) })
	return e.said.act
}

// Saying is the entry with other words, for showing it so.
func (e Entry) Saying(said acts.Act) Entry {
	e.said = &decoded{act: said}
	e.said.once.Do(func() {})
	return e
}

// Is tells which act an entry is.
func (e Entry) Is(a acts.Act) bool { return e.Act == a.Name() }

// Chain is the hash of an entry: SHA-256 over the hash before it and every
// field of it, each preceded by its length so that no two entries write alike.
// The first entry follows the hash of the rebuild itself; see Rebuild.Seal.
func (e Entry) Chain(before string) string {
	return seal.Digest(before, e.ID, say.Itoa(e.Seq), e.Step, string(e.Act), e.Item.String(), e.Supersedes,
		string(e.Body), string(e.Result), e.Method, string(e.Verdict),
		e.By.Login, e.By.Name, string(e.By.Role), e.At.UTC().Format(time.RFC3339Nano))
}

// Seal is the hash the chain of a rebuild begins with: the order as opened
// and the plan it was opened with.
func (r Rebuild) Seal() string {
	vehicle, _ := json.Marshal(r.Vehicle) // plain data, cannot fail
	unit, _ := json.Marshal(r.Unit)
	parts := []string{"", r.ID, r.Number, r.Complaint, string(vehicle), string(unit), r.Use, r.Odometer, r.Promised,
		r.OpenedAt.UTC().Format(time.RFC3339Nano), r.OpenedBy.Login, r.OpenedBy.Name, string(r.OpenedBy.Role),
		r.PlanHash}
	if more := r.More(); more != nil {
		parts = append(parts, string(more))
	}
	return seal.Digest(parts...)
}

// Owner is whose unit it is, as it is known now.
func (r Rebuild) Owner() string {
	switch {
	case r.Whose != nil && r.Whose.Erased:
		return say.OwnerErased
	case r.Whose != nil && r.Whose.Name != "":
		return r.Whose.Name
	}
	return r.Vehicle.Owner // from before customers stood apart
}
