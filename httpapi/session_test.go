package httpapi_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
	"handwerk/postgres/pgtest"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

// guess tries to sign in and gives the status.
func (p *process) guess(login, password, cookie string) (*http.Response, string) {
	return (&user{process: p, cookie: cookie}).send(
		http.MethodPost, "/api/v1/session", fmt.Sprintf(`{"login":%q,"password":%q}`, login, password), nil,
	)
}

// Guesses are counted before they are tried: two hundred at once are no more
// tries than five in a row.
func TestParallelGuessesAreCountedFirst(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	var tried, held, away, other atomic.Int64
	var wg sync.WaitGroup
	for i := range 200 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			res, _ := p.guess("odo", fmt.Sprintf("guess number %d", i), "")
			switch res.StatusCode {
			case http.StatusUnauthorized:
				tried.Add(1)
			case http.StatusTooManyRequests:
				held.Add(1)
				seconds, err := strconv.Atoi(res.Header.Get("Retry-After"))
				assert.NoError(t, err)
				assert.Positive(t, seconds)
			case http.StatusServiceUnavailable: // a busy machine: nothing was tried
				away.Add(1)
			default:
				other.Add(1)
			}
		}()
	}
	wg.Wait()
	assert.LessOrEqual(t, tried.Load(), int64(5))
	assert.Positive(t, held.Load())
	assert.EqualValues(t, 200, tried.Load()+held.Load()+away.Load())
	assert.Zero(t, other.Load())
}

// Who signed in with this browser before still does, whatever strangers at
// the same address have used up.
func TestAKnownBrowserIsNotLockedOutByStrangers(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	res, body := p.guess("odo", password, "")
	require.Equal(t, http.StatusOK, res.StatusCode, body)
	known := cookieOf(res, "handwerk_known")
	require.NotEmpty(t, known)
	assert.NotContains(t, known, "odo", "it says only that somebody signed in")
	for range 6 {
		p.guess("odo", "wrong", "")
	}
	res, _ = p.guess("odo", password, "")
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode, "a stranger's browser waits")
	res, _ = p.guess("odo", password, "handwerk_known=MADEUP.0000")
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode, "one with a cookie of his own making too")
	res, body = p.guess("odo", password, known)
	assert.Equal(t, http.StatusOK, res.StatusCode, body)
	for range 5 {
		p.guess("odo", "wrong", known)
	}
	res, _ = p.guess("odo", password, known)
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode, "a known browser guesses no more than others")
	res, body = p.guess("ilva", password, known)
	assert.Equal(t, http.StatusOK, res.StatusCode, "another person at it is not held back: %s", body)
	both := cookieOf(res, "handwerk_known")
	for _, login := range []string{"ilva", "guest"} {
		for range 6 {
			p.guess(login, "wrong", "")
		}
	}
	res, body = p.guess("ilva", password, both)
	assert.Equal(t, http.StatusOK, res.StatusCode, "the browser of several is known for each: %s", body)
	res, _ = p.guess("guest", password, both)
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode, "and for nobody else")
}

// Whoever has an account gets no more tries at another's with fresh cookies of
// his own.
func TestAnInsiderGuessesNoMoreThanAStranger(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	looked := 0
	for i := range 60 {
		res, body := p.guess("odo", password, "")
		require.Equal(t, http.StatusOK, res.StatusCode, body)
		res, _ = p.guess("ilva", fmt.Sprintf("guess number %d", i), cookieOf(res, "handwerk_known"))
		if res.StatusCode == http.StatusUnauthorized {
			looked++
		}
	}
	assert.LessOrEqual(t, looked, 5)
}

func TestSprayingNamesIsHeldBack(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	held := 0
	for i := range 60 {
		res, _ := p.guess(fmt.Sprintf("name-%d", i), "spring2026", "")
		if res.StatusCode == http.StatusTooManyRequests {
			held++
		}
	}
	assert.Equal(t, 30, held, "thirty from one address, then no more")
}

func TestRetryAfterIsTrue(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	for range 5 {
		p.guess("odo", "wrong", "")
	}
	p.now = p.now.Add(5 * time.Minute)
	res, _ := p.guess("odo", password, "")
	require.Equal(t, http.StatusTooManyRequests, res.StatusCode)
	seconds, err := strconv.Atoi(res.Header.Get("Retry-After"))
	require.NoError(t, err)
	p.now = p.now.Add(time.Duration(seconds-2) * time.Second)
	res, _ = p.guess("odo", password, "")
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode, "not sooner")
	p.now = p.now.Add(3 * time.Second)
	res, _ = p.guess("odo", password, "")
	assert.Equal(t, http.StatusOK, res.StatusCode)
}

