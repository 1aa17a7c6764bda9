package httpapi_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// taken is a job taken in: who, with what.
type taken struct {
	customer shop.Customer
	vehicle  shop.Vehicle
	unit     shop.Unit
}

// takeIn takes in an axle that nobody has a sheet for.
func (u *user) takeIn(t *testing.T, name, registration, serial string) (j taken) {
	t.Helper()
	u.do(
		t, "/api/v1/customers", `{"name":"`+name+`","phone":"0 55 12","mail":"n@example.test","address":"Quay 4"}`,
		&j.customer,
	)
	u.do(
		t, "/api/v1/vehicles",
		`{"name":"Old lorry","registration":"`+registration+`","customer":"`+j.customer.ID+
			`","facts":{"engine_torque":"410 N·m"}}`,
		&j.vehicle,
	)
	u.do(
		t, "/api/v1/vehicles/"+j.vehicle.ID+"/units",
		`{"name":"Grim axle","serial":"`+serial+`","route":"axle-ring-pinion"}`, &j.unit,
	)
	return j
}

// order opens a rebuild of it.
func (u *user) order(t *testing.T, j taken, more string) (r record.Rebuild) {
	t.Helper()
	u.do(
		t, "/api/v1/rebuilds",
		`{"vehicle":"`+j.vehicle.ID+`","unit":"`+j.unit.ID+`","complaint":"Howls above forty","promised":"`+
			u.now.AddDate(0, 0, 9).Format("2006-01-02")+`"`+more+`}`,
		&r,
	)
	return r
}

// Two people add the same customer at once: there is one, and both are given him.
func TestTheSameCustomerTwiceIsOne(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	const hands = 8
	ids := make([]string, hands)
	var wg sync.WaitGroup
	for i := range hands {
		wg.Go(func() {
			res, said := odo.send(
				http.MethodPost, "/api/v1/customers", `{"name":"Nora  Quill","phone":"0 55-12"}`, key(),
			)
			assert.Contains(t, []int{http.StatusOK, http.StatusCreated}, res.StatusCode, said)
			var c shop.Customer
			assert.NoError(t, json.Unmarshal([]byte(said), &c))
			ids[i] = c.ID
		})
	}
	wg.Wait()
	for _, id := range ids {
		assert.Equal(t, ids[0], id)
	}
}

