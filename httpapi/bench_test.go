package httpapi_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
	"handwerk/postgres"
	"handwerk/postgres/cluster"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
	"handwerk/workshop/walk"
)

// bigShop is a process on a database of its own that is as safe against power
// loss as a real one, holding HANDWERK_BENCH_REBUILDS finished rebuilds (100
// unless told otherwise) of about 150 entries.
func bigShop(b *testing.B) (*user, string, []string) {
	b.Helper()
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "handwerk-bench")
	require.NoError(b, err)
	require.NoError(b, os.Chmod(dir, 0o755))
	server, err := cluster.Start(ctx, dir+"/data", cluster.Options{})
	require.NoError(b, err)
	b.Cleanup(func() {
		_ = server.Stop()
		_ = os.RemoveAll(dir)
	})
	owner, err := postgres.Open(ctx, server.OwnerURL, postgres.Options{Patient: true})
	require.NoError(b, err)
	role, err := postgres.RoleOf(server.URL)
	require.NoError(b, err)
	require.NoError(b, errors.Join(owner.Migrate(ctx), owner.Grant(ctx, role), owner.Close()))
	p := start(b, server.URL)
	p.now = time.Date(2026, 11, 24, 8, 0, 0, 0, time.UTC)
	lead := people.Person{Login: "ilva", Name: "Ilva Torn", Role: people.Lead}
	require.NoError(b, p.store.KeepAccount(ctx, people.Account{Person: lead,
		PasswordHash: httpapi.HashPassword(password)}))
	require.NoError(b, p.store.KeepFleet(ctx, []shop.Vehicle{{ID: "v", Name: "Launch carrier", Owner: "Sea rescue",
		Units: []shop.Unit{
			{ID: "tc", Kind: "transfer case", Name: "Brakka T2", Serial: "1", Sheet: "brakka-t2",
				Route: "transfer-case-dog"}}}}, nil))
	u := p.signIn("ilva")
	n := 100
	if set := os.Getenv("HANDWERK_BENCH_REBUILDS"); set != "" {
		n, err = strconv.Atoi(set)
		require.NoError(b, err)
	}
	require.NoError(b, p.store.Generate(ctx, walked(b, p, u.open().ID, lead), n))
	statistics, err := sql.Open("pgx", server.OwnerURL)
	require.NoError(b, err)
	_, err = statistics.Exec(`ANALYZE`) // as the server does by itself, a minute after so much came in
	require.NoError(b, errors.Join(err, statistics.Close()))
	db, err := sql.Open("pgx", server.URL)
	require.NoError(b, err)
	defer func() { _ = db.Close() }()
	rows, err := db.Query(`SELECT id FROM rebuild WHERE closed ORDER BY md5(number) LIMIT 2000`)
	require.NoError(b, err)
	defer func() { _ = rows.Close() }()
	var ids []string
	for rows.Next() {
		var id string
		require.NoError(b, rows.Scan(&id))
		ids = append(ids, id)
	}
	require.NoError(b, rows.Err())
	return u, server.URL, ids
}

// walked is a finished rebuild of 150 entries, in memory only.
func walked(b *testing.B, p *process, id string, lead people.Person) record.Ledger {
	b.Helper()
	l, err := p.store.Ledger(context.Background(), id)
	require.NoError(b, err)
	w := &walk.Walker{
		Ledger: l, Script: walk.Script{}, By: func(*record.Step) people.Person { return lead },
		Clock: func() time.Time { p.now = p.now.Add(time.Minute); return p.now },
	}
	_, err = w.WalkUntil("")
	require.NoError(b, err)
	for len(w.Ledger.Entries) < 150 {
		w.Script["parts"] = []record.Draft{{Says: &acts.Note{Note: "looked again, nothing new"}}}
		require.NoError(b, w.Finish("parts"))
	}
	return w.Ledger
}

// p50 is the middle of the measured times.
func p50(times []time.Duration) float64 {
	slices.Sort(times)
	return float64(times[len(times)/2].Microseconds())
}

