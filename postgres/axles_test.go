package postgres_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/ringpinion"
)

// What an axle taught of its family starts the next one, in its own copy of the book.
func TestAnAxleTeachesTheNextOne(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	s := newShop(t)
	first := s.openUnit(t, "axle")
	learned := func(id string) json.RawMessage {
		l, err := s.store.Ledger(ctx, id)
		require.NoError(t, err)
		return l.Plan.Learned[book.LearnedLash]
	}
	assert.Empty(t, learned(first.ID), "nobody taught anything yet")
	s.walk(t, first.ID, "pattern")
	axle, err := s.store.LastAxle(ctx, "brakka-a9")
	require.NoError(t, err)
	require.NotNil(t, axle)
	none, err := s.store.LastAxle(ctx, "brakka-t2")
	require.NoError(t, err)
	assert.Nil(t, none)

	second := s.openUnit(t, "axle")
	var taught ringpinion.Learned
	require.NoError(t, json.Unmarshal(learned(second.ID), &taught))
	assert.Equal(t, *axle, taught)
	assert.NotEqual(t, first.PlanHash, second.PlanHash)
	s.walk(t, second.ID, "backlash")
	view, err := s.Step(ctx, second.ID, "backlash", lead)
	require.NoError(t, err)
	raw, err := json.Marshal(view)
	require.NoError(t, err)
	assert.Contains(t, string(raw), `"learned":{"value":`, "the bench begins with it")
}
