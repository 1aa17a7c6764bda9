package acts_test

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
)

// Every act is read by its name and comes back as it was; it takes no field of
// another, and none that only we fill in.
func TestActsAreToldApart(t *testing.T) {
	t.Parallel()
	for _, a := range acts.All() {
		empty := acts.Find(a.Name())
		raw, err := json.Marshal(empty)
		require.NoError(t, err)
		assert.JSONEq(t, "{}", string(raw), "%s: what is not said is not written", a.Name())
		again, err := acts.Decode(a.Name(), raw)
		require.NoError(t, err)
		assert.Equal(t, empty, again)
		acts.Spend(empty, 7)
		assert.Equal(t, 7, empty.Seconds())
		_, err = acts.Decode(a.Name(), []byte(`{"colour": "red"}`))
		require.ErrorContains(t, err, "colour: does not go with")
	}
	assert.Nil(t, acts.Find("dance"))
	_, err := acts.Decode("outcome", []byte(`{"outcome": "done", "bolt": 3}`))
	require.ErrorContains(t, err, `bolt: does not go with "outcome"`)
	require.ErrorContains(t, acts.Check(&acts.Outcome{Pictured: acts.Pictured{PhotoHash: "x"}}), "photo_hash")
	require.ErrorContains(t, acts.Check(&acts.Note{Spent: acts.Spent{AtStep: 90000}}), "spent")
}

// What is tried again begins as it was sent.
func TestACopyHasListsOfItsOwn(t *testing.T) {
	t.Parallel()
	sent := &acts.Wanted{Lines: []acts.OrderLine{{Name: "Seal"}}}
	tried := acts.Copy(sent).(*acts.Wanted)
	tried.Lines[0].Line = "own-1"
	assert.Empty(t, sent.Lines[0].Line)
}

// Bodies as they were written when one type held the fields of all acts: all that
// stand in the demo's archives, and a full one of each act.
func TestBodiesStayAsTheyWereWritten(t *testing.T) {
	t.Parallel()
	raw, err := os.ReadFile("testdata/bodies.jsonl")
	require.NoError(t, err)
	seen := map[acts.Name]bool{}
	for line := range strings.Lines(string(raw)) {
		var was struct {
			Act  acts.Name       `json:"act"`
			Body json.RawMessage `json:"body"`
		}
		require.NoError(t, json.Unmarshal([]byte(line), &was))
		said, err := acts.Decode(was.Act, was.Body)
		require.NoError(t, err, line)
		now, err := json.Marshal(said)
		require.NoError(t, err)
		assert.Equal(t, string(was.Body), string(now), "%s", was.Act)
		seen[was.Act] = true
	}
	assert.Len(t, seen, len(acts.All()))
}
