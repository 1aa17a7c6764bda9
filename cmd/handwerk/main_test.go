package main

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/plan"
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
	store, done, err := cfg.migrated(ctx)
	require.NoError(c.t, err)
	defer done()
	b, err := book.Load(book.Shop(), book.Demo())
	require.NoError(c.t, err)
	for range 2 { // the second time changes nothing
		said, err := prepareDemo(ctx, store, b)
		require.NoError(c.t, err)
		assert.Contains(c.t, said, "sign in as guest")
	}
	rebuilds, err := store.Board(ctx, workshop.BoardQuery{Limit: 100})
	require.NoError(c.t, err)
	seen, kinds, stations := map[string]workshop.Place{}, map[string]bool{}, map[plan.StationID]bool{}
	for _, r := range rebuilds {
		seen[r.Unit.Serial] = r.Place
		kinds[r.Unit.Kind], stations[r.Place.Station] = true, true
	}
	assert.Len(c.t, rebuilds, 12)
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
	assert.Contains(t, said, "14 rebuilds")
}

func TestVerifyExitsWithTheTamperedRow(t *testing.T) {
	c := newCommand(t)
	c.demoLoaded()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, c.url)
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	_, err = conn.Exec(ctx, `ALTER TABLE entry DISABLE TRIGGER entry_kept; GRANT UPDATE ON entry TO CURRENT_USER;
		UPDATE entry SET by_name = 'somebody else' WHERE seq = 3 AND rebuild_id = (SELECT id FROM rebuild WHERE number LIKE '%-002')`)
	require.NoError(t, err)
	said, err := c.run("", "verify")
	require.ErrorContains(t, err, "1 of 14 records do not hold")
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
	} {
		_, err := c.run(tt.stdin, tt.args...)
		require.ErrorContains(t, err, tt.says)
	}
	_, err := c.run("long enough\n", "account", "Odo", "--name", "Odo Marrin", "--role", "lead")
	require.NoError(t, err)
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
