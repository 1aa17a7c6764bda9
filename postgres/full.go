package postgres

import (
	"sync/atomic"
	"time"

	"handwerk/postgres/conn"
)

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
	if conn.IsFull(err) {
		f.seen.Store(time.Now().Unix())
	}
	return err
}

func (f *fullness) check() error {
	if f.room == nil {
		if time.Since(time.Unix(f.seen.Load(), 0)) < fullFor {
			return conn.ErrFull
		}
		return nil
	}
	if free, err := f.room(); err == nil && free < leastRoom {
		return conn.ErrFull
	}
	return nil
}
