package postgres

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"handwerk/postgres/conn"
	"handwerk/workshop"
	"handwerk/workshop/paper"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Append lets the rules decide on the whole record and keeps the entry, the
// drawer's change and the new head together or not at all. The record is read
// before and nothing is locked meanwhile: the entry goes in only if the head
// is still the one it was decided on; otherwise it is decided anew.
func (s Records) Append(
	ctx context.Context, id string, w workshop.Write, decide func(record.Ledger) (record.Proposal, error),
) (record.Entry, bool, error) {
	done, err := s.ledgers.take(ctx, id)
	if err != nil {
		return record.Entry{}, false, err
	}
	defer done()
	for range conn.Tries {
		l, err := s.latest(ctx, id)
		if err != nil {
			return record.Entry{}, false, err
		}
		p, refused := decide(l)
		if refused == nil {
			var kept bool
			if kept, refused = s.keep(ctx, l.Rebuild.Head, p, w); kept {
				return p.Entry, false, nil
			}
		}
		if e, found, err := s.whyNot(ctx, l, p, w, refused); found || err != nil {
			return e, found, err
		}
		s.ledgers.forget(id)
	}
	return record.Entry{}, false, conn.ErrBusy
}

// whyNot finds out why nothing was kept: the same request came before, the
// session ended, it is a no, or the head was another; then neither is given and
// it is decided anew.
func (s Records) whyNot(ctx context.Context, l record.Ledger, p record.Proposal, w workshop.Write,
	refused error) (record.Entry, bool, error) {
	none, id := record.Entry{}, l.Rebuild.ID
	if conn.IsLost(refused) {
		return none, false, s.full.note(refused)
	}
	if e, found, err := s.replay(ctx, id, w); found || err != nil {
		return e, found, err
	}
	if err := s.stillSignedIn(ctx, w, p.Entry.By); err != nil {
		return none, false, err
	}
	now, err := selectRebuild(ctx, s.DB, `WHERE r.id = $1`, id)
	if err != nil || (refused != nil && now.Head == l.Rebuild.Head) {
		return none, false, errors.Join(err, refused)
	}
	return none, false, nil
}

// latest is the ledger as this process knows it, or as it is read.
func (s Records) latest(ctx context.Context, id string) (record.Ledger, error) {
	if l, ok := s.ledgers.get(id); ok {
		return s.asked(ctx, l), nil
	}
	return s.Ledger(ctx, id)
}

// stillSignedIn says no when that is why nothing was kept.
func (s Records) stillSignedIn(ctx context.Context, w workshop.Write, by people.Person) error {
	if w.Session == "" || by.Login == "" {
		return nil
	}
	var holds bool
	err := s.DB.GetContext(ctx, &holds, `SELECT EXISTS (`+holdingSession("$1", "$2")+`)`, w.Session, string(by.Role))
	if err == nil && !holds {
		err = say.Refusal{Reason: say.SignedOut, Why: say.SessionRanOut}
	}
	return err
}

// holdingSession selects a session, by parameters for its token and a role, of
// somebody who may still do what he did before.
func holdingSession(token, role string) string {
	return `SELECT FROM session s JOIN account a ON a.login = s.login
		WHERE s.token_digest = ` + token + ` AND a.role = ` + role + ` AND a.closed_at IS NULL`
}

// replay finds the entry that the same request made before.
func (s Records) replay(ctx context.Context, id string, w workshop.Write) (record.Entry, bool, error) {
	var before struct {
		Seq    int
		Digest string
	}
	err := s.DB.GetContext(ctx, &before, `SELECT seq, digest FROM entry WHERE rebuild_id = $1 AND key = $2`, id, w.Key)
	if errors.Is(err, sql.ErrNoRows) || conn.IsBadUUID(err) {
		return record.Entry{}, false, nil
	}
	if err != nil {
		return record.Entry{}, false, err
	}
	if before.Digest != w.Digest {
		return record.Entry{}, false, say.Refusal{Reason: say.Conflict, Why: say.KeyOfAnotherEntry}
	}
	list, err := selectEntries(ctx, s.DB, id, before.Seq-1, before.Seq)
	if err != nil || len(list) == 0 {
		return record.Entry{}, false, err
	}
	return list[0], true, nil
}

// keep writes a proposal if the head is still the one it follows; open screens
// are told when it is done.
func (s Records) keep(ctx context.Context, head record.Head, p record.Proposal, w workshop.Write) (kept bool,
	err error) {
	if len(p.Moves) == 0 {
		kept, err = insertNext(ctx, s.DB, head, p, w)
	} else {
		kept, err = s.keepWithMoves(ctx, head, p, w)
	}
	if kept && err == nil {
		s.ledgers.put(p.After)
		s.Tell(conn.Event{Rebuild: p.After.Rebuild.ID, Seq: p.Entry.Seq, Step: p.Entry.Step})
	}
	return kept && err == nil, err
}

func (s Records) keepWithMoves(ctx context.Context, head record.Head, p record.Proposal, w workshop.Write) (kept bool,
	err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if kept, err = insertNext(ctx, tx, head, p, w); !kept || err != nil {
			return err
		}
		for _, m := range p.Moves {
			if err := moveStock(ctx, tx, m, p.Entry, p.After.Rebuild.ID); err != nil {
				return err
			}
		}
		return nil
	})
	return kept, err
}

var insertNextSQL = `WITH moved AS (
			UPDATE rebuild SET head_seq = $2, head_hash = $3, station = $4, step = $5, waits_for = $6,
				verdict = $7, held = $8, done = $9, steps = $10, closed = $11, cause = $30, due = CAST($31 AS date), hours_left = $32
			WHERE id = $1 AND head_seq = $12 AND head_hash = $13
				AND ($29 = '' OR EXISTS (` + holdingSession("$29", "$25") + `))
			RETURNING id)
		INSERT INTO entry (rebuild_id, seq, id, step, act, item, supersedes, body, result, method, verdict,
			by_login, by_name, by_role, at, hash, key, digest)
		SELECT id, $2, CAST($14 AS uuid), $15, $16, $17, CAST(NULLIF($18, '') AS uuid), CAST($19 AS json), CAST($20 AS json), $21, $22,
			$23, $24, $25, CAST($26 AS timestamptz), $3, $27, $28 FROM moved`

// insertNext moves the head on and inserts the entry, in one statement: one
// way to the server and back for what is acknowledged.
func insertNext(ctx context.Context, x sqlx.ExecerContext, head record.Head, p record.Proposal,
	w workshop.Write) (bool, error) {
	e, place := p.Entry, p.After.Rebuild.Place
	res, err := x.ExecContext(ctx, insertNextSQL,
		p.After.Rebuild.ID, e.Seq, e.Hash, string(place.Station), place.Step, place.WaitsFor, string(place.Verdict),
		place.Held, place.Done, place.Steps, place.Closed,
		head.Seq, head.Hash,
		e.ID, e.Step, string(e.Act), e.Item.String(), e.Supersedes, []byte(e.Body), nullable(e.Result), e.Method,
		string(e.Verdict),
		e.By.Login, e.By.Name, string(e.By.Role), e.At, w.Key, w.Digest, w.Session, paper.Cause(p.After),
		place.Promised, place.HoursLeft)
	if err != nil {
		return false, err
	}
	n, err := res.RowsAffected()
	return n == 1, err
}

func nullable(raw []byte) any {
	if raw == nil {
		return nil
	}
	return raw
}
