package main

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/files"
	"handwerk/book/shop"
	"handwerk/postgres"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// command runs the program in this process, on a database of its own.
type command struct {
	t   *testing.T
	url string
}

func newCommand(t *testing.T) command {
	t.Helper()
	c := command{t, pgtest.URL(t)}
	t.Setenv("HANDWERK_DATABASE_URL", c.url)
	t.Setenv("HANDWERK_OWNER_URL", pgtest.OwnerURL(c.url))
	t.Setenv("HANDWERK_DIR", t.TempDir())
	return c
}

func (c command) run(stdin string, args ...string) (string, error) {
	c.t.Helper()
	cmd := root()
	var out bytes.Buffer
	cmd.SetIn(strings.NewReader(stdin))
	cmd.SetOut(&out)
	cmd.SetErr(&out)
	cmd.SetArgs(args)
	err := cmd.ExecuteContext(context.Background())
	return out.String(), err
}

// demoLoaded fills the database with the scenario.
func (c command) demoLoaded() {
	c.t.Helper()
	ctx := context.Background()
	cfg, err := readConfig()
	require.NoError(c.t, err)
	store, err := cfg.open(ctx, cfg.logger(), false)
	require.NoError(c.t, err)
	defer store.close()
	b, err := files.Load(shop.Files, demo.Files)
	require.NoError(c.t, err)
	for range 2 { // the second time changes nothing
		said, err := prepareDemo(ctx, store.Store, b)
		require.NoError(c.t, err)
		assert.Contains(c.t, said, "sign in as guest")
	}
	rebuilds, err := store.Board(ctx, workshop.BoardQuery{Limit: 100})
	require.NoError(c.t, err)
	seen, kinds, stations := map[string]workshop.Standing{}, map[string]bool{}, map[book.StationID]bool{}
	for _, r := range rebuilds {
		seen[r.Unit.Serial] = r.Place
		kinds[r.Unit.Kind], stations[r.Place.Station] = true, true
	}
	assert.Len(c.t, rebuilds, 14)
	assert.True(c.t, seen["BT2-0302"].Held, "one waits for parts")
	assert.EqualValues(c.t, "out", seen["HV-20931"].Verdict, "one is out")
	assert.EqualValues(c.t, "undecided", seen["HV-31114"].Verdict, "one is undecided")
	for _, kind := range []string{"clutch", "manual gearbox", "differential", "transfer case", "shift linkage"} {
		assert.True(c.t, kinds[kind], "a %s is on its way", kind)
	}
	assert.GreaterOrEqual(c.t, len(stations), 6, "they stand at different stations: %v", stations)
	closed, err := store.Board(ctx, workshop.BoardQuery{Closed: true, Limit: 100})
	require.NoError(c.t, err)
	require.Len(c.t, closed, 2, "two are finished")
	assert.Equal(c.t, "pedal hydraulics", closed[0].Unit.Kind, "the latest first")
}

func TestTheDemoTellsItsStories(t *testing.T) {
	c := newCommand(t)
	c.demoLoaded()
	said, err := c.run("", "verify")
	require.NoError(t, err)
	assert.Contains(t, said, "16 rebuilds")
}

func TestVerifyExitsWithTheTamperedRow(t *testing.T) {
	c := newCommand(t)
	c.demoLoaded()
	ctx := context.Background()
	_, err := pgtest.Owner(t, c.url).Exec(ctx, `ALTER TABLE entry DISABLE TRIGGER entry_kept; GRANT UPDATE ON entry TO CURRENT_USER;
		UPDATE entry SET by_name = 'somebody else' WHERE seq = 3 AND rebuild_id = (SELECT id FROM rebuild WHERE number LIKE '%-002')`)
	require.NoError(t, err)
	said, err := c.run("", "verify")
	require.ErrorContains(t, err, "faults found: 1")
	assert.Contains(t, said, "-002, entry 3: its content is not what was written")
}

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
	require.ErrorContains(t, err, "cannot be taken in")
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

