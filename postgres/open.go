// Package postgres keeps the record in PostgreSQL. It implements the storage
// that workshop and httpapi ask for, runs the migrations, and starts the
// local cluster of a machine that has no database of its own.
package postgres

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"strconv"
	"sync/atomic"
	"time"

	"handwerk/postgres/cluster"
	"handwerk/postgres/conn"
	"handwerk/postgres/learning"
	"handwerk/postgres/staff"
	"handwerk/postgres/translog"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"
)

// Store is the record in one database, a value for each room that keeps something
// there. Several processes may share it.
type Store struct {
	*link
	staff.Accounts
	staff.Tokens
	staff.Benches
	learning.Repeats
	learning.Practice
	learning.Axles
	translog.Log
	Settings
	Garage
	Versions
	Stock
	Records
	Finder
	Pictures
	Checks
	Backups
}

// The rooms of the store; each is a value of its own.
type (
	Settings struct{ *link } // what the shop says of itself, and how it began
	Garage   struct{ *link } // customers, vehicles, units
	Versions struct{ *link } // spec sheets and routes, by their versions
	Stock    struct{ *link } // drawers and gauges
	Records  struct{ *link } // rebuilds with their entries
	Finder   struct{ *link } // what is looked for over all rebuilds
	Pictures struct{ *link } // of rebuilds
	Checks   struct{ *link } // that all of it stands as it was written
	Backups  struct{ *link } // written, restored, and by night
)

// link is what the rooms have in common.
type link struct {
	*conn.Link
	rooms   *Store // for what a room asks of another
	plans   planCache
	ledgers *ledgerCache
	heralds *herald
	full    fullness
	stuck   func() string
	// zone of the shop, for times in words.
	zone      atomic.Pointer[time.Location]
	zoneNamed bool // outside, in HANDWERK_ZONE
	// units the shop reads in first.
	units    atomic.Value // quantity.System
	currency atomic.Value // string, three letters
	erased   string       // file that lists the ids of erased customers
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
	c := &conn.Link{DB: db, Config: own}
	l := &link{Link: c, ledgers: newLedgerCache(), full: fullness{room: o.Room}, erased: o.Erased, stuck: o.Stuck}
	s := &Store{l, staff.Accounts{Link: c}, staff.Tokens{Link: c}, staff.Benches{Link: c}, learning.NewRepeats(c),
		learning.Practice{Link: c}, learning.Axles{Link: c}, translog.New(c), Settings{l},
		Garage{l}, Versions{l}, Stock{l}, Records{l}, Finder{l}, Pictures{l}, Checks{l}, Backups{l}}
	l.rooms = s
	s.zone.Store(o.Zone)
	s.heralds = newHerald(s)
	c.Tell = s.heralds.tell
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
	return s.link.DB.Close()
}

// Listen calls tell for each event of any process on this database, until ctx ends.
func (s *Store) Listen(ctx context.Context, log *slog.Logger, tell func(conn.Event)) {
	s.link.Listen(ctx, log, tell)
}

// Ready tells whether the database answers and has room to write.
func (s *Store) Ready(ctx context.Context) error {
	err := s.link.DB.PingContext(ctx)
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
