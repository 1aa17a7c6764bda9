// Package postgres keeps the record in PostgreSQL. It implements the storage
// that workshop and httpapi ask for, runs the migrations, and starts the
// local cluster of a machine that has no database of its own.
package postgres

import (
	"context"
	"errors"
	"fmt"
	"net"
	"strconv"
	"sync/atomic"
	"time"

	"handwerk/postgres/cluster"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"
)

// Store is the record in one database, a value for each room that keeps something
// there. Several processes may share it.
type Store struct {
	*link
	Accounts
	Tokens
	Benches
	Settings
	Garage
	Versions
	Stock
	Records
	Finder
	Pictures
	Log
	Checks
	Backups
}

// The rooms of the store; each is a value of its own.
type (
	Accounts struct{ *link } // who works here, and the sessions
	Tokens   struct{ *link } // other programs, which work here by a token
	Benches  struct{ *link } // the tablets at the bench, and the PINs
	Settings struct{ *link } // what the shop says of itself, and how it began
	Garage   struct{ *link } // customers, vehicles, units
	Versions struct{ *link } // spec sheets and routes, by their versions
	Stock    struct{ *link } // drawers and gauges
	Records  struct{ *link } // rebuilds with their entries
	Finder   struct{ *link } // what is looked for over all rebuilds
	Pictures struct{ *link } // of rebuilds
	Log      struct{ *link } // of the heads of all records
	Checks   struct{ *link } // that all of it stands as it was written
	Backups  struct{ *link } // written, restored, and by night
)

// link is what the rooms have in common.
type link struct {
	rooms   *Store // for what a room asks of another
	db      *sqlx.DB
	config  *pgx.ConnConfig // for connections of our own, beside the pool; a caller that takes longer says so
	plans   planCache
	ledgers *ledgerCache
	heralds *herald
	full    fullness
	stuck   func() string
	// zone of the shop, for times in words.
	zone       atomic.Pointer[time.Location]
	zoneNamed  bool                   // outside, in HANDWERK_ZONE
	logStopped atomic.Pointer[string] // why the log over all records is not written
	// units the shop reads in first.
	units  atomic.Value // quantity.System
	erased string       // file that lists the ids of erased customers
}

// How long the database may take. A statement ends before the request that
// waits for it does, so that a frozen or crowded database is told from a slow
// answer.
const (
	statementTimeout = 6 * time.Second
	lockTimeout      = 5 * time.Second
	idleTimeout      = 10 * time.Second
	connectTimeout   = 4 * time.Second
	longStatement    = time.Minute // of the log and what else has a connection of its own
)

// Options of Open.
type Options struct {
	// Patient statements take as long as they need: for commands that read or
	// write everything. Requests are never served so.
	Patient bool
	// Room tells how much space is left where the database writes; nil when it
	// is somebody else's machine.
	Room func() (bytes uint64, err error)
	// Stuck says why the database does not come back; nil when nobody can tell.
	Stuck func() string
	// Zone is the shop's, for times in words; nil is UTC.
	Zone *time.Location
	// Erased is a file that lists the ids of erased customers; empty: none is kept.
	Erased string
}

const maxConnections = 16

// Open connects to a database; it does not migrate it.
func Open(ctx context.Context, url string, o Options) (*Store, error) {
	config, err := pgx.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", cluster.Redact(err))
	}
	config.ConnectTimeout = connectTimeout
	own := config.Copy()
	if o.Patient {
		limit(config, 0, 0)
		limit(own, 0, 0)
	} else {
		limit(config, statementTimeout, idleTimeout)
		limit(own, longStatement, longStatement)
	}
	db := sqlx.NewDb(stdlib.OpenDB(*config), "pgx")
	db.SetMaxOpenConns(maxConnections)
	db.SetMaxIdleConns(maxConnections)
	db.SetConnMaxIdleTime(5 * time.Minute)
	if err := db.PingContext(ctx); err != nil {
		_ = db.Close()
		return nil, fmt.Errorf("database: %w", cluster.Redact(err))
	}
	l := &link{db: db, config: own, ledgers: newLedgerCache(), full: fullness{room: o.Room}, erased: o.Erased,
		stuck: o.Stuck}
	s := &Store{l, Accounts{l}, Tokens{l}, Benches{l}, Settings{l}, Garage{l}, Versions{l}, Stock{l}, Records{l},
		Finder{l}, Pictures{l}, Log{l}, Checks{l}, Backups{l}}
	l.rooms = s
	s.zone.Store(o.Zone)
	s.heralds = newHerald(s)
	return s, nil
}

// limit sets the deadlines that the database itself keeps; 0 is none.
func limit(c *pgx.ConnConfig, statement, idle time.Duration) {
	for name, d := range map[string]time.Duration{
		"statement_timeout": statement, "lock_timeout": min(statement, lockTimeout),
		"idle_in_transaction_session_timeout": idle,
	} {
		c.RuntimeParams[name] = strconv.FormatInt(d.Milliseconds(), 10)
	}
}

// Close lets go of all connections, after what is to be told was told.
func (s *Store) Close() error {
	s.heralds.close()
	return s.db.Close()
}

// Ready tells whether the database answers and has room to write.
func (s *Store) Ready(ctx context.Context) error {
	err := s.db.PingContext(ctx)
	if err == nil {
		return s.full.check()
	}
	if s.stuck != nil && s.stuck() != "" {
		return Stuck{s.stuck()}
	}
	return err
}

// Stuck is a database that does not come back by itself, and why.
type Stuck struct{ Why string }

func (s Stuck) Error() string { return s.Why }

// WhyStuck is what such an error says; empty for any other.
func WhyStuck(err error) string {
	stuck, _ := errors.AsType[Stuck](err)
	return stuck.Why
}

// IsLost tells errors of a database that went away, or does not answer in
// time, from all others: the request may be tried again, with the same key.
func IsLost(err error) bool {
	if errors.Is(err, context.DeadlineExceeded) || errors.Is(err, errBusy) || IsFull(err) {
		return true
	}
	var connect *pgconn.ConnectError
	if errors.As(err, &connect) {
		return true
	}
	var pg *pgconn.PgError
	if errors.As(err, &pg) {
		// Class 57: shut down by the operator, or too slow; 08: connection; 53: no
		// room; 25P03: a transaction left idle; 55P03: a lock not given in time.
		class := pg.Code[:2]
		return class == "57" || class == "08" || class == "53" || pg.Code == "25P03" || pg.Code == "55P03"
	}
	var network net.Error
	return errors.As(err, &network) || pgconn.SafeToRetry(err) ||
		errors.Is(err, net.ErrClosed) || isClosedEarly(err)
}
