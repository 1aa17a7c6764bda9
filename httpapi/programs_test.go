package httpapi_test

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// given is a program's token.
func (u *user) given(t *testing.T, name string, writes string) httpapi.ProgramAdded {
	t.Helper()
	var added httpapi.ProgramAdded
	u.do(t, "/api/v1/programs", `{"name":"`+name+`","writes":`+writes+`}`, &added)
	return added
}

func bearer(token string) map[string]string {
	h := key()
	h["Authorization"] = "Bearer " + token
	return h
}

// A program reads or writes by its token, without cookie and CSRF token, under
// the same rules, until a lead ends it.
func TestAProgramWorksByItsToken(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	r := ilva.open()
	at := "/api/v1/rebuilds/" + r.ID
	reads, writes := ilva.given(t, "Screen on the wall", "false"), ilva.given(t, "Accounting", "true")
	program := p.visitor()
	res, said := program.send(http.MethodGet, "/api/v1/board", "", bearer(reads.Token))
	assert.Equal(t, http.StatusOK, res.StatusCode, said)
	note := `{"act":"note","note":"invoice written"}`
	first := func() string {
		var sheet record.Sheet
		ilva.get(at, &sheet)
		return at + "/steps/" + sheet.Steps[0].ID + "/entries"
	}()
	res, said = program.send(http.MethodPost, first, note, bearer(reads.Token))
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	res, said = program.send(http.MethodPost, first, note, bearer(writes.Token))
	require.Equal(t, http.StatusCreated, res.StatusCode, said)
	assert.Contains(t, said, `"name":"Accounting"`)
	for _, path := range []string{"/api/v1/people", "/api/v1/programs"} {
		res, _ = program.send(http.MethodGet, path, "", bearer(writes.Token))
		assert.Equal(t, http.StatusForbidden, res.StatusCode, path)
	}

	var list struct{ Programs []people.Program }
	ilva.get("/api/v1/programs", &list)
	require.Len(t, list.Programs, 2)
	assert.NotNil(t, list.Programs[0].Used)
	res, _ = ilva.send(http.MethodPost, "/api/v1/programs/"+writes.Person.Login+"/end", "", key())
	require.Equal(t, http.StatusNoContent, res.StatusCode)
	res, said = program.send(http.MethodPost, first, note, bearer(writes.Token))
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode, said)
}

// What is no token opens nothing, and a cookie is none.
func TestWhatIsNoTokenOpensNothing(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo := p.signIn("ilva"), p.signIn("odo")
	given := ilva.given(t, "Accounting", "true")
	program := p.visitor()
	cookie := strings.SplitN(odo.cookie, "=", 2)[1]
	for _, token := range []string{"", "handwerk_", given.Token + "X", strings.ToLower(given.Token), cookie} {
		res, said := program.send(http.MethodGet, "/api/v1/board", "", bearer(token))
		assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "%q: %s", token, said)
	}
	res, said := odo.send(http.MethodPost, "/api/v1/programs", `{"name":"Mine"}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	res, said = ilva.send(http.MethodPost, "/api/v1/people/"+given.Person.Login, `{"role":"lead"}`, key())
	assert.Equal(t, http.StatusNotFound, res.StatusCode, "a program is nobody: %s", said)
	res, said = p.visitor().send(http.MethodPost, "/api/v1/session",
		`{"login":"`+given.Person.Login+`","password":""}`, nil)
	assert.NotEqual(t, http.StatusOK, res.StatusCode, said)
	res, said = ilva.send(http.MethodPost, "/api/v1/programs", `{"name":" "}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
}

// A token does not run out by itself.
func TestATokenLasts(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	token := "handwerk_of_last_year"
	ago := p.now.AddDate(-1, 0, 0)
	require.NoError(t, p.store.AddProgram(context.Background(),
		people.Person{Login: "program-old", Name: "Old", Role: people.Reader},
		people.Session{ID: say.NewID(), Digest: httpapi.DigestOf(token), Started: ago}))
	p.signIn("ilva") // which clears what has run out
	res, said := p.visitor().send(http.MethodPost, "/api/v1/session/end", "", bearer(token))
	assert.Equal(t, http.StatusForbidden, res.StatusCode, "it does not end itself: %s", said)
	res, said = p.visitor().send(http.MethodGet, "/api/v1/board", "", bearer(token))
	assert.Equal(t, http.StatusOK, res.StatusCode, said)
}

// The example of docs/api.md does what it says.
func TestTheExampleOfTheDocumentWorks(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	ilva.open()
	given := ilva.given(t, "Accounting", "true")
	raw, err := os.ReadFile("../docs/api.md")
	require.NoError(t, err)
	script := regexp.MustCompile("(?s)```sh\n(.*?)```").FindSubmatch(raw)
	require.NotNil(t, script)
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	cmd := exec.CommandContext(ctx, "bash", "-euo", "pipefail")
	cmd.Stdin = bytes.NewReader(script[1])
	cmd.Env = append(os.Environ(), "HANDWERK="+"http://"+p.openPort(), "TOKEN="+given.Token)
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	var e record.Entry
	lines := bytes.Split(bytes.TrimSpace(out), []byte("\n"))
	require.NoError(t, json.Unmarshal(lines[len(lines)-1], &e), string(out))
	assert.Equal(t, "Accounting", e.By.Name)
}

// A screen on the wall opens the board and nothing else.
func TestATokenForTheBoardOnly(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	r := ilva.open()
	var wall httpapi.ProgramAdded
	ilva.do(t, "/api/v1/programs", `{"name":"Screen on the wall","writes":false,"board":true}`, &wall)
	program := p.visitor()
	res, said := program.send(http.MethodGet, "/api/v1/board", "", bearer(wall.Token))
	assert.Equal(t, http.StatusOK, res.StatusCode, said)
	for _, path := range []string{"/rebuilds/" + r.ID, "/rebuilds/" + r.ID + "/record", "/find?q=a", "/drawers",
		"/customers/x", "/sheets"} {
		res, said = program.send(http.MethodGet, "/api/v1"+path, "", bearer(wall.Token))
		assert.Equal(t, http.StatusForbidden, res.StatusCode, path)
		assert.Contains(t, said, "The board only")
	}
	res, _ = ilva.send(http.MethodPost, "/api/v1/programs", `{"name":"Both","board":true,"writes":true}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
}
