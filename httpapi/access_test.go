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
