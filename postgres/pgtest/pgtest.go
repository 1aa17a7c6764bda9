// Package pgtest gives tests a real PostgreSQL: one cluster a test binary,
// one empty, migrated database a test.
package pgtest

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"

	"handwerk/postgres"
	"handwerk/postgres/cluster"
)

var (
	server *cluster.Cluster
	place  string // of the cluster
	made   atomic.Int64
	// migrated is made once; each test's database is a copy of it.
	migrated = sync.OnceValue(migrate)
)

const template = "template_migrated"

func migrate() error {
	ctx := context.Background()
	if err := create(ctx, template, "template1"); err != nil {
		return err
	}
	serving, owner := addresses(template)
	store, err := postgres.Open(ctx, owner, postgres.Options{Patient: true})
	if err != nil {
		return err
	}
	return errors.Join(store.Migrate(ctx), store.Grant(ctx, roleOf(serving)), store.Close())
}

func create(ctx context.Context, name, like string) error {
	conn, err := pgx.Connect(ctx, server.OwnerURL)
	if err != nil {
		return err
	}
	_, err = conn.Exec(ctx, "CREATE DATABASE "+name+" TEMPLATE "+like)
	return errors.Join(err, conn.Close(ctx))
}

// addresses of a database, for the role that serves and for the owner.
func addresses(name string) (serving, owner string) {
	return strings.TrimSuffix(server.URL, "/handwerk") + "/" + name,
		strings.TrimSuffix(server.OwnerURL, "/handwerk") + "/" + name
}

// Main runs a package's tests with a cluster; call it from TestMain.
func Main(m *testing.M) {
	dir, err := os.MkdirTemp("", "handwerk-pg")
	if err == nil {
		err = os.Chmod(dir, 0o755)
	}
	if err == nil {
		place = filepath.Join(dir, "cluster")
		server, err = cluster.Start(context.Background(), place, cluster.Options{Fast: true})
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "test database:", err)
		os.Exit(1)
	}
	code := m.Run()
	if err := server.Stop(); err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	_ = os.RemoveAll(dir)
	os.Exit(code)
}

// URL makes an empty, migrated database and gives its address, for the role
// that serves and owns nothing.
func URL(t testing.TB) string {
	t.Helper()
	if err := migrated(); err != nil {
		t.Fatal(err)
	}
	serving, _ := copyOf(t, template)
	return serving
}

// Empty makes a database without a schema; its addresses for the role that
// serves and for the owner.
func Empty(t testing.TB) (serving, owner string) {
	t.Helper()
	return copyOf(t, "template1")
}

func copyOf(t testing.TB, like string) (serving, owner string) {
	t.Helper()
	name := fmt.Sprintf("test_%d", made.Add(1))
	if err := create(context.Background(), name, like); err != nil {
		t.Fatal(err)
	}
	return addresses(name)
}

func roleOf(url string) string {
	c, _ := pgx.ParseConfig(url) // an address the cluster gave
	return c.User
}

// Logs are the files the server writes its log to.
func Logs() []string {
	found, _ := filepath.Glob(filepath.Join(place, "pg", "log", "*")) // the pattern is sound
	return found
}

// OwnerURL is the owner's address of a database made by URL.
func OwnerURL(url string) string {
	return strings.TrimSuffix(server.OwnerURL, "/handwerk") + url[strings.LastIndex(url, "/"):]
}

// Owner connects to a database made by URL as its owner.
func Owner(t testing.TB, url string) *pgx.Conn {
	t.Helper()
	return Serving(t, OwnerURL(url))
}

// Serving connects to a database as the role that its address names.
func Serving(t testing.TB, url string) *pgx.Conn {
	t.Helper()
	conn, err := pgx.Connect(context.Background(), url)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = conn.Close(context.Background()) })
	return conn
}

// Open opens a database made by URL.
func Open(t testing.TB, url string) *postgres.Store {
	t.Helper()
	store, err := postgres.Open(context.Background(), url, postgres.Options{})
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = store.Close() })
	return store
}

// Store opens a new database.
func Store(t testing.TB) *postgres.Store { return Open(t, URL(t)) }

// Freeze stops the server as if its machine hung, until thaw is called. All
// tests of a package share it: one that freezes it does not run in parallel.
func Freeze(t testing.TB) (thaw func()) {
	t.Helper()
	if err := server.Freeze(); err != nil {
		t.Fatal(err)
	}
	var once sync.Once
	thaw = func() { once.Do(func() { _ = server.Thaw() }) }
	t.Cleanup(thaw)
	return thaw
}

// CutOff ends every connection to a test's database and lets no new one in,
// as if the server had gone.
func CutOff(t testing.TB, url string) {
	t.Helper()
	ctx := context.Background()
	// Another role's connections are ended by the superuser only.
	conn, err := pgx.Connect(ctx, strings.Replace(server.OwnerURL, "postgres://handwerk:", "postgres://postgres:", 1))
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
