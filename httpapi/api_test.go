package httpapi_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
	"handwerk/postgres/pgtest"
	"handwerk/workshop/paper"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

func TestOnlySignedInStaffGetIn(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	nobody := &user{process: p}
	for _, path := range []string{
		"/api/v1/board", "/api/v1/fleet", "/api/v1/calc", "/api/v1/units", "/api/v1/session", "/api/v1/rebuilds/x",
		"/api/v1/photos/x", "/api/v1/rebuilds/x/record.pdf",
	} {
		res, body := nobody.send(http.MethodGet, path, "", nil)
		assert.Equal(t, http.StatusUnauthorized, res.StatusCode, path)
		problemOf(t, res, body)
	}
	ilva := p.signIn("ilva")
	var session httpapi.SessionView
	ilva.get("/api/v1/session", &session)
	assert.Equal(t, people.Lead, session.Person.Role)

	p.now = p.now.Add(15 * time.Hour)
	res, body := ilva.send(http.MethodGet, "/api/v1/board", "", nil)
	assert.Equal(t, "You have been signed out", problemOf(t, res, body).Title)
}

func TestSigningOutEndsTheSessionOnTheServer(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	res, _ := u.send(http.MethodPost, "/api/v1/session/end", "", nil)
	require.Equal(t, http.StatusNoContent, res.StatusCode)
	res, _ = u.send(http.MethodGet, "/api/v1/session", "", nil)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode)
}

func TestTheCookieIsOutOfReach(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	res, _ := (&user{process: p}).send(http.MethodPost, "/api/v1/session",
		fmt.Sprintf(`{"login":"odo","password":%q}`, password), nil)
	cookie := res.Header.Get("Set-Cookie")
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "SameSite=Strict")
	assert.NotContains(t, p.log.String(), strings.Split(cookie, ";")[0], "no token in the log")
	assert.NotContains(t, p.log.String(), password)
}

func TestGuessingPasswordsIsSlowedDown(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	other := start(t, url)
	for i := range 5 {
		from := []*process{p, other}[i%2]
		res, body := (&user{process: from}).send(http.MethodPost, "/api/v1/session",
			`{"login":"odo","password":"wrong"}`, nil)
		require.Equal(t, http.StatusUnauthorized, res.StatusCode, body)
	}
	res, body := (&user{process: p}).send(http.MethodPost, "/api/v1/session",
		fmt.Sprintf(`{"login":"odo","password":%q}`, password), nil)
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode, body)
	assert.NotEmpty(t, res.Header.Get("Retry-After"))
	p.now = p.now.Add(16 * time.Minute)
	p.signIn("odo")
}

func TestWritesNeedTokenAndOrigin(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	res, _ := u.send(http.MethodPost, "/api/v1/calc/reading-set", `{"readings":["1 mm"]}`,
		map[string]string{"X-CSRF-Token": "other"})
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
	res, _ = u.send(http.MethodPost, "/api/v1/calc/reading-set", `{"readings":["1 mm"]}`,
		map[string]string{"Origin": "https://elsewhere.example"})
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
	res, _ = u.send(http.MethodPost, "/api/v1/calc/reading-set", `{"readings":["1 mm"]}`,
		map[string]string{"Sec-Fetch-Site": "cross-site"})
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
	res, _ = u.send(
		http.MethodPost, "/api/v1/calc/reading-set", `{"readings":["1 mm"]}`,
		map[string]string{"Origin": origin, "Sec-Fetch-Site": "same-origin"},
	)
	assert.Equal(t, http.StatusOK, res.StatusCode)
}

