package httpapi_test

import (
	"net/http"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
)

// A lead adds a mechanic, changes his role, closes and opens his account; what
// was changed counts at once.
func TestALeadSaysWhoWorksHere(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	res, said := ilva.send(http.MethodPost, "/api/v1/people",
		`{"login":"Tove","name":"Tove Lind","role":"mechanic","password":"`+password+`"}`, nil)
	require.Equal(t, http.StatusCreated, res.StatusCode, said)
	tove := p.signIn("tove")
	var list struct{ People []httpapi.PersonView }
	ilva.get("/api/v1/people", &list)
	assert.Len(t, list.People, 4)

	res, said = ilva.send(http.MethodPost, "/api/v1/people/tove", `{"role":"reader"}`, nil)
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	res, _ = tove.send(http.MethodPost, "/api/v1/rebuilds",
		`{"vehicle":"v","unit":"tc","complaint":"x","promised":"2099-01-01"}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, "the new role counts at once")

	res, said = ilva.send(http.MethodPost, "/api/v1/people/tove", `{"closed":true}`, nil)
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	res, _ = tove.send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "signed out everywhere")
	res, said = ilva.send(http.MethodPost, "/api/v1/people/tove",
		`{"closed":false,"password":"quarry violin mustard tide"}`, nil)
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	assert.NotContains(t, said, "closed_at")
}

func TestPeopleThatCannotBeAreRefused(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	for _, path := range []string{"/api/v1/people", "/api/v1/people/odo"} {
		res, said := odo.send(http.MethodPost, path, `{"role":"lead"}`, nil)
		assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	}
	res, _ := odo.send(http.MethodGet, "/api/v1/people", "", nil)
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
	for field, body := range map[string]string{
		"login":    `{"login":"odo","name":"Odo Two","role":"mechanic","password":"` + password + `"}`,
		"name":     `{"login":"tove","name":" ","role":"mechanic","password":"` + password + `"}`,
		"role":     `{"login":"tove","name":"Tove","role":"owner","password":"` + password + `"}`,
		"password": `{"login":"tove","name":"Tove","role":"mechanic","password":"tove"}`,
	} {
		res, said := ilva.send(http.MethodPost, "/api/v1/people", body, nil)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
		assert.Equal(t, field, problemOf(t, res, said).Fields[0].Path)
	}
	res, said := ilva.send(http.MethodPost, "/api/v1/people/nobody", `{"role":"lead"}`, nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode, said)
	for _, body := range []string{`{"role":"mechanic"}`, `{"closed":true}`} {
		res, said := ilva.send(http.MethodPost, "/api/v1/people/ilva", body, nil)
		assert.Equal(t, http.StatusConflict, res.StatusCode, said)
	}
}

// Two leads who take each other's role away at once: one of them stays.
func TestSomebodyLeadsWhateverHappensAtOnce(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	res, said := ilva.send(http.MethodPost, "/api/v1/people/odo", `{"role":"lead"}`, nil)
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	odo := p.signIn("odo")
	var wg sync.WaitGroup
	wg.Go(func() { ilva.send(http.MethodPost, "/api/v1/people/odo", `{"role":"mechanic"}`, nil) })
	wg.Go(func() { odo.send(http.MethodPost, "/api/v1/people/ilva", `{"role":"mechanic"}`, nil) })
	wg.Wait()
	people, err := p.store.People(t.Context())
	require.NoError(t, err)
	led := 0
	for _, x := range people {
		if x.Role == "lead" && x.ClosedAt == nil {
			led++
		}
	}
	assert.GreaterOrEqual(t, led, 1)
}
