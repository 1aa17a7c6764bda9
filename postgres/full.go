package postgres

import (
	"errors"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5/pgconn"
)

// ErrFull says that the database has no room left to write.
var ErrFull = errors.New("the disk of the database is full")

// leastRoom is what PostgreSQL should find free: a segment of its log is 16 MiB.
const leastRoom = 48 << 20

// fullFor is how long a refused write is remembered where the room itself
// cannot be looked at; afterwards a write may be tried again.
const fullFor = 20 * time.Second

// fullness remembers whether there is room to write.
type fullness struct {
	room func() (uint64, error)
	seen atomic.Int64 // when a write was refused for want of room, in Unix seconds
}

func (f *fullness) note(err error) error {
	if IsFull(err) {
		f.seen.Store(time.Now().Unix())
	}
	return err
}

func (f *fullness) check() error {
	if f.room == nil {
		if time.Since(time.Unix(f.seen.Load(), 0)) < fullFor {
			return ErrFull
		}
		return nil
	}
	if free, err := f.room(); err == nil && free < leastRoom {
		return ErrFull
	}
	return nil
}

// IsFull tells whether a write was refused because the disk is full.
func IsFull(err error) bool {
	var pg *pgconn.PgError
	return errors.Is(err, ErrFull) || (errors.As(err, &pg) && pg.Code == "53100")
}
