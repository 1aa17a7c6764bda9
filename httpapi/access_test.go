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
	t.Parallel()
	p, _ := opened(t)
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
			if (path == "/api/v1/session" && method == http.MethodPost) || path == "/api/v1/first" ||
				strings.HasPrefix(path, "/api/v1/bench") {
				continue // signing in is what strangers may do, opening a workshop where nobody works, and standing at a bench
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
	t.Parallel()
	h := httpapi.NewHub()
	mine, board, other := h.Subscribe("a", "s1"), h.Subscribe("board", "s1"), h.Subscribe("b", "s2")
	h.Tell("a", httpapi.Event{Seq: 1})
	assert.Equal(t, 1, (<-mine.Events).Seq)
	assert.Equal(t, 1, (<-board.Events).Seq, "the board hears of every rebuild")
	assert.Empty(t, other.Events)
	h.Tell("", httpapi.Event{})
	assert.Zero(t, (<-other.Events).Seq, "read again")
	<-mine.Events
	for i := range 100 { // a screen that does not read holds nobody up
		h.Tell("a", httpapi.Event{Seq: i})
	}
	mine.Leave()
	mine.Leave() // leaving twice is leaving
	another := h.Subscribe("a", "s1")
	h.EndSession("s1")
	_, open := <-another.Events
	assert.False(t, open, "a screen ends with its session")
	var held []*httpapi.Screen
	for range 40 {
		if s := h.Subscribe("a", "greedy"); s != nil {
			held = append(held, s)
		}
	}
	assert.Len(t, held, 32, "a browser holds so many and no more")
	h.Close()
	_, open = <-other.Events
	assert.False(t, open)
	_, open = <-h.Subscribe("a", "s3").Events
	assert.False(t, open, "nobody comes in after closing")
}
