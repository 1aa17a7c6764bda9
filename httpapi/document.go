package httpapi

import (
	"reflect"
	"slices"
	"sync"

	"handwerk/httpapi/contract"
)

// Document is the OpenAPI 3.1 document of all endpoints. The code alone says
// it, so that it is written once, when somebody asks.
var Document = sync.OnceValues(func() ([]byte, error) {
	doc := contract.API{Prefix: prefix, Cookie: sessionCookie, Token: csrfHeader, Prefer: preferNow, Problem: Problem{},
		StepView: reflect.TypeFor[stepAnswer]()}
	for _, g := range (&api{door: &door{}}).groups() {
		said := contract.Group{Tag: g.tag, Says: g.says}
		for _, e := range g.list {
			said.Operations = append(said.Operations, e.operation())
		}
		doc.Groups = append(doc.Groups, said)
	}
	return doc.Document()
})

// group is endpoints of one kind, as readers look for them.
type group struct {
	tag, says string
	list      []endpoint
}

// groups lists every operation of the API.
func (a *api) groups() []group {
	return []group{
		{
			"people",
			"who works here, at which tablets, with which programs",
			slices.Concat(
				benchDesk{a}.firstEndpoints(),
				sessionDesk{a}.sessionEndpoints(),
				staffDesk{a}.peopleEndpoints(),
				staffDesk{a}.programEndpoints(),
				benchDesk{a}.benchEndpoints(),
			),
		},
		{"shop", "the shop's details, its drawers and gauges",
			slices.Concat(shopDesk{a}.shopEndpoints(), shopDesk{a}.drawerEndpoints(), shopDesk{a}.gaugeEndpoints(),
				shopDesk{a}.practiceEndpoints())},
		{"fleet", "customers, vehicles, units", shopDesk{a}.fleetEndpoints()},
		{"sheets", "spec sheets and routes", slices.Concat(shopDesk{a}.sheetEndpoints(), shopDesk{a}.routeEndpoints())},
		{
			"rebuilds",
			"what is in the house: rebuilds, their steps, parts and trays",
			slices.Concat(
				rebuildDesk{a}.rebuildEndpoints(),
				rebuildDesk{a}.trayEndpoints(),
				rebuildDesk{a}.partsEndpoints(),
			),
		},
		{"records", "the record, read, printed and kept, with its photographs",
			slices.Concat(rebuildDesk{a}.recordEndpoints(), rebuildDesk{a}.photoEndpoints())},
		{"calculators", "every calculator of the catalogue", calcDesk{a}.calcEndpoints()},
	}
}

// endpoints are those of all groups.
func (a *api) endpoints() (all []endpoint) {
	for _, g := range a.groups() {
		all = append(all, g.list...)
	}
	return all
}

// operation is an endpoint as the document tells of it.
func (e endpoint) operation() contract.Operation {
	return contract.Operation{
		Method: e.method, Path: e.path, ID: e.id, Summary: e.summary, May: may[e.access], Open: e.access == anyone,
		In: e.in, Out: e.out, Status: e.status, Keyed: e.keyed, Takes: e.takes, ContentType: e.contentType,
	}
}

// may is who may call an operation.
var may = map[access]string{
	anyone: "Without signing in.", signedIn: "For everyone who is signed in.", hands: "For mechanics and leads.",
	leads: "For leads.",
}
