package httpapi_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

const likeA9 = `{"family":"Grim axle","like":"brakka-a9"}`

// change posts some lines of a sheet and gives status and answer.
func (u *user) change(page shop.SheetPage, lines, why string) (int, string) {
	res, said := u.send(
		http.MethodPost, "/api/v1/sheets/"+page.Sheet.ID+"/figures",
		fmt.Sprintf(`{"version":%d,"lines":%s,"why":%q}`, page.Sheet.Version, lines, why), key(),
	)
	return res.StatusCode, said
}

// A sheet begins like another, is said otherwise line by line, and tells who
// said what, when and why; the other stays as it is.
func TestASheetGrowsVersionByVersion(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	var page, now shop.SheetPage
	ilva.do(t, "/api/v1/sheets", likeA9, &page)
	assert.NotEmpty(t, page.Lines)
	status, said := ilva.change(
		page,
		`[{"path":"limits.backlash","figure":{"min":"0.17 mm","max":"7 thou"}},{"path":"limits.ring-runout","figure":null}]`,
		"maker's book, page 4",
	)
	require.Equal(t, http.StatusOK, status, said)
	require.NoError(t, json.Unmarshal([]byte(said), &now))
	require.Len(t, now.History, 2)
	assert.Equal(t, "maker's book, page 4", now.History[0].Why)
	assert.Equal(t, "ILVA", now.History[0].By.Name)
	assert.Equal(
		t,
		[]string{
			"Backlash of ring and pinion: 0.17 mm to 7 thou, was 0.15 mm to 0.25 mm",
			"Ring gear back-face runout: removed, was at most 0.08 mm",
		},
		now.History[0].Changes,
	)

	status, said = ilva.change(page, `[{"path":"limits.backlash","figure":{"min":"0.1 mm"}}]`, "too late")
	assert.Equal(t, http.StatusConflict, status, said)
	var other shop.SheetPage
	ilva.get("/api/v1/sheets/brakka-a9", &other)
	assert.Empty(t, other.History)
}

// What a sheet cannot say is refused with the line; nothing of it is kept.
func TestASheetSaysNothingThatCannotBe(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	var page shop.SheetPage
	ilva.do(t, "/api/v1/sheets", likeA9, &page)
	good := `{"path":"fills.case","figure":{"min":"2 L","max":"2.1 L"}},`
	for lines, want := range map[string]string{
		`[` + good + `{"path":"limits.backlash","figure":{"min":"5 bar"}}]`:                                             "lines[1]",
		`[` + good + `{"path":"limits.backlash","figure":{"min":"0.3 mm","max":"0.2 mm"}}]`:                             "limits.backlash",
		`[` + good + `{"path":"torques.cover","figure":{"name":"Cover","bolts":0,"torque":"20 N·m","tolerance":0.06}}]`: "torques.cover",
		`[` + good + `{"path":"torques.cover","figure":{"name":"Cover","bolts":8,"torque":"20 mm","tolerance":0.06}}]`:  "lines[1]",
		`[` + good + `{"path":"figures.coldest-start","figure":"4 mm"}]`:                                                "coldest-start",
		`[` + good + `{"path":"nowhere.x","figure":1}]`:                                                                 "lines[1]",
		`[` + good + `{"path":"limits.backlash.min","figure":"0.1 mm"}]`:                                                "lines[1]",
		`[` + good + `{"path":"washers","figure":[{"name":"thin","thickness":"-1 mm"}]}]`:                               "washers[0]",
		`[]`: "lines",
	} {
		status, said := ilva.change(page, lines, "to see")
		assert.Equal(t, http.StatusUnprocessableEntity, status, "%s: %s", lines, said)
		assert.Contains(t, said, want, lines)
	}
	status, said := ilva.change(page, `[{"path":"limits.backlash","figure":{"min":"0.1 mm"}}]`, " ")
	assert.Equal(t, http.StatusUnprocessableEntity, status, said)
	status, _ = odo.change(page, `[{"path":"limits.backlash","figure":{"min":"0.1 mm"}}]`, "a mechanic")
	assert.Equal(t, http.StatusForbidden, status)
	var now shop.SheetPage
	ilva.get("/api/v1/sheets/"+page.Sheet.ID, &now)
	assert.Equal(t, 1, now.Sheet.Version)
}

