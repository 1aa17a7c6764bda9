package httpapi

import (
	"net/http"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop"
)

type sheetsView struct {
	Sheets []workshop.FoundSheet `json:"sheets"`
}

// NewSheet begins a spec sheet, empty or like another.
type NewSheet struct {
	Family string `json:"family"`
	Like   string `json:"like,omitempty"` // id of a sheet
}

// SheetWritten is the next version of a sheet; its version says on which one it stands.
type SheetWritten struct {
	ID    string         `path:"id" json:"-"`
	Sheet book.SpecSheet `json:"sheet"`
	Why   string         `json:"why"`
}

// FigureKept names a figure that was said at a bench.
type FigureKept struct {
	ID    string `path:"id" json:"-"`
	Entry string `json:"entry"`
}

func (a *api) sheetEndpoints() []endpoint {
	w := a.Workshop
	return []endpoint{
		get(a, "/sheets", "sheets", "the spec sheets there are", signedIn, func(c call, _ nothing) (sheetsView, error) {
			list, err := w.Sheets(c.Context())
			return sheetsView{list}, err
		}),
		post(a, "/sheets", "beginSheet", "begin a spec sheet, empty or like another", leads, http.StatusCreated, func(c call, in NewSheet) (workshop.SheetPage, error) {
			return w.BeginSheet(c.Context(), in.Family, in.Like, c.person())
		}),
		get(a, "/sheets/:id", "specSheet", "a spec sheet with its versions: who, when, why, what changed", signedIn, func(c call, in idIn) (workshop.SheetPage, error) {
			return w.SheetPage(c.Context(), in.ID)
		}),
		post(a, "/sheets/:id", "writeSheet", "the next version of a spec sheet", leads, http.StatusOK, func(c call, in SheetWritten) (workshop.SheetPage, error) {
			if in.Sheet.ID != in.ID {
				return workshop.SheetPage{}, input.At("sheet.id", in.ID, "%q is another sheet", in.Sheet.ID)
			}
			return w.WriteSheet(c.Context(), in.Sheet, in.Why, c.person())
		}),
		post(a, "/rebuilds/:id/kept-figures", "keepFigure", "keep a figure that was said at a bench in the unit's spec sheet", leads, http.StatusOK, func(c call, in FigureKept) (workshop.SheetPage, error) {
			return w.KeepFigure(c.Context(), in.ID, in.Entry, c.person())
		}),
	}
}
