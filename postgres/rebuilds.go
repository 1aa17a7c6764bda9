package postgres

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/workshop"
)

// rebuildRow is a row of table rebuild.
type rebuildRow struct {
	ID        string
	Number    string
	Complaint string
	Vehicle   []byte
	Unit      []byte
	Use       string
	Odometer  string
	Promised  time.Time
	OpenedAt  time.Time `db:"opened_at"`
	OpenedBy  []byte    `db:"opened_by"`
	PlanHash  string    `db:"plan_hash"`
	HeadSeq   int       `db:"head_seq"`
	HeadHash  string    `db:"head_hash"`
	Station   string
	Step      string
	WaitsFor  string `db:"waits_for"`
	Verdict   string
	Held      bool
	Done      int
	Steps     int
	Closed    bool
}

const rebuildColumns = `id, number, complaint, vehicle, unit, use, odometer, promised, opened_at, opened_by,
	plan_hash, head_seq, head_hash, station, step, waits_for, verdict, held, done, steps, closed`

func (r rebuildRow) rebuild() (workshop.Rebuild, error) {
	out := workshop.Rebuild{
		ID: r.ID, Number: r.Number, Complaint: r.Complaint, Use: r.Use, Odometer: r.Odometer,
		Promised: r.Promised.Format(time.DateOnly), OpenedAt: r.OpenedAt.UTC(), PlanHash: r.PlanHash,
		Head: workshop.Head{Seq: r.HeadSeq, Hash: r.HeadHash},
		Place: workshop.Standing{
			Station: book.StationID(r.Station), Step: r.Step, WaitsFor: r.WaitsFor, Verdict: metrology.Verdict(r.Verdict),
			Held: r.Held, Done: r.Done, Steps: r.Steps, Closed: r.Closed,
		},
	}
	for _, part := range []struct {
		raw  []byte
		into any
	}{{r.Vehicle, &out.Vehicle}, {r.Unit, &out.Unit}, {r.OpenedBy, &out.OpenedBy}} {
		if err := json.Unmarshal(part.raw, part.into); err != nil {
			return out, fmt.Errorf("rebuild %s: %w", r.Number, err)
		}
	}
	return out, nil
}

// Open keeps a new rebuild under the next number of its year.
func (s *Store) Open(ctx context.Context, r workshop.Rebuild, p *workshop.Plan, w workshop.Write) (workshop.Rebuild, bool, error) {
	replayed := false
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		before, err := opened(ctx, tx, w)
		if replayed = err == nil; replayed {
			r = before
		}
		if err == nil || !isNotFound(err) {
			return err
		}
		year := r.OpenedAt.Year()
		var n int
		err = tx.GetContext(ctx, &n, `INSERT INTO number_counter (year, last) VALUES ($1, 1)
			ON CONFLICT (year) DO UPDATE SET last = number_counter.last + 1 RETURNING last`, year)
		if err != nil {
			return err
		}
		r.Number = fmt.Sprintf("%02d-%03d", year%100, n)
		r.Head = workshop.Head{Seq: 0, Hash: r.Seal()}
		return insertRebuild(ctx, tx, r, p, w)
	})
	if isUnique(err) {
		// The same key raced us and won: its rebuild is the answer.
		r, err = opened(ctx, s.db, w)
		return r, err == nil, err
	}
	if err == nil && !replayed {
		s.plans.put(p)
		s.heralds.tell(Event{Rebuild: r.ID})
	}
	return r, replayed, s.full.note(err)
}

// opened finds the rebuild that the same request made before.
func opened(ctx context.Context, q sqlx.QueryerContext, w workshop.Write) (workshop.Rebuild, error) {
	r, err := selectRebuild(ctx, q, `WHERE open_key = $1`, w.Key)
	if err != nil {
		return r, err
	}
	var digest string
	if err := sqlx.GetContext(ctx, q, &digest, `SELECT open_digest FROM rebuild WHERE id = $1`, r.ID); err != nil {
		return r, err
	}
	if digest != "" && digest != w.Digest { // kept since the digest is
		return r, workshop.Refusal{Reason: workshop.Conflict, Why: workshop.KeyOfAnotherOrder}
	}
	return r, nil
}

