package postgres

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"handwerk/postgres/cluster"

	"github.com/jackc/pgx/v5"
)

// A backup is a zip file with two parts: what it holds, table by table, and
// what PostgreSQL's own pg_dump wrote, both from one moment.
const (
	backupFormat = "handwerk-backup/1"
	manifestName = "manifest.json"
	dumpName     = "database.dump"
)

// Manifest says what a backup holds.
type Manifest struct {
	Format string           `json:"format"`
	Made   time.Time        `json:"made"`
	Tables map[string]Table `json:"tables"`
}

// Table is one table's rows: how many, and a sum over all of them that no
// changed, missing or added row leaves as it is.
type Table struct {
	Rows int64  `json:"rows"`
	Sum  string `json:"sum"`
}

// Backup writes everything that is in the database at one moment; others may
// go on writing. The store must be the owner's.
func (s Backups) Backup(ctx context.Context, w io.Writer, now time.Time) (Manifest, error) {
	m := Manifest{Format: backupFormat, Made: now.UTC().Truncate(time.Second)}
	own, err := pgx.ConnectConfig(ctx, s.Config)
	if err != nil {
		return m, cluster.Redact(err)
	}
	defer func() { _ = own.Close(context.WithoutCancel(ctx)) }()
	tx, err := own.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return m, err
	}
	defer func() { _ = tx.Rollback(context.WithoutCancel(ctx)) }()
	var snapshot string
	if err := tx.QueryRow(ctx, `SELECT pg_export_snapshot()`).Scan(&snapshot); err != nil {
		return m, err
	}
	if m.Tables, err = sumTables(ctx, tx); err != nil {
		return m, err
	}
	out := zip.NewWriter(w)
	raw, err := json.MarshalIndent(m, "", "  ")
	if err != nil {
		return m, err
	}
	part, err := out.Create(manifestName)
	if err != nil {
		return m, err
	}
	if _, err := part.Write(raw); err != nil {
		return m, err
	}
	// pg_dump packs by itself.
	if part, err = out.CreateHeader(&zip.FileHeader{Name: dumpName, Method: zip.Store}); err != nil {
		return m, err
	}
	if err := s.tool(
		ctx, "pg_dump", nil, part, "--format=custom", "--no-owner", "--no-privileges", "--schema=public",
		"--snapshot="+snapshot,
	); err != nil {
		return m, err
	}
	return m, out.Close()
}

// sumTables sums up every table of ours.
func sumTables(ctx context.Context, tx pgx.Tx) (map[string]Table, error) {
	if _, err := tx.Exec(
		ctx,
		`SET LOCAL TimeZone = 'UTC'; SET LOCAL extra_float_digits = 1; SET LOCAL bytea_output = 'hex'; SET LOCAL DateStyle = 'ISO'`,
	); err != nil {
		return nil, err
	}
	names, err := tables(ctx, tx)
	if err != nil {
		return nil, err
	}
	sums := map[string]Table{}
	for _, name := range names {
		var t Table
		// The sum does not depend on the order of rows.
		err := tx.QueryRow(
			ctx,
			`SELECT count(*), COALESCE(sum(hashtextextended(t::text, 0)::numeric), 0)::text FROM `+
				pgx.Identifier{name}.Sanitize()+` t`,
		).Scan(&t.Rows, &t.Sum)
		if err != nil {
			return nil, err
		}
		sums[name] = t
	}
	return sums, nil
}

func tables(ctx context.Context, tx pgx.Tx) ([]string, error) {
	rows, err := tx.Query(ctx, `SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1`)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// tool runs one of PostgreSQL's own, on this database; the password goes to it
// by its environment, where nobody else reads it.
func (s Backups) tool(ctx context.Context, name string, in io.Reader, out io.Writer, args ...string) error {
	bin, err := cluster.FindServer()
	if err != nil {
		return err
	}
	c := s.Config
	args = append(
		args, "--no-password", fmt.Sprintf("--host=%s", c.Host), fmt.Sprintf("--port=%d", c.Port), "--username="+c.User,
		"--dbname="+c.Database,
	)
	cmd := exec.CommandContext(ctx, filepath.Join(bin, name), args...)
	cmd.Env = []string{"PATH=/usr/bin:/bin", "LC_ALL=C.UTF-8", "PGPASSWORD=" + c.Password}
	cmd.Stdin, cmd.Stdout = in, out
	var said bytes.Buffer
	cmd.Stderr = &said
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%s: %w: %s", name, err, strings.TrimSpace(said.String()))
	}
	return nil
}

// ErrFullDatabase says that a backup was to be put over somebody's work.
var ErrFullDatabase = errors.New(
	"this database is not empty: a backup is restored into an empty one only, and nothing was changed",
)

