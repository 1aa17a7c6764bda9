package httpapi_test

import (
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/kinds/items"
)

// What a gearbox tried in every gear comes to, the diagnosis knows; a test that
// was done by itself has the last word.
func TestTheMatrixTellsTheDiagnosis(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	orders := stocked(t, p)
	ilva := p.signIn("ilva")
	steps := ilva.begin(t, orders["gearbox-oil-service"]) + "/steps/"
	leads := func() (id string, next []string) {
		view, ok := ilva.step(steps + "tests").(*items.TestStep)
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
	for _, line := range []string{"engine-off 1 2 3 4 r in", "standing 1 2 refuses", "standing 3 4 r in",
		"held 1 2 in"} {
		words := strings.Fields(line)
		for _, gear := range words[1 : len(words)-1] {
			res, said := ilva.send(
				http.MethodPost, steps+"shift-before/entries",
				`{"act":"reading","item":"gear-`+gear+`-`+words[0]+`","outcome":"`+words[len(words)-1]+`"}`, key(),
			)
			require.Equal(t, http.StatusCreated, res.StatusCode, said)
		}
	}
	id, next := leads()
	assert.Equal(t, "synchro-worn", id)
	assert.NotContains(t, next, "gears-standing", "it was done, gear by gear")
	assert.NotContains(t, next, "third-first")
}

// A test that was tried and could not be done says why, says nothing of the
// cause, and is not proposed again.
func TestATestThatCouldNotBeDone(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	odo := p.signIn("odo")
	steps := "/api/v1/rebuilds/" + odo.open().ID + "/steps/"
	view := func() *items.TestStep {
		v, ok := odo.step(steps + "tests").(*items.TestStep)
		require.True(t, ok)
		return v
	}
	say := func(step, body string) (int, string) {
		res, said := odo.send(http.MethodPost, steps+step+"/entries", body, key())
		return res.StatusCode, said
	}
	status, said := say(
		"complaint",
		`{"act":"outcome","item":"complaint-transfer","outcome":"`+
			odo.step(steps + "complaint").(*items.TestStep).Items[0].Answers[0].ID+`"}`,
	)
	require.Equal(t, http.StatusCreated, status, said)
	before := view().Diagnosis
	require.NotEmpty(t, before.Next)
	first := before.Next[0].ID
	for _, c := range view().Cautions {
		say("tests", `{"act":"acknowledge","item":"`+c.ID+`"}`)
	}
	i := slices.IndexFunc(view().Items, func(x items.ItemView) bool { return x.ID == first })
	require.GreaterOrEqual(t, i, 0)
	for _, c := range view().Items[i].Cautions {
		say("tests", `{"act":"acknowledge","item":"`+c.ID+`"}`)
	}
	status, said = say("tests", `{"act":"outcome","item":"`+first+`","outcome":"could-not"}`)
	assert.NotEqual(t, http.StatusCreated, status, "it wants a reason: "+said)
	status, said = say("tests", `{"act":"outcome","item":"`+first+`","outcome":"could-not","note":"no lift free"}`)
	require.Equal(t, http.StatusCreated, status, said)
	after := view().Diagnosis
	for _, n := range after.Next {
		assert.NotEqual(t, first, n.ID)
	}
	for k := range before.Causes {
		assert.InDelta(t, before.Causes[k].P, after.Causes[k].P, 1e-9, "nothing is known that was not known before")
	}
}
