package httpapi_test

import (
	"context"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/postgres/pgtest"
)

const firstRun = `{"code":"CODE","shop":{"name":"Slipway garage","units":"metric","currency":"EUR","hourly_rate":58,"zone":"Europe/Lisbon","paper":"A4"},
	"lead":{"login":"ilva","name":"Ilva Torn","password":"oxide lantern pulley seven"}}`

// empty is a program where nobody works yet, with the code that it printed.
func empty(t *testing.T) (*process, string) {
	t.Helper()
	p := start(t, pgtest.URL(t))
	code, err := p.store.FirstCode(context.Background(), time.Now())
	require.NoError(t, err)
	return p, code
}

// The code opens the workshop once: its lead is signed in, and the clock is the shop's.
func TestTheFirstRunOpensTheWorkshopOnce(t *testing.T) {
	t.Parallel()
	p, code := empty(t)
	var first struct{ Wanted bool }
	stranger := p.visitor()
	stranger.get("/api/v1/first", &first)
	assert.True(t, first.Wanted)
	body := strings.Replace(firstRun, "CODE", strings.ToLower(code[:8]+" "+code[8:]), 1)
	res, said := stranger.send(http.MethodPost, "/api/v1/first", body, nil)
	require.Equal(t, http.StatusCreated, res.StatusCode, said)
	assert.Contains(t, said, `"role":"lead"`)
	assert.Contains(t, said, `"zone":"Europe/Lisbon"`)
	shop, ok, err := p.store.Shop(context.Background())
	require.NoError(t, err)
	require.True(t, ok)
	assert.Equal(t, "Slipway garage", shop.Name)
	p.visitor().get("/api/v1/first", &first)
	assert.False(t, first.Wanted)
	res, said = p.visitor().send(http.MethodPost, "/api/v1/first", body, nil)
	assert.Equal(t, http.StatusConflict, res.StatusCode, said)
}

// Two who hold the code at once: one workshop, one lead.
func TestTwoFirstRunsAtOnceAreOne(t *testing.T) {
	t.Parallel()
	p, code := empty(t)
	var opened atomic.Int32
	var wg sync.WaitGroup
	for _, login := range []string{"ilva", "odo", "runa", "tam"} {
		wg.Go(func() {
			body := strings.Replace(strings.Replace(firstRun, "CODE", code, 1), `"login":"ilva"`,
				`"login":"`+login+`"`, 1)
			if res, _ := p.visitor().send(http.MethodPost, "/api/v1/first", body,
				nil); res.StatusCode == http.StatusCreated {
				opened.Add(1)
			}
		})
	}
	wg.Wait()
	assert.EqualValues(t, 1, opened.Load())
}

func TestAFirstRunThatCannotBeNamesItsField(t *testing.T) {
	t.Parallel()
	p, code := empty(t)
	good := strings.Replace(firstRun, "CODE", code, 1)
	for field, change := range map[string][2]string{
		"code":             {code, "WRONGWRONGWRONG1"},
		"shop.name":        {"Slipway garage", "  "},
		"shop.units":       {`"metric"`, `"cubits"`},
		"shop.currency":    {`"EUR"`, `"euro"`},
		"shop.hourly_rate": {"58", "-1"},
		"shop.zone":        {"Europe/Lisbon", "Europe/Nowhere"},
		"shop.paper":       {`"A4"`, `"A5"`},
		"lead.login":       {`"login":"ilva"`, `"login":"Il va"`},
		"lead.name":        {"Ilva Torn", ""},
		"lead.password":    {"oxide lantern pulley seven", "1234567890"},
	} {
		res, said := p.visitor().send(http.MethodPost, "/api/v1/first",
			strings.Replace(good, change[0], change[1], 1), nil)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "%s: %s", field, said)
		assert.Equal(t, field, problemOf(t, res, said).Fields[0].Path, said)
	}
	first, err := p.store.IsFirst(context.Background())
	require.NoError(t, err)
	assert.True(t, first, "nothing was kept by half")
}

// An old code opens nothing, and guesses are counted.
func TestACodeRunsOutAndGuessesAreCounted(t *testing.T) {
	t.Parallel()
	p, _ := empty(t)
	old, err := p.store.FirstCode(context.Background(), time.Now().Add(-31*time.Minute))
	require.NoError(t, err)
	body := strings.Replace(firstRun, "CODE", old, 1)
	for range 20 {
		res, said := p.visitor().send(http.MethodPost, "/api/v1/first", body, nil)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	}
	res, _ := p.visitor().send(http.MethodPost, "/api/v1/first", body, nil)
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode)
	assert.NotEmpty(t, res.Header.Get("Retry-After"))

	code, err := p.store.FirstCode(context.Background(), time.Now())
	require.NoError(t, err)
	res, said := p.visitor().send(http.MethodPost, "/api/v1/first", strings.Replace(firstRun, "CODE", code, 1), nil)
	assert.Equal(t, http.StatusCreated, res.StatusCode,
		"others' wrong codes do not keep out who has the right one: %s", said)
}
