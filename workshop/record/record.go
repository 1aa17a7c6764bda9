// Package record holds the rules of the record: what a rebuild is, which entries
// a step takes and in which order, what is done and what comes next. A kind of
// step is a value that it asks; kinds has them all. It keeps nothing itself.
package record

import (
	"encoding/json"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
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

// Act is what an entry does at its step.
type Act string

// The acts; rules.go says which step takes which.
const (
	ActOutcome     Act = "outcome"     // check, test: how an item turned out
	ActRemoved     Act = "removed"     // stack: a part came off, or was not there
	ActVerdict     Act = "verdict"     // stack: reuse, rework, replace, not found
	ActFitted      Act = "fitted"      // stack: a part went back, or was left out
	ActReading     Act = "reading"     // measure: one indicated value
	ActFit         Act = "fit"         // measure: a pack was fitted; a new trial begins
	ActAgain       Act = "again"       // measure: something was changed; a new trial begins
	ActReckon      Act = "reckon"      // measure: worked out from what is known
	ActAccept      Act = "accept"      // measure: taken as it is, with a reason
	ActTorqued     Act = "torqued"     // torque: one bolt in one pass
	ActFilled      Act = "filled"      // fill: fluid and quantity
	ActStart       Act = "start"       // wait: the clock starts, by a school
	ActEnd         Act = "end"         // wait: the clock is over
	ActDecision    Act = "decision"    // decide
	ActWays        Act = "ways"        // decide: the ways as they are weighed for this unit
	ActAgreed      Act = "agreed"      // decide: the customer said yes, up to a sum
	ActAcknowledge Act = "acknowledge" // a caution was read
	ActPhoto       Act = "photo"       // a picture, or why there is none
	ActOverride    Act = "override"    // a gate is opened with a reason
	ActSheet       Act = "sheet"       // a newer version of the spec sheet is taken
	ActFigure      Act = "figure"      // of the spec sheet, said where a step wants it
	ActSkip        Act = "skip"        // the whole step is not needed here, with a reason
	ActNote        Act = "note"        // a remark, at any step
	ActFound       Act = "found"       // something found along the way, at any step
	ActTime        Act = "time"        // how long somebody really was at a step
	ActPromised    Act = "promised"    // another day was promised the customer, at any step
	ActStrike      Act = "strike"      // an entry is withdrawn; it stays readable
	ActWanted      Act = "wanted"      // order: lines are put on the parts list, or known better
	ActOrdered     Act = "ordered"     // order: lines were ordered, or sent out
	ActCame        Act = "came"        // order: lines came in, were held against the old, went back
)

// Piece is n shims of one size, as the drawer names them.
type Piece struct {
	Thickness quantity.Said[quantity.Length] `json:"thickness"`
	Count     int                            `json:"count"`
	Loose     bool                           `json:"loose,omitempty"`  // in place already, or bought: out of no drawer
	Drawer    string                         `json:"drawer,omitempty"` // it came out of; set by us, missing before drawers had names of their own
}

// Body is what a person says with an entry. Which fields an act takes is
// checked in rules.go.
type Body struct {
	Outcome    string       `json:"outcome,omitempty"`
	Value      quantity.Any `json:"value,omitzero"`
	Typed      string       `json:"typed,omitempty"` // the value as it was written; set by us
	Note       string       `json:"note,omitempty"`
	Reason     string       `json:"reason,omitempty"`
	Settled    string       `json:"settled,omitempty"` // what became of a find: done, advised, refused
	Name       string       `json:"name,omitempty"`
	Sum        float64      `json:"sum,omitempty"` // money, in the shop's currency
	Faces      string       `json:"faces,omitempty"`
	Tray       string       `json:"tray,omitempty"`
	Mark       string       `json:"mark,omitempty"`   // a tag, a paint mark
	Damage     string       `json:"damage,omitempty"` // as it was seen when it came off
	Bolts      string       `json:"bolts,omitempty"`  // the fasteners that held it
	Shaft      string       `json:"shaft,omitempty"`  // the axis a part lay on that no plan lists
	Behind     string       `json:"behind,omitempty"` // id of the part it lay behind, - in front of all
	Photo      string       `json:"photo,omitempty"`
	PhotoHash  string       `json:"photo_hash,omitempty"` // SHA-256 of the picture, so that the chain covers it; set by us
	Instrument string       `json:"instrument,omitempty"`
	Gauge      *shop.Gauge  `json:"gauge,omitempty"`   // the shop's own, as it was when it was read with; set by us
	Minutes    int          `json:"minutes,omitempty"` // it really took
	Spent      int          `json:"spent,omitempty"`   // seconds at the step before it was said, since the screen was opened there or the last entry
	Pass       int          `json:"pass,omitempty"`
	Bolt       int          `json:"bolt,omitempty"`
	Pack       []Piece      `json:"pack,omitempty"`
	Work       string       `json:"work,omitempty"`     // how a part is reworked
	Wear       *Worn        `json:"wear,omitempty"`     // what was measured of it
	Chain      []ChainLink  `json:"chain,omitempty"`    // what let go first, and what that took with it
	Lines      []OrderLine  `json:"lines,omitempty"`    // of the parts list
	Supplier   string       `json:"supplier,omitempty"` // they come from
	Due        string       `json:"due,omitempty"`      // a day: 2026-11-27; they come, or the rebuild is promised for

	Sheet  *book.SpecSheet `json:"sheet,omitempty"`  // that was taken; set by us
	Figure json.RawMessage `json:"figure,omitempty"` // as it would stand on the sheet
	Origin Origin          `json:"origin,omitempty" enum:"makers-book,plate,measured,measured-here,judgement,not-known"`
}

// given is a field of a body that somebody filled in, with its text if it has one.
type given struct{ Name, Text string }

// given lists the fields that are filled in, in the order of their names.
func (b Body) Given() []given {
	all := []given{
		{"behind", b.Behind}, {"bolt", filled(b.Bolt != 0)}, {"bolts", b.Bolts}, {"chain", filled(len(b.Chain) > 0)},
		{"damage", b.Damage}, {"due", b.Due}, {"faces", b.Faces}, {"figure", filled(len(b.Figure) > 0)},
		{"gauge", filled(b.Gauge != nil)}, {"instrument", b.Instrument}, {"lines", filled(len(b.Lines) > 0)},
		{"mark", b.Mark}, {"minutes", filled(b.Minutes != 0)}, {"name", b.Name}, {"note", b.Note},
		{"origin", string(b.Origin)}, {"outcome", b.Outcome}, {"pack", filled(len(b.Pack) > 0)},
		{"pass", filled(b.Pass != 0)}, {"photo", b.Photo}, {"photo_hash", b.PhotoHash}, {"reason", b.Reason},
		{"settled", b.Settled}, {"shaft", b.Shaft}, {"sheet", filled(b.Sheet != nil)}, {"sum", filled(b.Sum != 0)},
		{"supplier", b.Supplier}, {"tray", b.Tray}, {"typed", b.Typed}, {"value", filled(!b.Value.IsZero())},
		{"wear", filled(b.Wear != nil)}, {"work", b.Work},
	}
	return slices.DeleteFunc(all, func(g given) bool { return g.Text == "" })
}

// filled stands for what is there and no text.
func filled(there bool) string {
	if there {
		return "-"
	}
	return ""
}

// Draft is an entry as asked for.
type Draft struct {
	Act        Act    `json:"act"`
	Item       Place  `json:"item,omitzero"`
	Supersedes string `json:"supersedes,omitempty"`
	Body
}

// Entry is one append-only record at a step.
type Entry struct {
	ID         string            `json:"id"`
	Seq        int               `json:"seq"`
	Step       string            `json:"step"`
	Act        Act               `json:"act"`
	Item       Place             `json:"item,omitzero"`
	Supersedes string            `json:"supersedes,omitempty"`
	Body       json.RawMessage   `json:"body"`
	Result     json.RawMessage   `json:"result,omitempty"`
	Method     string            `json:"method,omitempty"`
	Verdict    metrology.Verdict `json:"verdict,omitempty"`
	By         people.Person     `json:"by"`
	At         time.Time         `json:"at"`
	Hash       string            `json:"hash"`

	Decoded *Body `json:"-"` // the body read, when it was
}

// Said reads the body back.
func (e Entry) Said() Body {
	if e.Decoded != nil {
		return *e.Decoded
	}
	var b Body
	// Bodies are written by this package only; verify proves they are unchanged.
	_ = json.Unmarshal(e.Body, &b)
	return b
}

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
