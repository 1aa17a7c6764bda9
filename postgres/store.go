package postgres

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"sync"
	"time"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jmoiron/sqlx"

	"handwerk/core/fault"
	"handwerk/core/metrology"
	"handwerk/core/plan"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/workshop"
)

func isClosedEarly(err error) bool {
	return errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) || errors.Is(err, sql.ErrConnDone)
}

// planCache keeps prepared plans; copies never change, so they never go stale.
type planCache struct {
	mu    sync.Mutex
	plans map[string]*workshop.Plan
}

const cachedPlans = 64

func (c *planCache) get(hash string) (*workshop.Plan, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	p, ok := c.plans[hash]
	return p, ok
}

func (c *planCache) put(p *workshop.Plan) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.plans == nil || len(c.plans) >= cachedPlans {
		c.plans = map[string]*workshop.Plan{}
	}
	c.plans[p.Hash] = p
}

// Plan reads a copy of the book.
func (s *Store) Plan(ctx context.Context, hash string) (*workshop.Plan, error) {
	if p, ok := s.plans.get(hash); ok {
		return p, nil
	}
	var raw []byte
	err := s.db.GetContext(ctx, &raw, `SELECT body FROM plan_copy WHERE hash = $1`, hash)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, workshop.Refusal{Reason: workshop.NotFound, Text: "there is no such plan"}
	}
	if err != nil {
		return nil, err
	}
	p, err := workshop.ReadPlan(raw)
	if err != nil {
		return nil, err
	}
	s.plans.put(p)
	return p, nil
}

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
		Place: workshop.Place{
			Station: plan.StationID(r.Station), Step: r.Step, WaitsFor: r.WaitsFor, Verdict: metrology.Verdict(r.Verdict),
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
func (s *Store) Open(ctx context.Context, r workshop.Rebuild, p *workshop.Plan, key string) (workshop.Rebuild, error) {
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		before, err := selectRebuild(ctx, tx, `WHERE open_key = $1`, key)
		if err == nil {
			r = before
			return nil
		}
		if !isNotFound(err) {
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
		return insertRebuild(ctx, tx, r, p, key)
	})
	if isUnique(err) {
		// The same key raced us and won: its rebuild is the answer.
		return selectRebuild(ctx, s.db, `WHERE open_key = $1`, key)
	}
	if err == nil {
		s.plans.put(p)
	}
	return r, err
}

func insertRebuild(ctx context.Context, tx *sqlx.Tx, r workshop.Rebuild, p *workshop.Plan, key string) error {
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
	_, err = tx.ExecContext(ctx, `INSERT INTO rebuild (id, number, open_key, complaint, vehicle, unit, use, odometer, promised,
			opened_at, opened_by, plan_hash, head_seq, head_hash, station, step, waits_for, verdict, held, done, steps, closed)
		VALUES ($1, $2, NULLIF($3, ''), $4, $5, $6, $7, $8, CAST($9 AS date), $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $20, $21, $22)`,
		r.ID, r.Number, key, r.Complaint, parts[0], parts[1], r.Use, r.Odometer, r.Promised, r.OpenedAt, parts[2], r.PlanHash,
		r.Head.Seq, r.Head.Hash, r.Place.Station, r.Place.Step, r.Place.WaitsFor, r.Place.Verdict, r.Place.Held, r.Place.Done, r.Place.Steps, r.Place.Closed)
	return err
}

// selectRebuild reads one rebuild by a condition with one argument.
func selectRebuild(ctx context.Context, q sqlx.QueryerContext, where string, arg any) (workshop.Rebuild, error) {
	var row rebuildRow
	err := sqlx.GetContext(ctx, q, &row, `SELECT `+rebuildColumns+` FROM rebuild `+where, arg)
	if errors.Is(err, sql.ErrNoRows) || isBadUUID(err) {
		return workshop.Rebuild{}, workshop.Refusal{Reason: workshop.NotFound, Text: "there is no such rebuild"}
	}
	if err != nil {
		return workshop.Rebuild{}, err
	}
	return row.rebuild()
}

// Ledger reads one rebuild with its whole record: two queries, both by key.
func (s *Store) Ledger(ctx context.Context, id string) (workshop.Ledger, error) {
	r, err := selectRebuild(ctx, s.db, `WHERE id = $1`, id)
	if err != nil {
		return workshop.Ledger{}, err
	}
	return s.ledger(ctx, s.db, r)
}

