package httpapi_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page names what it will ask for, to whoever is signed in, and nothing to a
// stranger.
func TestAPageNamesWhatItWillAskFor(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	links := func(u *user, path string) string {
		res, _ := u.send(http.MethodGet, path, "", nil)
		return res.Header.Get("Link")
	}
	assert.Contains(
		t, links(odo, "/"), "</api/v1/session>; rel=preload; as=fetch; crossorigin, </api/v1/board>; rel=preload",
	)
	assert.Contains(t, links(odo, "/rebuilds/abc/end-float"), "</api/v1/rebuilds/abc/steps/end-float>; rel=preload")
	r := odo.open()
	named := links(odo, "/rebuilds/"+r.ID+"/end-float")
	assert.Contains(t, named, "</api/v1/plans/"+r.PlanHash+">; rel=preload")
	_, hash := odo.send(http.MethodGet, "/api/v1/plans/"+r.PlanHash, "", nil)
	assert.Contains(t, hash, `"route"`)
	odo.send(http.MethodPost, "/api/v1/session/end", "", nil)
	assert.NotContains(t, links(odo, "/rebuilds/"+r.ID+"/end-float"), "plans", "a session that is over")
	odo = p.signIn("odo")
	assert.NotContains(t, links(odo, "/rebuilds/%3E%0Aabc/x"), "\n")
	assert.NotContains(t, links(odo, "/rebuilds/%3E,%3Cx/y"), "<x")
	assert.NotContains(t, links(p.visitor(), "/"), "preload; as=fetch")
}

// Who reads and then listens learns from one word whether anything came between.
func TestAStreamSaysWhatWasToldBefore(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	heard := odo.stream("/api/v1/board/events")
	r := odo.open()
	for heard.Scan() && !strings.Contains(heard.Text(), r.ID) { // its own news is told
		continue
	}
	stands := func() string {
		res, _ := odo.send(http.MethodGet, "/api/v1/board", "", nil)
		return res.Header.Get("Handwerk-Stands")
	}
	begins := func() string {
		lines := odo.stream("/api/v1/board/events")
		for lines.Scan() {
			if word, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				return word
			}
		}
		return ""
	}
	before := stands()
	require.NotEmpty(t, before)
	assert.Equal(t, before, begins(), "nothing came between")
	heard = odo.stream("/api/v1/board/events")
	odo.do(t, "/api/v1/rebuilds/"+r.ID+"/steps/identify/entries", `{"act":"note","note":"one more"}`, new(any))
	for heard.Scan() && !strings.Contains(heard.Text(), r.ID) {
		continue
	}
	assert.NotEqual(t, before, begins(), "one entry did")
}
