package cluster_test

import (
	"context"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"handwerk/postgres/cluster"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// clusterDir is a directory that the server's user may enter.
func clusterDir(t testing.TB) string {
	t.Helper()
	dir, err := os.MkdirTemp("", "handwerk-cluster")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	return filepath.Join(dir, "own")
}

func startCluster(t testing.TB, dir string) *cluster.Cluster {
	t.Helper()
	c, err := cluster.Start(context.Background(), dir, cluster.Options{Fast: true})
	require.NoError(t, err)
	return c
}

func answers(url string) bool {
	ctx, cancel := context.WithTimeout(context.Background(), 3*time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return false
	}
	return conn.Close(ctx) == nil
}

// The server dies: its owner starts it again, on its port. A second process on
// the directory serves from it, and owns it when the first closes.
func TestADeadServerIsStartedAgainByItsOwner(t *testing.T) {
	t.Parallel()
	dir := clusterDir(t)
	first := startCluster(t, dir)
	second := startCluster(t, dir)
	assert.Equal(t, first.URL, second.URL)
	require.NoError(t, first.Kill())
	require.Eventually(t, func() bool { return answers(first.URL) }, 30*time.Second, 100*time.Millisecond,
		"on the same port")

	require.NoError(t, first.Stop())
	assert.True(t, answers(second.URL), "the first leaves the server to the second")
	// Give the second its time to take the directory over, told by what only an owner does.
	require.Eventually(t, func() bool {
		if second.Kill() != nil {
			return false
		}
		for range 50 {
			if answers(second.URL) {
				return true
			}
			time.Sleep(100 * time.Millisecond)
		}
		return false
	}, 60*time.Second, 100*time.Millisecond)
	require.NoError(t, second.Stop())
	assert.False(t, answers(second.URL), "the last one closes it")
}

// Whoever takes the port of a server that died is named, until it is free again.
func TestATakenPortIsSaid(t *testing.T) {
	t.Parallel()
	c := startCluster(t, clusterDir(t))
	at, err := url.Parse(c.URL)
	require.NoError(t, err)
	var stranger net.Listener
	require.Eventually(t, func() bool { // the owner is quick: it may be back before the stranger
		if c.Kill() != nil {
			return false
		}
		stranger, err = net.Listen("tcp", at.Host)
		return err == nil
	}, 60*time.Second, time.Millisecond)
	require.Eventually(t, func() bool { return strings.Contains(c.Stuck(), "has taken its port, "+at.Port()) },
		30*time.Second, 50*time.Millisecond)
	require.NoError(t, stranger.Close())
	require.Eventually(t, func() bool { return answers(c.URL) && c.Stuck() == "" }, 60*time.Second, 50*time.Millisecond)
}

func TestPageChecksumsAreOn(t *testing.T) {
	t.Parallel()
	dir := clusterDir(t)
	c := startCluster(t, dir)
	conn, err := pgx.Connect(context.Background(), c.URL)
	require.NoError(t, err)
	var on string
	require.NoError(t, conn.QueryRow(context.Background(), `SHOW data_checksums`).Scan(&on))
	assert.Equal(t, "on", on)
	require.NoError(t, conn.Close(context.Background()))
	require.NoError(t, c.Stop())
}

// A cluster made by an older Handwerk has no checksums and one role less.
func TestAnOlderClusterIsBroughtUpToDate(t *testing.T) {
	t.Parallel()
	dir := clusterDir(t)
	c := startCluster(t, dir)
	conn, err := pgx.Connect(context.Background(), superURL(t, c))
	require.NoError(t, err)
	_, err = conn.Exec(context.Background(), `DROP ROLE handwerk_serving`)
	require.NoError(t, err)
	require.NoError(t, conn.Close(context.Background()))
	require.NoError(t, c.Stop())
	asServer(t, c, "pg_checksums", "--disable", "-D", filepath.Join(c.Dir(), "pg", "data"))

	again := startCluster(t, dir)
	defer func() { assert.NoError(t, again.Stop()) }()
	conn, err = pgx.Connect(context.Background(), again.URL)
	require.NoError(t, err)
	var on string
	require.NoError(t, conn.QueryRow(context.Background(), `SHOW data_checksums`).Scan(&on))
	assert.Equal(t, "on", on)
	require.NoError(t, conn.Close(context.Background()))
}

// The program was killed while the server it had started still read back its
// log: the next one takes the server over when it takes connections.
func TestAServerStillRecoveringIsWaitedFor(t *testing.T) {
	t.Parallel()
	dir := clusterDir(t)
	c := startCluster(t, dir)
	require.NoError(t, c.Stop())
	data := filepath.Join(c.Dir(), "pg", "data")
	version, err := os.Stat(filepath.Join(data, "PG_VERSION"))
	require.NoError(t, err)
	signal := filepath.Join(data, "recovery.signal")
	require.NoError(t, os.WriteFile(signal, nil, 0o600))
	owner := version.Sys().(*syscall.Stat_t)
	require.NoError(t, os.Chown(signal, int(owner.Uid), int(owner.Gid)))
	asServer(t, c, "pg_ctl", "-D", data, "-W", "-l", filepath.Join(c.Dir(), "pg", "server.log"), "start",
		"-o", `-c listen_addresses=127.0.0.1 -c port=`+port(t,
			c)+` -c unix_socket_directories= -c restore_command='sleep 1; false' -c hot_standby=off`)
	require.Eventually(t, func() bool {
		raw, err := os.ReadFile(filepath.Join(data, "postmaster.pid"))
		return err == nil && strings.Count(string(raw), "\n") > 4
	}, 20*time.Second, 10*time.Millisecond)
	again := startCluster(t, dir)
	assert.True(t, answers(again.URL))
	require.NoError(t, again.Stop())
}

func port(t testing.TB, c *cluster.Cluster) string {
	t.Helper()
	raw, err := os.ReadFile(filepath.Join(c.Dir(), "port"))
	require.NoError(t, err)
	return strings.TrimSpace(string(raw))
}

func superURL(t testing.TB, c *cluster.Cluster) string {
	t.Helper()
	return strings.Replace(strings.Replace(c.OwnerURL, "postgres://handwerk:", "postgres://postgres:", 1),
		"/handwerk", "/postgres", 1)
}

// asServer runs one of PostgreSQL's tools as the user that runs the server.
func asServer(t testing.TB, c *cluster.Cluster, tool string, args ...string) {
	t.Helper()
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/" + tool)
	require.NoError(t, err)
	require.NotEmpty(t, found)
	cmd := exec.Command(found[len(found)-1], args...)
	cmd.Dir = "/"
	if os.Getuid() == 0 {
		u, err := user.Lookup("postgres")
		require.NoError(t, err)
		uid, err := strconv.Atoi(u.Uid)
		require.NoError(t, err)
		gid, err := strconv.Atoi(u.Gid)
		require.NoError(t, err)
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}}
	}
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
}

