// Package shop holds what a shop has and writes down besides the record:
// customers, vehicles and units, spec sheets, routes, drawers, gauges. It knows
// no entry; see Store for what keeps it.
package shop

import (
	"context"
	"time"

	"handwerk/book"
)

// Store keeps what the shop has and writes down, besides the record.
type Store interface {
	FleetStore
	SheetStore
	RouteStore
	DrawerStore
	GaugeStore
	PracticeStore
	// Shop reads what the workshop says of itself; false before it has said anything.
	Shop(ctx context.Context) (Shop, bool, error)
}

// Office is what a shop has, ready for requests.
type Office struct {
	Fleet    Fleet
	Sheets   Sheets
	Routes   Routes
	Drawers  Drawers
	Gauges   Gauges
	Practice Practice
}

// The desks of an office, one for each thing it keeps.
type (
	Fleet   struct{ desk } // customers, vehicles, units
	Sheets  struct{ desk } // spec sheets of families and vehicles
	Routes  struct{ desk } // what the shop does otherwise on the book's routes
	Drawers struct{ desk } // shims, washers, cans
	Gauges  struct{ desk } // what is read with
	// Practice is what the shop's people practise on; nothing of it is on record.
	Practice struct{ desk }
)

type desk struct {
	store Store
	book  book.Book
	now   func() time.Time
}

// New joins store, book and clock.
func New(store Store, book book.Book, now func() time.Time) Office {
	d := desk{store, book, now}
	return Office{Fleet{d}, Sheets{d}, Routes{d}, Drawers{d}, Gauges{d}, Practice{d}}
}

func (d desk) sheets() Sheets { return Sheets{d} }
