package httpapi_test

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
	"handwerk/postgres/conn"
	"handwerk/postgres/pgtest"
	"handwerk/workshop/record"
)

// dialled is a request written by hand, and the answer to it.
func (p *process) dialled(head string, body io.Reader) (*http.Response, string) {
	p.t.Helper()
	conn, err := net.Dial("tcp", p.listen())
	require.NoError(p.t, err)
	defer func() { _ = conn.Close() }()
	require.NoError(p.t, conn.SetDeadline(time.Now().Add(30*time.Second)))
	_, err = io.WriteString(conn, strings.ReplaceAll(head, "\n", "\r\n")+"\r\n\r\n")
	require.NoError(p.t, err)
	if body != nil {
		_, _ = io.Copy(conn, body) // the answer may come before all is taken
	}
	res, err := http.ReadResponse(bufio.NewReader(conn), nil)
	require.NoError(p.t, err, "an answer, not a reset")
	defer func() { _ = res.Body.Close() }()
	raw, err := io.ReadAll(res.Body)
	require.NoError(p.t, err)
	return res, string(raw)
}

func TestPackedBodiesAreRefused(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	var packed bytes.Buffer
	w := gzip.NewWriter(&packed)
	_, err := w.Write(make([]byte, 64<<20))
	require.NoError(t, err)
	require.NoError(t, w.Close())
	for _, encoding := range []string{"gzip", "br", "deflate", "zstd", "identity", "gzip, gzip"} {
		res, body := (&user{process: p}).send(http.MethodPost, "/api/v1/session", packed.String(),
			map[string]string{"Content-Encoding": encoding})
		assert.Equal(t, http.StatusUnsupportedMediaType, res.StatusCode, encoding)
		assert.Equal(t, "Packed", problemOf(t, res, body).Title)
	}
}

// Whoever announces a body is answered before it comes, and nothing is set
// aside for it.
func TestAnnouncedBodiesAreNotWaitedFor(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	guest := p.signIn("guest")
	r := odo.open()
	head := "POST %s HTTP/1.1\nHost: localhost\nContent-Length: %d\nContent-Type: image/png\nCookie: %s\nX-CSRF-Token: %s"
	photos := "/api/v1/rebuilds/" + r.ID + "/photos"
	for name, c := range map[string]struct {
		path   string
		by     *user
		size   int
		status int
	}{
		"a stranger":         {photos, &user{}, 12_000_000, http.StatusUnauthorized},
		"a reader":           {photos, guest, 12_000_000, http.StatusForbidden},
		"too large":          {photos, odo, 13 << 20, http.StatusRequestEntityTooLarge},
		"much too large":     {photos, odo, 1 << 40, http.StatusRequestEntityTooLarge},
		"to no rebuild":      {"/api/v1/rebuilds/x/photos", odo, 12_000_000, http.StatusNotFound},
		"a large sign-in":    {"/api/v1/session", &user{}, 12_000_000, http.StatusUnsupportedMediaType},
		"to nowhere":         {"/api/v1/nowhere", &user{}, 12_000_000, http.StatusNotFound},
		"to a page":          {"/", &user{}, 12_000_000, http.StatusMethodNotAllowed},
		"too large an entry": {"/api/v1/calc/shim-pack", odo, 2 << 20, http.StatusUnsupportedMediaType},
	} {
		began := time.Now()
		res, body := p.dialled(fmt.Sprintf(head, c.path, c.size, c.by.cookie, c.by.csrf), nil)
		assert.Equal(t, c.status, res.StatusCode, name)
		assert.NotEmpty(t, problemOf(t, res, body).Detail, name)
		assert.Less(t, time.Since(began), 10*time.Second, "%s: answered at once, not when time ran out", name)
	}
}

