package postgres_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/picture"
	"handwerk/postgres"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// Where a directory is set, one backup is written each night, whole and in its
// place; one that fails is said, and the next night tries again.
func TestABackupIsWrittenEveryNight(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	s := newShop(t)
	require.NoError(t, s.store.KeepAccount(ctx, people.Account{Person: lead, PasswordHash: "x"}))
	owner := func(ctx context.Context) (*postgres.Store, error) {
		return postgres.Open(ctx, pgtest.OwnerURL(s.url), postgres.Options{Patient: true})
	}
	dir := t.TempDir()
	house := shop.Shop{Name: "Slipway garage", Units: quantity.Metric, Currency: "EUR", Zone: "UTC", Paper: "A4"}
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

	require.NoError(t, s.store.KeepShop(ctx, house, lead, night))
	require.NoError(t, tonight(night))
	assert.Empty(t, written(), "nobody wanted one")
	house.Backups = dir
	require.NoError(t, s.store.KeepShop(ctx, house, lead, night))
	require.NoError(t, tonight(night.Add(-30*time.Minute)))
	assert.Empty(t, written(), "the shop is still awake")
	require.NoError(t, tonight(night))
	require.NoError(t, tonight(night.Add(5*time.Hour)))
	require.Equal(t, []string{"handwerk-2026-11-27.backup"}, written())
	_, ownerURL := pgtest.Empty(t)
	_, err := ownerOf(t, ownerURL).Restore(ctx, filepath.Join(dir, written()[0]))
	require.NoError(t, err)

	house.Backups = filepath.Join(dir, "gone")
	require.NoError(t, s.store.KeepShop(ctx, house, lead, night))
	next := night.Add(24 * time.Hour)
	require.Error(t, tonight(next))
	require.NoError(t, tonight(next.Add(time.Minute)), "not at once again")
	require.Error(t, tonight(next.Add(20*time.Minute)), "but after a while")
	good, last, err := s.store.BackupRuns(ctx)
	require.NoError(t, err)
	assert.Contains(t, good.File, "2026-11-27")
	assert.Contains(t, last.Error, "gone")
	assert.Contains(t, house.BackupFault(good, last, next), "failed")
	assert.Empty(t, house.BackupFault(good, good, next))
	assert.Contains(t, house.BackupFault(good, good, night.Add(shop.BackupsLate+time.Hour)),
		"No backup since 2026-11-27")
	elsewhere := t.TempDir()
	house.Backups = elsewhere
	require.NoError(t, s.store.KeepShop(ctx, house, lead, night))
	require.NoError(t, tonight(next.Add(21*time.Minute)), "at once where it is to be written elsewhere")
	dir = elsewhere
	assert.Equal(t, []string{"handwerk-2026-11-28.backup"}, written())
	house.Backups = ""
	assert.Empty(t, house.BackupFault(good, last, next), "nobody wants one any more")
}

// Seven days, four weeks, twelve months are kept; the newest whatever its age,
// and what is none of ours.
func TestOldBackupsAreTidiedUp(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	s := newShop(t)
	require.NoError(t, s.store.KeepAccount(ctx, people.Account{Person: lead, PasswordHash: "x"}))
	owner := func(ctx context.Context) (*postgres.Store, error) {
		return postgres.Open(ctx, pgtest.OwnerURL(s.url), postgres.Options{Patient: true})
	}
	dir := t.TempDir()
	night := time.Date(2026, 11, 27, backupsBegin, 1, 0, 0, time.UTC)
	for day := 1; day < 800; day++ {
		name := filepath.Join(dir, "handwerk-"+night.AddDate(0, 0, -day).Format(time.DateOnly)+".backup")
		require.NoError(t, os.WriteFile(name, []byte("x"), 0o600))
	}
	require.NoError(t, os.WriteFile(filepath.Join(dir, "handwerk-by-hand.backup"), []byte("x"), 0o600))
	house := shop.Shop{Name: "Slipway garage", Units: quantity.Metric, Currency: "EUR", Zone: "UTC", Paper: "A4",
		Backups: dir}
	require.NoError(t, s.store.KeepShop(ctx, house, lead, night))
	require.NoError(t, s.store.BackUpTonight(ctx, owner, night))
	files, err := os.ReadDir(dir)
	require.NoError(t, err)
	var kept []string
	for _, f := range files {
		kept = append(kept, strings.TrimSuffix(strings.TrimPrefix(f.Name(), "handwerk-"), ".backup"))
	}
	for _, day := range []string{"2026-11-27", "2026-11-20", "2026-11-15", "2026-11-08", "2026-10-31", "2025-12-31",
		"by-hand"} {
		assert.Contains(t, kept, day)
	}
	assert.NotContains(t, kept, "2026-11-14")
	assert.NotContains(t, kept, "2026-06-15")
	assert.Less(t, len(kept), 8+4+13+1)
}

// A picture that no entry shows goes after a month; one that is shown stays.
func TestPicturesNobodyShowsAreForgotten(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	s := newShop(t)
	r := s.open(t)
	pic := picture.Picture{SHA256: "a", Type: "image/jpeg", Width: 1, Height: 1, Bytes: []byte("x")}
	kept, err := s.KeepPhoto(ctx, r.ID, pic, "sent", lead)
	require.NoError(t, err)
	again, err := s.KeepPhoto(ctx, r.ID, pic, "sent", lead)
	require.NoError(t, err)
	assert.Equal(t, kept.ID, again.ID, "sent again with its key it is kept once")
	shown, err := s.KeepPhoto(ctx, r.ID, picture.Picture{SHA256: "b", Type: "image/jpeg", Width: 1, Height: 1,
		Bytes: []byte("y")}, "", lead)
	require.NoError(t, err)
	_, _, err = s.Append(
		ctx,
		workshop.Asking{},
		r.ID,
		"identify",
		record.Draft{Says: &acts.Note{Note: "see", Pictured: acts.Pictured{Photo: shown.ID}}},
		lead,
		"note",
	)
	require.NoError(t, err)
	store := ownerOf(t, pgtest.OwnerURL(s.url))
	gone, err := store.ForgetUnshown(ctx, s.now().Add(-time.Hour))
	require.NoError(t, err)
	assert.Zero(t, gone, "young ones may wait for their entry")
	gone, err = store.ForgetUnshown(ctx, s.now().Add(time.Hour))
	require.NoError(t, err)
	assert.EqualValues(t, 1, gone)
	_, err = s.Photo(ctx, shown.ID)
	assert.NoError(t, err)
	_, err = s.raw(t).Exec(`DELETE FROM photo`)
	assert.Error(t, err, "nobody else deletes one")
}

// backupsBegin is the hour from which they are written.
const backupsBegin = 2
