package main

import (
	"bytes"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5"

	"handwerk/e2e"
)

// writers measures what a long record and a crowd at it cost, beside what the
// database itself needs for one durable insert.
func (a *attack) writers() error {
	h, err := a.signIn("ilva")
	if err != nil {
		return err
	}
	short, err := h.filled(100)
	if err != nil {
		return err
	}
	long, err := h.filled(4000)
	if err != nil {
		return err
	}
	atShort, err := h.appends(short, 300)
	if err != nil {
		return err
	}
	atLong, err := h.appends(long, 300)
	if err != nil {
		return err
	}
	ratio := float64(atLong) / float64(atShort)
	a.must("an append at 4,000 entries over one at 100, p50", ratio <= 2,
		fmt.Sprintf("%s/%s = %.2f", us(atLong), us(atShort), ratio), "at most 2")
	if err := a.crowd(h, long); err != nil {
		return err
	}
	return a.besideTheDatabase(h)
}

func us(d time.Duration) string { return fmt.Sprintf("%dµs", d.Microseconds()) }

// filled is a rebuild with n entries.
func (h *hand) filled(n int) (string, error) {
	id, err := h.open()
	if err != nil {
		return "", err
	}
	for range n {
		if status, err := h.note(id, newKey()); err != nil || status != http.StatusCreated {
			return "", fmt.Errorf("filling: %d %w", status, err)
		}
	}
	return id, nil
}

// appends gives the middle of n appends, one after the other.
func (h *hand) appends(id string, n int) (time.Duration, error) {
	var times []time.Duration
	for range n {
		began := time.Now()
		if status, err := h.note(id, newKey()); err != nil || status != http.StatusCreated {
			return 0, fmt.Errorf("appending: %d %w", status, err)
		}
		times = append(times, time.Since(began))
	}
	return quantile(times, 0.5), nil
}

// crowd lets 64 write into one rebuild while the board is read.
func (a *attack) crowd(h *hand, long string) error {
	stop := make(chan struct{})
	times := h.watch(stop)
	var kept, refused atomic.Int64
	wg := many(64, stop, func(int) {
		if status, err := h.note(long, newKey()); err == nil && status == http.StatusCreated {
			kept.Add(1)
		} else {
			refused.Add(1)
		}
	})
	time.Sleep(10 * time.Second)
	close(stop)
	wg.Wait()
	p99 := quantile(<-times, 0.99)
	a.must("the board beside 64 writers on that rebuild, p99", p99 < 100*time.Millisecond,
		p99.Round(100*time.Microsecond).String(), "under 100ms")
	a.must("entries of the 64 refused", refused.Load() == 0,
		fmt.Sprintf("%d of %d", refused.Load(), kept.Load()+refused.Load()), "none")
	return nil
}

// besideTheDatabase compares appends with pgbench on the same cluster, in turn
// and more than once: the machine is not as fast at one moment as at the next.
func (a *attack) besideTheDatabase(h *hand) error {
	for _, one := range []struct {
		name  string
		hands int
		most  float64
	}{
		{"a durable insert by pgbench over one hand's append", 1, 8},
		{"the same, eight at once", 8, 7},
	} {
		var ratios []float64
		var said []string
		for range 3 {
			inserts, err := a.pgbench(one.hands)
			if err != nil {
				return err
			}
			appends, err := h.rate(one.hands)
			if err != nil {
				return err
			}
			ratios = append(ratios, inserts/appends)
			said = append(said, fmt.Sprintf("%.0f/%.0f", inserts, appends))
		}
		slices.Sort(ratios)
		middle := ratios[len(ratios)/2]
		a.must(
			one.name, middle <= one.most, fmt.Sprintf("%.1f, the middle of %s", middle, strings.Join(said, " ")),
			fmt.Sprintf("at most %.0f", one.most),
		)
	}
	return nil
}

// rate is entries a second by n hands on as many rebuilds.
func (h *hand) rate(n int) (float64, error) {
	ids := make([]string, n)
	for i := range ids {
		var err error
		if ids[i], err = h.open(); err != nil {
			return 0, err
		}
	}
	const each = 700
	var wg sync.WaitGroup
	var failed atomic.Int64
	began := time.Now()
	for _, id := range ids {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for range each {
				if status, err := h.note(id, newKey()); err != nil || status != http.StatusCreated {
					failed.Add(1)
				}
			}
		}()
	}
	wg.Wait()
	if failed.Load() > 0 {
		return 0, fmt.Errorf("%d appends failed", failed.Load())
	}
	return float64(n*each) / time.Since(began).Seconds(), nil
}

var tps = regexp.MustCompile(`tps = ([\d.]+)`)

// pgbench inserts one row a transaction, each on disk before it is answered.
func (a *attack) pgbench(clients int) (float64, error) {
	url, config, err := a.database("handwerk")
	if err != nil {
		return 0, err
	}
	if err := e2e.Exec(
		url,
		`CREATE TABLE IF NOT EXISTS bench_insert (id bigserial PRIMARY KEY, body text NOT NULL)`,
	); err != nil {
		return 0, err
	}
	defer func() { _ = e2e.Exec(url, `DROP TABLE bench_insert`) }()
	script := filepath.Join(a.Dir, "insert.sql")
	if err := os.WriteFile(script, []byte("INSERT INTO bench_insert (body) VALUES ('one more line');\n"),
		0o644); err != nil {
		return 0, err
	}
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/pgbench")
	if err != nil || len(found) == 0 {
		return 0, fmt.Errorf("pgbench is not installed; it comes with Debian's postgresql")
	}
	cmd := exec.Command(found[len(found)-1], "-n", "-M", "prepared", "-c", strconv.Itoa(clients), "-j",
		strconv.Itoa(min(2, clients)), "-T", "5", "-f", script,
		"-h", config.Host, "-p", strconv.Itoa(int(config.Port)), "-U", config.User, config.Database)
	cmd.Env = append(os.Environ(), "PGPASSWORD="+config.Password)
	out, err := cmd.CombinedOutput()
	if err != nil {
		return 0, fmt.Errorf("pgbench: %w: %s", err, out)
	}
	m := tps.FindSubmatch(out)
	if m == nil {
		return 0, fmt.Errorf("pgbench said no rate: %s", out)
	}
	return strconv.ParseFloat(string(bytes.TrimSpace(m[1])), 64)
}

// database is the demo's own cluster, as a role.
func (a *attack) database(role string) (string, *pgx.ConnConfig, error) {
	secret, err := os.ReadFile(filepath.Join(a.Dir, "secret"))
	if err != nil {
		return "", nil, err
	}
	port, err := os.ReadFile(filepath.Join(a.Dir, "port"))
	if err != nil {
		return "", nil, err
	}
	url := fmt.Sprintf("postgres://%s:%s@127.0.0.1:%s/handwerk", role, secret, port)
	config, err := pgx.ParseConfig(url)
	return url, config, err
}