// Every sheet of the demo goes out as CSV and as JSON and comes in again as it was.
func TestASheetGoesOutAndComesIn(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	var list struct{ Sheets []shop.FoundSheet }
	ilva.get("/api/v1/sheets", &list)
	require.NotEmpty(t, list.Sheets)
	for _, s := range list.Sheets {
		var was shop.SheetPage
		ilva.get("/api/v1/sheets/"+s.ID, &was)
		if len(was.Lines) == 0 {
			continue
		}
		for _, ending := range []string{"csv", "json"} {
			var empty, now shop.SheetPage
			ilva.do(t, "/api/v1/sheets", `{"family":"Copy of `+s.ID+` by `+ending+`"}`, &empty)
			_, text := ilva.send(http.MethodGet, "/api/v1/sheets/"+s.ID+"/sheet."+ending, "", nil)
			body, err := json.Marshal(map[string]any{"version": 1, "text": text, "why": "a copy"})
			require.NoError(t, err)
			ilva.do(t, "/api/v1/sheets/"+empty.Sheet.ID+"/import", string(body), &now)
			assert.Equal(t, saidBy(was), saidBy(now), "%s by %s", s.ID, ending)
		}
	}
}

func saidBy(page shop.SheetPage) map[string]string {
	says := map[string]string{}
	for _, l := range page.Lines {
		says[l.Path] = book.FigureWords(l.Value)
	}
	return says
}

