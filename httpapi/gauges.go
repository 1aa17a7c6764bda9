package httpapi

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"time"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/httpapi/follow"
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
	Address       string       `json:"address,omitempty"` // host:port at which it speaks; in the private network
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
				Due: in.Due, Ended: in.Ended, Address: in.Address,
			}
			if g.Address != "" {
				if err := a.Lines.CheckAddress(g.Address); err != nil {
					return shop.GaugesPage{}, err
				}
			}
			if err := w.Gauges.Set(c.Context(), g, c.person()); err != nil {
				return shop.GaugesPage{}, err
			}
			return list(c)
		}),
		giving(follow.Heard{}, raw(
			a.api,
			http.MethodGet,
			"/gauges/:id/stream",
			"followGauge",
			"what a gauge that speaks reads, as it reads it",
			"text/event-stream",
			signedIn,
			a.followGauge,
		)),
	}
}

// followGauge writes what a gauge says, until the browser leaves, its session ends
// or we stop.
func (a shopDesk) followGauge(c call, in idIn) error {
	g, err := a.Workshop.Gauges.Speaking(c.Context(), in.ID)
	if err != nil {
		return err
	}
	screen := a.Hub.Subscribe("gauge "+g.ID, c.session.Digest)
	if screen == nil {
		return tooManyScreens()
	}
	following := a.Lines.Follow(follow.Source{ID: g.ID, Address: g.Address, Resolution: g.Resolution})
	return a.sendEvents(c, eventStream{
		first: "retry: 1000\n\n",
		next: func(w io.Writer, beat <-chan time.Time) (bool, bool) {
			select {
			case h := <-following.Heard:
				raw, _ := json.Marshal(h) // plain fields, cannot fail
				_, _ = fmt.Fprintf(w, "data: %s\n\n", raw)
				return true, false
			case _, ok := <-screen.Events:
				return ok, false
			case <-beat:
				return true, true
			}
		},
		leave: func() { screen.Leave(); following.Leave() },
	})
}
