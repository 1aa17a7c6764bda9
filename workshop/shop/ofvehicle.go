package shop

import (
	"context"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
)

// What belongs to a vehicle, its wheel nuts, its mounts, its tyres, stays with it
// whatever unit comes out of it next: it has a spec sheet of its own, written as
// those of the families are, and laid over the family's when a rebuild opens.

// VehicleSheet begins the name of a vehicle's own sheet; its id follows.
const VehicleSheet = "vehicle-"

// ofVehicle is a vehicle's own sheet, version 0 while nothing is written.
func (w Sheets) ofVehicle(ctx context.Context, id string) (book.SpecSheet, error) {
	own, err := w.store.SheetVersions(ctx, VehicleSheet+id, 1)
	if err != nil {
		return book.SpecSheet{}, err
	}
	if len(own) > 0 {
		return own[0].Says, nil
	}
	v, err := w.store.Vehicle(ctx, id)
	if err != nil {
		return book.SpecSheet{}, err
	}
	if v.ID == "" {
		return book.SpecSheet{}, input.At("", "a vehicle of the fleet", "there is no such vehicle")
	}
	return book.SpecSheet{ID: VehicleSheet + id, Family: v.Name}, nil
}

// For is a family's sheet as it holds for a vehicle, with the version of
// what the vehicle says itself.
func (w Sheets) For(ctx context.Context, family, vehicle string) (spec book.SpecSheet, version int, err error) {
	if spec, err = w.Now(ctx, family); err != nil {
		return spec, 0, err
	}
	own, err := w.store.SheetVersions(ctx, VehicleSheet+vehicle, 1)
	if err != nil || len(own) == 0 {
		return spec, 0, err
	}
	lines, err := own[0].Says.Lines()
	if err != nil {
		return spec, 0, err
	}
	for _, l := range lines {
		if err := spec.Lay(l.Path, l.Figure); err != nil {
			return spec, 0, err
		}
	}
	return spec, own[0].Version, nil
}

// glossaryFor is what the book knows that a sheet may say: a vehicle's says
// what is of the vehicle.
func (w Sheets) glossaryFor(sheet string) []book.Figure {
	if !strings.HasPrefix(sheet, VehicleSheet) {
		return slices.Concat(w.book.Glossary, stackFigures(w.book.Kinds, w.book.Routes))
	}
	return slices.DeleteFunc(slices.Clone(w.book.Glossary), func(f book.Figure) bool { return f.Of != book.OfVehicle })
}
