package httpapi_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
)

// Every operation of the document, present or to come, is shut to strangers;
// every one that writes is shut to a session without its token.
func TestEveryOperationIsGuarded(t *testing.T) {
	p, _ := shop(t)
	raw, err := httpapi.Document()
	require.NoError(t, err)
	var document struct {
		Paths map[string]map[string]json.RawMessage `json:"paths"`
	}
	require.NoError(t, json.Unmarshal(raw, &document))
	require.Greater(t, len(document.Paths), 20)
	stranger, odo := &user{process: p}, p.signIn("odo")
	tokenless := &user{process: p, cookie: odo.cookie}
	for path, operations := range document.Paths {
		for method := range operations {
			method, at := strings.ToUpper(method), strings.NewReplacer("{", "", "}", "").Replace(path)
			if path == "/api/v1/session" && method == http.MethodPost {
				continue // signing in is what strangers may do
			}
			res, body := stranger.send(method, at, "{}", nil)
			assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "%s %s: %s", method, path, body)
			if method != http.MethodGet {
				res, body = tokenless.send(method, at, "{}", nil)
				assert.Equal(t, http.StatusForbidden, res.StatusCode, "%s %s: %s", method, path, body)
			}
		}
	}
}

func TestHub(t *testing.T) {
	h := httpapi.NewHub()
	mine, leave := h.Subscribe("a")
	board, _ := h.Subscribe("board")
	other, _ := h.Subscribe("b")
	h.Tell("a", httpapi.Event{Seq: 1})
	assert.Equal(t, 1, (<-mine).Seq)
	assert.Equal(t, 1, (<-board).Seq, "the board hears of every rebuild")
	assert.Empty(t, other)
	h.Tell("", httpapi.Event{})
	assert.Zero(t, (<-other).Seq, "read again")
	<-mine
	for i := range 100 { // a screen that does not read holds nobody up
		h.Tell("a", httpapi.Event{Seq: i})
	}
	leave()
	leave() // leaving twice is leaving
	h.Close()
	_, open := <-other
	assert.False(t, open)
	late, _ := h.Subscribe("a")
	_, open = <-late
	assert.False(t, open, "nobody comes in after closing")
}
