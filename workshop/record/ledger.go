package record

import (
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/workshop/shop"
)

// Ledger is one rebuild with its record, and what the rules ask beyond it.
type Ledger struct {
	Rebuild Rebuild
	Plan    *Plan
	Entries []Entry
	Zone    *time.Location  // of the shop, for times in words; nil is UTC
	Units   quantity.System // the shop reads in first; empty: as each step has it
	// Currency of the shop, three letters; empty in an archive.
	Currency string
	state    *State // folded from Entries, when that was done before
	Asks
}

// Asks is what the rules may ask beyond the record, each nil where nobody asks.
// It belongs to one request; a record that is kept for the next is kept without.
type Asks struct {
	// Stale: who asks said some while ago who he is.
	Stale  bool
	Drawer func(name string) (Drawer, error)
	// DrawerOf is the drawer that the shop keeps for what the book names, for this
	// family: empty where nobody said so yet. Where nobody asks, it is the book's own.
	DrawerOf func(wanted string) (string, error)
	// DrawerNames are all drawers of the shop.
	DrawerNames func() ([]shop.DrawerName, error)
	Photo       func(id string) (sha256 string, err error) // empty when the rebuild has none such
	// Confirmed counts the shop's root causes, by id.
	Confirmed func() (map[string]int, error)
	// SheetNow is the family's spec sheet as it is now.
	SheetNow func() (book.SpecSheet, error)
	// Shop is when and how the shop works.
	Shop func() (shop.Shop, error)
	// Gauges are the shop's own as they are now.
	Gauges func() ([]shop.Gauge, error)
	// Repeats are what the gauges' own repeat readings tell of them, by their ids.
	Repeats func() (map[string]metrology.Pool, error)
	// Earlier are the last few rebuilds of the same unit before this one, the
	// latest first.
	Earlier func() ([]Ledger, error)
}

// State is where every step stands. A ledger that was kept folded knows it.
func (l Ledger) State() *State {
	if l.state != nil {
		return l.state
	}
	s := Fold(l.Plan, l.Entries)
	s.Zone, s.Units, s.Currency, s.order = l.Zone, l.Units, l.Currency, &l.Rebuild
	s.Promised = lastPromised(s)
	if len(s.orderFigures()) > 0 {
		s.reground()
	}
	return s
}

// Fold is the ledger with its state worked out, to be kept and grown.
func (l Ledger) Fold() Ledger {
	l.state = l.State()
	return l
}

// With is a folded ledger with one more entry, which the caller knows to be
// next in the chain. The ledger it comes from stays as it is.
func (l Ledger) With(e Entry) Ledger {
	l.state = l.State().with(e)
	l.Entries = l.state.Entries
	l.Rebuild.Head = Head{e.Seq, e.Hash}
	l.Rebuild.Place = l.state.Standing()
	return l
}

// Proposal is an entry ready to be kept, with what it takes from the drawer
// and the ledger as it is afterwards.
type Proposal struct {
	Entry Entry
	Moves []Move
	After Ledger
}

// notBefore keeps a clock that was set back from making an entry older than
// the one before it.
func (l Ledger) notBefore(now time.Time) time.Time {
	now = now.UTC().Truncate(time.Microsecond)
	last := l.Rebuild.OpenedAt
	if n := len(l.Entries); n > 0 {
		last = l.Entries[n-1].At
	}
	if now.Before(last) {
		return last
	}
	return now
}

// Drawer is what one drawer holds.
type Drawer []shim.StockItem

// Move takes shims from a drawer (negative: puts them back).
type Move struct {
	Drawer    string
	Thickness string // as the drawer writes it
	Count     int
}