func TestTooLargeIsSaidNotReset(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	r := odo.open()
	head := fmt.Sprintf("POST /api/v1/rebuilds/%s/photos HTTP/1.1\nHost: localhost\nCookie: %s\nX-CSRF-Token: %s\n",
		r.ID, odo.cookie, odo.csrf)
	for name, announced := range map[string]string{"announced": "Content-Length: 20000000",
		"in chunks": "Transfer-Encoding: chunked"} {
		var body io.Reader = bytes.NewReader(make([]byte, 20_000_000))
		if name == "in chunks" {
			chunk := append(append([]byte("100000\r\n"), make([]byte, 1<<20)...), "\r\n"...)
			body = bytes.NewReader(append(bytes.Repeat(chunk, 20), "0\r\n\r\n"...))
		}
		res, said := p.dialled(head+announced, body)
		assert.Equal(t, http.StatusRequestEntityTooLarge, res.StatusCode, name)
		assert.Contains(t, problemOf(t, res, said).Detail, "12 MB", name)
	}
	var sheet record.Sheet
	odo.get("/api/v1/rebuilds/"+r.ID, &sheet)
}

func TestOnlyItsOwnNamesAreAnswered(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	for host, status := range map[string]int{"localhost": 401, "127.0.0.1:8080": 401, "[::1]:80": 401,
		"elsewhere.example": 421, "": 421} {
		res, _ := p.dialled("GET /api/v1/board HTTP/1.1\nHost: "+host+"\nConnection: close", nil)
		assert.Equal(t, status, res.StatusCode, host)
	}
	res, _ := p.dialled("GET /healthz HTTP/1.1\nHost: 10.1.2.3\nConnection: close", nil)
	assert.Equal(t, http.StatusOK, res.StatusCode, "whoever watches asks by address")
	named := start(t, url, func(o *httpapi.Options) { o.Hosts = []string{"bench.shop.example"} })
	res, _ = named.dialled("GET /api/v1/board HTTP/1.1\nHost: BENCH.shop.example:8443\nConnection: close", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode)
	res, _ = named.dialled("GET /api/v1/board HTTP/1.1\nHost: localhost\nConnection: close", nil)
	assert.Equal(t, http.StatusMisdirectedRequest, res.StatusCode)
}

func TestTheWrongMethodIsSaid(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	for path, allow := range map[string]string{
		"/api/v1/board": "GET", "/api/v1/session": "GET, POST", "/api/v1/rebuilds/x/steps/y/entries": "POST",
		"/api/v1/calc/shim-pack": "GET, POST",
	} {
		res, body := u.send(http.MethodDelete, path, "", nil)
		assert.Equal(t, http.StatusMethodNotAllowed, res.StatusCode, path)
		assert.Equal(t, allow, res.Header.Get("Allow"), path)
		problemOf(t, res, body)
	}
	res, _ := u.send(http.MethodPost, "/api/v1/nowhere", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode)
}

