package main

import (
	"bytes"
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
	"handwerk/workshop/kinds"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
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
	b, err := files.Load(kinds.Natures(), bookshop.Files, demo.Files)
	require.NoError(c.t, err)
	for range 2 { // the second time changes nothing
		said, err := prepareDemo(ctx, store.Store, b)
		require.NoError(c.t, err)
		assert.Contains(c.t, said, "sign in as guest")
	}
	rebuilds, err := store.Board(ctx, workshop.BoardQuery{Limit: 100})
	require.NoError(c.t, err)
	seen, kinds, stations := map[string]record.Standing{}, map[string]bool{}, map[book.StationID]bool{}
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
	_, err := pgtest.Owner(t, c.url).
		Exec(ctx, `ALTER TABLE entry DISABLE TRIGGER entry_kept; GRANT UPDATE ON entry TO CURRENT_USER;
		UPDATE entry SET by_name = 'somebody else' WHERE seq = 3 AND rebuild_id = (SELECT id FROM rebuild WHERE number LIKE '%-002')`)
	require.NoError(t, err)
	said, err := c.run("", "verify")
	require.ErrorContains(t, err, "1 fault found")
	assert.Contains(t, said, "-002, entry 3: its content was changed after it was written")
}

func TestAccounts(t *testing.T) {
	c := newCommand(t)
	for _, tt := range []struct {
		stdin string
		args  []string
		says  string
	}{
		{"long enough\n", []string{"account", "Odo", "--name", "Odo Marrin", "--role", "king"},
			"accepted: reader, mechanic, lead"},
		{"long enough\n", []string{"account", "odo"}, "--name: missing"},
		{"short\n", []string{"account", "odo", "--name", "Odo Marrin"}, "10 to 200 characters"},
		{"1234567890\n", []string{"account", "odo", "--name", "Odo Marrin"}, "too easy to guess"},
		{"              \n", []string{"account", "odo", "--name", "Odo Marrin"}, "only spaces"},
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
		{"quarry-mitten-anvil\n", "odo: new, Odo Marrin, lead.",
			[]string{"account", "Odo", "--name", "Odo Marrin", "--role", "lead"}},
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
	b, err := files.Load(kinds.Natures(), bookshop.Files, demo.Files)
	require.NoError(t, err)
	_, err = prepareDemo(context.Background(), d.Store, b)
	require.ErrorContains(t, err, "belongs to a workshop")
	a, _, err := d.Account(context.Background(), "ilva")
	require.NoError(t, err)
	assert.Equal(t, people.Mechanic, a.Role)
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
	_, err := pgtest.Owner(t, c.url).Exec(context.Background(),
		`INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, true)`)
	require.NoError(t, err)
	_, err = c.run("", "migrate")
	require.ErrorContains(t, err, "made by a newer Handwerk")
}

// The built program's output goes nowhere: that is an error, whatever was computed.
func TestAFullDiskOfTheOutputIsAnError(t *testing.T) {
	bin := filepath.Join(t.TempDir(), "handwerk")
	out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	require.NoError(t, err)
	defer func() { _ = full.Close() }()
	for _, args := range [][]string{{"calc"}, {"calc", "--page"}, {"calc", "end-float", "--schema"}, {"openapi"},
		{"book", "schema"}, {"--version"}} {
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
	require.ErrorContains(t, err, "reading-set, gauge-lines")
	said, err := c.run(`{"readings": ["o.1 mm", "2"], "colour": "red"}`, "calc", "reading-set")
	require.ErrorIs(t, err, errSaid)
	lines := strings.Split(strings.TrimSpace(said), "\n")
	assert.Len(t, lines, 3, "one line a field: %s", said)
	said, err = c.run("", "calc", "shim-pack", "--schema")
	require.NoError(t, err)
	assert.Contains(t, said, `"max_shims"`)
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
