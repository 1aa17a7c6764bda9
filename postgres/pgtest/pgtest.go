// Package pgtest gives tests a real PostgreSQL: one cluster a test binary,
// one empty, migrated database a test.
package pgtest

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"

	"handwerk/postgres"
)

var (
	cluster *postgres.Cluster
	made    atomic.Int64
)

// Main runs a package's tests with a cluster; call it from TestMain.
func Main(m *testing.M) {
	dir, err := os.MkdirTemp("", "handwerk-pg")
	if err == nil {
		err = os.Chmod(dir, 0o755)
	}
	if err == nil {
		cluster, err = postgres.StartCluster(context.Background(), filepath.Join(dir, "cluster"), postgres.ClusterOptions{Fast: true})
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "test database:", err)
		os.Exit(1)
	}
	code := m.Run()
	if err := cluster.Stop(); err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	_ = os.RemoveAll(dir)
	os.Exit(code)
}

// URL makes an empty, migrated database and gives its address.
func URL(t testing.TB) string {
	t.Helper()
	ctx := context.Background()
	name := fmt.Sprintf("test_%d", made.Add(1))
	conn, err := pgx.Connect(ctx, cluster.URL)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = conn.Close(ctx) }()
	if _, err := conn.Exec(ctx, "CREATE DATABASE "+name); err != nil {
		t.Fatal(err)
	}
	url := strings.TrimSuffix(cluster.URL, "/handwerk") + "/" + name
	store, err := postgres.Open(ctx, url)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = store.Close() }()
	if err := store.Migrate(ctx); err != nil {
		t.Fatal(err)
	}
	return url
}

// Store opens a new database.
func Store(t testing.TB) *postgres.Store {
	t.Helper()
	store, err := postgres.Open(context.Background(), URL(t))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = store.Close() })
	return store
}

// CutOff ends every connection to a test's database and lets no new one in,
// as if the server had gone.
func CutOff(t testing.TB, url string) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, cluster.URL)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = conn.Close(ctx) }()
	name := url[strings.LastIndex(url, "/")+1:]
	for _, statement := range []string{
		"ALTER DATABASE " + name + " WITH ALLOW_CONNECTIONS false",
		"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '" + name + "'",
	} {
		if _, err := conn.Exec(ctx, statement); err != nil {
			t.Fatal(err)
		}
	}
}