func TestAccounts(t *testing.T) {
	c := newCommand(t)
	for _, tt := range []struct {
		stdin string
		args  []string
		says  string
	}{
		{"long enough\n", []string{"account", "Odo", "--name", "Odo Marrin", "--role", "king"}, "accepted: reader, mechanic, lead"},
		{"long enough\n", []string{"account", "odo"}, "--name: missing"},
		{"short\n", []string{"account", "odo", "--name", "Odo Marrin"}, "10 to 200 characters"},
		{"1234567890\n", []string{"account", "odo", "--name", "Odo Marrin"}, "easily guessed"},
		{"              \n", []string{"account", "odo", "--name", "Odo Marrin"}, "blanks"},
		{"", []string{"account", "odo", "--name", "Odo Marrin"}, "needs a password"},
		{"quarry-mitten-anvil\n", []string{"account", ""}, "no name to sign in with"},
		{"quarry-mitten-anvil\n", []string{"account", "o\u202edo", "--name", "x"}, "no name to sign in with"},
		{"quarry-mitten-anvil\n", []string{"account", "odo", "--name", "O\u202edo"}, "RIGHT-TO-LEFT OVERRIDE"},
		{"", []string{"account", "odo", "--close"}, "there is no odo"},
	} {
		_, err := c.run(tt.stdin, tt.args...)
		require.ErrorContains(t, err, tt.says)
	}
	// What is not named stays as it is, and what was done is said.
	for _, tt := range []struct {
		stdin, says string
		args        []string
	}{
		{"quarry-mitten-anvil\n", "odo: new, Odo Marrin, lead.", []string{"account", "Odo", "--name", "Odo Marrin", "--role", "lead"}},
		{"", "odo: name Odo M.", []string{"account", "odo", "--name", "Odo M"}},
		{"quarry-mitten-pulley\n", "odo: new password, signed out everywhere.", []string{"account", "odo"}},
		{"", "odo: role reader, was lead.", []string{"account", "odo", "--role", "reader"}},
		{"", "nothing was changed; it is Odo M, reader", []string{"account", "odo"}},
		{"", "odo is closed", []string{"account", "odo", "--close"}},
		{"", "odo: open again", []string{"account", "odo", "--reopen"}},
	} {
		said, err := c.run(tt.stdin, tt.args...)
		require.NoError(t, err, tt.args)
		assert.Contains(t, said, tt.says)
	}
}

// A shop that works in a database is not touched by the demo, and generated
// load does not go among its records.
func TestTheDemoNeverTouchesAWorkshop(t *testing.T) {
	c := newCommand(t)
	_, err := c.run("quarry-mitten-anvil\n", "account", "ilva", "--name", "Ilva of this shop", "--role", "mechanic")
	require.NoError(t, err)
	cfg, err := readConfig()
	require.NoError(t, err)
	d, err := cfg.open(context.Background(), cfg.logger(), false)
	require.NoError(t, err)
	defer d.close()
	b, err := files.Load(shop.Files, demo.Files)
	require.NoError(t, err)
	_, err = prepareDemo(context.Background(), d.Store, b)
	require.ErrorContains(t, err, "belongs to a workshop")
	a, _, err := d.Account(context.Background(), "ilva")
	require.NoError(t, err)
	assert.Equal(t, workshop.Mechanic, a.Role)
	_, err = c.run("", "generate", "--rebuilds", "1")
	require.ErrorContains(t, err, "not empty")

	t.Setenv("HANDWERK_DIR", "")
	cfg, err = readConfig()
	require.NoError(t, err)
	assert.Equal(t, ".handwerk", cfg.Dir)
	cfg.forDemo()
	assert.Equal(t, ".handwerk-demo", cfg.Dir, "a directory of its own")
	assert.Equal(t, filepath.Join(cfg.Dir, "shop.key"), cfg.Key)
}

// A schema of tomorrow is left alone by a program of today.
func TestANewerSchemaIsRefused(t *testing.T) {
	c := newCommand(t)
	_, err := pgtest.Owner(t, c.url).Exec(context.Background(), `INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, true)`)
	require.NoError(t, err)
	_, err = c.run("", "migrate")
	require.ErrorContains(t, err, "made by a newer Handwerk")
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
	require.Eventually(c.t, func() bool { _, err := os.Stat(cfg.Checkpoint); return err == nil }, 20*time.Second, 50*time.Millisecond)
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
	_, err = pgtest.Owner(t, c.url).Exec(context.Background(), `ALTER TABLE log_hash DISABLE TRIGGER USER; GRANT ALL ON log_hash TO CURRENT_USER; DELETE FROM log_hash WHERE i IN (2, 3)`)
	require.NoError(t, err)
	said, err = c.run("", "verify", "--mend")
	require.NoError(t, err, said)
	assert.Contains(t, said, "2 hashes of the log were made anew")

	// Everything is emptied, the log too: the file outside knows.
	_, err = pgtest.Owner(t, c.url).Exec(context.Background(), `ALTER TABLE log_leaf DISABLE TRIGGER USER; ALTER TABLE checkpoint DISABLE TRIGGER USER;
		GRANT ALL ON log_leaf, checkpoint TO CURRENT_USER; DELETE FROM log_leaf; DELETE FROM checkpoint`)
	require.NoError(t, err)
	said, err = c.run("", "verify")
	require.Error(t, err)
	assert.Contains(t, said, "its end is gone")
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

	serving, owner := pgtest.Empty(t)
	t.Setenv("HANDWERK_DATABASE_URL", serving)
	t.Setenv("HANDWERK_OWNER_URL", owner)
	said, err = c.run("", "restore", file)
	require.NoError(t, err, said)
	assert.Contains(t, said, "tables row for row")
	assert.Contains(t, said, "16 rebuilds with")
	assert.Contains(t, said, "Sessions and tokens are ended")
	assert.Contains(t, said, "ilva, Ilva Torn, lead")
	_, err = c.run("", "restore", "/nowhere/at/all")
	require.Error(t, err)
}

