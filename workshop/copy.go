package workshop

import (
	"context"
	"encoding/json"
	"maps"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/kinds"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// sheetFor is the sheet of a rebuild as it would be copied now.
func (w *Workshop) sheetFor(ctx context.Context, l record.Ledger) (book.SpecSheet, error) {
	spec, _, err := w.Sheets.For(ctx, l.Plan.Sheet.ID, l.Rebuild.Vehicle.ID)
	if err != nil {
		return spec, err
	}
	b, _, err := w.bookHere(ctx)
	if err != nil {
		return spec, err
	}
	return b.Filled(spec), nil
}

// bookHere is the book with what the shop says of itself where a spec sheet
// does not say: what an hour costs.
func (w *Workshop) bookHere(ctx context.Context) (b book.Book, rate quantity.Money, err error) {
	b = w.book
	shop, _, err := w.store.Shop(ctx)
	if err != nil || shop.HourlyRate == 0 {
		return b, 0, err
	}
	raw, err := json.Marshal(shop.HourlyRate)
	b.Figures = maps.Clone(b.Figures)
	if b.Figures == nil {
		b.Figures = map[string]json.RawMessage{}
	}
	b.Figures["hourly-rate"] = raw
	return b, shop.HourlyRate, err
}

// copy takes the route of a unit, as the shop goes it, and its sheet, as it holds
// for the vehicle.
func (w *Workshop) copy(ctx context.Context, u shop.Unit, vehicle string) (*record.Plan, error) {
	spec, ofVehicle, err := w.Sheets.For(ctx, u.Sheet, vehicle)
	if err != nil {
		return nil, input.Below("unit", err)
	}
	going, version, err := w.Routes.Going(ctx, u.Route)
	if err != nil {
		return nil, err
	}
	b, rate, err := w.bookHere(ctx)
	if err != nil {
		return nil, err
	}
	learned, err := lessons(ctx, w.store, u.Sheet)
	if err != nil {
		return nil, err
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	known := planKey{
		u.Route,
		u.Sheet,
		"",
		version,
		spec.Version,
		ofVehicle,
		u.Gears,
		rate,
		string(learned[book.LearnedLash]),
	}
	if ofVehicle > 0 { // else all vehicles share one copy
		known.vehicle = vehicle
	}
	if p, ok := w.plans[known]; ok {
		return p, nil
	}
	c := b.CopyAlong(going, spec, u.Gears)
	c.Learned = learned
	p, err := kinds.NewPlan(c)
	if err == nil {
		w.plans[known] = p
	}
	return p, err
}

// lessons are what earlier units of a family taught; nil where nothing.
func lessons(ctx context.Context, store Store, sheet string) (map[string]json.RawMessage, error) {
	taught, err := store.LastAxle(ctx, sheet)
	if err != nil || taught == nil {
		return nil, err
	}
	raw, err := json.Marshal(taught)
	return map[string]json.RawMessage{book.LearnedLash: raw}, err
}
