package postgres_test

import (
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/postgres"
	"handwerk/postgres/pgtest"
)

// A clone below a directory that the server's user may not enter still gets
// its cluster, and the second start finds the same data.
func TestTheClusterOfAClosedDirectory(t *testing.T) {
	ctx := context.Background()
	closed, err := os.MkdirTemp("", "closed")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(closed) })
	require.NoError(t, os.Chmod(closed, 0o700))
	dir := filepath.Join(closed, ".handwerk")
	first, err := postgres.StartCluster(ctx, dir, postgres.ClusterOptions{Fast: true})
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(first.Dir()) })
	conn, err := pgx.Connect(ctx, first.OwnerURL)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, `CREATE TABLE kept (n int)`)
	require.NoError(t, err)
	var superuser bool
	require.NoError(
		t,
		conn.QueryRow(ctx, `SELECT rolsuper FROM pg_roles WHERE rolname = current_user`).Scan(&superuser),
	)
	assert.False(t, superuser, "the program works as an ordinary role")
	require.NoError(t, conn.Close(ctx))

	// A second program on the same directory shares the server and leaves it running.
	second, err := postgres.StartCluster(ctx, dir, postgres.ClusterOptions{Fast: true})
	require.NoError(t, err)
	assert.Equal(t, first.URL, second.URL)
	require.NoError(t, second.Stop())
	conn, err = pgx.Connect(ctx, first.URL)
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))
	require.NoError(t, first.Stop())

	again, err := postgres.StartCluster(ctx, dir, postgres.ClusterOptions{Fast: true})
	require.NoError(t, err)
	conn, err = pgx.Connect(ctx, again.OwnerURL)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, `INSERT INTO kept VALUES (1)`)
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))
	require.NoError(t, again.Stop())
	_, err = pgx.Connect(ctx, again.URL)
	assert.Error(t, err, "stopped")
}

func TestMigrationsOfManyProcessesMeetOnce(t *testing.T) {
	url := pgtest.URL(t)
	var wg sync.WaitGroup
	failed := make(chan error, 4)
	for range 4 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			store, err := postgres.Open(context.Background(), pgtest.OwnerURL(url), postgres.Options{Patient: true})
			if err == nil {
				err = store.Migrate(context.Background())
				_ = store.Close()
			}
			failed <- err
		}()
	}
	wg.Wait()
	close(failed)
	for err := range failed {
		require.NoError(t, err)
	}
}

func TestOnceIsOnceAmongProcesses(t *testing.T) {
	url := pgtest.URL(t)
	var mu sync.Mutex
	loads := 0
	var wg sync.WaitGroup
	for range 4 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			store, err := postgres.Open(context.Background(), url, postgres.Options{})
			if !assert.NoError(t, err) {
				return
			}
			defer func() { _ = store.Close() }()
			assert.NoError(t, store.Once(context.Background(), "demo", func() error {
				mu.Lock()
				defer mu.Unlock()
				loads++
				return nil
			}))
		}()
	}
	wg.Wait()
	assert.Equal(t, 1, loads)
	store, err := postgres.Open(context.Background(), url, postgres.Options{})
	require.NoError(t, err)
	defer func() { _ = store.Close() }()
	require.ErrorIs(t, store.Once(context.Background(), "other", func() error { return os.ErrInvalid }), os.ErrInvalid)
	done := false
	require.NoError(t, store.Once(context.Background(), "other", func() error { done = true; return nil }))
	assert.True(t, done, "a load that failed is tried again")
}
