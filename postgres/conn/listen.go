package conn

import (
	"context"
	"log/slog"
	"time"

	"github.com/jackc/pgx/v5"

	"handwerk/postgres/cluster"
)

// Listen calls tell for each event of any process on this database, until ctx
// ends. A lost connection is made again, and tell hears an empty event.
func (l *Link) Listen(ctx context.Context, log *slog.Logger, tell func(Event)) {
	wait := 200 * time.Millisecond
	for ctx.Err() == nil {
		began := time.Now()
		err := l.listenOnce(ctx, tell)
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

func (l *Link) listenOnce(ctx context.Context, tell func(Event)) error {
	own, err := pgx.ConnectConfig(ctx, l.Config)
	if err != nil {
		return err
	}
	defer func() { _ = own.Close(context.WithoutCancel(ctx)) }()
	if _, err := own.Exec(ctx, "LISTEN "+Channel); err != nil {
		return err
	}
	tell(Event{})
	for {
		n, err := own.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		if e, ok := DecodeEvent(n.Payload); ok {
			tell(e)
		}
	}
}
