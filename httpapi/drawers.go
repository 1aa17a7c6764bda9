package httpapi

import (
	"bytes"
	"net/http"
	"slices"

	"handwerk/report"
	"handwerk/workshop/shop"
)

// drawersView are all drawers of the shop.
type drawersView struct {
	Drawers []shop.DrawerPage `json:"drawers"`
}

// DrawerCount says how it is with some sizes of a drawer, and why that is said.
type DrawerCount struct {
	ID    string            `path:"id" json:"-"`
	Title string            `json:"title,omitempty"` // as the shop calls it; unsaid, it stays
	Lines []shop.DrawerLine `json:"lines"`
	Why   string            `json:"why"`
}

// drawerOfStep says which drawer a step's packs come from.
type drawerOfStep struct {
	stepIn
	Drawer string `json:"drawer"`
}

// DrawerImport counts a drawer by a file.
type DrawerImport struct {
	ID   string `path:"id" json:"-"`
	Text string `json:"text"` // CSV, as a drawer is given out
	Why  string `json:"why"`
}

func (a shopDesk) drawerEndpoints() []endpoint {
	w := a.Workshop
	return []endpoint{
		get(a.api, "/drawers", "drawers", "what lies in the shop's drawers, and what went in and out", signedIn,
			func(c call, _ nothing) (drawersView, error) {
				list, err := w.Drawers.List(c.Context())
				return drawersView{list}, err
			}),
		post(
			a.api,
			"/drawers/:id",
			"countDrawer",
			"count some sizes of a drawer, or begin one",
			hands,
			http.StatusOK,
			func(
				c call, in DrawerCount,
			) (drawersView, error) {
				list, err := w.Drawers.Set(c.Context(), shop.DrawerName{ID: in.ID, Title: in.Title}, in.Lines, in.Why,
					c.person())
				return drawersView{list}, err
			},
		),
		post(a.api, "/drawers/:id/import", "importDrawer", "count a drawer by a file", hands, http.StatusOK, func(
			c call, in DrawerImport,
		) (drawersView, error) {
			lines, err := report.ReadDrawerTable(in.Text)
			if err != nil {
				return drawersView{}, err
			}
			list, err := w.Drawers.Set(c.Context(), shop.DrawerName{ID: in.ID}, lines, in.Why, c.person())
			return drawersView{list}, err
		}),
		post(
			a.api, "/rebuilds/:id/steps/:step/drawer", "takeFromDrawer",
			"which drawer a step's packs come from, for the whole family",
			hands, http.StatusNoContent, func(c call, in drawerOfStep) (nothing, error) {
				return nothing{}, w.TakeFrom(c.Context(), in.ID, in.Step, in.Drawer, c.person())
			},
		),
		raw(a.api, http.MethodGet, "/drawers/:id/drawer.csv", "drawerCSV", "what lies in a drawer, as a table",
			"text/csv", signedIn, a.drawerFile),
	}
}

func (a shopDesk) drawerFile(c call, in idIn) error {
	list, err := a.Workshop.Drawers.List(c.Context())
	if err != nil {
		return err
	}
	i := slices.IndexFunc(list, func(d shop.DrawerPage) bool { return d.ID == in.ID })
	if i < 0 {
		return problem(http.StatusNotFound, "Not here", "There is no such drawer.")
	}
	var out bytes.Buffer
	if err := report.WriteDrawerTable(&out, list[i]); err != nil {
		return err
	}
	attachedAs(c, "drawer-"+in.ID, "text/csv; charset=utf-8", "csv")
	return c.Send(out.Bytes())
}
