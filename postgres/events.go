package postgres

import (
	"context"
	"encoding/json"
	"log/slog"
	"time"

	"github.com/jackc/pgx/v5"
)

const channel = "handwerk_entry"

// Event tells that a rebuild has a new entry. An empty rebuild means that
// events may have been missed: whoever listens reads again.
type Event struct {
	Rebuild string `json:"rebuild"`
	Seq     int    `json:"seq"`
	Step    string `json:"step"`
}

func (e Event) encode() string {
	raw, _ := json.Marshal(e) // three plain fields, cannot fail
	return string(raw)
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
		log.Warn("event connection lost, connecting again", "error", redact(err).Error())
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
	conn, err := pgx.Connect(ctx, s.url)
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
		var e Event
		if json.Unmarshal([]byte(n.Payload), &e) == nil {
			tell(e)
		}
	}
}