// What cannot be stored or reads otherwise than it is stored is refused by
// name, wherever a person types.
func TestUnreadableTextNamesItsField(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	r := u.open()
	entries := "/api/v1/rebuilds/" + r.ID + "/steps/identify/entries"
	day := u.now.AddDate(0, 0, 3).Format(time.DateOnly)
	for _, c := range []struct{ path, body, field, says string }{
		{entries, `{"act":"note","note":"a\u0000b"}`, "note", "U+0000"},
		{entries, `{"act":"note","note":"a\u202eb"}`, "note", "RIGHT-TO-LEFT OVERRIDE"},
		{entries, `{"act":"note","note":"a\u001bb"}`, "note", "U+001B"},
		{entries, "{\"act\":\"note\",\"note\":\"a\xffb\"}", "note", "could not be read"},
		{entries, `{"act":"note","note":"\ud800"}`, "note", "could not be read"},
		{entries, `{"act":"outcome","item":"a\u0000","outcome":"done"}`, "item", "U+0000"},
		{entries, `{"act":"note","note":"x","supersedes":"\u0000"}`, "supersedes", "U+0000"},
		{"/api/v1/rebuilds", `{"vehicle":"v","unit":"tc","complaint":"a\u0000","promised":"` + day + `"}`,
			"complaint", "U+0000"},
		{"/api/v1/rebuilds", `{"vehicle":"v","unit":"tc","complaint":"a","promised":"` + day +
			`","odometer":"\u2066"}`, "odometer", "ISOLATE"},
		{"/api/v1/session", `{"login":"o\u0000do","password":"x"}`, "login", "U+0000"},
		{"/api/v1/session/password", `{"current":"a\u0000","password":"x"}`, "current", "U+0000"},
		{"/api/v1/calc/shim-pack", `{"required":"1\u0000 mm","tolerance":"0 mm","stock":[]}`, "required", "U+0000"},
	} {
		res, body := u.send(http.MethodPost, c.path, c.body, key())
		require.Equal(t, http.StatusBadRequest, res.StatusCode, "%s: %s", c.body, body)
		got := problemOf(t, res, body)
		require.NotEmpty(t, got.Fields)
		assert.Equal(t, c.field, got.Fields[0].Path, c.body)
		assert.Contains(t, got.Fields[0].Problem, c.says)
	}
	for _, path := range []string{
		"/api/v1/rebuilds/%00", "/api/v1/rebuilds/%ff/record", "/api/v1/rebuilds/" + r.ID + "/steps/%00",
		"/api/v1/plans/%00",
		"/api/v1/photos/%00", "/api/v1/board?closed=%00",
	} {
		res, body := u.send(http.MethodGet, path, "", nil)
		assert.Less(t, res.StatusCode, 500, "%s: %s", path, body)
		assert.GreaterOrEqual(t, res.StatusCode, 400, path)
	}
	res, body := u.send(http.MethodPost, entries, `{"act":"note","note":"Öl tropft, 漏油 🔧\nzweite Zeile"}`, key())
	assert.Equal(t, http.StatusCreated, res.StatusCode, body)
}

