package workshop

import (
	"context"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
)

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

// Promises are how many rebuilds are promised for a day.
type Promises struct {
	Day   string `json:"day"`
	Count int    `json:"count"`
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
	sheets, err := w.Sheets.List(ctx)
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

// mostFound of each kind are shown of what a question finds.
const mostFound = 8

// PageStore reads what stands on pages about more than one rebuild.
type PageStore interface {
	// Ledgers reads the records of rebuilds that were just listed.
	Ledgers(ctx context.Context, list []Rebuild) ([]Ledger, error)
	// Customer reads one with vehicles and rebuilds.
	Customer(ctx context.Context, id string) (CustomerPage, error)
	// RebuildsOf a unit, the latest first.
	RebuildsOf(ctx context.Context, unit string) ([]Rebuild, error)
	// FoundIn lists the rebuilds of vehicles in which something was found along the
	// way, the oldest first.
	FoundIn(ctx context.Context, vehicles []string) ([]Rebuild, error)
	// Find looks for all words of a question in everything.
	Find(ctx context.Context, words []string, most int) (Found, error)
	// Promises counts open rebuilds by promised day, from a day to another.
	Promises(ctx context.Context, from, to string) ([]Promises, error)
	// OpenPromises are the open rebuilds in somebody's hands, the earliest promise
	// first, but for one of them.
	OpenPromises(ctx context.Context, login, but string) ([]OpenPromise, error)
}
