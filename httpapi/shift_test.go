package httpapi_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop"
)

// What a gearbox tried in every gear comes to, the diagnosis knows; a test that
// was done by itself has the last word.
func TestTheMatrixTellsTheDiagnosis(t *testing.T) {
	p, _ := opened(t)
	orders := stocked(t, p)
	ilva := p.signIn("ilva")
	raw, err := json.Marshal(orders["gearbox-oil-service"])
	require.NoError(t, err)
	var r workshop.Rebuild
	ilva.do(t, "/api/v1/rebuilds", string(raw), &r)
	steps := "/api/v1/rebuilds/" + r.ID + "/steps/"
	leads := func() (id string, next []string) {
		view, ok := ilva.step(steps + "tests").(*workshop.TestStep)
		require.True(t, ok)
		best := 0.0
		for _, c := range view.Diagnosis.Causes {
			if c.P > best {
				id, best = c.ID, c.P
			}
		}
		for _, n := range view.Diagnosis.Next {
			next = append(next, n.ID)
		}
		return id, next
	}
	_, next := leads()
	assert.Contains(t, next, "gears-standing")
	for _, line := range []string{"engine-off 1 2 3 4 5 r in", "standing 1 2 refuses", "standing 3 4 5 r in", "held 1 2 in"} {
		words := strings.Fields(line)
		for _, gear := range words[1 : len(words)-1] {
			res, said := ilva.send(http.MethodPost, steps+"shift-before/entries", `{"act":"reading","item":"gear-`+gear+`-`+words[0]+`","outcome":"`+words[len(words)-1]+`"}`, key())
			require.Equal(t, http.StatusCreated, res.StatusCode, said)
		}
	}
	id, next := leads()
	assert.Equal(t, "synchro-worn", id)
	assert.NotContains(t, next, "gears-standing", "it was done, gear by gear")
	assert.NotContains(t, next, "third-first")
}
