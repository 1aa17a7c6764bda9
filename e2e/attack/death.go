package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"handwerk/e2e"
)

// frozen stops the database where it stands, as a hanging disk would.
func (a *attack) frozen() error {
	h, id, err := a.withRebuild()
	if err != nil {
		return err
	}
	if err := a.signalDatabase(syscall.SIGSTOP); err != nil {
		return err
	}
	thaw := func() error { return a.signalDatabase(syscall.SIGCONT) }
	var slowest time.Duration
	wrong := 0
	var mu sync.Mutex
	var wg sync.WaitGroup
	for i := range 64 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			began := time.Now()
			var status int
			if i%2 == 0 {
				status, err = h.note(id, newKey())
			} else if res, _, err := h.send(http.MethodGet, "/api/v1/board", "", ""); err == nil {
				status = res.StatusCode
			}
			mu.Lock()
			defer mu.Unlock()
			slowest = max(slowest, time.Since(began))
			if status != http.StatusServiceUnavailable {
				wrong++
			}
		}()
	}
	wg.Wait()
	if err := thaw(); err != nil {
		return err
	}
	began := time.Now()
	for status := 0; status != http.StatusCreated; time.Sleep(20 * time.Millisecond) {
		if status, _ = h.note(id, newKey()); time.Since(began) > 30*time.Second {
			return errors.New("it does not come back")
		}
	}
	a.must(
		"the slowest of 64 requests, all answered 503", slowest < 10*time.Second && wrong == 0,
		slowest.Round(10*time.Millisecond).String(), "under 10s",
	)
	a.must("writing again after the thaw", true, time.Since(began).Round(time.Millisecond).String(), "by itself")
	return nil
}

// signalDatabase reaches every process that works in the cluster's data.
func (a *attack) signalDatabase(how syscall.Signal) error {
	data, err := filepath.EvalSymlinks(filepath.Join(a.Dir, "pg", "data"))
	if err != nil {
		return err
	}
	all, err := filepath.Glob("/proc/[0-9]*")
	if err != nil {
		return err
	}
	for _, proc := range all {
		if at, err := os.Readlink(filepath.Join(proc, "cwd")); err != nil || at != data {
			continue
		}
		if pid, err := strconv.Atoi(filepath.Base(proc)); err == nil {
			if err := syscall.Kill(pid, how); err != nil && !errors.Is(err, syscall.ESRCH) {
				return err
			}
		}
	}
	return nil
}

// kills ends program or database while eight write, twelve times; whatever was
// acknowledged must be there, once.
func (a *attack) kills() error {
	h, id, err := a.withRebuild()
	if err != nil {
		return err
	}
	acknowledged := map[string]bool{}
	var mu sync.Mutex
	stop := make(chan struct{})
	wg := many(8, stop, func(int) {
		key := newKey()
		for range 400 { // until it is taken
			status, err := h.note(id, key)
			if err == nil && (status == http.StatusCreated || status == http.StatusOK) {
				mu.Lock()
				acknowledged[key] = true
				mu.Unlock()
				return
			}
			time.Sleep(50 * time.Millisecond)
		}
	})
	const rounds = 12
	for i := range rounds {
		time.Sleep(700 * time.Millisecond)
		if err := a.killOne(i); err != nil {
			return err
		}
	}
	time.Sleep(3 * time.Second)
	close(stop)
	wg.Wait()
	res, raw, err := h.send(http.MethodGet, "/api/v1/rebuilds/"+id, "", "")
	if err != nil || res.StatusCode != http.StatusOK {
		return fmt.Errorf("reading: %w %s", err, raw)
	}
	var sheet struct {
		Rebuild struct{ Head struct{ Seq int } }
	}
	if err := json.Unmarshal(raw, &sheet); err != nil {
		return err
	}
	a.must(fmt.Sprintf("entries there, of those acknowledged through %d kills", rounds),
		sheet.Rebuild.Head.Seq == len(acknowledged),
		fmt.Sprintf("%d of %d", sheet.Rebuild.Head.Seq, len(acknowledged)), "all, once")
	said, err := e2e.Run(a.bin, a.Dir, nil, "verify")
	a.must("verify afterwards", err == nil, firstWords(said), "every record")
	return err
}

// killOne ends the program and the database in turn.
func (a *attack) killOne(i int) error {
	if i%2 == 1 {
		return a.killDatabase()
	}
	if err := a.Kill(); err != nil {
		return err
	}
	return a.Again()
}

func firstWords(said string) string {
	words := strings.Fields(said)
	return strings.Join(words[:min(4, len(words))], " ")
}

func (a *attack) killDatabase() error {
	raw, err := os.ReadFile(filepath.Join(a.Dir, "pg", "data", "postmaster.pid"))
	if err != nil {
		return err
	}
	pid, err := strconv.Atoi(strings.SplitN(string(raw), "\n", 2)[0])
	if err != nil {
		return err
	}
	return syscall.Kill(pid, syscall.SIGKILL)
}