// Restore puts a backup into an empty database and compares every table with
// what the backup says it held; what does not compare is taken out again. The
// store must be the owner's. Migrations and grants come after.
func (s Backups) Restore(ctx context.Context, file string) (Manifest, error) {
	in, err := zip.OpenReader(file)
	if errors.Is(err, os.ErrNotExist) {
		return Manifest{}, err
	}
	if err != nil {
		return Manifest{}, fmt.Errorf("%s is no backup of Handwerk, or it was cut off: %w", file, err)
	}
	defer func() { _ = in.Close() }()
	m, err := readManifest(&in.Reader)
	if err != nil {
		return m, fmt.Errorf("%s: %w", file, err)
	}
	// Read once to its end, so that a broken file is known before anything is touched.
	if err := fromDump(in, func(dump io.Reader) error { _, err := io.Copy(io.Discard, dump); return err }); err != nil {
		return m, fmt.Errorf("%s is broken: %w", file, err)
	}
	if err := s.clear(ctx, m, false); err != nil {
		return m, err
	}
	err = fromDump(in, func(dump io.Reader) error {
		return s.tool(
			ctx, "pg_restore", dump, io.Discard, "--single-transaction", "--exit-on-error", "--no-owner",
			"--no-privileges", "--schema=public",
		)
	})
	if err == nil {
		err = s.compare(ctx, m)
	}
	if err != nil {
		return m, errors.Join(err, s.clear(ctx, m, true))
	}
	return m, nil
}

func fromDump(in *zip.ReadCloser, f func(io.Reader) error) error {
	dump, err := in.Open(dumpName)
	if err != nil {
		return err
	}
	defer func() { _ = dump.Close() }()
	return f(dump)
}

func readManifest(in *zip.Reader) (Manifest, error) {
	var m Manifest
	f, err := in.Open(manifestName)
	if err != nil {
		return m, errors.New("it is no backup of Handwerk: it does not say what it holds")
	}
	defer func() { _ = f.Close() }()
	if err := json.NewDecoder(io.LimitReader(f, 1<<20)).Decode(&m); err != nil || m.Format != backupFormat {
		return m, fmt.Errorf("it is no backup that this program reads; it says format %q, %q is needed", m.Format,
			backupFormat)
	}
	return m, nil
}

// clear makes room for the tables of a backup. Unless it is sure to be ours,
// anything that somebody entered stands in the way.
func (s Backups) clear(ctx context.Context, m Manifest, ours bool) error {
	return s.inOwnTx(ctx, func(tx pgx.Tx) error {
		there, err := tables(ctx, tx)
		if err != nil {
			return err
		}
		if !ours {
			if err := s.nothingEntered(ctx, m, there); err != nil {
				return err
			}
		}
		for _, name := range there {
			if _, err := tx.Exec(ctx, `DROP TABLE `+pgx.Identifier{name}.Sanitize()+` CASCADE`); err != nil {
				return err
			}
		}
		_, err = tx.Exec(ctx, `DROP FUNCTION IF EXISTS keep_for_good() CASCADE`)
		return err
	})
}

// nothingEntered says no to a database in which somebody keeps something.
func (s Backups) nothingEntered(ctx context.Context, m Manifest, there []string) error {
	if slices.ContainsFunc(there, func(name string) bool { _, known := m.Tables[name]; return !known }) {
		return ErrFullDatabase
	}
	if !slices.Contains(there, "rebuild") {
		return nil
	}
	if empty, err := s.rooms.IsEmpty(ctx); err != nil || !empty {
		return errors.Join(err, ErrFullDatabase)
	}
	return nil
}

func (s Backups) compare(ctx context.Context, m Manifest) error {
	return s.inOwnTx(ctx, func(tx pgx.Tx) error {
		now, err := sumTables(ctx, tx)
		if err != nil {
			return err
		}
		for _, name := range slices.Sorted(maps.Keys(m.Tables)) {
			if now[name] != m.Tables[name] {
				return fmt.Errorf("table %s is not what was backed up: %d rows, %d there", name, now[name].Rows,
					m.Tables[name].Rows)
			}
		}
		return nil
	})
}

// inOwnTx runs f in a transaction on a connection of its own.
func (s Backups) inOwnTx(ctx context.Context, f func(pgx.Tx) error) error {
	own, err := pgx.ConnectConfig(ctx, s.Config)
	if err != nil {
		return cluster.Redact(err)
	}
	defer func() { _ = own.Close(context.WithoutCancel(ctx)) }()
	return pgx.BeginFunc(ctx, own, f)
}