// What cannot be is refused, and the answer says where the other one is.
func TestWhatIsHereAlreadyIsSaid(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo, guest := p.signIn("odo"), p.signIn("guest")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	for _, bad := range []struct {
		path, body string
		status     int
		says       string
	}{
		{
			"/api/v1/vehicles/" + j.vehicle.ID + "/units",
			`{"name":"Grim axle","serial":"gr-1","route":"axle-ring-pinion"}`,
			http.StatusConflict, "in Old lorry",
		},
		{
			"/api/v1/vehicles/" + j.vehicle.ID + "/units", `{"name":"Grim axle","serial":"GR-2","route":"by-guess"}`,
			http.StatusUnprocessableEntity, "by-guess",
		},
		{
			"/api/v1/vehicles/nowhere/units", `{"name":"Grim axle","serial":"GR-2","route":"axle-ring-pinion"}`,
			http.StatusNotFound, "no such vehicle",
		},
		{
			"/api/v1/vehicles", `{"name":"Another","registration":"qx77","customer":"` + j.customer.ID + `"}`,
			http.StatusConflict, "Old lorry",
		},
		{"/api/v1/vehicles", `{"name":"Another","customer":"nobody"}`, http.StatusNotFound, "no such customer"},
		{
			"/api/v1/vehicles", `{"name":"Another","customer":"` + j.customer.ID +
				`","facts":{"engine_torque":"5 mm"}}`,
			http.StatusUnprocessableEntity, "engine_torque",
		},
		{"/api/v1/customers", `{"name":" "}`, http.StatusUnprocessableEntity, "name"},
	} {
		res, said := odo.send(http.MethodPost, bad.path, bad.body, key())
		assert.Equal(t, bad.status, res.StatusCode, "%s %s: %s", bad.path, bad.body, said)
		assert.Contains(t, said, bad.says)
	}
	res, said := guest.send(http.MethodPost, "/api/v1/customers", `{"name":"Somebody"}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
}

// A unit moves and a vehicle changes hands; the rebuild says what it said then.
func TestThePastStaysAsItWas(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := odo.order(t, j, `,"told":"About two days","facts":{"engine_torque":"420 N·m","tyre":"9.00 R20"}`)
	assert.Empty(t, r.Vehicle.Registration, "the sealed order leads to nobody")

	other := odo.takeIn(t, "Ulf Ede", "ZZ 1", "GR-9")
	var page paper.UnitPage
	odo.do(t, "/api/v1/units/"+j.unit.ID, `{"vehicle":"`+other.vehicle.ID+`"}`, &page)
	assert.Equal(t, other.vehicle.ID, page.Vehicle.ID)
	require.Len(t, page.Rebuilds, 1)
	assert.Equal(t, "Old lorry", page.Rebuilds[0].Vehicle)
	var v shop.Vehicle
	odo.do(t, "/api/v1/vehicles/"+j.vehicle.ID, `{"name":"Old lorry","customer":"`+other.customer.ID+`"}`, &v)

	var now record.Sheet
	odo.get("/api/v1/rebuilds/"+r.ID, &now)
	assert.Equal(t, "Nora Quill", now.Rebuild.Whose.Name, "who brought it then")
	assert.Equal(t, "About two days", now.Rebuild.Told)
	assert.Equal(t, "9.00 R20", now.Rebuild.Facts.Tyre)
}

// What was said of a vehicle is known of it the next time.
func TestNothingIsAskedTwice(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	odo.order(t, j, `,"facts":{"engine_torque":"420 N·m","tyre":"9.00 R20"}`)
	var c workshop.CustomerPage
	odo.get("/api/v1/customers/"+j.customer.ID, &c)
	require.Len(t, c.Vehicles, 1)
	assert.Equal(t, "9.00 R20", c.Vehicles[0].Facts.Tyre)
	assert.Len(t, c.Rebuilds, 1)
}

// Anything is found by any part of its words, and what has not all of them is not.
func TestEverythingIsFound(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := odo.order(t, j, "")
	for question, want := range map[string][5]int{ // rebuilds, customers, vehicles, units, sheets
		"quill":               {1, 1, 1, 0, 0},
		"NORA QX":             {1, 0, 1, 0, 0},
		r.Number:              {1, 0, 0, 0, 0},
		"gr-1":                {1, 0, 0, 1, 0},
		"howls forty":         {1, 0, 0, 0, 0},
		"grim":                {1, 0, 0, 1, 1},
		"howls nowhere":       {0, 0, 0, 0, 0},
		"100%_'; drop table ": {0, 0, 0, 0, 0},
	} {
		var found workshop.Found
		odo.get("/api/v1/find?q="+url.QueryEscape(question), &found)
		assert.Equal(
			t, want, [5]int{
				len(found.Rebuilds), len(found.Customers), len(found.Vehicles), len(found.Units), len(found.Sheets),
			},
			"%q", question,
		)
	}
}

// A list that is cut says that there is more.
func TestACutListSaysSo(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	for i := range 9 {
		odo.takeIn(t, fmt.Sprintf("Nora Quill %d", i), fmt.Sprintf("QX %d", i), fmt.Sprintf("GR-%d", i))
		var found workshop.Found
		odo.get("/api/v1/find?q=nora", &found)
		assert.Len(t, found.Customers, min(8, i+1))
		assert.Equal(t, i == 8, found.More)
	}
}

// A customer is forgotten on request, not while his unit is on the bench; what is
// sealed says nothing of him, and verifies before and after.
func TestACustomerIsForgotten(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo, ilva := p.signIn("odo"), p.signIn("ilva")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := odo.order(t, j, "")
	at := "/api/v1/customers/" + j.customer.ID
	res, said := odo.send(http.MethodPost, at+"/erase", "", key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	res, said = ilva.send(http.MethodPost, at+"/erase", "", key())
	assert.Equal(t, http.StatusConflict, res.StatusCode, said)
	assert.Contains(t, said, r.Number)

	ilva.walkRoute(t, "/api/v1/rebuilds/"+r.ID)
	before := p.verified(t, r.ID)
	res, said = ilva.send(http.MethodPost, at+"/erase", "", key())
	require.Equal(t, http.StatusNoContent, res.StatusCode, said)
	assert.Equal(t, before, p.verified(t, r.ID))

	var rec paper.Record
	ilva.get("/api/v1/rebuilds/"+r.ID+"/record", &rec)
	raw, err := json.Marshal(rec)
	require.NoError(t, err)
	var c workshop.CustomerPage
	ilva.get(at, &c)
	page, err := json.Marshal(c)
	require.NoError(t, err)
	for _, of := range []string{"Quill", "0 55 12", "example.test", "Quay 4", "QX 77"} {
		assert.NotContains(t, string(raw), of)
		assert.NotContains(t, string(page), of)
	}
	assert.Equal(t, say.OwnerErased, rec.Rebuild.Owner())
	var found workshop.Found
	ilva.get("/api/v1/find?q=quill", &found)
	assert.Empty(t, found.Rebuilds)
	assert.Empty(t, found.Customers)
}

// verified is the head of a rebuild whose chain holds.
func (p *process) verified(t *testing.T, id string) record.Head {
	t.Helper()
	l, err := p.store.Ledger(context.Background(), id)
	require.NoError(t, err)
	require.NoError(t, record.Verify(l.Rebuild, l.Entries))
	return l.Rebuild.Head
}

// A unit that comes again shows what was measured last time, on its page and
// beside the reading.
func TestAUnitThatComesAgain(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	j := ilva.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	first := ilva.order(t, j, "")
	ilva.walkRoute(t, "/api/v1/rebuilds/"+first.ID)
	again := ilva.order(t, j, "")
	var page paper.UnitPage
	ilva.get("/api/v1/units/"+j.unit.ID, &page)
	assert.Equal(t, "Grim axle", page.Family)
	require.Len(t, page.Rebuilds, 2)
	assert.True(t, page.Rebuilds[1].Closed, "the latest first")
	require.NotEmpty(t, page.Trends)
	for _, trend := range page.Trends {
		require.NotEmpty(t, trend.Points, trend.Title)
		assert.Equal(t, first.Number, trend.Points[0].Number)
	}
	measure, ok := ilva.step("/api/v1/rebuilds/" + again.ID + "/steps/" + page.Trends[0].Step).(*measure.MeasureStep)
	require.True(t, ok)
	require.NotEmpty(t, measure.Before)
	assert.Equal(t, first.Number, measure.Before[0].Number)

	ilva.walkRoute(t, "/api/v1/rebuilds/"+again.ID)
	ilva.get("/api/v1/units/"+j.unit.ID, &page)
	require.NotEmpty(t, page.Rebuilds[1].Fitted)
	for _, trend := range page.Trends {
		require.Len(t, trend.Points, 2, trend.Title)
		assert.True(t, trend.Points[1].Anew, "the first was measured with the old parts")
	}
}

// How long such jobs took is said where enough of them were done, and only by
// those that were.
func TestHowLongSuchJobsTook(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	took := func(route string) *shop.Took {
		var view struct{ Took *shop.Took }
		p.signIn("ilva").get("/api/v1/promises?from=2026-11-27&route="+route, &view)
		return view.Took
	}
	orders := stocked(t, p)
	const along = "shift-linkage"
	assert.Nil(t, took(along))
	order, err := json.Marshal(orders[along])
	require.NoError(t, err)
	began := p.now
	for _, days := range []float64{9, 1, 2.5, 3, 4} {
		p.now = began
		var r record.Rebuild
		p.signIn("ilva").do(t, "/api/v1/rebuilds", string(order), &r)
		p.now = began.Add(time.Duration(days * 24 * float64(time.Hour)))
		p.signIn("ilva").walkRoute(t, "/api/v1/rebuilds/"+r.ID)
	}
	p.now = began
	assert.Equal(t, &shop.Took{Jobs: 5, Half: 3, EightInTen: 4}, took(along))
	assert.Nil(t, took("axle-ring-pinion"))
}

// A plate may be gone: without a serial number a unit is one of its vehicle.
func TestAUnitWithoutASerialNumber(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	j := u.takeIn(t, "Old lorry", "QX 1", "GR-1")
	other := u.takeIn(t, "Old bus", "QX 2", "GR-2")
	add := func(vehicle string) (int, string) {
		res, said := u.send(
			http.MethodPost, "/api/v1/vehicles/"+vehicle+"/units",
			`{"name":"Grim axle","serial":" ","route":"axle-ring-pinion"}`,
			key(),
		)
		return res.StatusCode, said
	}
	status, said := add(j.vehicle.ID)
	assert.Equal(t, http.StatusCreated, status, said)
	status, said = add(j.vehicle.ID)
	assert.Equal(t, http.StatusConflict, status, said)
	assert.Contains(t, said, "no serial number, is already here, in Old lorry")
	status, said = add(other.vehicle.ID)
	assert.Equal(t, http.StatusCreated, status, "another vehicle's is another: %s", said)
}

// What was found along the way follows the vehicle until it is done or refused:
// on its customer's page, at its units, at the next intake, and by its words.
func TestAFindFollowsTheVehicle(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "SK 4471", "GA-7")
	first := odo.order(t, j, "")
	say := func(rebuild, note, settled string) {
		odo.do(
			t, "/api/v1/rebuilds/"+rebuild+"/steps/identify/entries",
			`{"act":"found","note":"`+note+`","outcome":"soon","settled":"`+settled+`"}`, new(any),
		)
	}
	found := func() []paper.Find {
		var view struct{ Found []paper.Find }
		odo.get("/api/v1/vehicles/"+j.vehicle.ID+"/found", &view)
		return view.Found
	}
	say(first.ID, "Brake hose chafed", "advised")
	say(first.ID, "Mirror cracked", "refused")
	list := found()
	require.Len(t, list, 2)
	assert.Equal(t, []any{"Brake hose chafed", true, first.Number}, []any{list[0].Says, list[0].Open, list[0].Number})
	assert.False(t, list[1].Open)

	var customer workshop.CustomerPage
	odo.get("/api/v1/customers/"+j.customer.ID, &customer)
	assert.Len(t, customer.Found, 2)
	var unit paper.UnitPage
	odo.get("/api/v1/units/"+j.unit.ID, &unit)
	assert.Len(t, unit.Found, 2)
	var looked workshop.Found
	odo.get("/api/v1/find?q=hose+chafed", &looked)
	require.Len(t, looked.Rebuilds, 1)
	assert.Equal(t, first.ID, looked.Rebuilds[0].ID)

	res, _ := odo.send(http.MethodGet, "/api/v1/vehicles/nobodys/found", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode)

	var other shop.Unit
	odo.do(
		t, "/api/v1/vehicles/"+j.vehicle.ID+"/units",
		`{"name":"Grim box","serial":"GB-1","route":"gearbox-longitudinal"}`, &other,
	)
	second := odo.order(t, taken{j.customer, j.vehicle, other}, "")
	say(second.ID, "brake hose  chafed.", "done")
	list = found()
	require.Len(t, list, 2, "the same thing, said again")
	for _, f := range list {
		assert.False(t, f.Open, f.Says)
	}
}
