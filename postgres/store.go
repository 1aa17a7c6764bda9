package postgres

import (
	"context"
	"database/sql"
	"errors"
	"strconv"
	"sync"

	"github.com/jmoiron/sqlx"

	"handwerk/core/metrology"
	"handwerk/workshop/kinds"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// planCache keeps prepared plans; copies never change, so they never go stale.
type planCache struct {
	mu    sync.Mutex
	plans map[string]*record.Plan
}

const cachedPlans = 64

func (c *planCache) get(hash string) (*record.Plan, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	p, ok := c.plans[hash]
	return p, ok
}

func (c *planCache) put(p *record.Plan) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.plans == nil || len(c.plans) >= cachedPlans {
		c.plans = map[string]*record.Plan{}
	}
	c.plans[p.Hash] = p
}

// Plan reads a copy of the book.
func (s Records) Plan(ctx context.Context, hash string) (*record.Plan, error) {
	if p, ok := s.plans.get(hash); ok {
		return p, nil
	}
	p, err := s.readPlan(ctx, hash)
	if err == nil {
		s.plans.put(p)
	}
	return p, err
}

// readPlan reads it from the database, whatever is remembered.
func (s Records) readPlan(ctx context.Context, hash string) (*record.Plan, error) {
	var raw []byte
	err := s.DB.GetContext(ctx, &raw, `SELECT body FROM plan_copy WHERE hash = $1`, hash)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, say.Refusal{Reason: say.NotFound, Why: say.NoSuchPlan}
	}
	if err != nil {
		return nil, err
	}
	return kinds.ReadPlan(raw)
}

// Ledger reads one rebuild with its whole record. What is kept folded is as
// good as the database as long as the head is the same; if entries came since,
// only those are read.
func (s Records) Ledger(ctx context.Context, id string) (record.Ledger, error) {
	r, err := selectRebuild(ctx, s.DB, `WHERE r.id = $1`, id)
	if err != nil {
		return record.Ledger{}, err
	}
	return s.ledger(ctx, r)
}

// LedgerByNumber is Ledger for people, who say 26-014.
func (s Records) LedgerByNumber(ctx context.Context, number string) (record.Ledger, error) {
	r, err := selectRebuild(ctx, s.DB, `WHERE r.number = $1`, number)
	if err != nil {
		return record.Ledger{}, err
	}
	return s.ledger(ctx, r)
}

func (s Records) ledger(ctx context.Context, r record.Rebuild) (record.Ledger, error) {
	kept, ok := s.ledgers.get(r.ID)
	switch {
	case ok && kept.Rebuild.Head == r.Head:
		kept.Rebuild = r
		return s.asked(ctx, kept), nil
	case ok && kept.Rebuild.Head.Seq < r.Head.Seq:
		if grown, followed, err := s.follow(ctx, kept, r); err != nil || followed {
			return s.asked(ctx, grown), err
		}
	}
	p, err := s.Plan(ctx, r.PlanHash)
	if err != nil {
		return record.Ledger{}, err
	}
	entries, err := selectEntries(ctx, s.DB, r.ID, 0, r.Head.Seq)
	if err != nil {
		return record.Ledger{}, err
	}
	return s.folded(ctx, r, p, entries), nil
}

// folded is a record that was read from its first entry.
func (s Records) folded(ctx context.Context, r record.Rebuild, p *record.Plan, entries []record.Entry) record.Ledger {
	l := record.Ledger{
		Rebuild:  r,
		Plan:     p,
		Entries:  entries,
		Zone:     s.zone.Load(),
		Units:    s.readsIn(),
		Currency: s.Currency(),
	}.Fold()
	if len(entries) == r.Head.Seq { // a broken record is shown, but not built upon
		s.ledgers.put(l)
	}
	return s.asked(ctx, l)
}

// fewNew is how many new entries are folded one by one; more are folded at once.
const fewNew = 64

// follow folds the entries since a kept ledger, if they are its continuation.
func (s Records) follow(ctx context.Context, kept record.Ledger, r record.Rebuild) (record.Ledger, bool, error) {
	if r.Head.Seq-kept.Rebuild.Head.Seq > fewNew {
		return kept, false, nil
	}
	news, err := selectEntries(ctx, s.DB, r.ID, kept.Rebuild.Head.Seq, r.Head.Seq)
	if err != nil {
		return kept, false, err
	}
	for _, e := range news {
		if e.Seq != kept.Rebuild.Head.Seq+1 || e.Chain(kept.Rebuild.Head.Hash) != e.Hash {
			return kept, false, nil
		}
		kept = kept.With(e)
	}
	if kept.Rebuild.Head != r.Head {
		return kept, false, nil
	}
	kept.Rebuild = r
	s.ledgers.put(kept)
	return kept, true, nil
}

// asked adds what the rules may ask beyond the record. Nobody asks while a
// transaction is held. The questions hold the rebuild alone: were it the ledger,
// each would hold the one before it, and nothing would ever be let go.
func (s Records) asked(ctx context.Context, l record.Ledger) record.Ledger {
	r, family := l.Rebuild, l.Plan.Sheet.ID
	l.Asks = record.Asks{
		Drawer:      func(name string) (record.Drawer, error) { return selectDrawer(ctx, s.DB, name) },
		DrawerOf:    func(wanted string) (string, error) { return s.rooms.drawerOf(ctx, family, wanted) },
		DrawerNames: func() ([]shop.DrawerName, error) { return s.rooms.drawerNames(ctx) },

		Photo:     func(photo string) (string, error) { return selectPhotoHash(ctx, s.DB, r.ID, photo) },
		Gauges:    func() ([]shop.Gauge, error) { return s.rooms.Gauges(ctx) },
		Repeats:   func() (map[string]metrology.Pool, error) { return s.rooms.Pools(ctx) },
		Earlier:   func() ([]record.Ledger, error) { return s.earlier(ctx, r) },
		Confirmed: func() (map[string]int, error) { return selectConfirmed(ctx, s.DB) },
	}
	return l
}