func TestLengthsCountCharacters(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	entries := "/api/v1/rebuilds/" + u.open().ID + "/steps/identify/entries"
	res, body := u.send(http.MethodPost, entries, `{"act":"note","note":"`+strings.Repeat("ö", 2000)+`"}`, key())
	assert.Equal(t, http.StatusCreated, res.StatusCode, body)
	res, _ = u.send(http.MethodPost, entries, `{"act":"note","note":"`+strings.Repeat("ö", 2001)+`"}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
}

func TestAtMostTwentyFaultsAreListed(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	var fields strings.Builder
	for i := range 500 {
		_, _ = fmt.Fprintf(&fields, `,"x%d":1`, i)
	}
	for _, body := range []string{`{"readings":["1 mm"]` + fields.String() + `}`,
		`{"readings":[` + strings.Repeat(`"x",`, 500) + `"y"]}`} {
		res, said := u.send(http.MethodPost, "/api/v1/calc/reading-set", body, nil)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
		assert.Len(t, problemOf(t, res, said).Fields, 20)
	}
}

func TestAnOpeningKeyIsForOneOrder(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	day := u.now.AddDate(0, 0, 3).Format(time.DateOnly)
	order, k := `{"vehicle":"v","unit":"tc","complaint":"%s","promised":"`+day+`"}`, key()
	first, one := u.send(http.MethodPost, "/api/v1/rebuilds", fmt.Sprintf(order, "bangs"), k)
	require.Equal(t, http.StatusCreated, first.StatusCode, one)
	second, two := u.send(http.MethodPost, "/api/v1/rebuilds", fmt.Sprintf(order, "bangs"), k)
	assert.Equal(t, http.StatusOK, second.StatusCode)
	assert.Equal(t, "true", second.Header.Get("Idempotent-Replay"))
	assert.JSONEq(t, one, two)
	other, body := u.send(http.MethodPost, "/api/v1/rebuilds", fmt.Sprintf(order, "howls"), k)
	assert.Equal(t, http.StatusConflict, other.StatusCode, body)
}

// With the database frozen every request is answered in its time, and all is
// well when it thaws.
//
// Alone: it freezes the server that all share.
func TestAFrozenDatabaseIsSaidInTime(t *testing.T) {
	p, _ := opened(t)
	u := p.signIn("odo")
	r := u.open()
	thaw := pgtest.Freeze(t)
	var wg sync.WaitGroup
	for i := range 40 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			method, path, body := http.MethodGet, []string{"/api/v1/board", "/api/v1/rebuilds/" + r.ID,
				"/readyz"}[i%3], ""
			if i%4 == 0 {
				method, path, body = http.MethodPost, "/api/v1/rebuilds/"+r.ID+
					"/steps/identify/entries", `{"act":"note","note":"into the ice"}`
			}
			res, said := u.send(method, path, body, key())
			assert.Equal(t, http.StatusServiceUnavailable, res.StatusCode, said)
			assert.NotEmpty(t, res.Header.Get("Retry-After"))
		}()
	}
	wg.Wait()
	thaw()
	require.Eventually(t, func() bool {
		res, _ := u.send(http.MethodGet, "/api/v1/board", "", nil)
		return res.StatusCode == http.StatusOK
	}, 20*time.Second, 100*time.Millisecond)
}

func TestAFullDiskIsSaid(t *testing.T) {
	t.Parallel()
	full := false
	p, _ := opened(t, func(o *httpapi.Options) {
		ready := o.Ready
		o.Ready = func(ctx context.Context) error {
			if full {
				return conn.ErrFull
			}
			return ready(ctx)
		}
	})
	u := p.signIn("odo")
	full = true
	res, body := u.send(http.MethodGet, "/readyz", "", nil)
	assert.Equal(t, http.StatusServiceUnavailable, res.StatusCode)
	assert.Contains(t, problemOf(t, res, body).Detail, "server's disk is full")
	var board httpapi.BoardView
	u.get("/api/v1/board", &board)
	assert.Contains(t, board.Notice, "server's disk is full")
	full = false
	u.get("/api/v1/board", &board)
	res, _ = u.send(http.MethodGet, "/readyz", "", nil)
	assert.Equal(t, http.StatusOK, res.StatusCode)
}

func TestForwardedAddressesCountFromTrustedProxiesOnly(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	wrong := func(p *process, forwarded string) int {
		res, _ := (&user{process: p}).send(
			http.MethodPost, "/api/v1/session", `{"login":"odo","password":"wrong"}`,
			map[string]string{"X-Forwarded-For": forwarded},
		)
		return res.StatusCode
	}
	for i := range 5 {
		require.Equal(t, http.StatusUnauthorized, wrong(p, fmt.Sprintf("192.0.2.%d", i)))
	}
	assert.Equal(t, http.StatusTooManyRequests, wrong(p, "192.0.2.99"), "nobody's word is taken for where he is")

	behind := start(t, url, func(o *httpapi.Options) {
		o.Proxies = []netip.Prefix{netip.MustParsePrefix(straight +
			"/8")}
	})
	assert.Equal(t, http.StatusUnauthorized, wrong(behind, "192.0.2.7"))
	for i := range 4 {
		require.Equal(
			t, http.StatusUnauthorized, wrong(behind, fmt.Sprintf("198.51.100.%d, 192.0.2.7", i)),
			"what stands before the proxy's own word is made up",
		)
	}
	assert.Equal(t, http.StatusTooManyRequests, wrong(behind, "198.51.100.77, 192.0.2.7, "+straight))
}

// A clock that ran days ahead for a while, and was put right, keeps nobody out.
func TestAClockPutRightLocksNobodyOut(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	wrong := func() int {
		res, _ := p.visitor().send(http.MethodPost, "/api/v1/session", `{"login":"odo","password":"not this one"}`, nil)
		return res.StatusCode
	}
	now := p.now
	p.now = now.AddDate(0, 0, 9)
	for range 8 {
		wrong()
	}
	require.Equal(t, http.StatusTooManyRequests, wrong())
	p.now = now
	res, said := p.visitor().send(http.MethodPost, "/api/v1/session", `{"login":"odo","password":"`+password+`"}`, nil)
	assert.Equal(t, http.StatusOK, res.StatusCode, said)
}
