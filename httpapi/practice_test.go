package httpapi_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/shop"
)

// A lead sets a practice, a mechanic does it, and how it went is worked out from his
// acts, kept once, and seen by him and the lead; nothing of it is on any record.
func TestPracticeIsKeptApart(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva, odo, guest := p.signIn("ilva"), p.signIn("odo"), p.signIn("guest")
	task := `{"kind":"housing","level":"clean","seed":7,"for":"odo","note":"before the next real one"}`
	res, said := odo.send(http.MethodPost, "/api/v1/practice/tasks", task, key())
	require.Equal(t, http.StatusForbidden, res.StatusCode, said)
	res, said = ilva.send(http.MethodPost, "/api/v1/practice/tasks", `{"kind":"boat","level":"clean","seed":7}`, key())
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	assert.Equal(t, "kind", problemOf(t, res, said).Fields[0].Path)
	var page shop.PracticePage
	ilva.do(t, "/api/v1/practice/tasks", task, &page)
	require.Len(t, page.Tasks, 1)
	guest.get("/api/v1/practice", &page)
	assert.Empty(t, page.Tasks, "it was set for another")
	odo.get("/api/v1/practice", &page)
	require.Len(t, page.Tasks, 1)

	run := `{"kind":"housing","level":"clean","seed":"7","acts":[{"read":"dial","at":12},
		{"read":"dial","at":3}],"reveal":false}`
	for range 2 {
		odo.do(t, "/api/v1/practice/runs", run, &page)
	}
	require.Len(t, page.Runs, 1, "the same acts are one run")
	assert.Equal(t, page.Tasks[0].ID, page.Runs[0].Task)
	assert.False(t, page.Runs[0].Right)
	assert.Equal(t, 2, page.Runs[0].Readings)
	assert.Positive(t, page.Runs[0].Minutes)
	res, said = odo.send(http.MethodPost, "/api/v1/practice/runs", `{"kind":"housing","level":"clean","seed":7,
		"acts":[{"read":"crystal ball"}]}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	res, said = guest.send(http.MethodPost, "/api/v1/practice/runs", run, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, "who only reads keeps nothing: %s", said)
	guest.get("/api/v1/practice", &page)
	assert.Empty(t, page.Runs, "a run is its own and the lead's to see")
	ilva.get("/api/v1/practice", &page)
	require.Len(t, page.Runs, 1)
	assert.Equal(t, "odo", page.Runs[0].Login)
}

// A question is answered with its figures in place; one that is too long says so.
func TestAQuestionOpensACalculator(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	guest := p.signIn("guest")
	var in map[string]string
	guest.get("/api/v1/calc/tap-drill/asked?q=which+drill+for+M12", &in)
	assert.Equal(t, "12 mm", in["diameter"])
	res, said := guest.send(http.MethodGet, "/api/v1/calc/tap-drill/asked?q="+strings.Repeat("m", 201), "", nil)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, said)
	assert.Equal(t, "q", problemOf(t, res, said).Fields[0].Path)
	res, said = guest.send(http.MethodGet, "/api/v1/calc/no-such/asked?q=x", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode, said)
}
