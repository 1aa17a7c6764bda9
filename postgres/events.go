package postgres

import (
	"context"
	"encoding/json"
	"log/slog"
	"time"

	"handwerk/postgres/cluster"

	"github.com/jackc/pgx/v5"
)

const channel = "handwerk_entry"

// Event tells that a rebuild has a new entry, or that sessions ended. An empty
// one means that events may have been missed: whoever listens reads again.
type Event struct {
	Rebuild string `json:"rebuild,omitempty"`
	Seq     int    `json:"seq,omitempty"`
	Step    string `json:"step,omitempty"`
	Session string `json:"session,omitempty"` // the digest of the one that ended
}

func (e Event) encode() string {
	raw, _ := json.Marshal(e) // plain fields, cannot fail
	return string(raw)
}

func decodeEvent(payload string) (Event, bool) {
	var e Event
	return e, json.Unmarshal([]byte(payload), &e) == nil
}

// Listen calls tell for each event of any process on this database, until ctx
// ends. A lost connection is made again, and tell hears an empty event.
func (s *Store) Listen(ctx context.Context, log *slog.Logger, tell func(Event)) {
	wait := 200 * time.Millisecond
	for ctx.Err() == nil {
		began := time.Now()
		err := s.listenOnce(ctx, tell)
		if ctx.Err() != nil {
			return
		}
		log.Warn("event connection lost, connecting again", "error", cluster.Redact(err).Error())
		if time.Since(began) > time.Minute {
			wait = 200 * time.Millisecond
		}
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
		wait = min(2*wait, 5*time.Second)
	}
}

func (s *Store) listenOnce(ctx context.Context, tell func(Event)) error {
	conn, err := pgx.ConnectConfig(ctx, s.config)
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	if _, err := conn.Exec(ctx, "LISTEN "+channel); err != nil {
		return err
	}
	tell(Event{})
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		if e, ok := decodeEvent(n.Payload); ok {
			tell(e)
		}
	}
}