// tampering changes the database behind the program's back as its superuser,
// each time in a way that leaves every chain in order, and lets verify look.
func (a *attack) tampering() error {
	url, _, err := a.database("postgres")
	if err != nil {
		return err
	}
	time.Sleep(2 * time.Second) // the last heads go into the log
	const unguarded = `SET session_replication_role = replica; `
	for _, t := range []struct{ what, do, undo string }{
		{
			"an entry changed", `UPDATE entry SET by_name = 'x' || by_name WHERE seq = 2`,
			`UPDATE entry SET by_name = substr(by_name, 2) WHERE seq = 2`,
		},
		{"a tail cut off, the head moved back", `CREATE TABLE cut AS SELECT e.* FROM entry e JOIN rebuild r ON r.id = e.rebuild_id AND e.seq = r.head_seq WHERE r.number LIKE '%-001';
			DELETE FROM entry e USING cut c WHERE e.id = c.id;
			UPDATE rebuild r SET head_seq = e.seq, head_hash = e.hash FROM entry e, cut c WHERE r.id = c.rebuild_id AND e.rebuild_id = r.id AND e.seq = c.seq - 1`,
			`INSERT INTO entry SELECT * FROM cut; UPDATE rebuild r SET head_seq = c.seq, head_hash = c.hash FROM cut c WHERE r.id = c.rebuild_id; DROP TABLE cut`},
		{"a whole rebuild gone", `CREATE TABLE gone_r AS SELECT * FROM rebuild WHERE number LIKE '%-002'; CREATE TABLE gone_e AS SELECT e.* FROM entry e JOIN gone_r r ON r.id = e.rebuild_id;
			DELETE FROM entry USING gone_r r WHERE rebuild_id = r.id; DELETE FROM rebuild WHERE number LIKE '%-002'`,
			`INSERT INTO rebuild SELECT * FROM gone_r; INSERT INTO entry SELECT * FROM gone_e; DROP TABLE gone_r, gone_e`},
		{"the log emptied too", `CREATE TABLE gone_l AS SELECT * FROM log_leaf; CREATE TABLE gone_c AS SELECT * FROM checkpoint; DELETE FROM log_leaf; DELETE FROM checkpoint`,
			`INSERT INTO log_leaf SELECT * FROM gone_l; INSERT INTO checkpoint SELECT * FROM gone_c; DROP TABLE gone_l, gone_c`},
	} {
		if err := e2e.Exec(url, unguarded+t.do); err != nil {
			return fmt.Errorf("%s: %w", t.what, err)
		}
		_, err := e2e.Run(a.bin, a.Dir, nil, "verify")
		a.must("verify on "+t.what, err != nil, "found", "found")
		if err := e2e.Exec(url, unguarded+t.undo); err != nil {
			return fmt.Errorf("%s, undone: %w", t.what, err)
		}
	}
	_, err = e2e.Run(a.bin, a.Dir, nil, "verify")
	a.must("verify when all is put back", err == nil, "every record", "every record")
	return nil
}

// logStops puts an older state of the log beside its newer checkpoint, as a backup
// of last week would, and waits until it is said.
func (a *attack) logStops() error {
	h, err := a.signIn("ilva")
	if err != nil {
		return err
	}
	url, _, err := a.database("postgres")
	if err != nil {
		return err
	}
	const older = `SET session_replication_role = replica; CREATE TABLE late AS SELECT * FROM log_leaf ORDER BY n DESC LIMIT 3;
		DELETE FROM log_leaf USING late WHERE log_leaf.n = late.n`
	if err := e2e.Exec(url, older); err != nil {
		return err
	}
	began, said := time.Now(), false
	for !said && time.Since(began) < 2*time.Minute {
		time.Sleep(time.Second)
		_, raw, err := h.send(http.MethodGet, "/api/v1/shop", "", "")
		if err != nil {
			return err
		}
		said = strings.Contains(string(raw), "log_fault")
	}
	took := time.Since(began)
	a.must("an older log beside a newer checkpoint is said on the board", said &&
		took < time.Minute, took.Round(time.Second).String(), "within 1m")
	return e2e.Exec(
		url,
		`SET session_replication_role = replica; INSERT INTO log_leaf SELECT * FROM late; DROP TABLE late`,
	)
}

// archive lets a rebuild with 300 pictures, 500 MB, out over HTTP and in again
// by the command, and watches what either holds in memory.
func (a *attack) archive() error {
	h, id, err := a.withRebuild()
	if err != nil {
		return err
	}
	if err := h.photograph(id); err != nil {
		return err
	}
	url, _, err := a.database("postgres")
	if err != nil {
		return err
	}
	const pictures = 300
	err = e2e.Exec(
		url,
		fmt.Sprintf(
			`INSERT INTO photo SELECT gen_random_uuid(), rebuild_id, sha256, type, width, height, bytes, by_login, by_name, by_role, at
		FROM photo, generate_series(2, %d) WHERE rebuild_id = '%s'`,
			pictures,
			id,
		),
	)
	if err != nil {
		return err
	}
	file := filepath.Join(a.Dir, "archive.json")
	stop, most := make(chan struct{}), make(chan float64, 1)
	go func() {
		top := 0.0
		for {
			select {
			case <-stop:
				most <- top
				return
			case <-time.After(20 * time.Millisecond):
				top = max(top, a.residentMB())
			}
		}
	}()
	size, err := h.download("/api/v1/rebuilds/"+id+"/archive.json", file)
	close(stop)
	held := <-most
	if err != nil {
		return err
	}
	a.must(fmt.Sprintf("memory while %d MB of archive went out", size>>20), held < 200, fmt.Sprintf("%.0f MB", held),
		"under 200 MB")
	into := filepath.Join(filepath.Dir(a.Dir), "empty")
	said, peak, err := e2e.Measured(a.bin, into, "import", file)
	if err != nil {
		return err
	}
	a.must(fmt.Sprintf("memory while it came in (%s)", firstWords(said)), peak < 200, fmt.Sprintf("%.0f MB", peak),
		"under 200 MB")
	_, err = e2e.Run(a.bin, into, nil, "verify")
	a.must("verify there", err == nil, "every record", "every record")
	return err
}
