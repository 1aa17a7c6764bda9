package httpapi_test

import (
	"encoding/json"
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// A gauge entered by a lead is read with at once, by rebuilds that are open too;
// its error counts, and that its calibration was overdue stands at the reading
// and in the record, whatever is said of it later.
func TestAGaugeOfTheShop(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	j := odo.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := odo.order(t, j, "")
	gauge := `{"kind":"dial indicator","name":"Grandfather's dial","resolution":"0.01 mm","mpe":"0.02 mm","due":"` +
		p.now.AddDate(0, 0, -1).Format("2006-01-02") + `"}`
	res, said := odo.send(http.MethodPost, "/api/v1/gauges", gauge, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	var page shop.GaugesPage
	ilva.do(t, "/api/v1/gauges", gauge, &page)
	assert.Contains(t, page.Kinds, "dial indicator")
	var mine shop.GaugeView
	for _, g := range page.Gauges {
		if g.Name == "Grandfather's dial" {
			mine = g
		}
	}
	require.True(t, mine.Overdue)

	step := firstMeasured(t, odo, r.ID, "dial indicator")
	at := "/api/v1/rebuilds/" + r.ID + "/steps/" + step
	view, ok := odo.step(at).(*measure.MeasureStep)
	require.True(t, ok)
	assert.Contains(t, view.Instruments, mine)
	for _, f := range view.Frame().Figures {
		odo.send(http.MethodPost, at+"/entries", `{"act":"figure","item":"`+f.Path+`","origin":"not-known"}`, key())
	}
	for _, w := range view.Frame().Wants {
		odo.send(http.MethodPost, at+"/entries", `{"act":"override","reason":"only to read"}`, key())
		odo.send(http.MethodPost, at+"/entries", `{"act":"stands","item":"`+w.Key+`","outcome":"`+w.State+`"}`, key())
	}
	var record paper.Record
	words := func() string {
		ilva.get("/api/v1/rebuilds/"+r.ID+"/record", &record)
		raw, err := json.Marshal(record)
		require.NoError(t, err)
		return string(raw)
	}
	res, said = odo.send(http.MethodPost, at+"/entries", `{"act":"override","reason":"only to read"}`, key())
	require.Contains(t, []int{http.StatusCreated, http.StatusConflict}, res.StatusCode, said)
	res, said = odo.send(http.MethodPost, at+"/entries",
		`{"act":"reading","value":"0.2 mm","instrument":"`+mine.ID+`"}`, key())
	require.Equal(t, http.StatusCreated, res.StatusCode, said)
	overdue := "Grandfather's dial, its calibration overdue since " + mine.Due
	assert.Contains(t, words(), overdue)
	res, said = odo.send(
		http.MethodPost, at+"/entries",
		`{"act":"reading","value":"0.2 mm","instrument":"`+mine.ID+
			`","gauge":{"id":"x","kind":"dial indicator","name":"forged"}}`,
		key(),
	)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "what we set is not said: %s", said)

	ilva.do(
		t,
		"/api/v1/gauges",
		`{"id":"`+mine.ID+`","kind":"dial indicator","name":"Grandfather's dial","resolution":"0.01 mm","due":"2099-01-01","ended":true}`,
		&page,
	)
	assert.Contains(t, words(), overdue, "as it was then")
	res, said = odo.send(http.MethodPost, at+"/entries",
		`{"act":"reading","value":"0.2 mm","instrument":"`+mine.ID+`"}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	p.verified(t, r.ID)
}

// firstMeasured is a step of a rebuild that is read with a kind of gauge.
func firstMeasured(t *testing.T, u *user, id, kind string) string {
	t.Helper()
	var sheet record.Sheet
	u.get("/api/v1/rebuilds/"+id, &sheet)
	for _, s := range sheet.Steps {
		view, ok := u.step("/api/v1/rebuilds/" + id + "/steps/" + s.ID).(*measure.MeasureStep)
		if ok && view.GaugeKind == kind {
			return s.ID
		}
	}
	t.Fatal("nothing is read with a " + kind)
	return ""
}

func TestAGaugeThatCannotBe(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	for body, field := range map[string]string{
		`{"kind":"dial indicator","name":" ","resolution":"0.01 mm"}`:                   "name",
		`{"kind":"","name":"Dial","resolution":"0.01 mm"}`:                              "kind",
		`{"kind":"dial indicator","name":"Dial","resolution":"0 mm"}`:                   "resolution",
		`{"kind":"dial indicator","name":"Dial","resolution":"0.01 mm","mpe":"1 bar"}`:  "mpe",
		`{"kind":"dial indicator","name":"Dial","resolution":"0.01 mm","mpe":"-1 mm"}`:  "mpe",
		`{"kind":"dial indicator","name":"Dial","resolution":"0.01 mm","due":"spring"}`: "due",
	} {
		res, said := ilva.send(http.MethodPost, "/api/v1/gauges", body, key())
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "%s: %s", body, said)
		assert.Equal(t, field, problemOf(t, res, said).Fields[0].Path)
	}
	res, said := ilva.send(http.MethodPost, "/api/v1/gauges",
		`{"id":"nobody","kind":"dial indicator","name":"Dial","resolution":"0.01 mm"}`, key())
	assert.Equal(t, http.StatusNotFound, res.StatusCode, said)
}

// A gauge with an address is followed by whoever is signed in, for as long as he is;
// the address is no part of what is read, and leads nowhere but into the shop.
func TestAGaugeThatSpeaks(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	address := speaks(t, func(to io.Writer) { _, _ = io.WriteString(to, "rubbish\r\n+0.123 mm\r\n") })
	gauge := func(name, address string) string {
		return `{"kind":"dial indicator","name":"` + name + `","resolution":"0.01 mm","address":"` + address + `"}`
	}
	for _, wrong := range []string{"198.51.100.1:23", "nowhere", "10.0.0.1:0"} {
		res, said := ilva.send(http.MethodPost, "/api/v1/gauges", gauge("Wrong", wrong), key())
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
		assert.Equal(t, "address", problemOf(t, res, said).Fields[0].Path)
	}
	var page shop.GaugesPage
	ilva.do(t, "/api/v1/gauges", gauge("Speaking dial", address), &page)
	res, said := ilva.send(http.MethodPost, "/api/v1/gauges", gauge("speaking Dial", ""), key())
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "two are not named alike: %s", said)
	i := slices.IndexFunc(page.Gauges, func(g shop.GaugeView) bool { return g.Name == "Speaking dial" })
	require.True(t, page.Gauges[i].Speaks)
	id := page.Gauges[i].ID

	lines := odo.stream("/api/v1/gauges/" + id + "/stream")
	heard := ""
	for !strings.Contains(heard, "readings") && lines.Scan() {
		heard = lines.Text()
	}
	assert.Contains(t, heard, `"readings":[{"text":"0.123 mm","value":0.123}]`)
	assert.NotContains(t, heard, "rubbish")
	odo.send(http.MethodPost, "/api/v1/session/end", "", nil)
	for lines.Scan() { // until the stream ends with its session
		continue
	}
	res, said = ilva.send(http.MethodGet, "/api/v1/gauges/no-such/stream", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode, said)
	res, said = ilva.send(http.MethodGet, "/api/v1/gauges/indicator-4/stream", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode, "it has no address: %s", said)

	j := ilva.takeIn(t, "Nora Quill", "QX 77", "GR-1")
	r := ilva.order(t, j, "")
	view, ok := ilva.step("/api/v1/rebuilds/" + r.ID + "/steps/" + firstMeasured(t, ilva, r.ID, "dial indicator")).(*measure.MeasureStep)
	require.True(t, ok)
	i = slices.IndexFunc(view.Instruments, func(g shop.GaugeView) bool { return g.ID == id })
	require.GreaterOrEqual(t, i, 0)
	assert.True(t, view.Instruments[i].Speaks)
	assert.Empty(t, view.Instruments[i].Address)
}
