package postgres_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/postgres"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
)

// Where a directory is set, one backup is written each night, whole and in its
// place; one that fails is said, and the next night tries again.
func TestABackupIsWrittenEveryNight(t *testing.T) {
	ctx := context.Background()
	s := newShop(t)
	require.NoError(t, s.store.KeepAccount(ctx, workshop.Account{Person: lead, PasswordHash: "x"}))
	owner := func(ctx context.Context) (*postgres.Store, error) {
		return postgres.Open(ctx, pgtest.OwnerURL(s.url), postgres.Options{Patient: true})
	}
	dir := t.TempDir()
	shop := workshop.Shop{Name: "Slipway garage", Units: quantity.Metric, Currency: "EUR", Zone: "UTC", Paper: "A4"}
	night := time.Date(2026, 11, 27, backupsBegin, 1, 0, 0, time.UTC)
	written := func() (names []string) {
		files, err := os.ReadDir(dir)
		require.NoError(t, err)
		for _, f := range files {
			names = append(names, f.Name())
		}
		return names
	}
	tonight := func(now time.Time) error { return s.store.BackUpTonight(ctx, owner, now) }

	require.NoError(t, s.store.KeepShop(ctx, shop, lead, night))
	require.NoError(t, tonight(night))
	assert.Empty(t, written(), "nobody wanted one")
	shop.Backups = dir
	require.NoError(t, s.store.KeepShop(ctx, shop, lead, night))
	require.NoError(t, tonight(night.Add(-30*time.Minute)))
	assert.Empty(t, written(), "the shop is still awake")
	require.NoError(t, tonight(night))
	require.NoError(t, tonight(night.Add(5*time.Hour)))
	require.Equal(t, []string{"handwerk-2026-11-27.backup"}, written())
	_, ownerURL := pgtest.Empty(t)
	_, err := ownerOf(t, ownerURL).Restore(ctx, filepath.Join(dir, written()[0]))
	require.NoError(t, err)

	shop.Backups = filepath.Join(dir, "gone")
	require.NoError(t, s.store.KeepShop(ctx, shop, lead, night))
	next := night.Add(24 * time.Hour)
	require.Error(t, tonight(next))
	require.NoError(t, tonight(next.Add(time.Minute)), "it is tried once a night")
	good, last, err := s.store.BackupRuns(ctx)
	require.NoError(t, err)
	assert.Contains(t, good.File, "2026-11-27")
	assert.Contains(t, last.Error, "gone")
	assert.Contains(t, shop.BackupFault(good, last, next), "failed")
	assert.Empty(t, shop.BackupFault(good, good, next))
	assert.Contains(t, shop.BackupFault(good, good, night.Add(workshop.BackupsLate+time.Hour)), "no backup since 2026-11-27")
	shop.Backups = ""
	assert.Empty(t, shop.BackupFault(good, last, next), "nobody wants one any more")
}

// backupsBegin is the hour from which they are written.
const backupsBegin = 2