// Without its secret a cluster cannot be opened; a new one would not open it
// either, so none is written, and the way out is said.
func TestALostSecretIsNeverMadeAnew(t *testing.T) {
	t.Parallel()
	dir := clusterDir(t)
	c := startCluster(t, dir)
	require.NoError(t, c.Stop())
	secret := filepath.Join(c.Dir(), "secret")
	whole, err := os.ReadFile(secret)
	require.NoError(t, err)
	for _, cut := range []string{"", string(whole[:5])} {
		require.NoError(t, os.Remove(secret))
		if cut != "" {
			require.NoError(t, os.WriteFile(secret, []byte(cut), 0o600))
		}
		_, err = cluster.Start(context.Background(), dir, cluster.Options{Fast: true})
		require.ErrorContains(t, err, "Put it back from a backup")
		require.ErrorContains(t, err, "--single")
		left, _ := os.ReadFile(secret)
		assert.Equal(t, cut, string(left), "it was not written over")
		require.NoError(t, os.WriteFile(secret, whole, 0o600))
	}
	again := startCluster(t, dir)
	require.NoError(t, again.Stop())
}

// A stale pid file names somebody else's process, who is left alone.
func TestAStalePidFileNamesNobody(t *testing.T) {
	t.Parallel()
	dir := clusterDir(t)
	c := startCluster(t, dir)
	port := portOf(t, c.URL)
	require.NoError(t, c.Stop())
	other := exec.Command("sleep", "600")
	require.NoError(t, other.Start())
	gone := make(chan error, 1)
	go func() { gone <- other.Wait() }()
	defer func() { _ = other.Process.Kill() }()
	data := filepath.Join(c.Dir(), "pg", "data")
	stale := fmt.Sprintf("%d\n%s\n1700000000\n%s\n\n127.0.0.1\n\nready\n", other.Process.Pid, data, port)
	require.NoError(t, os.WriteFile(filepath.Join(data, "postmaster.pid"), []byte(stale), 0o600))

	again := startCluster(t, dir)
	assert.True(t, answers(again.URL))
	require.NoError(t, again.Stop())
	select {
	case err := <-gone:
		t.Fatal("the other process was signalled:", err)
	default:
	}
	assert.NoError(t, other.Process.Signal(syscall.Signal(0)))
}

func portOf(t testing.TB, url string) string {
	t.Helper()
	c, err := pgx.ParseConfig(url)
	require.NoError(t, err)
	return strconv.Itoa(int(c.Port))
}

// A clone below a directory that the server's user may not enter still gets
// its cluster, and the second start finds the same data.
func TestTheClusterOfAClosedDirectory(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	closed, err := os.MkdirTemp("", "closed")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(closed) })
	require.NoError(t, os.Chmod(closed, 0o700))
	dir := filepath.Join(closed, ".handwerk")
	first, err := cluster.Start(ctx, dir, cluster.Options{Fast: true})
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
	second, err := cluster.Start(ctx, dir, cluster.Options{Fast: true})
	require.NoError(t, err)
	assert.Equal(t, first.URL, second.URL)
	require.NoError(t, second.Stop())
	conn, err = pgx.Connect(ctx, first.URL)
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))
	require.NoError(t, first.Stop())

	again, err := cluster.Start(ctx, dir, cluster.Options{Fast: true})
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
