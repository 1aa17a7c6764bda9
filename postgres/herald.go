package postgres

import (
	"context"
	"sync"
	"time"

	"handwerk/postgres/conn"

	"github.com/jackc/pgx/v5"
)

// herald tells all processes on the database what was kept here. It speaks
// for many at once, on a connection of its own: a commit that notifies takes a
// lock on the whole database, and eight hands would queue at it.
// Should the process die before it has told, the screens of other processes
// read on at their next event or look.
type herald struct {
	store  *Store
	mu     sync.Mutex
	events []conn.Event
	wake   chan struct{}
	end    context.CancelFunc
	ended  chan struct{}
	conn   *pgx.Conn // of the loop alone
}

func newHerald(s *Store) *herald {
	ctx, end := context.WithCancel(context.Background())
	h := &herald{store: s, wake: make(chan struct{}, 1), end: end, ended: make(chan struct{})}
	go h.run(ctx)
	return h
}

func (h *herald) tell(e conn.Event) {
	h.mu.Lock()
	h.events = append(h.events, e)
	h.mu.Unlock()
	select {
	case h.wake <- struct{}{}:
	default:
	}
}

// gathered is how long others may join in what is told.
const gathered = 8 * time.Millisecond

// mostHeld bounds what is kept to be told while the database is away; beyond
// it everybody is told to read again.
const mostHeld = 1000

func (h *herald) take() []string {
	h.mu.Lock()
	defer h.mu.Unlock()
	if len(h.events) > mostHeld {
		h.events = []conn.Event{{}}
	}
	texts := make([]string, len(h.events))
	for i, e := range h.events {
		texts[i] = e.Encode()
	}
	return texts
}

func (h *herald) told(n int) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.events = h.events[min(n, len(h.events)):]
}

func (h *herald) hangUp() {
	if h.conn != nil {
		ctx, cancel := context.WithTimeout(context.Background(), time.Second)
		_ = h.conn.Close(ctx)
		cancel()
		h.conn = nil
	}
}

func (h *herald) run(ctx context.Context) {
	defer close(h.ended)
	defer h.hangUp()
	for {
		select {
		case <-h.wake:
		case <-ctx.Done():
			h.speak(context.WithoutCancel(ctx))
			return
		}
		time.Sleep(gathered)
		for !h.speak(ctx) && ctx.Err() == nil {
			select {
			case <-time.After(time.Second):
			case <-ctx.Done():
			}
		}
	}
}

// speak tells what waits; false when the database did not take it.
func (h *herald) speak(ctx context.Context) bool {
	texts := h.take()
	if len(texts) == 0 {
		return true
	}
	ctx, cancel := context.WithTimeout(ctx, 2*time.Second)
	defer cancel()
	if h.conn == nil {
		own, err := pgx.ConnectConfig(ctx, h.store.link.Config)
		if err != nil {
			return false
		}
		h.conn = own
		// What is told is kept already: there is nothing to wait for the disk for.
		if _, err := own.Exec(ctx, `SET synchronous_commit = off`); err != nil {
			h.hangUp()
			return false
		}
	}
	if _, err := h.conn.Exec(ctx, `SELECT pg_notify($1, said) FROM unnest(CAST($2 AS text[])) AS said`, conn.Channel,
		texts); err != nil {
		h.hangUp()
		return false
	}
	h.told(len(texts))
	return true
}

func (h *herald) close() {
	h.end()
	<-h.ended
}
