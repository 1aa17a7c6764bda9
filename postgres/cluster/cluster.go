package cluster

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"time"
)

// Cluster is a PostgreSQL server of our own, below a directory, on loopback,
// run by an unprivileged user. The first process on the directory owns it:
// starts it, starts it again should it die, and stops it. Others serve from
// it, and one of them takes over when the owner closes.
type Cluster struct {
	// URL is that of the role that serves, OwnerURL that of the role that owns
	// the tables and migrates.
	URL, OwnerURL string

	server

	mu    sync.Mutex
	lock  *os.File // held by the owner
	users *os.File // shared by all that use it
	owner bool
	end   context.CancelFunc
	ended chan struct{}

	// stuck is why a server that died does not come back.
	stuck atomic.Pointer[string]
}

// Stuck says why the server does not come back; empty while it runs.
func (c *Cluster) Stuck() string {
	if says := c.stuck.Load(); says != nil {
		return *says
	}
	return ""
}

// ErrNoServer means that Debian's PostgreSQL is not installed.
var ErrNoServer = errors.New("PostgreSQL is not installed; install it with: apt-get install postgresql")

// Options of Start.
type Options struct {
	// Fast gives up safety against power loss; for tests only.
	Fast bool
	// Log hears when the server died and was started again; nil for nobody.
	Log *slog.Logger
}

// Start starts (after making it, the first time) the cluster below dir.
// If it still runs, because the program was killed, it is taken over; if
// another program owns it, it is shared.
func Start(ctx context.Context, dir string, o Options) (*Cluster, error) {
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	c := &Cluster{server: server{o: o}, ended: make(chan struct{})}
	var err error
	if c.bin, err = FindServer(); err != nil {
		return nil, err
	}
	if err := c.prepare(dir); err != nil {
		return nil, err
	}
	if err := c.locks(); err != nil {
		return nil, err
	}
	if c.owner {
		err = c.start(ctx)
	} else {
		err = c.join(ctx)
	}
	if err != nil {
		c.unlock()
		return nil, fmt.Errorf("local PostgreSQL below %s: %w", c.dir, err)
	}
	watching, end := context.WithCancel(context.Background())
	c.end = end
	go c.watch(watching)
	return c, nil
}

// Dir is where the cluster really lives.
func (c *server) Dir() string { return c.dir }

// Room is how much space is left where it writes.
func (c *server) Room() (uint64, error) {
	var s syscall.Statfs_t
	err := syscall.Statfs(c.data(), &s)
	return s.Bavail * uint64(s.Bsize), err
}