func insertRebuild(ctx context.Context, tx *sqlx.Tx, r workshop.Rebuild, p *workshop.Plan, w workshop.Write) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO plan_copy (hash, body) VALUES ($1, $2) ON CONFLICT DO NOTHING`, p.Hash, []byte(p.Raw))
	if err != nil {
		return err
	}
	var parts [3][]byte
	for i, v := range []any{r.Vehicle, r.Unit, r.OpenedBy} {
		if parts[i], err = json.Marshal(v); err != nil {
			return err
		}
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO rebuild (id, number, open_key, open_digest, complaint, vehicle, unit, use, odometer, promised,
			opened_at, opened_by, plan_hash, head_seq, head_hash, station, step, waits_for, verdict, held, done, steps, closed)
		VALUES ($1, $2, NULLIF($3, ''), $4, $5, $6, $7, $8, $9, CAST($10 AS date), $11, $12, $13, $14, $15, $16, $17, $18, $19, $20, $21, $22, $23)`,
		r.ID, r.Number, w.Key, w.Digest, r.Complaint, parts[0], parts[1], r.Use, r.Odometer, r.Promised, r.OpenedAt, parts[2], r.PlanHash,
		r.Head.Seq, r.Head.Hash, r.Place.Station, r.Place.Step, r.Place.WaitsFor, r.Place.Verdict, r.Place.Held, r.Place.Done, r.Place.Steps, r.Place.Closed)
	return err
}

// selectRebuild reads one rebuild by a condition with one argument.
func selectRebuild(ctx context.Context, q sqlx.QueryerContext, where string, arg any) (workshop.Rebuild, error) {
	var row rebuildRow
	err := sqlx.GetContext(ctx, q, &row, `SELECT `+rebuildColumns+` FROM rebuild `+where, arg)
	if errors.Is(err, sql.ErrNoRows) || isBadUUID(err) {
		return workshop.Rebuild{}, workshop.Refusal{Reason: workshop.NotFound, Why: workshop.NoSuchRebuild}
	}
	if err != nil {
		return workshop.Rebuild{}, err
	}
	return row.rebuild()
}

// Board lists rebuilds, the earliest promise first.
func (s *Store) Board(ctx context.Context, q workshop.BoardQuery) ([]workshop.Rebuild, error) {
	order, behind := `promised, number`, `>`
	if q.Closed {
		order, behind = `promised DESC, number DESC`, `<` // the latest hand-overs
	}
	where, args := `closed = $1`, []any{q.Closed, q.Limit}
	if q.After != nil {
		where += ` AND (promised, number) ` + behind + ` ($3, $4)`
		args = append(args, q.After.Promised, q.After.Number)
	}
	var rows []rebuildRow
	err := s.db.SelectContext(ctx, &rows, `SELECT `+rebuildColumns+` FROM rebuild WHERE `+where+` ORDER BY `+order+` LIMIT $2`, args...)
	if err != nil {
		return nil, err
	}
	out := make([]workshop.Rebuild, 0, len(rows))
	for _, row := range rows {
		r, err := row.rebuild()
		if err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, nil
}

// Fleet lists the vehicles.
func (s *Store) Fleet(ctx context.Context) ([]workshop.Vehicle, error) {
	var rows [][]byte
	if err := s.db.SelectContext(ctx, &rows, `SELECT body FROM vehicle ORDER BY id`); err != nil {
		return nil, err
	}
	fleet := make([]workshop.Vehicle, len(rows))
	for i, raw := range rows {
		if err := json.Unmarshal(raw, &fleet[i]); err != nil {
			return nil, fmt.Errorf("fleet: %w", err)
		}
	}
	return fleet, nil
}
