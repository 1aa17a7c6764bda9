package httpapi_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/httpapi"
	"handwerk/workshop/kinds/measure"
)

// A lead says what the workshop says of itself; it holds at once, and what
// cannot be is refused by its field.
func TestALeadSaysWhatTheShopIs(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	shop := map[string]any{
		"name": "Slipway garage", "units": "inch", "currency": "EUR", "hourly_rate": 62.5, "zone": "Europe/Lisbon",
		"paper": "Letter", "foot": "Quay 4, open from seven", "backups": t.TempDir(),
	}
	change := func(u *user, field string, value any) (*http.Response, string) {
		said := map[string]any{}
		for k, v := range shop {
			said[k] = v
		}
		if field != "" {
			said[field] = value
		}
		raw, err := json.Marshal(said)
		require.NoError(t, err)
		return u.send(http.MethodPost, "/api/v1/shop", string(raw), key())
	}
	for field, value := range map[string]any{
		"name": "", "units": "cubits", "currency": "euro", "hourly_rate": -1, "zone": "Europe/Nowhere", "paper": "A3",
		"foot": string(make([]byte, 500)), "backups": "/nowhere/at/all",
	} {
		res, said := change(ilva, field, value)
		if field == "foot" {
			assert.NotEqual(t, http.StatusOK, res.StatusCode, said)
			continue
		}
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "%s: %s", field, said)
		assert.Equal(t, field, problemOf(t, res, said).Fields[0].Path)
	}
	res, said := change(ilva, "backups", "relative")
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	res, said = change(odo, "", nil)
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	res, said = change(ilva, "", nil)
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	var view httpapi.ShopView
	ilva.get("/api/v1/shop", &view)
	assert.Equal(t, "Slipway garage", view.Name)
	assert.Equal(t, quantity.MoneyOf(62.5), view.HourlyRate)
	odo.get("/api/v1/shop", &view)
	view = httpapi.ShopView{}
	odo.get("/api/v1/shop", &view)
	assert.Empty(t, view.Backups, "where backups lie is a lead's to know")

	r := odo.open()
	measured, ok := odo.step("/api/v1/rebuilds/" + r.ID + "/steps/" + firstMeasured(t, odo, r.ID,
		"dial indicator")).(*measure.MeasureStep)
	require.True(t, ok)
	assert.Equal(t, "thou", measured.Units[0], "what the shop reads in is first")
	res, pdf := odo.send(http.MethodGet, "/api/v1/rebuilds/"+r.ID+"/record.pdf", "", nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	assert.Contains(t, pdf, "612.00 792.00", "printed on Letter: 8.5 by 11 inches of 72 points")
}

// What an hour costs comes from the shop, how long there is from the promise:
// neither is asked for at the bench.
func TestWhatTheShopAndThePromiseSayIsNotAsked(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	costs := func(serial string) string {
		r := ilva.order(t, ilva.takeIn(t, "Nora Quill "+serial, "QK "+serial, serial), "")
		var c book.Copy
		ilva.get("/api/v1/plans/"+r.PlanHash, &c)
		for _, f := range ilva.step("/api/v1/rebuilds/" + r.ID + "/steps/way").Frame().Figures {
			assert.Equal(t, "ways", f.Path, "nothing else is asked for")
		}
		return string(c.Sheet.Figures["hourly-rate"])
	}
	assert.Equal(t, "58", costs("1"), "as the book of the demo has it")
	shop := `{"name":"Slipway garage","units":"metric","currency":"EUR","hourly_rate":62.5,"zone":"Europe/Lisbon","paper":"A4"}`
	res, said := ilva.send(http.MethodPost, "/api/v1/shop", shop, key())
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	assert.Equal(t, "62.5", costs("2"))
}