func TestSessionsEndWhenTheyAreLeftAndInAnyCase(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	for range 59 { // thirty days, used twice a day
		p.now = p.now.Add(11*time.Hour + 59*time.Minute)
		res, body := u.send(http.MethodGet, "/api/v1/session", "", nil)
		require.Equal(t, http.StatusOK, res.StatusCode, body)
	}
	p.now = p.now.Add(11 * time.Hour)
	res, _ := u.send(http.MethodGet, "/api/v1/session", "", nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	p.now = p.now.Add(10 * time.Hour)
	res, _ = u.send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "thirty days are over")

	idle := p.signIn("odo")
	p.now = p.now.Add(12*time.Hour + time.Minute)
	res, _ = idle.send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "left for twelve hours")
}

// streaming opens a stream of events and tells when it ends.
func (u *user) streaming(path string) (ended chan struct{}) {
	u.t.Helper()
	scan := u.stream(path)
	ended = make(chan struct{})
	go func() {
		for scan.Scan() {
		}
		close(ended)
	}()
	return ended
}

func TestANewPasswordEndsAllOtherSessions(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	other := start(t, url)
	here, there := p.signIn("odo"), other.signIn("odo")
	stream := there.streaming("/api/v1/board/events")
	var list struct{ Sessions []httpapi.OpenSession }
	here.get("/api/v1/sessions", &list)
	assert.Len(t, list.Sessions, 2)

	const better = "oxide-lantern-pulley-seven"
	change := func(current, next string) (*http.Response, string) {
		return here.send(http.MethodPost, "/api/v1/session/password",
			fmt.Sprintf(`{"current":%q,"password":%q}`, current, next), nil)
	}
	for next, says := range map[string]string{
		"short": "characters", "1234567890": "easy to guess", "            ": "only spaces", "passwordpassword": "easy to guess",
		"odoodoodoodo": "easy to guess",
	} {
		res, body := change(password, next)
		assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, next)
		assert.Contains(t, problemOf(t, res, body).Detail, says, next)
	}
	res, body := change("not my password", better)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, body)
	assert.Equal(t, "current", problemOf(t, res, body).Fields[0].Path)
	res, body = change(password, better)
	require.Equal(t, http.StatusNoContent, res.StatusCode, body)
	res, _ = there.send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode)
	res, _ = here.send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusOK, res.StatusCode, "the one it was changed in goes on")
	select {
	case <-stream:
	case <-time.After(time.Minute):
		t.Fatal("the stream goes on after its session")
	}
	res, _ = p.guess("odo", better, "")
	assert.Equal(t, http.StatusOK, res.StatusCode)
	assert.NotContains(t, p.log.String(), better)
	assert.Contains(t, p.log.String(), `"event":"password changed"`)
}

func TestAPersonSeesAndEndsHisSessions(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	here, lost, ilva := p.signIn("odo"), p.signIn("odo"), p.signIn("ilva")
	stream := lost.streaming("/api/v1/board/events")
	var list struct{ Sessions []httpapi.OpenSession }
	here.get("/api/v1/sessions", &list)
	require.Len(t, list.Sessions, 2)
	for _, s := range list.Sessions {
		assert.NotEmpty(t, s.Browser)
		assert.Equal(t, straight, s.Address)
		if s.This {
			continue
		}
		res, _ := ilva.send(http.MethodPost, "/api/v1/sessions/"+s.ID+"/end", "", nil)
		assert.Equal(t, http.StatusNotFound, res.StatusCode, "nobody ends another's")
		res, _ = here.send(http.MethodPost, "/api/v1/sessions/"+s.ID+"/end", "", nil)
		assert.Equal(t, http.StatusNoContent, res.StatusCode)
	}
	res, _ := lost.send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode)
	<-stream
}

func TestAClosedAccountIsShut(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	stream := u.streaming("/api/v1/board/events")
	require.NoError(t, p.store.CloseAccount(context.Background(), "odo", p.now))
	res, _ := u.send(http.MethodGet, "/api/v1/board", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode)
	res, body := p.guess("odo", password, "")
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode)
	assert.Contains(t, body, "Wrong name or password", "it does not tell that there was one")
	<-stream
}