// BenchmarkSheet reads sheets of a big database three ways: as plain rows by
// one SQL query, as a folded sheet through the store, and over HTTP.
func BenchmarkSheet(b *testing.B) {
	u, address, ids := bigShop(b)
	db, err := sql.Open("pgx", address)
	require.NoError(b, err)
	defer func() { _ = db.Close() }()
	b.Run("plain SQL rows", func(b *testing.B) {
		var times []time.Duration
		for i := 0; b.Loop(); i++ {
			began := time.Now()
			readRows(b, db, ids[i%len(ids)])
			times = append(times, time.Since(began))
		}
		b.ReportMetric(p50(times), "p50-µs")
	})
	b.Run("sheet", func(b *testing.B) {
		var times []time.Duration
		for i := 0; b.Loop(); i++ {
			began := time.Now()
			l, err := u.store.Ledger(context.Background(), ids[i%len(ids)])
			if err != nil {
				b.Fatal(err)
			}
			record.MakeSheet(l)
			times = append(times, time.Since(began))
		}
		b.ReportMetric(p50(times), "p50-µs")
	})
	b.Run("sheet over HTTP", func(b *testing.B) {
		var times []time.Duration
		for i := 0; b.Loop(); i++ {
			began := time.Now()
			res, _ := u.send(http.MethodGet, "/api/v1/rebuilds/"+ids[i%len(ids)], "", nil)
			times = append(times, time.Since(began))
			if res.StatusCode != http.StatusOK {
				b.Fatal(res.Status)
			}
		}
		b.ReportMetric(p50(times), "p50-µs")
		b.ReportMetric(residentMB(b), "MB-resident")
	})
	b.Run("board over HTTP", func(b *testing.B) {
		for b.Loop() {
			u.send(http.MethodGet, "/api/v1/board?closed=true", "", nil)
		}
	})
}

// readRows fetches the same rows with all their columns.
func readRows(b *testing.B, db *sql.DB, id string) {
	rows, err := db.Query(
		`SELECT rebuild_id, seq, id, step, act, item, supersedes, body, result, method, verdict, by_login, by_name, by_role, at, hash, key, digest
		FROM entry WHERE rebuild_id = $1 ORDER BY seq`,
		id,
	)
	if err != nil {
		b.Fatal(err)
	}
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var seq int
		var at time.Time
		var supersedes sql.NullString
		var body, result []byte
		var t [12]string
		err := rows.Scan(
			&t[0], &seq, &t[1], &t[2], &t[3], &t[4], &supersedes, &body, &result, &t[5], &t[6], &t[7], &t[8], &t[9],
			&at, &t[10], &t[11], new(string),
		)
		if err != nil {
			b.Fatal(err)
		}
	}
	if err := rows.Err(); err != nil {
		b.Fatal(err)
	}
}

func residentMB(b *testing.B) float64 {
	raw, err := os.ReadFile("/proc/self/status")
	require.NoError(b, err)
	for line := range strings.Lines(string(raw)) {
		if kb, ok := strings.CutPrefix(line, "VmRSS:"); ok {
			n, err := strconv.Atoi(strings.Fields(kb)[0])
			require.NoError(b, err)
			return float64(n) / 1024
		}
	}
	return 0
}

// BenchmarkAppend writes entries over HTTP, each committed to disk before it
// is acknowledged: by one hand, and by eight on as many rebuilds.
func BenchmarkAppend(b *testing.B) {
	u, _, _ := bigShop(b)
	var n atomic.Int64
	entry := func(id string) {
		res, body := u.send(http.MethodPost, "/api/v1/rebuilds/"+id+"/steps/identify/entries",
			`{"act":"note","note":"one more line"}`,
			map[string]string{"Idempotency-Key": fmt.Sprintf("bench-key-%d", n.Add(1))})
		if res.StatusCode != http.StatusCreated {
			b.Fatal(body)
		}
	}
	b.Run("one hand", func(b *testing.B) {
		id := u.open().ID
		for i := 0; b.Loop(); i++ {
			if i%150 == 149 { // a rebuild of ordinary length
				id = u.open().ID
			}
			entry(id)
		}
		b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "entries/s")
	})
	b.Run("eight hands", func(b *testing.B) {
		b.SetParallelism(4) // times two cores
		b.RunParallel(func(pb *testing.PB) {
			id := u.open().ID
			for i := 0; pb.Next(); i++ {
				if i%150 == 149 {
					id = u.open().ID
				}
				entry(id)
			}
		})
		b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "entries/s")
	})
}

// BenchmarkFind looks for words, and reads units with all their rebuilds, over
// HTTP in a big database.
func BenchmarkFind(b *testing.B) {
	u, _, ids := bigShop(b)
	l, err := u.store.Ledger(context.Background(), ids[0])
	require.NoError(b, err)
	r := l.Rebuild
	words := strings.Fields(r.Complaint)
	for name, path := range map[string]string{
		"number": "/api/v1/find?q=" + r.Number, "serial": "/api/v1/find?q=" + url.QueryEscape(r.Unit.Serial),
		"two words of the complaint": "/api/v1/find?q=" +
			url.QueryEscape(strings.Join(words[:min(2, len(words))], " ")),
		"nothing that is there": "/api/v1/find?q=zebra", "unit page": "/api/v1/units/" + r.Unit.ID,
	} {
		b.Run(name, func(b *testing.B) {
			var times []time.Duration
			for b.Loop() {
				began := time.Now()
				res, said := u.send(http.MethodGet, path, "", nil)
				times = append(times, time.Since(began))
				if res.StatusCode != http.StatusOK {
					b.Fatal(said)
				}
			}
			b.ReportMetric(p50(times), "p50-µs")
		})
	}
}
