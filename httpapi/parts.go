package httpapi

import (
	"bytes"
	"net/http"

	"handwerk/report"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/order"
)

// PartsText is a table of parts as a file has it.
type PartsText struct {
	Text string `json:"text"` // CSV, as a parts list is given out
}

// partsRead are the lines that a file with parts has.
type partsRead struct {
	Lines []acts.OrderLine `json:"lines"`
}

func (a rebuildDesk) partsEndpoints() []endpoint {
	return []endpoint{
		raw(
			a.api, http.MethodGet, "/rebuilds/:id/steps/:step/parts.csv", "partsCSV",
			"the parts list of a rebuild, as a table", "text/csv", signedIn, a.partsFile,
		),
		get(
			a.api, "/rebuilds/:id/costs", "costs",
			"what a rebuild has cost so far, against its estimate and what the customer agreed to", leads, a.costSheet,
		),
		// Read alone: what is in it is put on record by an entry, all lines or none.
		post(
			a.api,
			"/parts/read",
			"readParts",
			"read a table of parts, to put its lines on a list",
			hands,
			http.StatusOK,
			func(
				_ call, in PartsText,
			) (partsRead, error) {
				lines, err := report.ReadParts(in.Text)
				return partsRead{lines}, err
			},
		),
	}
}

func (a rebuildDesk) partsFile(c call, in stepIn) error {
	l, err := a.Workshop.Ledger(c.Context(), in.ID)
	if err != nil {
		return err
	}
	v, err := a.Workshop.Step(c.Context(), in.ID, in.Step, c.person())
	if err != nil {
		return err
	}
	list, ok := v.(*order.OrderStep)
	if !ok {
		return problem(http.StatusNotFound, "Not here", "This step has no parts list.")
	}
	var out bytes.Buffer
	if err := report.WriteParts(&out, list); err != nil {
		return err
	}
	attachedAs(c, "parts-"+l.Rebuild.Number, "text/csv; charset=utf-8", "csv")
	return c.Send(out.Bytes())
}

// costSheet is for leads: what a rebuild has cost so far against the estimate.
func (a rebuildDesk) costSheet(c call, in rebuildIn) (buying.Cost, error) {
	l, err := a.Workshop.Ledger(c.Context(), in.ID)
	if err != nil {
		return buying.Cost{}, err
	}
	return buying.Costs(l), nil
}
