package book_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
)

func TestAFigureIsReadAsItWasTyped(t *testing.T) {
	t.Parallel()
	rows := book.Figure{Path: "kits", Shape: book.ShapeRows, Starts: []book.Start{
		{Title: "one", Value: json.RawMessage(`[{"id":null,"name":null,"price":null,"holds":null}]`)},
	}}
	assert.Equal(t, []string{"holds", "id", "name"}, rows.Texts())
	assert.Nil(t, rows.Choices())
	stack := book.Figure{Path: "stacks.strip", Shape: book.ShapeRows}
	assert.Contains(t, stack.Choices()["facing"], "rear")
	assert.Contains(t, stack.Choices()["shape"], "seal")
	number := book.Figure{Path: "figures.axle-ratio", Shape: book.ShapeNumber}
	for _, c := range []struct {
		figure      book.Figure
		typed, read string
	}{
		{number, `"4,1"`, `4.1`},
		{number, `4.1`, `4.1`},
		{number, `"four"`, `"four"`}, // refused where it is laid
		{rows, `[{"name":"Seal set, B!","price":"12,50"}]`, `[{"id":"seal-set-b","name":"Seal set, B!","price":12.5}]`},
		{rows, `[{"name":"Диск","share":"12 %"}]`, `[{"id":"line-1","name":"Диск","share":0.12}]`},
		{rows, `[{"id":"a","name":"205","deep":{"low":"1 250"},"size":"0.5 mm"}]`,
			`[{"id":"a","name":"205","deep":{"low":1250},"size":"0.5 mm"}]`},
		{book.Figure{Path: "figures.wheels", Shape: book.ShapeRows}, `["front-left"]`, `["front-left"]`},
		{book.Figure{Path: "limits.x", Shape: book.ShapeLimit}, `{"max":"0.1 mm"}`, `{"max":"0.1 mm"}`},
	} {
		read, err := c.figure.Typed(json.RawMessage(c.typed))
		require.NoError(t, err, c.typed)
		assert.JSONEq(t, c.read, string(read))
	}
	_, err := rows.Typed(json.RawMessage(`[{"name":"x","price":"1,250"}]`))
	require.ErrorContains(t, err, "[0].price")
	require.ErrorContains(t, err, "two things")
}
