// Package e2e drives the real program in a real browser: the built binary
// with its own PostgreSQL, and headless Chromium.
package e2e

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"sync"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// Password opens every account of the demo.
const Password = "tide-and-torque"

// Program is a running `handwerk demo`, or `handwerk serve`.
type Program struct {
	Base string
	Dir  string
	does string // demo, serve
	bin  string
	addr string
	cmd  *exec.Cmd
	out  *log
}

// log collects what a process prints, from its own goroutines.
type log struct {
	mu  sync.Mutex
	buf bytes.Buffer
}

func (l *log) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.buf.Write(p)
}

func (l *log) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.buf.String()
}

// Build compiles the program into dir. The front end must have been built.
func Build(dir string) (string, error) {
	root, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}").Output()
	if err != nil {
		return "", err
	}
	repo := string(bytes.TrimSpace(root))
	if _, err := os.Stat(filepath.Join(repo, "web/dist/index.html")); err != nil {
		return "", errors.New("the front end is not built; run make build first")
	}
	bin := filepath.Join(dir, "handwerk")
	build := exec.Command("go", "build", "-o", bin, "./cmd/handwerk")
	build.Dir = repo
	if out, err := build.CombinedOutput(); err != nil {
		return "", fmt.Errorf("build: %w: %s", err, out)
	}
	return bin, nil
}

// Start opens the demo below dir on a free port and waits until it is ready.
func Start(bin, dir string) (*Program, error) { return start(bin, "demo", dir) }

// Serve opens a workshop of one's own below dir, as Start does the demo.
func Serve(bin, dir string) (*Program, error) { return start(bin, "serve", dir) }

func start(bin, does, dir string) (*Program, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	addr := listener.Addr().String()
	if err := listener.Close(); err != nil {
		return nil, err
	}
	p := &Program{Base: "http://" + addr, Dir: dir, does: does, bin: bin, addr: addr}
	return p, p.Again()
}

// Fresh builds the program and starts its demo below a new directory; end
// stops it and takes the directory away.
func Fresh(name string) (p *Program, bin string, end func() error, err error) {
	dir, err := os.MkdirTemp("", "handwerk-"+name)
	if err != nil {
		return nil, "", nil, err
	}
	gone := func() error { return os.RemoveAll(dir) }
	if err = os.Chmod(dir, 0o755); err == nil {
		if bin, err = Build(dir); err == nil {
			p, err = Start(bin, filepath.Join(dir, "data"))
		}
	}
	if err != nil {
		return nil, "", nil, errors.Join(err, gone())
	}
	return p, bin, func() error { return errors.Join(p.Stop(), gone()) }, nil
}

// Again starts the program anew, on the same data and address.
func (p *Program) Again() error {
	p.cmd = exec.Command(p.bin, p.does)
	p.cmd.Env = append(os.Environ(), "HANDWERK_DIR="+p.Dir, "HANDWERK_ADDR="+p.addr, "HANDWERK_DATABASE_URL=")
	p.out = &log{}
	p.cmd.Stdout, p.cmd.Stderr = p.out, p.out
	if err := p.cmd.Start(); err != nil {
		return err
	}
	for range 600 {
		res, err := http.Get(p.Base + "/readyz")
		if err == nil {
			_ = res.Body.Close()
			if res.StatusCode == http.StatusOK {
				return nil
			}
		}
		time.Sleep(50 * time.Millisecond)
	}
	return fmt.Errorf("the program did not get ready:\n%s", p.out)
}

// Kill ends the program at once, as `kill -9` does; its database goes on.
func (p *Program) Kill() error {
	err := p.cmd.Process.Kill()
	_ = p.cmd.Wait() // it was killed, and says so
	return err
}

// Stop presses Ctrl-C and waits; the database stops too.
func (p *Program) Stop() error {
	if err := p.cmd.Process.Signal(syscall.SIGINT); err != nil {
		return err
	}
	return p.cmd.Wait()
}

// Said is what the program has printed since it was started.
func (p *Program) ReadAct() string { return p.out.String() }

// Pid is the program's process.
func (p *Program) Pid() int { return p.cmd.Process.Pid }

// Exec runs SQL statements on a database.
func Exec(url, statements string) error {
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close(ctx) }()
	_, err = conn.Exec(ctx, statements)
	return err
}

// Measured is Run with the most memory it held, in MB.
func Measured(bin, dir string, args ...string) (string, float64, error) {
	cmd := exec.Command(bin, args...)
	cmd.Env = append(os.Environ(), "HANDWERK_DIR="+dir, "HANDWERK_DATABASE_URL=")
	var out, fault bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &fault
	if err := cmd.Run(); err != nil {
		return out.String(), 0, fmt.Errorf("%w: %s", err, fault.String())
	}
	used, _ := cmd.ProcessState.SysUsage().(*syscall.Rusage)
	return out.String(), float64(used.Maxrss) / 1024, nil
}

// Run calls a subcommand on the data below dir and gives what it prints.
func Run(bin, dir string, stdin []byte, args ...string) (string, error) {
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	cmd := exec.CommandContext(ctx, bin, args...)
	cmd.Env = append(os.Environ(), "HANDWERK_DIR="+dir, "HANDWERK_DATABASE_URL=")
	cmd.Stdin = bytes.NewReader(stdin)
	var out, fault bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &fault
	if err := cmd.Run(); err != nil {
		return out.String(), fmt.Errorf("%w: %s", err, fault.String())
	}
	return out.String(), nil
}
