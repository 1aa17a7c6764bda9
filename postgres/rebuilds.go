package postgres

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/postgres/conn"
	"handwerk/workshop"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
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
	Due       time.Time
	HoursLeft float64 `db:"hours_left"`
	More      []byte

	Customer     sql.NullString `db:"customer_id"`
	CustomerName sql.NullString `db:"customer_name"`
	Phone        sql.NullString
	Registration sql.NullString
}

// rebuildColumns are the order and where it stands, and whose it is now.
const rebuildColumns = `r.id, r.number, r.complaint, r.vehicle, r.unit, r.use, r.odometer, r.promised, r.opened_at, r.opened_by,
	r.plan_hash, r.head_seq, r.head_hash, r.station, r.step, r.waits_for, r.verdict, r.held, r.done, r.steps, r.closed, r.due, r.hours_left, r.more,
	k.customer_id, c.name AS customer_name, c.phone, v.registration
	FROM rebuild r LEFT JOIN rebuild_customer k ON k.rebuild_id = r.id LEFT JOIN customer c ON c.id = k.customer_id
		LEFT JOIN vehicle v ON v.id = r.vehicle_id `

func (r rebuildRow) rebuild() (record.Rebuild, error) {
	out := record.Rebuild{
		ID: r.ID, Number: r.Number, Complaint: r.Complaint, Use: r.Use, Odometer: r.Odometer,
		Promised: r.Promised.Format(time.DateOnly), OpenedAt: r.OpenedAt.UTC(), PlanHash: r.PlanHash,
		Head: record.Head{Seq: r.HeadSeq, Hash: r.HeadHash},
		Place: record.Standing{
			Station: book.StationID(r.Station), Step: r.Step, WaitsFor: r.WaitsFor,
			Verdict: metrology.Verdict(r.Verdict),
			Held:    r.Held, Done: r.Done, Steps: r.Steps, Closed: r.Closed,
			Promised: r.Due.Format(time.DateOnly), HoursLeft: r.HoursLeft,
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
	if r.More != nil {
		var more record.More
		if err := json.Unmarshal(r.More, &more); err != nil {
			return out, fmt.Errorf("rebuild %s: %w", r.Number, err)
		}
		out.Told, out.Facts, out.Customer = more.Told, more.Facts, more.Customer
	}
	out.Whose = &shop.Whose{
		Customer: r.Customer.String, Name: r.CustomerName.String, Phone: r.Phone.String,
		Registration: r.Registration.String,
		Erased:       out.Customer != "" && !r.Customer.Valid,
	}
	return out, nil
}

// Open keeps a new rebuild under the next number of its year.
func (s Records) Open(
	ctx context.Context, r record.Rebuild, link shop.Link, p *record.Plan, w workshop.Write,
) (record.Rebuild, bool, error) {
	replayed := false
	err := s.InTx(ctx, func(tx *sqlx.Tx) error {
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
		r.Head = record.Head{Seq: 0, Hash: r.Seal()}
		if err := insertRebuild(ctx, tx, r, p, w, ""); err != nil {
			return err
		}
		return linkCustomer(ctx, tx, r, link)
	})
	if conn.IsUnique(err) {
		// The same key raced us and won: its rebuild is the answer.
		r, err = opened(ctx, s.DB, w)
		return r, err == nil, err
	}
	if err == nil && !replayed {
		if r, err = selectRebuild(ctx, s.DB, `WHERE r.id = $1`, r.ID); err != nil {
			return r, false, err
		}
		s.plans.put(p)
		s.Tell(conn.Event{Rebuild: r.ID})
	}
	return r, replayed, s.full.note(err)
}

// opened finds the rebuild that the same request made before.
func opened(ctx context.Context, q sqlx.QueryerContext, w workshop.Write) (record.Rebuild, error) {
	r, err := selectRebuild(ctx, q, `WHERE r.open_key = $1`, w.Key)
	if err != nil {
		return r, err
	}
	var digest string
	if err := sqlx.GetContext(ctx, q, &digest, `SELECT open_digest FROM rebuild WHERE id = $1`, r.ID); err != nil {
		return r, err
	}
	if digest != "" && digest != w.Digest { // kept since the digest is
		return r, say.Refusal{Reason: say.Conflict, Why: say.KeyOfAnotherOrder}
	}
	return r, nil
}

// linkCustomer keeps apart whose the rebuild is, and what is now known of the
// vehicle.
func linkCustomer(ctx context.Context, tx *sqlx.Tx, r record.Rebuild, link shop.Link) error {
	if link.Customer != "" {
		if err := lockCustomer(ctx, tx, link.Customer, "SHARE"); err != nil {
			return err
		}
		_, err := tx.ExecContext(
			ctx, `INSERT INTO rebuild_customer (rebuild_id, customer_id, salt) VALUES ($1, $2, $3)`, r.ID,
			link.Customer,
			link.Salt,
		)
		if err != nil {
			return err
		}
	}
	if r.Facts.IsZero() {
		return nil
	}
	facts, err := marshal(r.Facts)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `UPDATE vehicle SET facts = $2 WHERE id = $1`, r.Vehicle.ID, facts)
	return err
}

// unitOf is the unit's id; of old, a unit was named within its vehicle.
func unitOf(r record.Rebuild) string {
	if strings.Contains(r.Unit.ID, ".") || say.CanonicalID(r.Unit.ID) {
		return r.Unit.ID
	}
	return r.Vehicle.ID + "." + r.Unit.ID
}

// wordsOf returns the search text of a rebuild, without the customer.
func wordsOf(r record.Rebuild) string {
	return strings.ToLower(strings.Join([]string{r.Number, r.Complaint, r.Vehicle.Name, r.Vehicle.Owner, r.Unit.Name,
		r.Unit.Serial}, " "))
}

func insertRebuild(ctx context.Context, tx *sqlx.Tx, r record.Rebuild, p *record.Plan, w workshop.Write,
	cause string) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO plan_copy (hash, body) VALUES ($1, $2) ON CONFLICT DO NOTHING`, p.Hash,
		[]byte(p.Raw))
	if err != nil {
		return err
	}
	var parts [3][]byte
	for i, v := range []any{r.Vehicle, r.Unit, r.OpenedBy} {
		if parts[i], err = json.Marshal(v); err != nil {
			return err
		}
	}
	_, err = tx.ExecContext(
		ctx,
		`INSERT INTO rebuild (id, number, open_key, open_digest, complaint, vehicle, unit, use, odometer, promised,
			opened_at, opened_by, plan_hash, head_seq, head_hash, station, step, waits_for, verdict, held, done, steps, closed,
			more, unit_id, words, vehicle_id, due, hours_left, cause)
		VALUES ($1, $2, NULLIF($3, ''), $4, $5, $6, $7, $8, $9, CAST($10 AS date), $11, $12, $13, $14, $15, $16, $17, $18, $19, $20, $21, $22, $23, $24, $25, $26, $27, CAST($28 AS date), $29, $30)`,
		r.ID,
		r.Number,
		w.Key,
		w.Digest,
		r.Complaint,
		parts[0],
		parts[1],
		r.Use,
		r.Odometer,
		r.Promised,
		r.OpenedAt,
		parts[2],
		r.PlanHash,
		r.Head.Seq,
		r.Head.Hash,
		r.Place.Station,
		r.Place.Step,
		r.Place.WaitsFor,
		r.Place.Verdict,
		r.Place.Held,
		r.Place.Done,
		r.Place.Steps,
		r.Place.Closed,
		nullable(r.More()),
		unitOf(r),
		wordsOf(r),
		r.Vehicle.ID,
		r.Place.Promised,
		r.Place.HoursLeft,
		cause,
	)
	return err
}

// selectRebuild reads one rebuild by a condition with one argument.
func selectRebuild(ctx context.Context, q sqlx.QueryerContext, where string, arg any) (record.Rebuild, error) {
	var row rebuildRow
	err := sqlx.GetContext(ctx, q, &row, `SELECT `+rebuildColumns+where, arg)
	if errors.Is(err, sql.ErrNoRows) || conn.IsBadUUID(err) {
		return record.Rebuild{}, say.Refusal{Reason: say.NotFound, Why: say.NoSuchRebuild}
	}
	if err != nil {
		return record.Rebuild{}, err
	}
	return row.rebuild()
}

// Board lists rebuilds, the earliest promise first.
func (s Records) Board(ctx context.Context, q workshop.BoardQuery) ([]record.Rebuild, error) {
	order, behind := `r.due, r.number`, `>`
	if q.Closed {
		order, behind = `r.due DESC, r.number DESC`, `<` // the latest hand-overs
	}
	where, args := `WHERE r.closed = $1`, []any{q.Closed, q.Limit}
	if q.After != nil {
		where += ` AND (r.due, r.number) ` + behind + ` ($3, $4)`
		args = append(args, q.After.Promised, q.After.Number)
	}
	return s.rebuilds(ctx, where+` ORDER BY `+order+` LIMIT $2`, args...)
}

// rebuilds reads some.
func (s Records) rebuilds(ctx context.Context, where string, args ...any) ([]record.Rebuild, error) {
	var rows []rebuildRow
	if err := s.DB.SelectContext(ctx, &rows, `SELECT `+rebuildColumns+where, args...); err != nil {
		return nil, err
	}
	out := make([]record.Rebuild, 0, len(rows))
	for _, row := range rows {
		r, err := row.rebuild()
		if err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, nil
}