// fewEarlier are the rebuilds of a unit that are looked at for what was measured last time.
const fewEarlier = 3

// earlier reads the unit's rebuilds before one.
func (s Records) earlier(ctx context.Context, r record.Rebuild) ([]record.Ledger, error) {
	list, err := s.rebuilds(
		ctx,
		`WHERE r.unit_id = $1 AND (r.opened_at, r.id) < ($2, $3) ORDER BY r.opened_at DESC, r.id DESC LIMIT `+
			strconv.Itoa(fewEarlier),
		unitOf(r), r.OpenedAt, r.ID,
	)
	if err != nil {
		return nil, err
	}
	return s.Ledgers(ctx, list)
}

// Ledgers reads the records of rebuilds that were just listed: those not kept
// folded with two questions, however many they are.
func (s Records) Ledgers(ctx context.Context, list []record.Rebuild) ([]record.Ledger, error) {
	ledgers := make([]record.Ledger, len(list))
	ids, heads := []string{}, []int{}
	plans := map[string]*record.Plan{}
	for i, r := range list {
		if kept, ok := s.ledgers.get(r.ID); ok && kept.Rebuild.Head == r.Head {
			kept.Rebuild = r
			ledgers[i] = s.asked(ctx, kept)
			continue
		}
		ids, heads = append(ids, r.ID), append(heads, r.Head.Seq)
		plans[r.PlanHash] = nil
	}
	if len(ids) == 0 {
		return ledgers, nil
	}
	if err := s.readPlans(ctx, plans); err != nil {
		return nil, err
	}
	// As with one: up to the heads that were read before, so that they agree without a transaction.
	rows, err := s.DB.QueryContext(ctx, entriesOf+` JOIN unnest($1::uuid[], $2::int[]) AS r (id, head)
		ON e.rebuild_id = r.id AND e.seq <= r.head ORDER BY e.rebuild_id, e.seq`, ids, heads)
	if err != nil {
		return nil, err
	}
	entries, err := scanEntries(rows)
	if err != nil {
		return nil, err
	}
	for i, r := range list {
		if ledgers[i].Plan == nil {
			ledgers[i] = s.folded(ctx, r, plans[r.PlanHash], entries[r.ID])
		}
	}
	return ledgers, nil
}

// readPlans fills in copies of the book by their hashes.
func (s Records) readPlans(ctx context.Context, plans map[string]*record.Plan) error {
	var wanted []string
	for hash := range plans {
		if p, ok := s.plans.get(hash); ok {
			plans[hash] = p
		} else {
			wanted = append(wanted, hash)
		}
	}
	if len(wanted) == 0 {
		return nil
	}
	var bodies [][]byte
	if err := s.DB.SelectContext(ctx, &bodies, `SELECT body FROM plan_copy WHERE hash = ANY($1)`, wanted); err != nil {
		return err
	}
	for _, raw := range bodies {
		p, err := kinds.ReadPlan(raw)
		if err != nil {
			return err
		}
		s.plans.put(p)
		plans[p.Hash] = p
	}
	for _, p := range plans {
		if p == nil {
			return say.Refusal{Reason: say.NotFound, Why: say.NoSuchPlan}
		}
	}
	return nil
}

// selectEntries reads the record up to the head that was read before it, so
// that the two agree without a transaction.
func selectEntries(ctx context.Context, q sqlx.QueryerContext, rebuild string, after, head int) ([]record.Entry,
	error) {
	rows, err := q.QueryContext(ctx, entriesOf+` WHERE rebuild_id = $1 AND seq > $2 AND seq <= $3 ORDER BY seq`,
		rebuild, after, head)
	if err != nil {
		return nil, err
	}
	entries, err := scanEntries(rows)
	return entries[rebuild], err
}

const entriesOf = `SELECT e.rebuild_id, e.id, seq, step, act, item, COALESCE(CAST(supersedes AS text), ''), body, result,
	method, verdict, by_login, by_name, by_role, at, hash FROM entry e`

// scanEntries reads entries by the rebuild they belong to.
func scanEntries(rows *sql.Rows) (map[string][]record.Entry, error) {
	defer func() { _ = rows.Close() }()
	entries := map[string][]record.Entry{}
	for rows.Next() {
		var e record.Entry
		var rebuild, item string
		var body, result []byte
		err := rows.Scan(&rebuild, &e.ID, &e.Seq, &e.Step, &e.Act, &item, &e.Supersedes, &body, &result,
			&e.Method, &e.Verdict, &e.By.Login, &e.By.Name, &e.By.Role, &e.At, &e.Hash)
		if err != nil {
			return nil, err
		}
		e.Item, e.Body, e.Result, e.At = record.ReadPlace(item), body, result, e.At.UTC()
		entries[rebuild] = append(entries[rebuild], e)
	}
	return entries, rows.Err()
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

func isNotFound(err error) bool {
	var refusal say.Refusal
	return errors.As(err, &refusal) && refusal.Reason == say.NotFound
}
