package cluster

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/jackc/pgx/v5"
)

// The roles of our own cluster. The superuser only makes the other two; the
// owner migrates; what serves owns nothing.
const (
	superRole   = "postgres"
	ownerRole   = "handwerk"
	servingRole = "handwerk_serving"
	// LogRole alone writes the log over all records; serving takes it on for that
	// and for nothing else.
	LogRole = "handwerk_log"
)

// servingPassword follows from the secret, but the secret not from it.
func servingPassword(secret string) string {
	m := hmac.New(sha256.New, []byte(secret))
	m.Write([]byte(servingRole))
	return hex.EncodeToString(m.Sum(nil))
}

// secretLength is that of rand.Text.
const secretLength = 26

// secret is the password of the cluster, made once with it and readable by us
// only. Beside a cluster that exists it is never made anew: the cluster would
// not know it.
func (c *server) secret() (string, error) {
	path := filepath.Join(c.dir, "secret")
	raw, err := os.ReadFile(path)
	if secret := strings.TrimSpace(string(raw)); err == nil && len(secret) >= secretLength {
		return secret, nil
	}
	if _, err := os.Stat(filepath.Join(c.data(), "PG_VERSION")); err == nil {
		return "", fmt.Errorf(`the file %s is lost or cut short, and without it the database cannot be opened.
Put it back from a backup. If there is none, give the database a new one:
  close every Handwerk on this directory, then as the user who owns %s
  tr -dc A-Z2-7 </dev/urandom | head -c %d >%s
  echo "ALTER ROLE %s PASSWORD '$(cat %s)'" | %s --single -D %s postgres`,
			path, c.data(), secretLength, path, superRole, path, filepath.Join(c.bin, "postgres"), c.data())
	}
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return "", err
	}
	secret := rand.Text()
	return secret, writeWhole(path, []byte(secret))
}

// writeWhole leaves either the old file or the whole new one.
func writeWhole(path string, raw []byte) error {
	f, err := os.CreateTemp(filepath.Dir(path), ".new-*") // mode 0600
	if err != nil {
		return err
	}
	defer func() { _ = os.Remove(f.Name()) }() // gone already after a rename
	_, err = f.Write(raw)
	if err := errors.Join(err, f.Sync(), f.Close()); err != nil {
		return err
	}
	return os.Rename(f.Name(), path)
}

// initdb makes the cluster beside its place and moves it there when complete,
// so that an interrupted start leaves nothing half-made.
func (c *server) initdb(ctx context.Context, secret string) error {
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
	out, err := c.command(ctx, filepath.Join(c.bin, "initdb"), "-D", making, "-U", superRole, "--pwfile="+pw,
		"--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--data-checksums", "--no-sync").CombinedOutput()
	if err != nil {
		return fmt.Errorf("initdb: %w: %s", err, strings.TrimSpace(string(out)))
	}
	return os.Rename(making, c.data())
}

// checksums turns page checksums on in a cluster that was made without. One
// that was not shut down cleanly waits for its next start.
func (c *server) checksums(ctx context.Context) {
	out, err := c.command(ctx, filepath.Join(c.bin, "pg_controldata"), "-D", c.data()).Output()
	said := map[string]string{}
	for line := range strings.Lines(string(out)) {
		name, value, _ := strings.Cut(line, ":")
		said[name] = strings.TrimSpace(value)
	}
	if err != nil || said["Data page checksum version"] != "0" || said["Database cluster state"] != "shut down" {
		return
	}
	if out, err := c.command(ctx, filepath.Join(c.bin, "pg_checksums"), "--enable", "-D",
		c.data()).CombinedOutput(); err != nil {
		c.o.Log.Warn("page checksums could not be turned on", "error", err.Error(), "says",
			strings.TrimSpace(string(out)))
	}
}

// roles makes the roles and the database, or brings those of an older cluster
// up to date.
func (c *Cluster) roles(ctx context.Context, secret string) error {
	conn, err := pgx.Connect(ctx, fmt.Sprintf("postgres://%s:%s@127.0.0.1:%d/postgres", superRole, secret, c.port))
	if err != nil {
		return Redact(err)
	}
	defer func() { _ = conn.Close(ctx) }()
	var there bool
	for role, password := range map[string]string{ownerRole: secret, servingRole: servingPassword(secret)} {
		if err := conn.QueryRow(ctx, `SELECT EXISTS (SELECT FROM pg_roles WHERE rolname = $1)`,
			role).Scan(&there); err != nil {
			return err
		}
		verb := "CREATE"
		if there {
			verb = "ALTER"
		}
		// Letters, digits and hex only, so quoting is safe.
		if _, err := conn.Exec(ctx, verb+" ROLE "+role+" LOGIN NOSUPERUSER NOCREATEROLE PASSWORD '"+password+
			"'"); err != nil {
			return err
		}
	}
	if err := conn.QueryRow(ctx, `SELECT EXISTS (SELECT FROM pg_roles WHERE rolname = $1)`,
		LogRole).Scan(&there); err != nil {
		return err
	}
	grants := "ALTER ROLE " + ownerRole + " CREATEDB; ALTER ROLE " + servingRole + " NOINHERIT; GRANT " + LogRole +
		" TO " + servingRole
	if !there {
		grants = "CREATE ROLE " + LogRole + " NOLOGIN; " + grants
	}
	if _, err := conn.Exec(ctx, grants); err != nil {
		return err
	}
	if err := conn.QueryRow(ctx, `SELECT EXISTS (SELECT FROM pg_database WHERE datname = 'handwerk')`).
		Scan(&there); err != nil ||
		there {
		return err
	}
	_, err = conn.Exec(ctx, "CREATE DATABASE handwerk OWNER "+ownerRole)
	return err
}
