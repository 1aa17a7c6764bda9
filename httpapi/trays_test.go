package httpapi_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/paper"
)

// Where parts lie is said when they come off; the trays list it, tell what is
// back in, and print a label each.
func TestTraysOfARebuild(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	r := odo.open()
	base := "/api/v1/rebuilds/" + r.ID
	trays := func() (list []paper.Tray) {
		var view struct{ Trays []paper.Tray }
		odo.get(base+"/trays", &view)
		return view.Trays
	}
	assert.Empty(t, trays())
	p.signIn("ilva").walkUntil(t, base, "cause")
	list := trays()
	require.NotEmpty(t, list)
	assert.Equal(t, "tray 1", list[0].Name)
	parts := 0
	for i, tray := range list {
		assert.NotEmpty(t, tray.Parts)
		parts += len(tray.Parts)
		for _, part := range tray.Parts {
			assert.False(t, part.Fitted)
			assert.NotEmpty(t, part.Title)
		}
		if i > 0 {
			assert.NotEqual(t, list[i-1].Name, tray.Name)
		}
	}
	p.signIn("ilva").walkRoute(t, base)
	back := 0
	for _, tray := range trays() {
		for _, part := range tray.Parts {
			if part.Fitted {
				back++
			}
		}
	}
	assert.Equal(t, parts, back, "all is back in")

	for _, paper := range []string{"", "?paper=roll", "?paper=Letter"} {
		res, body := odo.send(http.MethodGet, base+"/trays.pdf"+paper, "", nil)
		require.Equal(t, http.StatusOK, res.StatusCode, body)
		assert.Equal(t, "application/pdf", res.Header.Get("Content-Type"))
		assert.Contains(t, body[:8], "%PDF-")
	}
	res, body := odo.send(http.MethodGet, base+"/trays.pdf?paper=wall", "", nil)
	assert.Contains(t, []int{http.StatusBadRequest, http.StatusUnprocessableEntity}, res.StatusCode)
	assert.Contains(t, body, "paper")
	res, _ = odo.send(http.MethodGet, "/api/v1/rebuilds/00000000-0000-4000-8000-000000000000/trays.pdf", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode)
}
