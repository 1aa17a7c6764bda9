package postgres

import (
	"context"
	"fmt"
	"iter"
	"strconv"
	"strings"

	"github.com/jmoiron/sqlx"

	"handwerk/postgres/conn"
	"handwerk/workshop"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Import keeps a rebuild that came from another database, with its number,
// its whole record and its pictures, all or nothing. The caller has verified
// its chain; the pictures are read as they come, and an error among them
// leaves nothing behind.
func (s Records) Import(ctx context.Context, l record.Ledger, photos iter.Seq2[workshop.Photo, error]) (pictures int,
	err error) {
	r := l.Rebuild
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if err := insertLedger(ctx, tx, l); err != nil {
			return err
		}
		for p, err := range photos {
			if err != nil {
				return err
			}
			if err := insertPhoto(ctx, tx, p); err != nil {
				return err
			}
			pictures++
		}
		return countFrom(ctx, tx, r.Number)
	})
	if conn.IsUnique(err) {
		return 0, say.Refusal{Reason: say.Conflict, Why: say.AlreadyHere, About: []any{r.Number}}
	}
	if err == nil {
		s.Tell(conn.Event{Rebuild: r.ID})
	}
	return pictures, err
}

func insertLedger(ctx context.Context, tx *sqlx.Tx, l record.Ledger) error {
	if err := insertRebuild(ctx, tx, l.Rebuild, l.Plan, workshop.Write{}, paper.Cause(l)); err != nil {
		return err
	}
	for _, e := range l.Entries {
		if err := insertEntry(ctx, tx, l.Rebuild.ID, e); err != nil {
			return err
		}
	}
	return nil
}

// countFrom keeps the next number of that year from meeting this one.
func countFrom(ctx context.Context, tx *sqlx.Tx, number string) error {
	year, last, ok := parseNumber(number)
	if !ok {
		return fmt.Errorf("%q is not a rebuild's number", number)
	}
	_, err := tx.ExecContext(ctx, `INSERT INTO number_counter (year, last) VALUES ($1, $2)
		ON CONFLICT (year) DO UPDATE SET last = greatest(number_counter.last, $2)`, year, last)
	return err
}

func insertEntry(ctx context.Context, tx *sqlx.Tx, rebuild string, e record.Entry) error {
	_, err := tx.ExecContext(
		ctx,
		`INSERT INTO entry (rebuild_id, seq, id, step, act, item, supersedes, body, result, method, verdict,
			by_login, by_name, by_role, at, hash, key, digest)
		VALUES ($1, $2, $3, $4, $5, $6, CAST(NULLIF($7, '') AS uuid), $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, '')`,
		rebuild,
		e.Seq,
		e.ID,
		e.Step,
		e.Act,
		e.Item.String(),
		e.Supersedes,
		[]byte(e.Body),
		nullable(e.Result),
		e.Method,
		e.Verdict,
		e.By.Login,
		e.By.Name,
		e.By.Role,
		e.At,
		e.Hash,
		"import "+e.ID,
	)
	return err
}

func parseNumber(number string) (year, n int, ok bool) {
	head, tail, found := strings.Cut(number, "-")
	year, err1 := strconv.Atoi(head)
	n, err2 := strconv.Atoi(tail)
	return 2000 + year, n, found && err1 == nil && err2 == nil
}
