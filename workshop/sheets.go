package workshop

import (
	"context"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
)

// SheetStore keeps the spec sheets the shop wrote itself, every version.
type SheetStore interface {
	// Sheets lists the latest version of each, without what is on it.
	Sheets(ctx context.Context) ([]FoundSheet, error)
	// SheetVersions reads one, the latest first; none when the shop wrote none.
	SheetVersions(ctx context.Context, id string, most int) ([]SheetVersion, error)
	// KeepSheet keeps the next version; false when somebody was quicker.
	KeepSheet(ctx context.Context, v SheetVersion) (bool, error)
}

// SheetVersion is a spec sheet as somebody wrote it.
type SheetVersion struct {
	Sheet book.SpecSheet `json:"sheet"`
	By    Person         `json:"by"`
	At    time.Time      `json:"at"`
	Why   string         `json:"why"`
}

// SpecSheet is the sheet of a family as it is now: the shop's own, or the book's.
func (w *Workshop) SpecSheet(ctx context.Context, id string) (book.SpecSheet, error) {
	own, err := w.store.SheetVersions(ctx, id, 1)
	if err != nil {
		return book.SpecSheet{}, err
	}
	if len(own) > 0 {
		return own[0].Sheet, nil
	}
	if s, ok := w.book.Sheet(id); ok {
		return s, nil
	}
	return book.SpecSheet{}, input.At("", "a unit with a spec sheet", "there is no spec sheet %q", id)
}

// Sheets lists all families there is a sheet for.
func (w *Workshop) Sheets(ctx context.Context) ([]FoundSheet, error) {
	list, err := w.store.Sheets(ctx)
	for _, s := range w.book.Sheets {
		if !slices.ContainsFunc(list, func(x FoundSheet) bool { return x.ID == s.ID }) {
			list = append(list, FoundSheet{s.ID, s.Family, s.Version})
		}
	}
	slices.SortFunc(list, func(a, b FoundSheet) int { return strings.Compare(a.Family, b.Family) })
	return list, err
}

// newSheet begins one that says no more than the family's name.
func (w *Workshop) newSheet(ctx context.Context, family string, by Person) (string, error) {
	s := book.SpecSheet{ID: "own-" + NewID(), Family: family, Version: 1}
	_, err := w.store.KeepSheet(ctx, SheetVersion{s, by, w.now().UTC().Truncate(time.Microsecond), "begun at intake"})
	return s.ID, err
}
