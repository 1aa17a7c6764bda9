// Package conn is what the rooms of the store have in common: the way to one
// database, how a transaction is run, what its errors mean, and what is told of
// what was kept.
package conn

import (
	"context"
	"errors"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jmoiron/sqlx"
)

// Link is a way to one database, and to whoever listens.
type Link struct {
	DB     *sqlx.DB
	Config *pgx.ConnConfig // for connections of our own, beside the pool; a caller that takes longer says so
	Tell   func(Event)     // every process on this database hears of it
}

// Tries is how often a writer begins anew because another process was quicker.
const Tries = 12

// InTx runs f in one transaction, anew when the database gave it up because
// another stood in its way.
func (l *Link) InTx(ctx context.Context, f func(*sqlx.Tx) error) error {
	for range Tries {
		if err := l.once(ctx, f); !isGivenUp(err) {
			return err
		}
	}
	return ErrBusy
}

// isGivenUp: class 40, a deadlock or a race lost; nothing was written.
func isGivenUp(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && strings.HasPrefix(pg.Code, "40")
}

func (l *Link) once(ctx context.Context, f func(*sqlx.Tx) error) error {
	tx, err := l.DB.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }() // does nothing after a commit
	if err := f(tx); err != nil {
		return err
	}
	return tx.Commit()
}

// IsUnique: another row has that already.
func IsUnique(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && pg.Code == "23505"
}

// IsBadUUID: what was asked for can be no id.
func IsBadUUID(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && pg.Code == "22P02"
}

// IsNoReference: what a row refers to is not there.
func IsNoReference(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && pg.Code == "23503"
}
