package main

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/postgres"
	"handwerk/postgres/pgtest"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

func TestExportAndImport(t *testing.T) {
	c := newCommand(t)
	c.demoLoaded()
	file := filepath.Join(t.TempDir(), "record.json")
	list, err := c.run("", "export", "nothing")
	require.ErrorContains(t, err, "no such rebuild", list)
	number := exported(t, c, file)
	said, err := c.run("", "import", file)
	require.ErrorContains(t, err, "already in this database", said)

	other := newCommand(t)
	said, err = other.run("", "import", file)
	require.NoError(t, err)
	assert.Contains(t, said, "Rebuild "+number+" is in")
	again, err := other.run("", "export", number)
	require.NoError(t, err)
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(raw), again)

	_, err = other.run(string(raw[:len(raw)/2]), "import", "-")
	require.ErrorContains(t, err, "cannot be imported")
	_, err = other.run("", "import", "/nowhere/at/all.json")
	require.Error(t, err)
}

// exported writes the finished rebuild of the demo to a file.
func exported(t *testing.T, c command, file string) string {
	t.Helper()
	for _, year := range []string{"26", "27", "28", "29", "30"} {
		if _, err := c.run("", "export", year+"-001", file); err == nil {
			return year + "-001"
		}
	}
	t.Fatal("the demo's finished rebuild was not found")
	return ""
}

// checkpoint lets the log be written until there is one, and gives a copy of it
// that is kept elsewhere.
func (c command) checkpoint() string {
	c.t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	cfg, err := readConfig()
	require.NoError(c.t, err)
	d, err := cfg.open(ctx, cfg.logger(), false)
	require.NoError(c.t, err)
	defer d.close()
	shelf, err := cfg.shelf(ctx, d.Checkpoint)
	require.NoError(c.t, err)
	done := make(chan struct{})
	go func() {
		d.WriteLog(ctx, cfg.logger(), shelf)
		close(done)
	}()
	require.Eventually(c.t, func() bool { _, err := os.Stat(cfg.Checkpoint); return err == nil }, 20*time.Second,
		50*time.Millisecond)
	cancel()
	<-done
	raw, err := os.ReadFile(cfg.Checkpoint)
	require.NoError(c.t, err)
	kept := filepath.Join(c.t.TempDir(), "kept")
	require.NoError(c.t, os.WriteFile(kept, raw, 0o600))
	return kept
}

// A log, its key and its checkpoint: what serving makes, verify holds against.
func TestVerifyHoldsAgainstACheckpoint(t *testing.T) {
	c := newCommand(t)
	c.demoLoaded()
	kept := c.checkpoint()
	cfg, err := readConfig()
	require.NoError(t, err)
	d, err := cfg.open(context.Background(), cfg.logger(), false)
	require.NoError(t, err)
	defer d.close()
	said, err := c.run("", "verify", "--checkpoint", kept)
	require.NoError(t, err, said)
	assert.Contains(t, said, "The log of 16 heads holds")
	public, err := c.run("", "key")
	require.NoError(t, err)
	assert.Contains(t, public, "handwerk+")

	// The key is lost: it is said, and never made anew in silence.
	require.NoError(t, os.Rename(cfg.Key, cfg.Key+".away"))
	_, err = cfg.shelf(context.Background(), d.Checkpoint)
	require.ErrorContains(t, err, "is lost")
	said, err = c.run("", "verify")
	require.ErrorIs(t, err, errNotProved, "chains hold, and nothing tells that none is gone: %s", said)
	said, err = c.run("", "verify", "--public", strings.TrimSpace(public))
	require.NoError(t, err, said)
	assert.Contains(t, said, "holds against 2 checkpoints", "the public line proves without the private one")
	_, err = c.run("", "verify", "--public", "somebody's")
	require.ErrorContains(t, err, "no public line")
	require.NoError(t, os.Rename(cfg.Key+".away", cfg.Key))

	// A hash that is gone stops the log for good: it is made anew from the leaves.
	_, err = pgtest.Owner(t, c.url).Exec(context.Background(),
		`ALTER TABLE log_hash DISABLE TRIGGER USER; GRANT ALL ON log_hash TO CURRENT_USER; DELETE FROM log_hash WHERE i IN (2, 3)`)
	require.NoError(t, err)
	said, err = c.run("", "verify", "--mend")
	require.NoError(t, err, said)
	assert.Contains(t, said, "2 hashes of the log were rebuilt from its leaves")

	// Everything is emptied, the log too: the file outside knows.
	_, err = pgtest.Owner(t, c.url).Exec(context.Background(),
		`ALTER TABLE log_leaf DISABLE TRIGGER USER; ALTER TABLE checkpoint DISABLE TRIGGER USER;
		GRANT ALL ON log_leaf, checkpoint TO CURRENT_USER; DELETE FROM log_leaf; DELETE FROM checkpoint`)
	require.NoError(t, err)
	said, err = c.run("", "verify")
	require.Error(t, err)
	assert.Contains(t, said, "its end is gone")
}

// store is the database as serving opens it.
func (c command) store() *postgres.Store {
	c.t.Helper()
	cfg, err := readConfig()
	require.NoError(c.t, err)
	_, o, url, err := cfg.reach(context.Background(), cfg.logger())
	require.NoError(c.t, err)
	store, err := postgres.Open(context.Background(), url, o)
	require.NoError(c.t, err)
	c.t.Cleanup(func() { _ = store.Close() })
	return store
}

func TestBackupAndRestore(t *testing.T) {
	c := newCommand(t)
	c.demoLoaded()
	file := filepath.Join(t.TempDir(), "backup")
	said, err := c.run("", "backup", file)
	require.NoError(t, err, said)
	assert.Contains(t, said, "16 rebuilds")
	_, err = c.run("", "restore", file)
	require.ErrorIs(t, err, postgres.ErrFullDatabase)
	store := c.store()
	added, _, err := store.AddCustomer(t.Context(),
		shop.Customer{ID: say.NewID(), Name: "Nora Quill", Since: time.Now()})
	require.NoError(t, err)
	said, err = c.run("", "backup", file+".later")
	require.NoError(t, err, said)
	require.NoError(t, store.EraseCustomer(t.Context(), added.ID, time.Now()))
	file += ".later"

	serving, owner := pgtest.Empty(t)
	t.Setenv("HANDWERK_DATABASE_URL", serving)
	t.Setenv("HANDWERK_OWNER_URL", owner)
	said, err = c.run("", "restore", file)
	require.NoError(t, err, said)
	assert.Contains(t, said, "tables, checked row by row")
	assert.Contains(t, said, "16 rebuilds with")
	assert.Contains(t, said, "Sessions and tokens are ended")
	assert.Contains(t, said, "erased again now: 1.")
	again, err := c.store().Customer(t.Context(), added.ID, 10)
	require.NoError(t, err)
	assert.Empty(t, again.Name)
	assert.NotNil(t, again.ErasedAt)
	assert.Contains(t, said, "ilva, Ilva Torn, lead")
	_, err = c.run("", "restore", "/nowhere/at/all")
	require.Error(t, err)
}
