package postgres_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/postgres/pgtest"
)

// places lists the ways to every value of a JSON tree.
func places(tree any, way []any, list *[][]any) {
	*list = append(*list, append([]any{}, way...))
	switch x := tree.(type) {
	case []any:
		for i := range x {
			places(x[i], append(way, i), list)
		}
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(x)) {
			places(x[k], append(way, k), list)
		}
	}
}

// changed gives the tree with the value at a place replaced.
func changed(tree any, way []any, to any) any {
	if len(way) == 0 {
		return to
	}
	switch x := tree.(type) {
	case []any:
		copied := append([]any{}, x...)
		copied[way[0].(int)] = changed(x[way[0].(int)], way[1:], to)
		return copied
	case map[string]any:
		copied := map[string]any{}
		for k, v := range x {
			copied[k] = v
		}
		copied[way[0].(string)] = changed(x[way[0].(string)], way[1:], to)
		return copied
	}
	return tree
}

// Whatever is done to an archive, it is refused, or what it became verifies
// afterwards and every screen of it opens.
func TestAnyMutationIsRefusedOrVerifies(t *testing.T) {
	t.Parallel()
	from := newShop(t)
	r := from.open(t)
	from.walk(t, r.ID, "on-vehicle")
	from.photo(t, r.ID)
	whole := from.archive(t, r.Number)
	tree := opened(t, whole)
	// Where a change can go unnoticed by the chain: all but the deep of the plan.
	parts := []string{"format", "rebuild", "entries", "photos"}
	ways := map[string][][]any{}
	for _, part := range parts {
		var list [][]any
		places(tree[part], []any{part}, &list)
		ways[part] = list
	}
	to := newShop(t)
	conn := pgtest.Owner(t, to.url)
	_, err := conn.Exec(
		t.Context(),
		`ALTER TABLE entry DISABLE TRIGGER USER; ALTER TABLE rebuild DISABLE TRIGGER USER; ALTER TABLE photo DISABLE TRIGGER USER;
		GRANT ALL ON ALL TABLES IN SCHEMA public TO CURRENT_USER`,
	)
	require.NoError(t, err)
	rapid.Check(t, func(rt *rapid.T) {
		way := rapid.SampledFrom(ways[rapid.SampledFrom(parts).Draw(rt, "part")]).Draw(rt, "place")
		value := rapid.SampledFrom([]any{
			nil, "", "x", "\u0000", "\u202e", 0.0, -1.0, 1e300, true, []any{}, map[string]any{},
			"2026-11-24T08:00:00.0000001Z", "2026-11-24T08:00:00+01:00", "9999-01-01T00:00:00Z",
			"01A21011-0000-7000-8000-000000000001", "26-1", "26-999999", "0000-00-00", "in", "lead", "PHNjcmlwdD4=",
			map[string]any{"photo": "x"},
		}).Draw(rt, "value")
		raw := archived(t, changed(tree, way, value))
		if rapid.Bool().Draw(rt, "bytes") {
			raw = append([]byte{}, whole...)
			at := rapid.IntRange(0, len(raw)-1).Draw(rt, "at")
			raw[at] ^= byte(rapid.IntRange(1, 255).Draw(rt, "flip"))
		}
		if to.take(raw) != nil {
			return
		}
		v, found := to.verified(t, nil)
		require.Empty(rt, found, "taken in, and does not hold: %v %v", way, value)
		require.Equal(rt, 1, v.Rebuilds)
		for _, statement := range []string{`DELETE FROM photo`, `DELETE FROM entry`, `DELETE FROM rebuild`} {
			_, err := conn.Exec(t.Context(), statement)
			require.NoError(rt, err, statement)
		}
	})
	// Where it stands is not believed but worked out anew.
	require.NoError(t, to.take(archived(t, changed(tree, []any{"rebuild", "place", "station"}, "nowhere"))))
	l, err := to.store.LedgerByNumber(t.Context(), r.Number)
	require.NoError(t, err)
	require.EqualValues(t, "hand-over", l.Rebuild.Place.Station)
}

// opened reads an archive as a tree, in which the texts that the chain covers
// to the letter stay as they are written.
func opened(t testing.TB, whole []byte) map[string]any {
	t.Helper()
	var tree map[string]any
	require.NoError(t, json.Unmarshal(whole, &tree))
	var raw struct {
		Plan    json.RawMessage
		Entries []struct{ Body, Result json.RawMessage }
	}
	require.NoError(t, json.Unmarshal(whole, &raw))
	tree["plan"] = raw.Plan
	for i, e := range tree["entries"].([]any) {
		entry := e.(map[string]any)
		entry["body"] = raw.Entries[i].Body
		if raw.Entries[i].Result != nil {
			entry["result"] = raw.Entries[i].Result
		}
	}
	return tree
}

// archived writes a tree in the order in which archives are written.
func archived(t testing.TB, tree any) []byte {
	t.Helper()
	fields, ok := tree.(map[string]any)
	if !ok {
		raw, err := json.Marshal(tree)
		require.NoError(t, err)
		return raw
	}
	out := "{"
	for i, name := range []string{"format", "rebuild", "plan", "entries", "photos"} {
		raw, err := json.Marshal(fields[name])
		require.NoError(t, err)
		if i > 0 {
			out += ","
		}
		out += fmt.Sprintf("%q:%s", name, raw)
	}
	return []byte(out + "}")
}
