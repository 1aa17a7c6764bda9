package httpapi

import (
	"net/http"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/workshop/shop"
)

// GaugeSaid is how it is with a gauge from now on; without an id it is a new one.
type GaugeSaid struct {
	ID            string       `json:"id,omitempty"`
	Kind          string       `json:"kind"`
	Name          string       `json:"name"`
	Resolution    quantity.Any `json:"resolution"`             // one division
	MPE           quantity.Any `json:"mpe,omitzero"`           // permitted error
	Repeatability quantity.Any `json:"repeatability,omitzero"` // standard deviation when read again
	Due           string       `json:"due,omitempty"`          // day of the next calibration
	Ended         bool         `json:"ended,omitempty"`
}

func (a shopDesk) gaugeEndpoints() []endpoint {
	w := a.Workshop
	list := func(c call) (shop.GaugesPage, error) { return w.Gauges.List(c.Context(), a.Zone()) }
	return []endpoint{
		get(a.api, "/gauges", "gauges", "what the shop reads with, and which kinds steps ask for", signedIn,
			func(c call, _ nothing) (shop.GaugesPage, error) {
				return list(c)
			}),
		post(a.api, "/gauges", "setGauge", "how it is with a gauge from now on", leads, http.StatusOK, func(
			c call, in GaugeSaid,
		) (shop.GaugesPage, error) {
			g := shop.Gauge{
				Instrument: book.Instrument{
					ID: in.ID, Kind: in.Kind, Name: in.Name, Resolution: in.Resolution, MPE: in.MPE,
					Repeatability: in.Repeatability,
				},
				Due: in.Due, Ended: in.Ended,
			}
			if err := w.Gauges.Set(c.Context(), g, c.person()); err != nil {
				return shop.GaugesPage{}, err
			}
			return list(c)
		}),
	}
}
