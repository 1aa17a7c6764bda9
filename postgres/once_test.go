package postgres_test

import (
	"context"
	"os"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/postgres"
	"handwerk/postgres/pgtest"
)

func TestMigrationsOfManyProcessesMeetOnce(t *testing.T) {
	t.Parallel()
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
	t.Parallel()
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