// The built program's output goes nowhere: that is an error, whatever was computed.
func TestAFullDiskOfTheOutputIsAnError(t *testing.T) {
	bin := filepath.Join(t.TempDir(), "handwerk")
	out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	require.NoError(t, err)
	defer func() { _ = full.Close() }()
	for _, args := range [][]string{{"calc"}, {"calc", "--page"}, {"calc", "end-float", "--schema"}, {"openapi"}, {"book", "schema"}, {"--version"}} {
		cmd := exec.Command(bin, args...)
		var said bytes.Buffer
		cmd.Stdout, cmd.Stderr = full, &said
		require.Error(t, cmd.Run(), args)
		assert.Contains(t, said.String(), "no space left", args)
		read, write, err := os.Pipe()
		require.NoError(t, err)
		require.NoError(t, read.Close())
		said.Reset()
		cmd = exec.Command(bin, args...)
		cmd.Stdout, cmd.Stderr = write, &said
		require.Error(t, cmd.Run(), args)
		assert.Contains(t, said.String(), "broken pipe", args)
		require.NoError(t, write.Close())
	}
	help, err := exec.Command(bin, "--help").Output()
	require.NoError(t, err)
	assert.Contains(t, string(help), "HANDWERK_PROXIES")
}

func TestCalcCommand(t *testing.T) {
	c := command{t, ""}
	_, err := c.run("", "calc", "nonsense")
	require.ErrorContains(t, err, "reading-set, end-float")
	said, err := c.run(`{"readings": ["o.1 mm", "2"], "colour": "red"}`, "calc", "reading-set")
	require.ErrorIs(t, err, errSaid)
	lines := strings.Split(strings.TrimSpace(said), "\n")
	assert.Len(t, lines, 3, "one line a field: %s", said)
	said, err = c.run("", "calc", "shim-pack", "--schema")
	require.NoError(t, err)
	assert.Contains(t, said, `"max_shims"`)
}

func TestBookCheckNamesFileAndLine(t *testing.T) {
	c := command{t, ""}
	said, err := c.run("", "book", "check")
	require.NoError(t, err)
	assert.Contains(t, said, "The book is sound")
	dir := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(dir, "sheets"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "sheets", "x.yaml"), []byte("id: x\nfamily: X\nversion: 1\nlimits:\n  f: {min: 2 mm, max: 1 mm}\n"), 0o600))
	_, err = c.run("", "book", "check", dir)
	require.ErrorContains(t, err, "sheets/x.yaml:5: limits.f.min: 2 mm lies above 1 mm")
	_, err = c.run("", "book", "check", "/nowhere/at/all")
	require.ErrorContains(t, err, "cannot be read")
}

// A shop that writes one of our routes anew is told which fragment is now
// without work.
func TestBookCheckNamesAnOrphanedFragment(t *testing.T) {
	c := command{t, ""}
	dir := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(dir, "routes"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "routes", "ours.yaml"), []byte(`id: gearbox-longitudinal
title: Our own way
unit_kind: manual gearbox
stations:
  - id: intake
    steps:
      - {use: intake, with: {unit: gearbox}}
`), 0o600))
	said, err := c.run("", "book", "check", dir)
	require.NoError(t, err)
	assert.Contains(t, said, `Worth a look: fragments/assemble.yaml:`)
	assert.Contains(t, said, `no route uses fragment "warm-bearing"`)
	assert.Contains(t, said, "The book is sound: 20 routes")
}

// The book that ships, written out, is a sound book of one's own.
func TestBookExportIsABookOfOnesOwn(t *testing.T) {
	c := command{t, ""}
	dir := filepath.Join(t.TempDir(), "book")
	said, err := c.run("", "book", "export", dir)
	require.NoError(t, err)
	assert.Contains(t, said, "handwerk book check "+dir)
	said, err = c.run("", "book", "check", dir)
	require.NoError(t, err)
	assert.Contains(t, said, "20 routes")
	_, err = c.run("", "book", "export", dir)
	require.ErrorContains(t, err, "a new directory", "what is there is not written over")
}

func TestBookSchemaIsJSON(t *testing.T) {
	c := command{t, ""}
	said, err := c.run("", "book", "schema")
	require.NoError(t, err)
	var schema struct {
		Defs map[string]json.RawMessage `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal([]byte(said), &schema))
	assert.Contains(t, schema.Defs, "routes")
}

func TestTheEnvironmentIsChecked(t *testing.T) {
	t.Setenv("HANDWERK_SECURE", "perhaps")
	_, err := readConfig()
	require.ErrorContains(t, err, "environment")
	_, err = listen(context.Background(), "not an address")
	require.ErrorContains(t, err, "HANDWERK_ADDR")
}

func TestTheModelForLoadIsWholeAndLongEnough(t *testing.T) {
	l, err := modelRebuild(150)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(l.Entries), 150)
	assert.True(t, l.Rebuild.Place.Closed)
	c := newCommand(t)
	said, err := c.run("", "generate", "--rebuilds", "3", "--entries", "120")
	require.NoError(t, err)
	assert.Contains(t, said, "3 rebuilds")
	said, err = c.run("", "verify")
	require.NoError(t, err, said)
}
