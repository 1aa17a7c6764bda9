package httpapi

import (
	"net/http"

	"handwerk/book"
	"handwerk/workshop/shop"
)

// RouteWritten is the next version of what the shop does otherwise on a route.
type RouteWritten struct {
	ID      string        `path:"id" json:"-"`
	Version int           `json:"version"` // on which it stands; 0 when nobody changed anything yet
	Own     book.OwnRoute `json:"own"`
	Why     string        `json:"why"`
}

func (a shopDesk) routeEndpoints() []endpoint {
	w := a.Workshop
	return []endpoint{
		get(
			a.api,
			"/routes/:id",
			"route",
			"a route of the book, with what the shop does otherwise on it and how that came to be",
			signedIn,
			func(c call, in idIn) (shop.RoutePage, error) {
				return w.Routes.Page(c.Context(), in.ID)
			},
		),
		post(a.api, "/routes/:id", "writeRoute", "the next version of what the shop does otherwise on a route", leads,
			http.StatusOK, func(
				c call, in RouteWritten,
			) (shop.RoutePage, error) {
				return w.Routes.Write(c.Context(), in.ID, in.Version, in.Own, in.Why, c.person())
			}),
	}
}