func TestRolesAreEnforcedOnTheServer(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	r := p.signIn("ilva").open()
	guest := p.signIn("guest")
	var sheet record.Sheet
	guest.get("/api/v1/rebuilds/"+r.ID, &sheet)
	res, body := guest.send(
		http.MethodPost, "/api/v1/rebuilds/"+r.ID+"/steps/identify/entries",
		`{"act":"outcome","item":"serial","outcome":"done"}`,
		key(),
	)
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
	assert.Contains(t, problemOf(t, res, body).Detail, "a view-only account")
	res, _ = guest.send(http.MethodPost, "/api/v1/rebuilds",
		`{"vehicle":"v","unit":"tc","complaint":"x","promised":"2026-12-24"}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
	res, body = p.signIn("odo").send(
		http.MethodPost, "/api/v1/rebuilds/"+r.ID+"/steps/sign-off/entries", `{"act":"decision","outcome":"release"}`,
		key(),
	)
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
	assert.Contains(t, problemOf(t, res, body).Detail, "only a lead")
}

func TestEveryAnswerCarriesTheHeaders(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := &user{process: p}
	for _, path := range []string{"/", "/api/v1/board", "/rebuilds/anything"} {
		res, _ := u.send(http.MethodGet, path, "", nil)
		csp := res.Header.Get("Content-Security-Policy")
		assert.Contains(t, csp, "default-src 'none'")
		assert.NotContains(t, csp, "unsafe")
		assert.Equal(t, "nosniff", res.Header.Get("X-Content-Type-Options"))
		assert.NotEmpty(t, res.Header.Get("X-Request-Id"))
	}
	res, body := u.send(http.MethodGet, "/assets/a.js", "", nil)
	assert.Equal(t, "1", body)
	assert.Contains(t, res.Header.Get("Cache-Control"), "immutable")
	res, body = u.send(http.MethodGet, "/assets/a.js", "", map[string]string{"Accept-Encoding": "br"})
	assert.Equal(t, "packed br", body+" "+res.Header.Get("Content-Encoding"), "as it was packed when it was built")
	res, _ = u.send(http.MethodGet, "/assets/../../etc/passwd", "", nil)
	assert.NotEqual(t, http.StatusInternalServerError, res.StatusCode)
	for _, path := range []string{"/healthz", "/readyz"} {
		res, _ = u.send(http.MethodGet, path, "", nil)
		assert.Equal(t, http.StatusOK, res.StatusCode)
	}
	res, body = u.send(http.MethodGet, "/api/v1/nowhere", "", nil)
	assert.Equal(t, http.StatusNotFound, problemOf(t, res, body).Status)
}

func TestBadInputNamesItsField(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	r := u.open()
	entries := "/api/v1/rebuilds/" + r.ID + "/steps/identify/entries"
	tests := []struct {
		name, path, body string
		headers          map[string]string
		status           int
		field            string
	}{
		{
			"letters in a number",
			"/api/v1/calc/end-float",
			`{"readings":["o.6 mm"],"trial_pack":"0 mm","target_min":"0 mm","target_max":"1 mm","sense":"pack_reduces_float","stock":[]}`,
			nil,
			422,
			"readings[0]",
		},
		{
			"missing unit",
			"/api/v1/calc/end-float",
			`{"readings":["0.6"],"trial_pack":"0 mm","target_min":"0 mm","target_max":"1 mm","sense":"pack_reduces_float","stock":[]}`,
			nil,
			422,
			"readings[0]",
		},
		{"negative thickness", "/api/v1/calc/shim-pack", `{"required":"-1 mm","tolerance":"0 mm","stock":[]}`, nil,
			422, "required"},
		{"unknown field", "/api/v1/calc/shim-pack",
			`{"required":"1 mm","tolerance":"0 mm","stock":[],"colour":"red"}`, nil, 422, "colour"},
		{"not JSON", "/api/v1/calc/shim-pack", `{"required"`, nil, 422, ""},
		{"not typed as JSON", "/api/v1/calc/shim-pack", `{}`, map[string]string{"Content-Type": "text/plain"}, 415, ""},
		{"no key", entries, `{"act":"outcome","item":"serial","outcome":"done"}`, nil, 422, "Idempotency-Key"},
		{"unknown act", entries, `{"act":"polish"}`, key(), 422, "act"},
		{"unknown entry field", entries, `{"act":"note","note":"x","mood":"good"}`, key(), 422, "mood"},
		{"bad day", "/api/v1/rebuilds", `{"vehicle":"v","unit":"tc","complaint":"x","promised":"soon"}`, key(), 422,
			"promised"},
		{"too large", entries, `{"act":"note","note":"` + strings.Repeat("x", 1<<20) + `"}`, key(), 413, ""},
		{"note too long", entries, `{"act":"note","note":"` + strings.Repeat("x", 3000) + `"}`, key(), 422, "note"},
		{"empty credentials", "/api/v1/session", `{"login":"","password":""}`, nil, 422, "login"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			res, body := u.send(http.MethodPost, tt.path, tt.body, tt.headers)
			require.Equal(t, tt.status, res.StatusCode, body)
			got := problemOf(t, res, body)
			if tt.field != "" {
				require.NotEmpty(t, got.Fields)
				assert.Equal(t, tt.field, got.Fields[0].Path)
			}
		})
	}
	var sheet record.Sheet
	u.get("/api/v1/rebuilds/"+r.ID, &sheet)
	assert.Zero(t, sheet.Rebuild.Head.Seq, "nothing was written")
}

func TestAReplayedRequestIsOneEntry(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	r := u.open()
	path, body, k := "/api/v1/rebuilds/"+r.ID+"/steps/identify/entries", `{"act":"outcome","item":"serial","outcome":"done"}`, key()
	first, one := u.send(http.MethodPost, path, body, k)
	second, two := u.send(http.MethodPost, path, body, k)
	assert.Equal(t, http.StatusCreated, first.StatusCode)
	assert.Equal(t, http.StatusOK, second.StatusCode)
	assert.Equal(t, "true", second.Header.Get("Idempotent-Replay"))
	assert.JSONEq(t, one, two)
	res, _ := u.send(http.MethodPost, path, `{"act":"note","note":"other"}`, k)
	assert.Equal(t, http.StatusConflict, res.StatusCode)
}

func TestPreviewKeepsNothing(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	r := u.open()
	res, body := u.send(
		http.MethodPost, "/api/v1/rebuilds/"+r.ID+"/steps/fluid/preview",
		`{"act":"filled","outcome":"gl4-80","value":"2.5 US qt"}`, nil,
	)
	require.Equal(t, http.StatusOK, res.StatusCode, body)
	assert.Contains(t, body, `"verdict":"in"`)
	var sheet record.Sheet
	u.get("/api/v1/rebuilds/"+r.ID, &sheet)
	assert.Zero(t, sheet.Rebuild.Head.Seq)
}

// Two processes on one database: a screen at one hears what was written at
// the other, and neither overwrites the other.
func TestTwoProcessesOneRebuild(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	q := start(t, url)
	odo, ilva := p.signIn("odo"), q.signIn("ilva")
	r := odo.open()
	lines := ilva.stream("/api/v1/rebuilds/" + r.ID + "/events")

	path, body := "/api/v1/rebuilds/"+r.ID+"/steps/identify/entries", `{"act":"outcome","item":"serial","outcome":"done"}`
	res, text := odo.send(http.MethodPost, path, body, key())
	require.Equal(t, http.StatusCreated, res.StatusCode, text)
	heard := make(chan string, 1)
	go func() {
		for lines.Scan() {
			if strings.Contains(lines.Text(), `"step":"identify"`) {
				heard <- lines.Text()
				return
			}
		}
	}()
	select {
	case event := <-heard:
		assert.Equal(t, `data: {"rebuild":"`+r.ID+`","seq":1,"step":"identify"}`, event)
	case <-time.After(time.Minute):
		t.Fatal("no event came")
	}
	res, text = ilva.send(http.MethodPost, path, `{"act":"outcome","item":"serial","outcome":"none"}`, key())
	assert.Equal(t, http.StatusConflict, res.StatusCode)
	assert.Contains(t, problemOf(t, res, text).Detail, "ODO recorded this")
	// A session of one process is good at the other.
	ilva.process = p
	var board httpapi.BoardView
	ilva.get("/api/v1/board", &board)
	assert.Len(t, board.Rebuilds, 1)
}

func TestTheWrittenRecord(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("ilva")
	r := u.open()
	u.send(http.MethodPost, "/api/v1/rebuilds/"+r.ID+"/steps/identify/entries",
		`{"act":"outcome","item":"serial","outcome":"done"}`, key())
	res, body := u.send(http.MethodGet, "/api/v1/rebuilds/"+r.ID+"/record.pdf", "", nil)
	assert.True(t, strings.HasPrefix(body, "%PDF-"))
	assert.Contains(t, res.Header.Get("Content-Disposition"), r.Number)
	res, body = u.send(http.MethodGet, "/api/v1/rebuilds/"+r.ID+"/archive.json", "", nil)
	assert.Equal(t, http.StatusOK, res.StatusCode)
	assert.Contains(t, body, `"format":"handwerk-archive/1"`)
	assert.False(t, res.Uncompressed, "what streams is not packed: packing holds it whole")
	assert.Equal(t, []string{"chunked"}, res.TransferEncoding)
	var record paper.Record
	u.get("/api/v1/rebuilds/"+r.ID+"/record", &record)
	assert.Equal(t, "Serial number on the transfer case, does it match what was entered? Matches",
		record.Stations[0].Steps[0].Lines[0].Says)
}

func TestALostDatabaseIsSaid(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	u := p.signIn("odo")
	pgtest.CutOff(t, url)
	res, body := u.send(http.MethodGet, "/api/v1/board", "", nil)
	require.Equal(t, http.StatusServiceUnavailable, res.StatusCode, body)
	assert.Contains(t, problemOf(t, res, body).Detail, "Nothing was saved")
	res, _ = u.send(http.MethodGet, "/readyz", "", nil)
	assert.Equal(t, http.StatusServiceUnavailable, res.StatusCode)
	res, _ = u.send(http.MethodGet, "/healthz", "", nil)
	assert.Equal(t, http.StatusOK, res.StatusCode)
}

func TestTheOpenAPIDocument(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	res, body := (&user{process: p}).send(http.MethodGet, "/api/v1/openapi.json", "", nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	var document struct {
		OpenAPI string                    `json:"openapi"`
		Paths   map[string]map[string]any `json:"paths"`
	}
	require.NoError(t, json.Unmarshal([]byte(body), &document))
	assert.True(t, strings.HasPrefix(document.OpenAPI, "3.1"))
	assert.Contains(t, document.Paths["/api/v1/calc/end-float"], "post")
	assert.Contains(t, document.Paths["/api/v1/rebuilds/{id}/steps/{step}/entries"], "post")
	addressesInDocs(t, slices.Collect(maps.Keys(document.Paths)))
}

// addressesInDocs holds that whatever the pages tell people to call is there.
func addressesInDocs(t *testing.T, paths []string) {
	t.Helper()
	placeholder := regexp.MustCompile(`\\?\{[^}]*\\?\}`)
	var known []string
	for _, path := range paths {
		known = append(known, placeholder.ReplaceAllString(regexp.QuoteMeta(path), `[^/]+`))
	}
	is := regexp.MustCompile(`^(` + strings.Join(known, "|") + `)$`)
	pages, err := filepath.Glob("../docs/*.md")
	require.NoError(t, err)
	said := 0
	for _, page := range append(pages, "../README.md") {
		raw, err := os.ReadFile(page)
		require.NoError(t, err)
		for _, address := range regexp.MustCompile(`/api/v1/[\w./{}$-]*\w`).FindAllString(string(raw), -1) {
			said++
			assert.Regexp(t, is, address, page)
		}
	}
	assert.NotZero(t, said)
}

func TestPasswords(t *testing.T) {
	t.Parallel()
	hash := httpapi.HashPassword("long enough")
	assert.True(t, strings.HasPrefix(hash, "$argon2id$"))
	assert.True(t, httpapi.CheckPassword(hash, "long enough"))
	assert.NotEqual(t, hash, httpapi.HashPassword("long enough"), "salted")
	for _, bad := range []string{"", "$argon2id$", "$argon2id$v=19$m=1,t=1,p=1$x$y", hash + "x", "plain"} {
		assert.False(t, httpapi.CheckPassword(bad, "long enough"), bad)
	}
}
