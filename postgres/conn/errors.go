package conn

import (
	"context"
	"database/sql"
	"errors"
	"io"
	"net"

	"github.com/jackc/pgx/v5/pgconn"
)

// ErrBusy says that too many already wait to write into one rebuild.
var ErrBusy = errors.New("too many writers wait for this rebuild")

// ErrFull says that the database has no room left to write.
var ErrFull = errors.New("the disk of the database is full")

// IsLost tells errors of a database that went away, or does not answer in
// time, from all others: the request may be tried again, with the same key.
func IsLost(err error) bool {
	if errors.Is(err, context.DeadlineExceeded) || errors.Is(err, ErrBusy) || IsFull(err) {
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

func isClosedEarly(err error) bool {
	return errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) || errors.Is(err, sql.ErrConnDone)
}

// IsFull tells whether a write was refused because the disk is full.
func IsFull(err error) bool {
	var pg *pgconn.PgError
	return errors.Is(err, ErrFull) || (errors.As(err, &pg) && pg.Code == "53100")
}
