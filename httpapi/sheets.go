package httpapi

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/report"
	"handwerk/workshop"
	"handwerk/workshop/shop"
)

// sheetsView are the spec sheets there are.
type sheetsView struct {
	Sheets []shop.FoundSheet `json:"sheets"`
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

// SheetLines say some lines of a sheet otherwise; one without a figure is no longer said.
type SheetLines struct {
	ID      string      `path:"id" json:"-"`
	Version int         `json:"version"` // on which it stands
	Lines   []book.Line `json:"lines"`
	Why     string      `json:"why"`
}

// SheetImport lays the lines of a file over a sheet.
type SheetImport struct {
	ID      string `path:"id" json:"-"`
	Version int    `json:"version"` // on which it stands
	Text    string `json:"text"`    // of a CSV or JSON file, as a sheet is given out
	Why     string `json:"why"`
}

// StackKept names the step at which parts came off.
type StackKept struct {
	ID   string `path:"id" json:"-"`
	Step string `json:"step"`
}

// KitKept is a kit made from lines of a rebuild's parts list.
type KitKept struct {
	ID string `path:"id" json:"-"`
	workshop.KitMade
}

// FigureKept names a figure that was said at a bench.
type FigureKept struct {
	ID    string `path:"id" json:"-"`
	Entry string `json:"entry"`
}

func (a shopDesk) sheetEndpoints() []endpoint {
	w := a.Workshop
	return []endpoint{
		get(
			a.api,
			"/sheets",
			"sheets",
			"the spec sheets there are",
			signedIn,
			func(c call, _ nothing) (sheetsView, error) {
				list, err := w.Sheets.List(c.Context())
				return sheetsView{list}, err
			},
		),
		post(a.api, "/sheets", "beginSheet", "begin a spec sheet, empty or like another", leads, http.StatusCreated,
			func(c call, in NewSheet) (shop.SheetPage, error) {
				return w.Sheets.Begin(c.Context(), in.Family, in.Like, c.person())
			}),
		get(a.api, "/sheets/:id", "specSheet", "a spec sheet with its versions: who, when, why, what changed", signedIn,
			func(c call, in idIn) (shop.SheetPage, error) {
				return w.Sheets.Page(c.Context(), in.ID)
			}),
		post(a.api, "/sheets/:id", "writeSheet", "the next version of a spec sheet", leads, http.StatusOK, func(
			c call, in SheetWritten,
		) (shop.SheetPage, error) {
			if in.Sheet.ID != in.ID {
				return shop.SheetPage{}, input.At("sheet.id", in.ID, "%q is another sheet", in.Sheet.ID)
			}
			return w.Sheets.Write(c.Context(), in.Sheet, in.Why, c.person())
		}),
		post(a.api, "/sheets/:id/figures", "setFigures",
			"the next version of a spec sheet, with some of its lines said otherwise", leads, http.StatusOK, func(
				c call, in SheetLines,
			) (shop.SheetPage, error) {
				return w.Sheets.SetFigures(c.Context(), in.ID, in.Version, in.Lines, in.Why, c.person())
			}),
		post(a.api, "/sheets/:id/import", "importSheet", "the next version of a spec sheet, with the lines of a file",
			leads, http.StatusOK, func(
				c call, in SheetImport,
			) (shop.SheetPage, error) {
				lines, inPart, err := report.ReadSheet(in.Text)
				if err != nil {
					return shop.SheetPage{}, err
				}
				if inPart {
					lines, err = w.Sheets.LayOver(c.Context(), in.ID, lines)
				}
				if err != nil {
					return shop.SheetPage{}, err
				}
				return w.Sheets.SetFigures(c.Context(), in.ID, in.Version, lines, in.Why, c.person())
			}),
		raw(a.api, http.MethodGet, "/sheets/:id/sheet.csv", "sheetCSV", "all that a spec sheet says, as a table",
			"text/csv", signedIn, func(c call, in idIn) error {
				return a.sheetFile(c, in.ID, "text/csv; charset=utf-8", "csv", report.WriteSheetTable)
			}),
		raw(a.api, http.MethodGet, "/sheets/:id/sheet.json", "sheetJSON", "a spec sheet as it is kept",
			"application/json", signedIn, func(c call, in idIn) error {
				return a.sheetFile(c, in.ID, "application/json", "json", func(w io.Writer, s book.SpecSheet) error {
					return json.NewEncoder(w).Encode(s)
				})
			}),
		post(a.api, "/rebuilds/:id/kept-stack", "keepStack",
			"keep the parts as they came off as the stack of the unit's family", leads, http.StatusOK, func(
				c call, in StackKept,
			) (shop.SheetPage, error) {
				return w.KeepStack(c.Context(), in.ID, in.Step, c.person())
			}),
		post(a.api, "/rebuilds/:id/kept-kit", "keepKit",
			"keep a kit made from lines of the parts list in the family's spec sheet", leads, http.StatusOK, func(
				c call, in KitKept,
			) (shop.SheetPage, error) {
				return w.KeepKit(c.Context(), in.ID, in.KitMade, c.person())
			}),
		post(a.api, "/rebuilds/:id/kept-figures", "keepFigure",
			"keep a figure that was said at a bench in the unit's spec sheet", leads, http.StatusOK, func(
				c call, in FigureKept,
			) (shop.SheetPage, error) {
				return w.KeepFigure(c.Context(), in.ID, in.Entry, c.person())
			}),
	}
}

// sheetFile gives a sheet out as a file of its family's name.
func (a shopDesk) sheetFile(c call, id, contentType, ending string, write func(io.Writer, book.SpecSheet) error) error {
	page, err := a.Workshop.Sheets.Page(c.Context(), id)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := write(&out, page.Sheet); err != nil {
		return err
	}
	attachedAs(c, fmt.Sprintf("sheet-%s-%d", id, page.Sheet.Version), contentType, ending)
	return c.Send(out.Bytes())
}