func TestSecureCookiesAreBoundToTheHost(t *testing.T) {
	t.Parallel()
	p, _ := opened(t, func(o *httpapi.Options) { o.Secure = true })
	res, _ := p.guess("odo", password, "")
	require.Equal(t, http.StatusOK, res.StatusCode)
	session := cookieOf(res, "__Host-handwerk_session")
	assert.NotEmpty(t, session)
	for _, c := range res.Cookies() {
		assert.True(t, c.Secure && c.HttpOnly && c.Path == "/" && c.Domain == "", c.Name)
		assert.True(t, strings.HasPrefix(c.Name, "__Host-"), c.Name)
	}
	assert.Contains(t, res.Header.Get("Strict-Transport-Security"), "max-age=")
	res, _ = (&user{process: p, cookie: session}).send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusOK, res.StatusCode)
}

// What somebody who watches over the shop wants to see stands in the log, one
// line each, and never a secret.
func TestSecurityEventsAreLogged(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	p.guess("odo", "not-the-password-1", "")
	assert.Contains(t, p.log.String(), `"event":"sign-in failed"`)
	assert.Contains(t, p.log.String(), `"login":"odo"`)
	assert.Contains(t, p.log.String(), `"address":"`+straight+`"`)
	assert.NotContains(t, p.log.String(), "not-the-password-1")
	u := p.signIn("ilva")
	r := u.open()
	res, body := u.send(
		http.MethodPost, "/api/v1/rebuilds/"+r.ID+"/steps/sign-off/entries",
		`{"act":"override","reason":"the customer waits"}`,
		key(),
	)
	require.Equal(t, http.StatusCreated, res.StatusCode, body)
	assert.Contains(t, p.log.String(), `"event":"gate overridden"`)
}

// A session is taken for good for a moment where writing looks again: one that
// was ended elsewhere writes nothing, however short ago it was used.
func TestAnEndedSessionWritesNothing(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	u := p.signIn("odo")
	r := u.open()
	path, note := "/api/v1/rebuilds/"+r.ID+"/steps/identify/entries", `{"act":"note","note":"x"}`
	res, body := u.send(http.MethodPost, path, note, key())
	require.Equal(t, http.StatusCreated, res.StatusCode, body)
	conn := pgtest.Owner(t, url)
	for _, c := range []struct {
		change string
		status int
	}{
		{`UPDATE account SET role = 'reader' WHERE login = 'odo'`, http.StatusForbidden},
		{`UPDATE account SET role = 'lead' WHERE login = 'odo'`, http.StatusCreated},
		{`UPDATE account SET closed_at = now() WHERE login = 'odo'`, http.StatusUnauthorized},
		{`UPDATE account SET closed_at = NULL WHERE login = 'odo'`, http.StatusCreated},
		{`DELETE FROM session`, http.StatusUnauthorized},
	} {
		_, err := conn.Exec(context.Background(), c.change)
		require.NoError(t, err)
		res, body = u.send(http.MethodPost, path, note, key())
		assert.Equal(t, c.status, res.StatusCode, "%s: %s", c.change, body)
	}
	l, err := p.store.Ledger(context.Background(), r.ID)
	require.NoError(t, err)
	require.Len(t, l.Entries, 3)
	assert.Equal(t, people.Lead, l.Entries[1].By.Role, "the role of the moment is on record")
}

// Whoever signs said just now who he is, and so does whoever takes it back: an older
// session is over, and with a new one the same entry is kept.
func TestASignatureSaysWhoItIs(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("ilva")
	r := u.open()
	base := "/api/v1/rebuilds/" + r.ID
	u.walkUntil(t, base, "sign-off")
	p.now = p.now.Add(3 * time.Minute)
	body, same := `{"act":"decision","outcome":"release"}`, key()
	res, said := u.send(http.MethodPost, base+"/steps/sign-off/entries", body, same)
	require.Equal(t, http.StatusUnauthorized, res.StatusCode, said)
	assert.Contains(t, said, "say once more who you are")
	res, _ = u.send(http.MethodGet, "/api/v1/board", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "the old session is over")
	u = p.signIn("ilva")
	res, said = u.send(http.MethodPost, base+"/steps/sign-off/entries", body, same)
	require.Equal(t, http.StatusCreated, res.StatusCode, said)
	var e record.Entry
	require.NoError(t, json.Unmarshal([]byte(said), &e))
	p.now = p.now.Add(3 * time.Minute)
	res, said = u.send(http.MethodPost, base+"/steps/sign-off/entries",
		`{"act":"strike","supersedes":"`+e.ID+`","reason":"the leak came back"}`, key())
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, said)
}