// LedgerByNumber is Ledger for people, who say 26-014.
func (s *Store) LedgerByNumber(ctx context.Context, number string) (workshop.Ledger, error) {
	r, err := selectRebuild(ctx, s.db, `WHERE number = $1`, number)
	if err != nil {
		return workshop.Ledger{}, err
	}
	return s.ledger(ctx, s.db, r)
}

func (s *Store) ledger(ctx context.Context, q sqlx.QueryerContext, r workshop.Rebuild) (workshop.Ledger, error) {
	p, err := s.Plan(ctx, r.PlanHash)
	if err != nil {
		return workshop.Ledger{}, err
	}
	entries, err := selectEntries(ctx, q, r.ID, r.Head.Seq)
	return workshop.Ledger{
		Rebuild: r, Plan: p, Entries: entries,
		Drawer: func(name string) (workshop.Drawer, error) { return selectDrawer(ctx, q, name) },
		Photo:  func(id string) (bool, error) { return photoKnown(ctx, q, r.ID, id) },

		Confirmed: func() (map[string]int, error) { return selectConfirmed(ctx, q) },
	}, err
}

// selectEntries reads the record up to the head that was read before it, so
// that the two agree without a transaction.
func selectEntries(ctx context.Context, q sqlx.QueryerContext, rebuild string, head int) ([]workshop.Entry, error) {
	rows, err := q.QueryContext(ctx, `SELECT id, seq, step, act, item, COALESCE(CAST(supersedes AS text), ''), body, result,
			method, verdict, by_login, by_name, by_role, at, hash
		FROM entry WHERE rebuild_id = $1 AND seq <= $2 ORDER BY seq`, rebuild, head)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	entries := make([]workshop.Entry, 0, min(head, 256))
	for rows.Next() {
		var e workshop.Entry
		var body, result []byte
		err := rows.Scan(&e.ID, &e.Seq, &e.Step, &e.Act, &e.Item, &e.Supersedes, &body, &result,
			&e.Method, &e.Verdict, &e.By.Login, &e.By.Name, &e.By.Role, &e.At, &e.Hash)
		if err != nil {
			return nil, err
		}
		e.Body, e.Result, e.At = body, result, e.At.UTC()
		entries = append(entries, e)
	}
	return entries, rows.Err()
}

// Append holds the rebuild's row, lets the rules decide on its whole record,
// and keeps the entry, the drawer's change and the new head together or not
// at all. Open screens are told when it is done.
func (s *Store) Append(ctx context.Context, id string, w workshop.Write, decide func(workshop.Ledger) (workshop.Proposal, error)) (workshop.Entry, bool, error) {
	var entry workshop.Entry
	replayed := false
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		r, err := selectRebuild(ctx, tx, `WHERE id = $1 FOR UPDATE`, id)
		if err != nil {
			return err
		}
		l, err := s.ledger(ctx, tx, r)
		if err != nil {
			return err
		}
		if entry, replayed, err = replay(ctx, tx, l, w); replayed || err != nil {
			return err
		}
		p, err := decide(l)
		if err != nil {
			return err
		}
		entry = p.Entry
		return keep(ctx, tx, r.ID, p, w)
	})
	return entry, replayed, err
}

// replay finds the entry that the same request made before.
func replay(ctx context.Context, tx *sqlx.Tx, l workshop.Ledger, w workshop.Write) (workshop.Entry, bool, error) {
	var before struct {
		Seq    int
		Digest string
	}
	err := tx.GetContext(ctx, &before, `SELECT seq, digest FROM entry WHERE rebuild_id = $1 AND key = $2`, l.Rebuild.ID, w.Key)
	if errors.Is(err, sql.ErrNoRows) {
		return workshop.Entry{}, false, nil
	}
	if err != nil {
		return workshop.Entry{}, false, err
	}
	if before.Digest != w.Digest {
		return workshop.Entry{}, false, workshop.Refusal{Reason: workshop.Conflict, Text: "this idempotency key was used for another entry; a new entry needs a new key"}
	}
	return l.Entries[before.Seq-1], true, nil
}

