package httpapi

import (
	"bytes"
	"cmp"
	"net/http"
	"net/url"
	"slices"

	"handwerk/core/input"
	"handwerk/report"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
)

func (a rebuildDesk) trayEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/rebuilds/:id/trays", "trays", "where the parts of a rebuild lie", signedIn,
			func(c call, in rebuildIn) (traysView, error) {
				l, err := a.Workshop.Ledger(c.Context(), in.ID)
				if err != nil {
					return traysView{}, err
				}
				return traysView{l.Rebuild, paper.Trays(l)}, nil
			}),
		raw(
			a.api, http.MethodGet, "/rebuilds/:id/trays.pdf", "trayLabels",
			"a label for each tray of a rebuild, with a code that opens it", "application/pdf", signedIn, a.trayLabels,
		),
	}
}

// traysView are the trays of the house.
type traysView struct {
	Rebuild record.Rebuild `json:"rebuild"`
	Trays   []paper.Tray   `json:"trays"`
}

// labelsIn asks for the labels of a rebuild's trays.
type labelsIn struct {
	ID    string `path:"id"`
	Paper string `query:"paper" enum:"A4,Letter,roll" description:"what they are printed on; the shop's paper when nothing is said"`
}

func (a rebuildDesk) trayLabels(c call, in labelsIn) error {
	l, err := a.Workshop.Ledger(c.Context(), in.ID)
	if err != nil {
		return err
	}
	shop, _, err := a.Accounts.Shop(c.Context())
	if err != nil {
		return err
	}
	wanted := cmp.Or(in.Paper, shop.Paper, "A4")
	i := slices.IndexFunc(report.LabelPapers, func(p report.LabelPaper) bool { return p.Name == wanted })
	if i < 0 {
		return input.At("paper", "A4, Letter, roll", "%q is not one of these", wanted)
	}
	scheme := "http"
	if a.Secure {
		scheme = "https"
	}
	base := scheme + "://" + c.Host() + "/trays/" + l.Rebuild.ID + "?tray="
	var out bytes.Buffer
	err = report.WriteTrayLabels(
		&out, l.Rebuild, paper.Trays(l), report.LabelPapers[i],
		func(tray string) string { return base + url.QueryEscape(tray) },
	)
	if err != nil {
		return err
	}
	attachedAs(c, "trays-"+l.Rebuild.Number, "application/pdf", "pdf")
	return c.Send(out.Bytes())
}