// What is said at a bench serves the rebuild at once and stands in its record; a
// lead keeps it, and the next rebuild knows it.
func TestAFigureIsSaidAtTheBench(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := odo.order(t, j, "")
	base := "/api/v1/rebuilds/" + r.ID
	at := base + "/steps/ring-runout"
	for body, want := range map[string]string{
		`{"act":"figure","item":"limits.ring-runout","origin":"plate","figure":{"max":"3 bar"}}`:                 "figure",
		`{"act":"figure","item":"limits.ring-runout","origin":"plate","figure":{"min":"0.3 mm","max":"0.1 mm"}}`: "figure",
		`{"act":"figure","item":"limits.ring-runout","origin":"hearsay","figure":{"max":"0.1 mm"}}`:              "origin",
		`{"act":"figure","item":"limits.ring-runout","origin":"not-known","figure":{"max":"0.1 mm"}}`:            "figure",
		`{"act":"figure","item":"limits.ring-runout","origin":"plate"}`:                                          "figure",
		`{"act":"figure","item":"limits.somewhere","origin":"plate","figure":{"max":"0.1 mm"}}`:                  "item",
	} {
		res, said := odo.send(http.MethodPost, at+"/entries", body, key())
		assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "%s: %s", body, said)
		assert.True(t, strings.HasPrefix(problemOf(t, res, said).Fields[0].Path, want), said)
	}
	var e record.Entry
	odo.do(
		t,
		at+"/entries",
		`{"act":"figure","item":"limits.ring-runout","origin":"makers-book","note":"page 12","figure":{"max":"0.08 mm"}}`,
		&e,
	)
	var rec paper.Record
	odo.get(base+"/record", &rec)
	raw, err := json.Marshal(rec)
	require.NoError(t, err)
	assert.Contains(t, string(raw), "at most 0.08 mm")

	res, said := odo.send(http.MethodPost, base+"/kept-figures", `{"entry":"`+e.ID+`"}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	var page shop.SheetPage
	ilva.do(t, base+"/kept-figures", `{"entry":"`+e.ID+`"}`, &page)
	assert.Equal(t, 2, page.Sheet.Version)
	assert.Contains(t, page.History[0].Why, r.Number)
	next := odo.order(t, j, "")
	asked := odo.step("/api/v1/rebuilds/" + next.ID + "/steps/ring-runout").Frame().Figures
	assert.Empty(t, asked, "the sheet says it now")
	res, said = odo.send(
		http.MethodPost, "/api/v1/rebuilds/"+next.ID+"/steps/ring-runout/entries",
		`{"act":"figure","item":"limits.ring-runout","origin":"plate","figure":{"max":"0.2 mm"}}`, key(),
	)
	assert.NotEqual(t, http.StatusCreated, res.StatusCode, said)
}

// Wheel nuts belong to the vehicle: what was said of them in one unit's rebuild is
// known in the next unit's, and on no other vehicle.
func TestWhatIsOfTheVehicleStaysWithIt(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	other := odo.takeIn(t, "Bram Sedge", "QX 78", "GR-2")
	r := odo.order(t, j, "")
	var e record.Entry
	odo.do(
		t,
		"/api/v1/rebuilds/"+r.ID+"/steps/wheel-nuts/entries",
		`{"act":"figure","item":"torques.wheels","origin":"plate","note":"in the door","figure":{"name":"Wheel nuts","bolts":5,"torque":"110 N·m","tolerance":0.06}}`,
		&e,
	)
	var page shop.SheetPage
	ilva.do(t, "/api/v1/rebuilds/"+r.ID+"/kept-figures", `{"entry":"`+e.ID+`"}`, &page)
	assert.Equal(t, "vehicle-"+j.vehicle.ID, page.Sheet.ID)
	assert.Equal(t, 1, page.Sheet.Version)
	assert.Contains(t, page.History[0].Why, r.Number)
	for _, f := range page.Figures {
		assert.Equal(t, book.OfVehicle, f.Of, f.Path)
	}
	var sheets struct{ Sheets []shop.FoundSheet }
	odo.get("/api/v1/sheets", &sheets)
	for _, s := range sheets.Sheets {
		assert.NotContains(t, s.ID, "vehicle-", "a vehicle is no family")
	}

	var unit shop.Unit
	odo.do(t, "/api/v1/vehicles/"+j.vehicle.ID+"/units",
		`{"name":"Other axle","serial":"OA-3","route":"axle-ring-pinion"}`, &unit)
	j.unit = unit
	next, elsewhere := odo.order(t, j, ""), odo.order(t, other, "")
	assert.Empty(t, odo.step("/api/v1/rebuilds/"+next.ID+"/steps/wheel-nuts").Frame().Figures,
		"the vehicle's sheet says it")
	assert.NotEmpty(t, odo.step("/api/v1/rebuilds/"+elsewhere.ID+"/steps/wheel-nuts").Frame().Figures,
		"of another nobody knows")

	// What a lead corrects there holds from the next rebuild on.
	_, said := ilva.change(
		page,
		`[{"path":"torques.wheels","figure":{"name":"Wheel nuts","bolts":5,"torque":"120 N·m","tolerance":0.06}}]`,
		"the book came",
	)
	assert.Contains(t, said, "120")
	third := odo.step("/api/v1/rebuilds/" + odo.order(t, j, "").ID + "/steps/wheel-nuts").(*torque.TorqueStep)
	assert.InDelta(t, 120, float64(third.Torque.Group.Torque.SI()), 1e-9)
	res, said := odo.send(http.MethodGet, "/api/v1/sheets/vehicle-nobody", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode, said)
}

// A rebuild keeps its copy of the sheet until somebody takes a newer version, by an
// entry that says what it says otherwise; what was said at the bench stands where
// the sheet is silent.
func TestANewerSheetIsTakenByAnEntry(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := odo.order(t, j, "")
	at := "/api/v1/rebuilds/" + r.ID + "/steps/ring-runout"
	says := func(body string, status int) string {
		res, said := odo.send(http.MethodPost, at+"/entries", body, key())
		require.Equal(t, status, res.StatusCode, said)
		return said
	}
	assert.Contains(t, says(`{"act":"sheet"}`, http.StatusConflict), "the newest spec sheet")
	says(
		`{"act":"figure","item":"limits.ring-runout","origin":"judgement","note":"as others are","figure":{"max":"0.2 mm"}}`,
		http.StatusCreated,
	)
	var page shop.SheetPage
	ilva.get("/api/v1/sheets/"+j.unit.Sheet, &page)
	status, said := ilva.change(
		page,
		`[{"path":"limits.ring-runout","figure":{"max":"0.08 mm"}},{"path":"limits.backlash","figure":{"min":"0.15 mm","max":"0.2 mm"}}]`,
		"the book came",
	)
	require.Equal(t, http.StatusOK, status, said)

	view := odo.step(at).Frame()
	assert.Equal(t, 1, view.SheetVersion, "the copy stands")
	assert.Equal(t, 2, view.NewerSheet, "it is offered")
	assert.Len(t, view.Figures, 1)
	says(`{"act":"sheet","sheet":{"id":"x","family":"forged","version":9}}`, http.StatusUnprocessableEntity)
	says(`{"act":"sheet"}`, http.StatusCreated)
	says(`{"act":"sheet"}`, http.StatusConflict)
	assert.Equal(t, 2, odo.step(at).Frame().SheetVersion)
	measure, ok := odo.step(at).(*measure.MeasureStep)
	require.True(t, ok)
	assert.Equal(t, "0.08 mm", measure.Limits.Max.String(), "the newer word")
	var rec paper.Record
	odo.get("/api/v1/rebuilds/"+r.ID+"/record", &rec)
	raw, err := json.Marshal(rec)
	require.NoError(t, err)
	assert.Contains(
		t,
		string(raw),
		"spec sheet, version 2 from here on: Backlash of ring and pinion: 0.15 mm to 0.2 mm; Ring gear back-face runout: at most 0.08 mm",
	)
	assert.Contains(t, rec.Sheet, "version 2")
	p.verified(t, r.ID)
}

// The parts of a unit nobody knew, as they came off, become its family's stack:
// the next one is taken apart by them.
func TestAStackIsKeptAsItCameOff(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := odo.order(t, j, "")
	base := "/api/v1/rebuilds/" + r.ID
	keep := func(u *user, step string) (int, string) {
		res, said := u.send(http.MethodPost, base+"/kept-stack", `{"step":"`+step+`"}`, key())
		return res.StatusCode, said
	}
	status, said := keep(ilva, "strip")
	assert.Equal(t, http.StatusConflict, status, said)
	status, said = keep(ilva, "backlash")
	assert.Equal(t, http.StatusUnprocessableEntity, status, said)
	off := func() *stack.StackStep {
		view, ok := odo.step(base + "/steps/strip").(*stack.StackStep)
		require.True(t, ok)
		return view
	}
	ilva.walkUntil(t, base, "strip")
	known := off().Stack
	odo.do(t, base+"/steps/strip/entries", `{"act":"removed","outcome":"removed","item":"`+known[1].ID+`"}`,
		new(record.Entry))
	odo.do(
		t,
		base+"/steps/strip/entries",
		`{"act":"removed","outcome":"removed","name":"Spacer nobody drew","faces":"groove to the ring gear","tray":"3"}`,
		new(record.Entry),
	)
	odo.do(t, base+"/steps/strip/entries", `{"act":"removed","outcome":"not-found","item":"`+known[0].ID+`"}`,
		new(record.Entry))
	status, said = keep(odo, "strip")
	assert.Equal(t, http.StatusForbidden, status, said)
	status, said = keep(ilva, "strip")
	require.Equal(t, http.StatusOK, status, said)

	next := odo.order(t, j, "")
	view, ok := odo.step("/api/v1/rebuilds/" + next.ID + "/steps/strip").(*stack.StackStep)
	require.True(t, ok)
	require.Len(t, view.Stack, 2)
	assert.Equal(t, known[1].Name, view.Stack[0].Name)
	assert.Equal(t, "Spacer nobody drew", view.Stack[1].Name)
	assert.Equal(t, "groove to the ring gear", view.Stack[1].Faces)
	assert.False(t, view.Stack[1].Extra, "it stands on the plan now")
	ilva.walkRoute(t, "/api/v1/rebuilds/"+next.ID)
	assert.Len(t, off().Stack, len(known)+1, "the first rebuild keeps its copy")
}