// FindServer looks where Debian puts its versions, newest first.
func FindServer() (string, error) {
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
func (c *server) canEnter(dir string) bool {
	for {
		if _, err := os.Stat(dir); err == nil {
			break
		}
		dir = filepath.Dir(dir)
	}
	return c.command(context.Background(), "/usr/bin/test", "-x", dir).Run() == nil
}

func (c *server) command(ctx context.Context, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	cmd.Env = []string{"PATH=/usr/bin:/bin", "LC_ALL=C.UTF-8"}
	// A group of its own: Ctrl-C in the terminal is for us, and we stop the server.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: c.as}
	return cmd
}

func (c *server) data() string { return filepath.Join(c.dir, "pg", "data") }

// locks joins the users of the directory and tries to own it.
func (c *Cluster) locks() (err error) {
	if c.users, err = os.OpenFile(filepath.Join(c.dir, "users"), os.O_CREATE|os.O_RDWR, 0o600); err != nil {
		return err
	}
	if c.lock, err = os.OpenFile(filepath.Join(c.dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600); err != nil {
		return err
	}
	// Held alone only by one that is just closing.
	for until := time.Now().Add(40 * time.Second); syscall.Flock(
		int(c.users.Fd()), syscall.LOCK_SH|syscall.LOCK_NB,
	) != nil; time.Sleep(100 * time.Millisecond) {
		if time.Now().After(until) {
			return fmt.Errorf("another Handwerk does not finish closing %s", c.dir)
		}
	}
	c.owner = c.own()
	return nil
}

func (c *Cluster) own() bool {
	return syscall.Flock(int(c.lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) == nil
}

func (c *Cluster) unlock() {
	_ = c.lock.Close()
	_ = c.users.Close()
}

// start makes what is missing and starts the server, as its owner.
func (c *Cluster) start(ctx context.Context) error {
	secret, err := c.secret()
	if err != nil {
		return err
	}
	if _, err := os.Stat(filepath.Join(c.data(), "PG_VERSION")); err != nil {
		if err := c.initdb(ctx, secret); err != nil {
			return err
		}
	}
	if pid, port := c.postmaster(); pid > 0 {
		c.port = port
	} else if err := c.launch(ctx, c.lastPort()); err != nil {
		return err
	}
	if err := c.accepting(ctx); err != nil {
		return err
	}
	c.address(secret)
	return c.roles(ctx, secret)
}

// join waits for the server that another process starts.
func (c *Cluster) join(ctx context.Context) error {
	for until := time.Now().Add(30 * time.Second); ; {
		if pid, port := c.postmaster(); pid > 0 {
			secret, err := c.secret()
			if err != nil {
				return err
			}
			c.port = port
			c.address(secret)
			if reachable(ctx, c.URL) == nil {
				return nil
			}
		}
		if time.Now().After(until) {
			return errors.New(
				"another Handwerk holds this directory, but its PostgreSQL does not answer; close that one, or give this one a directory of its own with HANDWERK_DIR",
			)
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(200 * time.Millisecond):
		}
	}
}

func (c *Cluster) address(secret string) {
	at := func(role, password string) string {
		return fmt.Sprintf("postgres://%s:%s@127.0.0.1:%d/handwerk", role, password, c.port)
	}
	c.OwnerURL, c.URL = at(ownerRole, secret), at(servingRole, servingPassword(secret))
}

// watchEvery is how often an owner looks whether its server lives.
const watchEvery = 400 * time.Millisecond

// watch starts a server that died, on the port it had, and takes the directory
// over when its owner has closed.
func (c *Cluster) watch(ctx context.Context) {
	defer close(c.ended)
	for failed := 0; ; {
		select {
		case <-ctx.Done():
			return
		case <-time.After(watchEvery):
		}
		c.mu.Lock()
		if !c.owner && c.own() {
			c.owner = true
			c.o.Log.Info("this process owns the database now", "dir", c.dir)
		}
		if c.owner {
			failed = c.keepAlive(ctx, failed)
		}
		c.mu.Unlock()
	}
}

// keepAlive starts a server that is not there, and counts how often in a row.
func (c *Cluster) keepAlive(ctx context.Context, failed int) int {
	if pid, _ := c.postmaster(); pid != 0 {
		c.stuck.Store(nil)
		return 0
	}
	if failed++; failed == 1 {
		c.o.Log.Warn("PostgreSQL died and is started again", "port", c.port)
	}
	err := c.launch(ctx, c.port)
	if err == nil {
		return failed
	}
	says := "The database does not start; its log says why."
	if isTaken(c.port) {
		says = fmt.Sprintf(
			"The database cannot start: another program has taken its port, %d. It goes on by itself when that is free.",
			c.port,
		)
	}
	c.stuck.Store(&says)
	if failed%50 == 1 {
		c.o.Log.Error("PostgreSQL does not start", "says", says, "error", err.Error())
	}
	return failed
}

// Stop shuts the server down cleanly, unless another process uses it.
func (c *Cluster) Stop() error {
	c.end()
	<-c.ended
	c.mu.Lock()
	defer c.mu.Unlock()
	defer c.unlock()
	if !c.owner {
		return nil
	}
	if syscall.Flock(int(c.users.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) != nil {
		return nil // somebody serves from it, and owns it from now on
	}
	return c.signal(syscall.SIGINT, 30*time.Second)
}

// Kill ends the server at once, as a crash would; for tests of what survives.
func (c *Cluster) Kill() error { return c.signal(syscall.SIGQUIT, 30*time.Second) }

// Freeze stops the server and all its workers without ending them, and Thaw
// lets them go on; for tests of a database that does not answer.
func (c *Cluster) Freeze() error { return c.signalAll(syscall.SIGSTOP) }

// Thaw ends a Freeze.
func (c *Cluster) Thaw() error { return c.signalAll(syscall.SIGCONT) }
