package httpapi_test

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// tablet is a screen that a lead enrolled, and nobody signed in there.
func (p *process) tablet(t *testing.T, lead *user, name string) *user {
	t.Helper()
	res, said := lead.send(http.MethodPost, "/api/v1/tablets", `{"name":"`+name+`"}`, key())
	require.Equal(t, http.StatusCreated, res.StatusCode, said)
	for _, c := range res.Cookies() {
		if strings.HasSuffix(c.Name, "handwerk_tablet") {
			return &user{process: p, cookie: c.Name + "=" + c.Value}
		}
	}
	t.Fatal("the screen was not told that it is a tablet")
	return nil
}

// stands says a PIN at a tablet; who stands there then is given.
func (u *user) stands(login, pin string) (*user, *http.Response, string) {
	res, said := u.send(http.MethodPost, "/api/v1/bench/session", `{"login":"`+login+`","pin":"`+pin+`"}`, nil)
	there := &user{process: u.process, cookie: u.cookie}
	for _, c := range res.Cookies() {
		if strings.HasSuffix(c.Name, "handwerk_session") {
			there.cookie += "; " + c.Name + "=" + c.Value
		}
	}
	return there, res, said
}

// At a tablet of the bench a name and a PIN let in, for the bench's work and no
// lead's desk work, until a short rest.
func TestWhoIsAtTheBench(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	var view httpapi.BenchView
	p.visitor().get("/api/v1/bench", &view)
	assert.Empty(t, view.Tablet)
	assert.Empty(t, view.People, "strangers do not hear who works here")
	_, res, said := p.visitor().stands("ilva", "4071")
	assert.Equal(t, http.StatusForbidden, res.StatusCode, "no bench: %s", said)

	for pin, status := range map[string]int{
		"1234": 422, "8765": 422, "0000": 422, "1984": 422, "2580": 422, "1212": 422, "25a0": 422, "258": 422,
		"123456789": 422,
	} {
		res, said := ilva.send(http.MethodPost, "/api/v1/session/pin", `{"pin":"`+pin+`","password":"`+password+`"}`,
			key())
		assert.Equal(t, status, res.StatusCode, "%s: %s", pin, said)
	}
	res, said = ilva.send(http.MethodPost, "/api/v1/session/pin", `{"pin":"4071","password":"not mine"}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	res, said = ilva.send(http.MethodPost, "/api/v1/session/pin", `{"pin":"4071","password":"`+password+`"}`, key())
	require.Equal(t, http.StatusNoContent, res.StatusCode, said)

	bench := p.tablet(t, ilva, "Bench by the door")
	bench.get("/api/v1/bench", &view)
	assert.Equal(t, "Bench by the door", view.Tablet)
	require.Len(t, view.People, 1)
	res, _ = bench.send(http.MethodGet, "/api/v1/board", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "a tablet is nobody")

	there, res, said := bench.stands("ilva", "4071")
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	assert.Contains(t, said, `"idle_minutes":10`)
	res, _ = there.send(http.MethodGet, "/api/v1/board", "", nil)
	assert.Equal(t, http.StatusOK, res.StatusCode)
	for _, path := range []string{"/api/v1/people", "/api/v1/programs", "/api/v1/tablets"} {
		res, said = there.send(http.MethodGet, path, "", nil)
		assert.Equal(t, http.StatusForbidden, res.StatusCode, "%s: %s", path, said)
	}

	res, _ = ilva.send(http.MethodGet, "/api/v1/board", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "who made it a bench's has left it")
	ilva = p.signIn("ilva")
	var list struct{ Tablets []people.Tablet }
	ilva.get("/api/v1/tablets", &list)
	res, _ = ilva.send(http.MethodPost, "/api/v1/tablets/"+list.Tablets[0].ID+"/end", "", key())
	require.Equal(t, http.StatusNoContent, res.StatusCode)
	res, _ = there.send(http.MethodGet, "/api/v1/board", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "what was opened there ended with it")
	_, res, _ = bench.stands("ilva", "4071")
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
}

// A PIN is not guessed: of many tries, at once too, a handful is looked at.
func TestAPINIsNotGuessed(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	ilva.send(http.MethodPost, "/api/v1/session/pin", `{"pin":"4071","password":"`+password+`"}`, key())
	bench := p.tablet(t, ilva, "Bench by the door")
	answers := make([]int, 40)
	var wg sync.WaitGroup
	for i := range answers {
		wg.Go(func() {
			_, res, _ := bench.stands("ilva", fmt.Sprintf("%04d", 3000+i))
			answers[i] = res.StatusCode
		})
	}
	wg.Wait()
	looked := 0
	for _, status := range answers {
		if status == http.StatusUnauthorized {
			looked++
		} else {
			assert.Equal(t, http.StatusTooManyRequests, status)
		}
	}
	assert.LessOrEqual(t, looked, 5)
	_, res, said := bench.stands("ilva", "4071")
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode, "the right one waits too: %s", said)
	res, said = p.visitor().send(http.MethodPost, "/api/v1/session", `{"login":"ilva","password":"`+password+`"}`, nil)
	assert.Equal(t, http.StatusOK, res.StatusCode, "the password is not locked out by it: %s", said)
}

// A PIN that was wrong twenty times sleeps, over days too, until the password is
// said; a password from the lead takes it away.
func TestAPINSleeps(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	keep := func() {
		res, said := ilva.send(http.MethodPost, "/api/v1/session/pin", `{"pin":"4071","password":"`+password+`"}`,
			key())
		require.Equal(t, http.StatusNoContent, res.StatusCode, said)
	}
	keep()
	bench := p.tablet(t, ilva, "Bench by the door")
	ilva = p.signIn("ilva")
	asleep := func() bool {
		var list struct{ People []httpapi.PersonView }
		ilva.get("/api/v1/people", &list)
		return slices.ContainsFunc(list.People, func(x httpapi.PersonView) bool {
			return x.Login == "ilva" &&
				x.PINAsleep
		})
	}
	for range people.WrongPINs {
		_, res, said := bench.stands("ilva", "3001")
		require.Equal(t, http.StatusUnauthorized, res.StatusCode, said)
		p.now = p.now.Add(16 * time.Minute)
	}
	assert.True(t, asleep(), "the lead sees it")
	_, res, said := bench.stands("ilva", "4071")
	assert.Equal(t, http.StatusForbidden, res.StatusCode, "the right one too: %s", said)
	p.signIn("ilva")
	assert.False(t, asleep())
	_, res, said = bench.stands("ilva", "4071")
	assert.Equal(t, http.StatusOK, res.StatusCode, said)

	res, said = ilva.send(http.MethodPost, "/api/v1/people/ilva", `{"password":"wharf candle mitten nine"}`, key())
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	_, res, said = bench.stands("ilva", "4071")
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "it went with the password: %s", said)
}

// A session at the bench ends after the rest the shop sets.
func TestTheBenchAsksAgainAfterARest(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	person := people.Person{Login: "ilva", Name: "ILVA", Role: people.Lead}
	session := people.Session{
		ID: say.NewID(), Digest: httpapi.DigestOf("at the bench"), Person: person, CSRF: "x", Started: p.now,
		IdleMinutes: 10,
	}
	require.NoError(t, p.store.KeepSession(t.Context(), session))
	for after, holds := range map[time.Duration]bool{9 * time.Minute: true, 11 * time.Minute: false} {
		_, ok, err := p.store.Session(t.Context(), session.Digest, p.now.Add(after))
		require.NoError(t, err)
		assert.Equal(t, holds, ok, after.String())
	}
	assert.Equal(t, p.now.Add(10*time.Minute), people.Session{Started: p.now, Used: p.now, IdleMinutes: 10}.Expires())
}