// keep writes a proposal.
func keep(ctx context.Context, tx *sqlx.Tx, rebuild string, p workshop.Proposal, w workshop.Write) error {
	if err := insertEntry(ctx, tx, rebuild, p.Entry, w); err != nil {
		return err
	}
	for _, m := range p.Moves {
		if err := moveStock(ctx, tx, m); err != nil {
			return err
		}
	}
	_, err := tx.ExecContext(ctx, `UPDATE rebuild SET head_seq = $2, head_hash = $3, station = $4, step = $5, waits_for = $6,
			verdict = $7, held = $8, done = $9, steps = $10, closed = $11 WHERE id = $1`,
		rebuild, p.Entry.Seq, p.Entry.Hash, p.Place.Station, p.Place.Step, p.Place.WaitsFor,
		p.Place.Verdict, p.Place.Held, p.Place.Done, p.Place.Steps, p.Place.Closed)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `SELECT pg_notify($1, $2)`, channel, Event{rebuild, p.Entry.Seq, p.Entry.Step}.encode())
	return err
}

func insertEntry(ctx context.Context, tx *sqlx.Tx, rebuild string, e workshop.Entry, w workshop.Write) error {
	var result any
	if e.Result != nil {
		result = []byte(e.Result)
	}
	_, err := tx.ExecContext(ctx, `INSERT INTO entry (rebuild_id, seq, id, step, act, item, supersedes, body, result, method, verdict,
			by_login, by_name, by_role, at, hash, key, digest)
		VALUES ($1, $2, $3, $4, $5, $6, CAST(NULLIF($7, '') AS uuid), $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18)`,
		rebuild, e.Seq, e.ID, e.Step, e.Act, e.Item, e.Supersedes, []byte(e.Body), result, e.Method, e.Verdict,
		e.By.Login, e.By.Name, e.By.Role, e.At, e.Hash, w.Key, w.Digest)
	return err
}

func moveStock(ctx context.Context, tx *sqlx.Tx, m workshop.Move) error {
	res, err := tx.ExecContext(ctx, `UPDATE drawer_item SET count = count - $3 WHERE drawer = $1 AND thickness = $2 AND count >= $3`,
		m.Drawer, m.Thickness, m.Count)
	if err != nil {
		return err
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, fault.At("pack", "what is in the drawer", "somebody took the last %s a moment ago", m.Thickness))
	}
	return nil
}

func selectDrawer(ctx context.Context, q sqlx.QueryerContext, name string) (workshop.Drawer, error) {
	var rows []struct {
		Thickness, Name string
		Count           int
	}
	err := sqlx.SelectContext(ctx, q, &rows, `SELECT thickness, name, count FROM drawer_item WHERE drawer = $1 ORDER BY place`, name)
	if err != nil {
		return nil, err
	}
	drawer := workshop.Drawer{}
	for _, r := range rows {
		l, err := quantity.ParseAs[quantity.Length](r.Thickness)
		if err != nil {
			return nil, fmt.Errorf("drawer %s: %w", name, err)
		}
		drawer = append(drawer, shim.StockItem{Thickness: l, Count: &r.Count, Name: r.Name})
	}
	return drawer, nil
}

// selectConfirmed counts the root causes decided so far, over all rebuilds; a
// partial index holds just these entries.
func selectConfirmed(ctx context.Context, q sqlx.QueryerContext) (map[string]int, error) {
	var rows []struct {
		Cause string
		N     int
	}
	err := sqlx.SelectContext(ctx, q, &rows, `SELECT body ->> 'outcome' AS cause, count(*) AS n FROM entry e
		WHERE act = 'decision' AND step = 'cause' AND NOT EXISTS (SELECT FROM entry s WHERE s.supersedes = e.id)
		GROUP BY 1`)
	counts := map[string]int{}
	for _, r := range rows {
		counts[r.Cause] = r.N
	}
	return counts, err
}

// Board lists rebuilds, the earliest promise first.
func (s *Store) Board(ctx context.Context, q workshop.BoardQuery) ([]workshop.Rebuild, error) {
	order := `promised, number`
	if q.Closed {
		order = `promised DESC, number DESC` // the latest hand-overs
	}
	var rows []rebuildRow
	err := s.db.SelectContext(ctx, &rows, `SELECT `+rebuildColumns+` FROM rebuild WHERE closed = $1 ORDER BY `+order+` LIMIT $2`, q.Closed, q.Limit)
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

// inTx runs f in one transaction.
func (s *Store) inTx(ctx context.Context, f func(*sqlx.Tx) error) error {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }() // does nothing after a commit
	if err := f(tx); err != nil {
		return err
	}
	return tx.Commit()
}

func isUnique(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && pg.Code == "23505"
}

func isBadUUID(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && pg.Code == "22P02"
}

func isNotFound(err error) bool {
	var refusal workshop.Refusal
	return errors.As(err, &refusal) && refusal.Reason == workshop.NotFound
}
