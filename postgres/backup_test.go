package postgres_test

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/postgres"
	"handwerk/postgres/pgtest"
	"handwerk/workshop/people"
)

// ownerOf opens a database as its owner.
func ownerOf(t testing.TB, url string) *postgres.Store {
	t.Helper()
	store, err := postgres.Open(context.Background(), url, postgres.Options{Patient: true})
	require.NoError(t, err)
	t.Cleanup(func() { _ = store.Close() })
	return store
}

// backedUp is a shop with everything in it, and its backup.
func backedUp(t testing.TB) (*bench, string, postgres.Manifest) {
	t.Helper()
	ctx := context.Background()
	s := newShop(t)
	require.NoError(t, s.store.KeepAccount(ctx, people.Account{Person: lead, PasswordHash: "x"}))
	r := s.open(t)
	s.walk(t, r.ID, "on-vehicle")
	s.photo(t, r.ID)
	s.logged(t, shopKey(t), 1)
	file := filepath.Join(t.TempDir(), "backup")
	var out bytes.Buffer
	m, err := ownerOf(t, pgtest.OwnerURL(s.url)).Backup(ctx, &out, time.Now())
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
	return s, file, m
}

func TestABackupComesBackRowForRow(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	s, file, m := backedUp(t)
	for _, table := range []string{"rebuild", "entry", "photo", "account", "vehicle", "drawer_item", "log_leaf",
		"checkpoint", "plan_copy"} {
		assert.Positive(t, m.Tables[table].Rows, table)
	}
	serving, owner := pgtest.Empty(t)
	to := ownerOf(t, owner)
	back, err := to.Restore(ctx, file)
	require.NoError(t, err)
	assert.Equal(t, m, back)
	require.NoError(t, to.Migrate(ctx))
	role, err := postgres.RoleOf(serving)
	require.NoError(t, err)
	require.NoError(t, to.Grant(ctx, role))
	restored := &bench{store: pgtest.Open(t, serving), url: serving}
	v, found := restored.verified(t, nil)
	assert.Empty(t, found)
	assert.Equal(t, 1, v.Photos)
	number := "26-001"
	assert.Equal(t, string(s.archive(t, number)), string(restored.archive(t, number)))

	// It is as full as the one it came from, and nothing goes over it.
	_, err = to.Restore(ctx, file)
	require.ErrorIs(t, err, postgres.ErrFullDatabase)
	_, found = restored.verified(t, nil)
	assert.Empty(t, found)
}

func TestRestoreIntoAnEmptySchemaAndNoOther(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	_, file, _ := backedUp(t)
	migratedOnly := pgtest.URL(t)
	_, err := ownerOf(t, pgtest.OwnerURL(migratedOnly)).Restore(ctx, file)
	require.NoError(t, err, "a schema that nobody used is as good as none")

	_, foreign := pgtest.Empty(t)
	owner := ownerOf(t, foreign)
	conn := pgtest.Serving(t, foreign)
	_, err = conn.Exec(ctx, `CREATE TABLE somebody_elses (n int)`)
	require.NoError(t, err)
	_, err = owner.Restore(ctx, file)
	require.ErrorIs(t, err, postgres.ErrFullDatabase)
}

func TestBrokenBackupsLeaveNothing(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	_, file, _ := backedUp(t)
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	for name, broken := range map[string][]byte{
		"no backup": []byte("PK"), "cut off": raw[:len(raw)/2], "a byte of the dump": flipped(raw, len(raw)/2),
	} {
		serving, owner := pgtest.Empty(t)
		bad := filepath.Join(t.TempDir(), "bad")
		require.NoError(t, os.WriteFile(bad, broken, 0o600))
		_, err := ownerOf(t, owner).Restore(ctx, bad)
		require.Error(t, err, name)
		var tables int
		require.NoError(t, pgtest.Serving(t, serving).QueryRow(ctx,
			`SELECT count(*) FROM pg_tables WHERE schemaname = 'public'`).Scan(&tables))
		assert.Zero(t, tables, name)
	}
}

func flipped(raw []byte, at int) []byte {
	out := bytes.Clone(raw)
	out[at] ^= 0x5a
	return out
}
