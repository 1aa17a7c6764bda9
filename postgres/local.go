package postgres

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// Cluster is a PostgreSQL server of our own, below a directory, on loopback,
// run by an unprivileged user.
type Cluster struct {
	URL string

	dir   string // holds data, secret and log
	bin   string
	as    *syscall.Credential
	lock  *os.File
	owner bool
}

// ErrNoServer means that Debian's PostgreSQL is not installed.
var ErrNoServer = errors.New("PostgreSQL is not installed; install it with: apt-get install postgresql")

// ClusterOptions of StartCluster.
type ClusterOptions struct {
	// Fast gives up safety against power loss; for tests only.
	Fast bool
}

// StartCluster starts (after making it, the first time) the cluster below dir.
// If it still runs, because the program was killed, it is taken over; if
// another program owns it, it is shared and left running at Stop.
func StartCluster(ctx context.Context, dir string, o ClusterOptions) (*Cluster, error) {
	c := &Cluster{}
	var err error
	if c.bin, err = findServer(); err != nil {
		return nil, err
	}
	if err := c.prepare(dir); err != nil {
		return nil, err
	}
	if c.lock, err = os.OpenFile(filepath.Join(c.dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600); err != nil {
		return nil, err
	}
	c.owner = syscall.Flock(int(c.lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) == nil
	if err := c.start(ctx, o); err != nil {
		_ = c.lock.Close()
		return nil, fmt.Errorf("local PostgreSQL below %s: %w", c.dir, err)
	}
	return c, nil
}

// Dir is where the cluster really lives.
func (c *Cluster) Dir() string { return c.dir }

// findServer looks where Debian puts its versions, newest first.
func findServer() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	if len(found) == 0 {
		return "", ErrNoServer
	}
	slices.SortFunc(found, func(a, b string) int { return version(b) - version(a) })
	return filepath.Dir(found[0]), nil
}

func version(path string) int {
	n, _ := strconv.Atoi(strings.Split(path, "/")[4])
	return n
}

// prepare makes the directory and, for root, gives it to the user that will
// run the server, which never runs as root. Where that user may not enter
// (a clone below /root, say) the cluster lives in /var/lib/handwerk instead.
func (c *Cluster) prepare(dir string) error {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	c.dir = abs
	if os.Getuid() == 0 {
		if c.as, err = unprivileged(); err != nil {
			return err
		}
		if !c.canEnter(filepath.Dir(abs)) {
			sum := sha256.Sum256([]byte(abs))
			c.dir = filepath.Join("/var/lib/handwerk", hex.EncodeToString(sum[:6]))
		}
	}
	if err := os.MkdirAll(c.dir, 0o755); err != nil {
		return err
	}
	data := filepath.Join(c.dir, "pg")
	if err := os.MkdirAll(data, 0o700); err != nil {
		return err
	}
	if c.as == nil {
		return nil
	}
	return os.Chown(data, int(c.as.Uid), int(c.as.Gid))
}

func unprivileged() (*syscall.Credential, error) {
	for _, name := range []string{"postgres", "nobody"} {
		u, err := user.Lookup(name)
		if err != nil {
			continue
		}
		uid, err1 := strconv.ParseUint(u.Uid, 10, 32)
		gid, err2 := strconv.ParseUint(u.Gid, 10, 32)
		if err1 == nil && err2 == nil {
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New("there is no user postgres or nobody to run PostgreSQL as")
}

// canEnter tells whether the server's user reaches the nearest parent that exists.
func (c *Cluster) canEnter(dir string) bool {
	for {
		if _, err := os.Stat(dir); err == nil {
			break
		}
		dir = filepath.Dir(dir)
	}
	return c.command(context.Background(), "/usr/bin/test", "-x", dir).Run() == nil
}

func (c *Cluster) command(ctx context.Context, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	cmd.Env = []string{"PATH=/usr/bin:/bin", "LC_ALL=C.UTF-8"}
	// A group of its own: Ctrl-C in the terminal is for us, and we stop the server.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: c.as}
	return cmd
}

func (c *Cluster) data() string { return filepath.Join(c.dir, "pg", "data") }

func (c *Cluster) start(ctx context.Context, o ClusterOptions) error {
	secret, err := c.secret()
	if err != nil {
		return err
	}
	fresh := false
	if _, err := os.Stat(filepath.Join(c.data(), "PG_VERSION")); err != nil {
		fresh = true
		if err := c.initdb(ctx, secret); err != nil {
			return err
		}
	}
	port, running := c.running(ctx)
	if !running {
		if port, err = freePort(); err != nil {
			return err
		}
		if err := c.launch(ctx, port, o); err != nil {
			return err
		}
	}
	c.URL = fmt.Sprintf("postgres://handwerk:%s@127.0.0.1:%d/handwerk", secret, port)
	if fresh {
		return c.createDatabase(ctx, secret, port)
	}
	return nil
}

// secret is the password of the cluster, made once and readable by us only.
func (c *Cluster) secret() (string, error) {
	path := filepath.Join(c.dir, "secret")
	if raw, err := os.ReadFile(path); err == nil && len(raw) > 20 {
		return string(raw), nil
	}
	secret := rand.Text()
	return secret, os.WriteFile(path, []byte(secret), 0o600)
}

// initdb makes the cluster beside its place and moves it there when complete,
// so that an interrupted start leaves nothing half-made.
func (c *Cluster) initdb(ctx context.Context, secret string) error {
	making := filepath.Join(c.dir, "pg", "making")
	if err := os.RemoveAll(making); err != nil {
		return err
	}
	pw := filepath.Join(c.dir, "pg", "password")
	if err := os.WriteFile(pw, []byte(secret), 0o600); err != nil {
		return err
	}
	defer func() { _ = os.Remove(pw) }()
	if c.as != nil {
		if err := os.Chown(pw, int(c.as.Uid), int(c.as.Gid)); err != nil {
			return err
		}
	}
	out, err := c.command(ctx, filepath.Join(c.bin, "initdb"), "-D", making, "-U", "postgres", "--pwfile="+pw,
		"--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync").CombinedOutput()
	if err != nil {
		return fmt.Errorf("initdb: %w: %s", err, strings.TrimSpace(string(out)))
	}
	return os.Rename(making, c.data())
}

// running reads the port of a server that still runs on our data.
func (c *Cluster) running(ctx context.Context) (int, bool) {
	if c.command(ctx, filepath.Join(c.bin, "pg_ctl"), "-D", c.data(), "status").Run() != nil {
		return 0, false
	}
	raw, err := os.ReadFile(filepath.Join(c.data(), "postmaster.pid"))
	if err != nil {
		return 0, false
	}
	lines := strings.Split(string(raw), "\n")
	if len(lines) < 4 {
		return 0, false
	}
	port, err := strconv.Atoi(lines[3])
	return port, err == nil
}

func (c *Cluster) launch(ctx context.Context, port int, o ClusterOptions) error {
	settings := fmt.Sprintf("-c listen_addresses=127.0.0.1 -c port=%d -c unix_socket_directories= -c max_connections=60", port)
	if o.Fast {
		settings += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
	}
	log := filepath.Join(c.dir, "pg", "server.log")
	out, err := c.command(ctx, filepath.Join(c.bin, "pg_ctl"), "-D", c.data(), "-l", log, "-w", "-t", "30", "-o", settings, "start").CombinedOutput()
	if err != nil {
		return fmt.Errorf("pg_ctl start: %w: %s (see %s)", err, strings.TrimSpace(string(out)), log)
	}
	return nil
}

// createDatabase makes the role the program works as, which is no superuser,
// and its database.
func (c *Cluster) createDatabase(ctx context.Context, secret string, port int) error {
	conn, err := pgx.Connect(ctx, fmt.Sprintf("postgres://postgres:%s@127.0.0.1:%d/postgres", secret, port))
	if err != nil {
		return redact(err)
	}
	defer func() { _ = conn.Close(ctx) }()
	// rand.Text is letters and digits only, so quoting is safe.
	for _, statement := range []string{
		"CREATE ROLE handwerk LOGIN CREATEDB PASSWORD '" + secret + "'",
		"CREATE DATABASE handwerk OWNER handwerk",
	} {
		if _, err := conn.Exec(ctx, statement); err != nil {
			return err
		}
	}
	return nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer func() { _ = l.Close() }()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// Stop shuts the server down cleanly, unless another program owns it.
func (c *Cluster) Stop() error {
	defer func() { _ = c.lock.Close() }()
	if !c.owner {
		return nil
	}
	ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
	defer cancel()
	out, err := c.command(ctx, filepath.Join(c.bin, "pg_ctl"), "-D", c.data(), "-m", "fast", "-w", "stop").CombinedOutput()
	if err != nil {
		return fmt.Errorf("pg_ctl stop: %w: %s", err, strings.TrimSpace(string(out)))
	}
	return nil
}

// Kill ends the server at once, as a crash would; for tests of what survives.
func (c *Cluster) Kill() error {
	return c.command(context.Background(), filepath.Join(c.bin, "pg_ctl"), "-D", c.data(), "-m", "immediate", "-w", "stop").Run()
}
