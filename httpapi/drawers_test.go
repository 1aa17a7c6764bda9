package httpapi_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/shop"
)

const circlips = "/api/v1/drawers/circlips"

// drawer finds one of the shop's by its name.
func (u *user) drawer(t *testing.T, id string) shop.DrawerPage {
	t.Helper()
	var view struct{ Drawers []shop.DrawerPage }
	u.get("/api/v1/drawers", &view)
	for _, d := range view.Drawers {
		if d.ID == id {
			return d
		}
	}
	t.Fatalf("there is no drawer %q", id)
	return shop.DrawerPage{}
}

// A drawer is begun by a column of sizes, corrected with a reason, and shows what
// is short and what went in and out.
func TestADrawerIsCounted(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	res, said := odo.send(
		http.MethodPost,
		circlips,
		`{"why":"counted","lines":[{"size":"1,20 mm","count":4},{"size":"50 thou","count":2,"least":3},{"size":".9 mm","count":1}]}`,
		key(),
	)
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	d := odo.drawer(t, "circlips")
	require.Len(t, d.Items, 3)
	assert.Equal(t, []string{"0.9 mm", "1.2 mm", "50 thou"},
		[]string{d.Items[0].Size, d.Items[1].Size, d.Items[2].Size}, "the smallest first")
	assert.True(t, d.Items[2].Short())
	assert.False(t, d.Items[0].Short())

	res, said = odo.send(http.MethodPost, circlips,
		`{"why":"two were bent","lines":[{"size":"1.2 mm","count":2,"was":4,"place":"left"}]}`, key())
	require.Equal(t, http.StatusOK, res.StatusCode, said)
	d = odo.drawer(t, "circlips")
	assert.Equal(t, shop.DrawerItem{Size: "1.2 mm", Count: 2, Place: "left"}, d.Items[1])
	assert.Equal(t, -2, d.Moves[0].Change)
	assert.Equal(t, "two were bent", d.Moves[0].Why)
	assert.Equal(t, "ODO", d.Moves[0].By)
}

// What cannot be counted is refused by its place, and nothing of it is kept.
func TestADrawerHoldsNothingThatCannotBe(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo, guest := p.signIn("odo"), p.signIn("guest")
	odo.send(http.MethodPost, circlips, `{"why":"counted","lines":[{"size":"1.2 mm","count":4}]}`, key())
	good := `{"size":"2 mm","count":1},`
	for body, want := range map[string]string{
		`{"why":"x","lines":[` + good + `{"size":"1.2 mm","count":-1}]}`:             "lines[1].count",
		`{"why":"x","lines":[` + good + `{"size":"thick","count":1}]}`:               "lines[1].size",
		`{"why":"x","lines":[` + good + `{"size":"-1 mm","count":1}]}`:               "lines[1].size",
		`{"why":"x","lines":[` + good + `{"size":"1 L","count":1}]}`:                 "lines[1].size",
		`{"why":"x","lines":[` + good + `{"size":"2.0 mm","count":1}]}`:              "lines[1].size",
		`{"why":"x","lines":[` + good + `{"size":"3 mm","count":1,"least":200000}]}`: "lines[1].least",
		`{"why":" ","lines":[{"size":"3 mm","count":1}]}`:                            "why",
		`{"why":"x","lines":[]}`: "lines",
	} {
		res, said := odo.send(http.MethodPost, circlips, body, key())
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "%s: %s", body, said)
		assert.Equal(t, want, problemOf(t, res, said).Fields[0].Path, body)
	}
	res, said := odo.send(http.MethodPost, "/api/v1/drawers/Not%20one",
		`{"why":"x","lines":[{"size":"3 mm","count":1}]}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	res, said = guest.send(http.MethodPost, circlips, `{"why":"x","lines":[{"size":"3 mm","count":1}]}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	assert.Len(t, odo.drawer(t, "circlips").Items, 1)
}

// Of several who count the same size at once by what they saw, one counts.
func TestACountThatIsOvertakenIsRefused(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	odo.send(http.MethodPost, circlips, `{"why":"counted","lines":[{"size":"1.2 mm","count":4}]}`, key())
	answers := make([]int, 6)
	var wg sync.WaitGroup
	for i := range answers {
		wg.Go(func() {
			res, _ := odo.send(
				http.MethodPost,
				circlips,
				fmt.Sprintf(`{"why":"counted","lines":[{"size":"1.2 mm","count":%d,"was":4}]}`, 10+i),
				key(),
			)
			answers[i] = res.StatusCode
		})
	}
	wg.Wait()
	kept := 0
	for _, status := range answers {
		if status == http.StatusOK {
			kept++
		} else {
			assert.Equal(t, http.StatusConflict, status)
		}
	}
	assert.Equal(t, 1, kept)
}

// A drawer goes out as CSV and comes in again; a wrong file changes nothing.
func TestADrawerGoesOutAndComesIn(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	stocked(t, p)
	odo := p.signIn("odo")
	was := odo.drawer(t, "thrust-washers")
	require.NotEmpty(t, was.Items)
	_, text := odo.send(http.MethodGet, "/api/v1/drawers/thrust-washers/drawer.csv", "", nil)
	comesIn := func(text string) (int, string) {
		body, err := json.Marshal(map[string]string{"text": text, "why": "stocktaking"})
		require.NoError(t, err)
		res, said := odo.send(http.MethodPost, "/api/v1/drawers/thrust-washers/import", string(body), key())
		return res.StatusCode, said
	}
	for _, form := range []string{text, "\ufeff" + strings.ReplaceAll(text, ",", ";"),
		strings.ReplaceAll(text, "\r\n", "\n")} {
		status, said := comesIn(form)
		require.Equal(t, http.StatusOK, status, said)
		assert.Equal(t, was.Items, odo.drawer(t, "thrust-washers").Items)
	}
	for text, want := range map[string]string{
		"size,count\n0.5 mm,many\n":                                       "line 2, column count",
		"size,count\n0.5 mm,-3\n":                                         "lines[0].count",
		"size;number\n0.5 mm;3\n":                                         "line 1, column 2",
		"size,count\n" + strings.Repeat("0.5 mm,1\n", 50_000):             "line 2002",
		"size,count,name,place,least\n0.5 mm,1,a,b,2,what is this column": "line 2, column 6",
	} {
		status, said := comesIn(text)
		assert.Equal(t, http.StatusUnprocessableEntity, status, said)
		assert.Contains(t, said, want)
	}
	assert.Equal(t, was.Items, odo.drawer(t, "thrust-washers").Items)
}
