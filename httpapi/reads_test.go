package httpapi_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/calc"
	"handwerk/httpapi"
	"handwerk/postgres/pgtest"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// Over HTTP every calculator answers what the catalogue answers, to the letter.
func TestEveryCalculatorOverHTTP(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	var catalogue struct {
		Calculators []httpapi.CalculatorView `json:"calculators"`
	}
	odo.get("/api/v1/calc", &catalogue)
	all := calc.All().List()
	require.Len(t, catalogue.Calculators, len(all))
	for i, c := range all {
		assert.Equal(t, c.Method(), catalogue.Calculators[i].Method)
		want, err := c.Run([]byte(c.Example))
		require.NoError(t, err)
		res, body := odo.send(http.MethodPost, "/api/v1/calc/"+c.Name, c.Example, nil)
		require.Equal(t, http.StatusOK, res.StatusCode, c.Name)
		assert.Equal(t, string(want), body, c.Name)
		var schema map[string]any
		odo.get("/api/v1/calc/"+c.Name, &schema)
		assert.Contains(t, schema, "input", c.Name)
	}
	res, body := odo.send(http.MethodGet, "/api/v1/calc/nonsense", "", nil)
	assert.Equal(t, http.StatusNotFound, problemOf(t, res, body).Status)
}

// The plan, the step and the fleet as the screens read them.
func TestWhatTheScreensRead(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	r := odo.open()
	var c book.Copy
	odo.get("/api/v1/plans/"+r.PlanHash, &c)
	assert.Equal(t, "transfer-case-dog", c.Route.ID)
	res, _ := odo.send(http.MethodGet, "/api/v1/plans/"+r.PlanHash, "", nil)
	assert.Contains(t, res.Header.Get("Cache-Control"), "immutable", "a copy never changes")
	res, _ = odo.send(http.MethodGet, "/api/v1/plans/nothing", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode)

	step, ok := odo.step("/api/v1/rebuilds/" + r.ID + "/steps/end-float").(*measure.MeasureStep)
	require.True(t, ok)
	assert.Equal(t, record.Locked, step.Status)
	assert.Equal(t, []string{"Trial assembly"}, step.Gate)
	assert.Len(t, step.Instruments, 2)
	res, body := odo.send(http.MethodGet, "/api/v1/rebuilds/"+r.ID+"/steps/polish", "", nil)
	assert.Equal(t, http.StatusNotFound, problemOf(t, res, body).Status)

	var fleet struct {
		Vehicles []shop.Vehicle `json:"vehicles"`
	}
	odo.get("/api/v1/fleet", &fleet)
	require.Len(t, fleet.Vehicles, 1)
	assert.Len(t, fleet.Vehicles[0].Units, 1)

	var board httpapi.BoardView
	odo.get("/api/v1/board", &board)
	assert.Len(t, board.Stations, 11)
	require.Len(t, board.Rebuilds, 1)
	assert.Equal(t, "Vehicle and unit: 3 more lines", board.Rebuilds[0].Place.WaitsFor)
	odo.get("/api/v1/board?closed=true", &board)
	assert.Empty(t, board.Rebuilds)
}

// A refused entry leaves the record as it was, and the board hears of a kept one.
func TestTheBoardHearsOfEveryEntry(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	r := odo.open()
	lines := odo.stream("/api/v1/board/events")
	path := "/api/v1/rebuilds/" + r.ID + "/steps/identify/entries"
	res, body := odo.send(http.MethodPost, path, `{"act":"outcome","item":"serial","outcome":"perhaps"}`, key())
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	assert.Equal(t, "outcome", problemOf(t, res, body).Fields[0].Path)
	res, body = odo.send(http.MethodPost, path, `{"act":"outcome","item":"serial","outcome":"done"}`, key())
	require.Equal(t, http.StatusCreated, res.StatusCode, body)
	heard := make(chan bool, 1)
	go func() {
		for lines.Scan() {
			if strings.Contains(lines.Text(), `"seq":1`) {
				heard <- true
				return
			}
		}
	}()
	select {
	case <-heard:
	case <-time.After(time.Minute):
		t.Fatal("the board heard nothing")
	}
	var board httpapi.BoardView
	odo.get("/api/v1/board", &board)
	assert.Equal(t, "Vehicle and unit: 2 more lines", board.Rebuilds[0].Place.WaitsFor)
}

// Long lists come in pages, each closed rebuild once, and a query nobody reads
// is refused by its name.
func TestTheBoardComesInPages(t *testing.T) {
	t.Parallel()
	p, url := opened(t)
	u := p.signIn("ilva")
	r := u.open()
	clones := fmt.Sprintf(
		`INSERT INTO rebuild (id, number, complaint, vehicle, unit, use, odometer, promised, opened_at, opened_by, plan_hash,
		head_seq, head_hash, station, step, waits_for, verdict, held, done, steps, closed, due)
		SELECT gen_random_uuid(), '25-' || lpad(n::text, 3, '0'), complaint, vehicle, unit, use, odometer, date '2025-01-01' + (n / 7), opened_at, opened_by, plan_hash,
		head_seq, head_hash, station, step, waits_for, verdict, held, done, steps, true, date '2025-01-01' + (n / 7) FROM rebuild, generate_series(1, 250) n WHERE id = '%s'`,
		r.ID,
	)
	_, err := pgtest.Owner(t, url).Exec(t.Context(), clones)
	require.NoError(t, err)
	seen, after, pages := map[string]bool{}, "", 0
	for more := true; more; pages++ {
		var page httpapi.BoardView
		u.get("/api/v1/board?closed=true&after="+after, &page)
		for _, r := range page.Rebuilds {
			assert.False(t, seen[r.Number], "%s is there twice", r.Number)
			seen[r.Number] = true
		}
		after, more = page.Next, page.Next != ""
	}
	assert.Len(t, seen, 250)
	assert.Equal(t, 2, pages)
	for query, field := range map[string]string{"?close=true": "close", "?closed=yes": "closed",
		"?after=yesterday": "after"} {
		res, body := u.send(http.MethodGet, "/api/v1/board"+query, "", nil)
		assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, query)
		assert.Equal(t, field, problemOf(t, res, body).Fields[0].Path)
	}
}
