package httpapi_test

import (
	"context"
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/files"
	"handwerk/core/quantity/quantitytest"
	"handwerk/postgres"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// stocked gives the process the demo's fleet and drawers, and the units by route.
func stocked(t *testing.T, p *process) map[string]workshop.Order {
	t.Helper()
	s, err := files.LoadScenario(demo.Files)
	require.NoError(t, err)
	orders := map[string]workshop.Order{}
	var fleet []shop.Vehicle
	for _, v := range s.Fleet {
		vehicle := shop.Vehicle{ID: v.ID, Name: v.Name, Owner: v.Owner}
		for _, u := range v.Units {
			vehicle.Units = append(vehicle.Units, shop.Unit(u))
			orders[u.Route] = workshop.Order{
				Vehicle: v.ID, Unit: u.ID, Complaint: "as the customer says",
				Promised: p.now.AddDate(0, 0, 9).Format("2006-01-02"),
			}
		}
		fleet = append(fleet, vehicle)
	}
	var stock []postgres.StockLine
	for _, d := range s.Drawers {
		for i, size := range d.Sizes {
			stock = append(stock, postgres.StockLine{Drawer: d.ID, Thickness: size.Thickness.String(),
				Name: size.Name, Count: size.Count, Place: i})
		}
	}
	require.NoError(t, p.store.KeepFleet(context.Background(), fleet, stock))
	return orders
}

// oneOfAKind is the first route for each kind of unit: the rules of all routes are walked
// without the API, in workshop.
func oneOfAKind(routes []book.Route) (some []book.Route) {
	for _, r := range routes {
		if !slices.ContainsFunc(some, func(x book.Route) bool { return x.UnitKind == r.UnitKind }) {
			some = append(some, r)
		}
	}
	return some
}

// A route for each kind of unit is walked to hand-over through the API, with the
// entries a careful shop would make: no gate stays shut, no binding starves,
// every calculator answers.
func TestRoutesAreWalkedToHandOver(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	orders := stocked(t, p)
	b, err := demoBook()
	require.NoError(t, err)
	lead := p.signIn("ilva")
	for _, route := range oneOfAKind(b.Routes) {
		t.Run(route.ID, func(t *testing.T) {
			order, ok := orders[route.ID]
			require.True(t, ok, "no unit of the demo goes by this route")
			answered := lead.walkRoute(t, lead.begin(t, order))
			for _, step := range route.Steps() {
				left := step.ID == "depth-by-marks" // the shop's own way of the three does without it
				if step.Kind == book.Measure && !left {
					assert.True(t, strings.HasPrefix(answered[step.ID], step.Measure.Calc+"/"), "%s: no answer of %s",
						step.ID, step.Measure.Calc)
				}
			}
		})
	}
}

// A unit nobody has a sheet for: the sheet says its name and nothing else. A
// route is walked to hand-over all the same, with "not known" where it asks,
// and no verdict is made up.
func TestARouteIsWalkedWithAnEmptySheet(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	b, err := demoBook()
	require.NoError(t, err)
	lead := p.signIn("ilva")
	var customer shop.Customer
	lead.do(t, "/api/v1/customers", `{"name":"Somebody new","phone":"0 44 17"}`, &customer)
	var vehicle shop.Vehicle
	lead.do(t, "/api/v1/vehicles", `{"name":"Old lorry","customer":"`+customer.ID+`"}`, &vehicle)
	for _, route := range oneOfAKind(b.Routes)[:2] {
		t.Run(route.ID, func(t *testing.T) {
			var unit shop.Unit
			lead.do(
				t, "/api/v1/vehicles/"+vehicle.ID+"/units",
				`{"name":"Unknown `+route.UnitKind+`","serial":"`+route.ID+`","route":"`+route.ID+`"}`, &unit,
			)
			assert.Equal(t, route.UnitKind, unit.Kind)
			var opened record.Rebuild
			lead.do(
				t, "/api/v1/rebuilds",
				`{"vehicle":"`+vehicle.ID+`","unit":"`+unit.ID+`","complaint":"it howls","promised":"`+
					p.now.AddDate(0, 0, 9).Format("2006-01-02")+`"}`,
				&opened,
			)
			base := "/api/v1/rebuilds/" + opened.ID
			lead.walkRoute(t, base)
			var rec paper.Record
			lead.get(base+"/record", &rec)
			unknown := 0
			for _, station := range rec.Stations {
				for _, step := range station.Steps {
					for _, line := range step.Lines {
						if strings.Contains(line.Says, "not known") {
							unknown++
						}
					}
				}
			}
			assert.Positive(t, unknown, "what nobody knew stands in the record")
		})
	}
}

// do posts and reads what is answered.
func (u *user) do(t testing.TB, path, body string, into any) {
	t.Helper()
	res, answer := u.send(http.MethodPost, path, body, key())
	require.Contains(t, []int{http.StatusOK, http.StatusCreated}, res.StatusCode, "%s %s: %s", path, body, answer)
	require.NoError(t, json.Unmarshal([]byte(answer), into))
}

// begin opens a rebuild and gives its path.
func (u *user) begin(t *testing.T, order workshop.Order) string {
	t.Helper()
	raw, err := json.Marshal(order)
	require.NoError(t, err)
	var opened record.Rebuild
	u.do(t, "/api/v1/rebuilds", string(raw), &opened)
	return "/api/v1/rebuilds/" + opened.ID
}

// sizes fit together where no sheet says them.
var sizes = map[string]string{
	"thread.size": "14 mm", "thread.pitch": "1.5 mm", "bolt.size": "10 mm", "shaft.diameter": "76 mm",
	"shaft.wall":   "2 mm",
	"shaft.length": "1200 mm",
}

// walkRoute makes plausible entries until the rebuild is closed, and gives the
// method that answered at each step.
func (u *user) walkRoute(t *testing.T, base string) map[string]string {
	t.Helper()
	return u.walkUntil(t, base, "")
}

// walkUntil is walkRoute until a step is the next to be worked on.
func (u *user) walkUntil(t *testing.T, base, until string) map[string]string {
	t.Helper()
	answered := map[string]string{}
	for range 500 {
		var sheet record.Sheet
		u.get(base, &sheet)
		if sheet.Rebuild.Place.Closed {
			return answered
		}
		i := slices.IndexFunc(sheet.Steps, func(s record.StepStatus) bool { return s.Status == record.Open })
		require.GreaterOrEqual(t, i, 0, "nothing is open, everything waits: %+v", sheet.Rebuild.Place)
		if sheet.Steps[i].ID == until {
			return answered
		}
		step := base + "/steps/" + sheet.Steps[i].ID
		view := u.step(step)
		usual := kinds.Plausible(view)
		if said, ok := sizes[view.Frame().Step.ID+"."+usual.Item.String()]; ok {
			acts.ValueOf(usual.Says).Value = quantitytest.Any(t, said)
		}
		draft, err := json.Marshal(usual)
		require.NoError(t, err)
		res, body := u.send(http.MethodPost, step+"/entries", string(draft), key())
		require.Equal(t, http.StatusCreated, res.StatusCode, "%s: %s\n%s", sheet.Steps[i].ID, draft, body)
		var e record.Entry
		require.NoError(t, json.Unmarshal([]byte(body), &e))
		assert.NotEqual(t, acts.Accept{}.Name(), e.Act, "%s does not come out right by the sheet: %s", e.Step,
			sheet.Steps[i].Needs)
		if e.Method != "" {
			answered[e.Step] = e.Method
		}
	}
	t.Fatal("the route does not end")
	return nil
}
