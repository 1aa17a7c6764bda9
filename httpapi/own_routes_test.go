package httpapi_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// goes posts what the shop does otherwise on a route and gives status and answer.
func (u *user) goes(route string, version int, own, why string) (int, string) {
	res, said := u.send(http.MethodPost, "/api/v1/routes/"+route,
		fmt.Sprintf(`{"version":%d,"own":%s,"why":%q}`, version, own, why), key())
	return res.StatusCode, said
}

// A lead says how the shop goes a route; rebuilds opened from then on go it so,
// those before stay on theirs, and the page tells who changed what and why.
func TestALeadSaysHowTheShopGoesARoute(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	before := ilva.open().ID
	status, said := ilva.goes(
		"transfer-case-dog",
		0,
		`{"steps":{"sealant":{"title":"Seal the case","minutes":25},"parts-here":{"left_out":true}},"added":[{"fragment":"warm-bearing","behind":"sealant","as":"once-more"}]}`,
		"we sell many of these",
	)
	require.Equal(t, http.StatusOK, status, said)
	var page shop.RoutePage
	require.NoError(t, json.Unmarshal([]byte(said), &page))
	require.Len(t, page.History, 1)
	assert.Equal(t, 1, page.Version)
	assert.Equal(t, "we sell many of these", page.History[0].Why)
	assert.Contains(t, page.History[0].Changes, `Cover sealant: called "Seal the case"`)
	assert.Contains(t, page.History[0].Changes, "warm-bearing added after sealant")
	assert.Empty(t, page.Unfit)

	steps := func(id string) (ids []string) {
		var sheet record.Sheet
		ilva.get("/api/v1/rebuilds/"+id, &sheet)
		for _, s := range sheet.Steps {
			ids = append(ids, s.ID)
		}
		return ids
	}
	after := ilva.open().ID
	seal := ilva.step("/api/v1/rebuilds/" + after + "/steps/sealant").Frame().Step
	assert.Equal(t, "Seal the case", seal.Title)
	assert.Equal(t, 25, seal.Minutes)
	assert.Contains(t, steps(after), "once-more")
	assert.NotContains(t, steps(after), "parts-here")
	assert.Contains(t, steps(before), "parts-here", "a rebuild keeps the route it was opened on")

	status, said = ilva.goes("transfer-case-dog", 0, `{}`, "from an old page")
	assert.Equal(t, http.StatusConflict, status, said)
	status, said = ilva.goes("transfer-case-dog", 1, `{"unused":true}`, "as the book has it, and no longer sold")
	require.Equal(t, http.StatusOK, status, said)
	require.NoError(t, json.Unmarshal([]byte(said), &page))
	assert.Contains(t, page.History[0].Changes, "removed: Cover sealant: takes 25 minutes")
	var list struct{ Routes []shop.RouteChoice }
	ilva.get("/api/v1/routes", &list)
	i := slices.IndexFunc(list.Routes, func(r shop.RouteChoice) bool { return r.ID == "transfer-case-dog" })
	require.GreaterOrEqual(t, i, 0)
	assert.True(t, list.Routes[i].Unused)
	assert.Equal(t, 2, list.Routes[i].Own)
}

// What would leave a mechanic stuck is refused with its place, and nothing of it is kept.
func TestARouteIsNotBroken(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	for own, want := range map[string]string{
		`{"steps":{"sign-off":{"left_out":true}}}`:                         "own.steps.sign-off.left_out",
		`{"steps":{"sealant":{"school":"guess"}}}`:                         "own.steps.sealant.school",
		`{"steps":{"nothing":{"minutes":5}}}`:                              "own.steps.nothing",
		`{"added":[{"fragment":"sealant","behind":"sealant"}]}`:            "own.steps.sealant.id",
		`{"added":[{"fragment":"end-float","behind":"identify"}]}`:         "end-float",
		`{"steps":{"sealant":{"title":"Seal ` + "\\u202e" + `the case"}}}`: "title",
	} {
		status, said := ilva.goes("transfer-case-dog", 0, own, "to see")
		assert.Contains(t, []int{http.StatusBadRequest, http.StatusUnprocessableEntity}, status, said)
		assert.Contains(t, said, want)
	}
	status, said := odo.goes("transfer-case-dog", 0, `{"unused":true}`, "a mechanic")
	assert.Equal(t, http.StatusForbidden, status, said)
	status, said = ilva.goes("no-route", 0, `{}`, "a route of no book")
	assert.Equal(t, http.StatusNotFound, status, said)
	var page shop.RoutePage
	ilva.get("/api/v1/routes/transfer-case-dog", &page)
	assert.Zero(t, page.Version)
	assert.Empty(t, page.History)
	assert.NotEmpty(t, page.Pieces)
}
