package postgres

import (
	"context"
	"embed"
	"fmt"
	"io/fs"
	"strings"

	"handwerk/postgres/cluster"

	"github.com/jackc/pgx/v5"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrations embed.FS

func (s *Store) provider() (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	locker, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, 300))
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectPostgres, s.link.DB.DB, files, goose.WithSessionLocker(locker))
}

// Migrate brings the schema up to date, as its owner. Processes that start
// together wait for one another. A schema that a newer program made is refused.
func (s *Store) Migrate(ctx context.Context) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	have, err := p.GetDBVersion(ctx)
	if err != nil {
		return fmt.Errorf("migration: %w", err)
	}
	sources := p.ListSources()
	if known := sources[len(sources)-1].Version; have > known {
		return fmt.Errorf(
			"the database was made by a newer Handwerk: its schema is version %d, this program knows %d; start the newer one",
			have,
			known,
		)
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("migration: %w", err)
	}
	return nil
}

// granted is all that serving needs. What is not here, no request can do:
// nobody serves with the right to change or delete an entry, a copy of the
// book, a photograph or the log, or to change what an order says.
var granted = []string{
	`SELECT, INSERT ON practice_task, practice_run`,
	`SELECT, INSERT ON plan_copy, entry, photo, setting`,
	`SELECT ON log_leaf, log_hash, checkpoint`,
	`SELECT, INSERT ON rebuild`,
	`UPDATE (head_seq, head_hash, station, step, waits_for, verdict, held, done, steps, closed, cause, due, hours_left) ON rebuild`,
	`SELECT, INSERT ON vehicle, unit, customer, sheet, account, drawer_item, number_counter`,
	`UPDATE (name, registration, customer_id, facts) ON vehicle`,
	`UPDATE (vehicle_id, sheet, route, gears) ON unit`,
	`UPDATE (name, phone, mail, address, known_as, erased_at) ON customer`,
	`SELECT, INSERT, DELETE ON rebuild_customer`,
	`UPDATE (name, role, password_hash, closed_at, pin_hash, pin_wrong) ON account`,
	`SELECT, INSERT ON tablet`,
	`UPDATE (ended_at) ON tablet`,
	`UPDATE (count, name, bin, least) ON drawer_item`,
	`SELECT, INSERT ON drawer, family_drawer, drawer_move, gauge, route_own`,
	`UPDATE (title) ON drawer`,
	`UPDATE (drawer) ON family_drawer`,
	`UPDATE (last) ON number_counter`,
	`SELECT, INSERT, DELETE ON session, throttle, first_code`,
	`UPDATE (digest, until) ON first_code`,
	`SELECT, INSERT ON shop, backup_run`,
	`UPDATE (used) ON session`,
	`UPDATE (since, tries) ON throttle`,
	`SELECT ON goose_db_version`,
}

// grantedToLog is what writing the log over all records needs: a role of its own
// holds it, where the cluster has one, so that no other hand adds a row.
var grantedToLog = []string{
	`SELECT, INSERT ON log_leaf, log_hash, checkpoint`,
	`SELECT (id, number, head_seq, head_hash) ON rebuild`,
}

// isLogWriter tells whether a role may take on the one that writes the log; a
// database of somebody's own may have none such.
const isLogWriter = `SELECT COALESCE((SELECT pg_has_role($1, oid, 'MEMBER') FROM pg_roles WHERE rolname = '` +
	cluster.LogRole + `'), false)`

// Grant gives a role what serving needs and nothing else. The owner runs it
// after each migration; it does the same every time.
func (s *Store) Grant(ctx context.Context, role string) error {
	name := pgx.Identifier{role}.Sanitize()
	logWriter := name
	var apart bool
	if err := s.link.DB.GetContext(ctx, &apart, isLogWriter, role); err != nil {
		return err
	}
	if apart {
		logWriter = cluster.LogRole
	}
	statements := []string{
		`REVOKE ALL ON ALL TABLES IN SCHEMA public FROM PUBLIC, ` + name + `, ` + logWriter,
		`REVOKE CREATE ON SCHEMA public FROM PUBLIC, ` + name,
		`GRANT USAGE ON SCHEMA public TO ` + name + `, ` + logWriter,
		// Not even the owner holds these; the triggers stand against a superuser's slip.
		`REVOKE UPDATE, DELETE, TRUNCATE ON entry, photo, log_leaf, log_hash, checkpoint FROM CURRENT_USER`,
		// A reference to a row is checked by locking it, which takes the right to update.
		`REVOKE DELETE, TRUNCATE ON plan_copy, rebuild FROM CURRENT_USER`,
	}
	for _, g := range granted {
		statements = append(statements, `GRANT `+g+` TO `+name)
	}
	for _, g := range grantedToLog {
		statements = append(statements, `GRANT `+g+` TO `+logWriter)
	}
	_, err := s.link.DB.ExecContext(ctx, strings.Join(statements, ";\n"))
	return err
}

// RoleOf is the role that an address names.
func RoleOf(url string) (string, error) {
	c, err := pgx.ParseConfig(url)
	if err != nil {
		return "", fmt.Errorf("database address: %w", cluster.Redact(err))
	}
	return c.User, nil
}

// Role is the one this store works as.
func (s *Store) Role() string { return s.link.Config.User }

// Owns tells whether the store works as the owner of the record, which has
// more rights than serving needs.
func (s *Store) Owns(ctx context.Context) (bool, error) {
	var owns bool
	err := s.link.DB.GetContext(ctx, &owns, `SELECT pg_catalog.pg_get_userbyid(relowner) = current_user
		FROM pg_catalog.pg_class WHERE oid = to_regclass('entry')`)
	return owns, err
}
