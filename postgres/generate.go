package postgres

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"handwerk/postgres/cluster"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
)

func marshal(v any) ([]byte, error) { return json.Marshal(v) }

// Generate fills the database with n finished copies of a walked rebuild,
// each with its own ids and a chain that holds: the load under which reading
// times are measured.
func (s *Store) Generate(ctx context.Context, model record.Ledger, n int) error {
	if _, err := s.link.DB.ExecContext(
		ctx, `INSERT INTO plan_copy (hash, body) VALUES ($1, $2) ON CONFLICT DO NOTHING`, model.Plan.Hash,
		[]byte(model.Plan.Raw),
	); err != nil {
		return err
	}
	own, err := pgx.ConnectConfig(ctx, s.link.Config)
	if err != nil {
		return cluster.Redact(err)
	}
	defer func() { _ = own.Close(ctx) }()
	const batch = 250
	for at := 0; at < n; at += batch {
		if err := copyBatch(ctx, own, model, at, min(n, at+batch)); err != nil {
			return err
		}
	}
	return s.generateFleet(ctx)
}

// generateFleet gives the generated rebuilds the customers, vehicles and units
// they tell of.
func (s *Store) generateFleet(ctx context.Context) error {
	_, err := s.link.DB.ExecContext(ctx, `
		INSERT INTO customer (name, phone, known_as) SELECT DISTINCT vehicle ->> 'owner', '0 44 ' || (vehicle ->> 'id'), lower(vehicle ->> 'owner') || '/'
			FROM rebuild WHERE vehicle ->> 'id' LIKE 'load-%' ON CONFLICT DO NOTHING;
		INSERT INTO vehicle (id, name, registration, customer_id)
			SELECT DISTINCT ON (vehicle ->> 'id') vehicle ->> 'id', vehicle ->> 'name', 'GV ' || (vehicle ->> 'id'), c.id
			FROM rebuild r JOIN customer c ON c.name = r.vehicle ->> 'owner' WHERE vehicle ->> 'id' LIKE 'load-%' ON CONFLICT DO NOTHING;
		INSERT INTO unit (id, vehicle_id, kind, name, serial, sheet, route, known_as)
			SELECT DISTINCT ON (unit_id) unit_id, vehicle ->> 'id', unit ->> 'kind', unit ->> 'name', unit ->> 'serial', unit ->> 'sheet', unit ->> 'route', unit_id
			FROM rebuild WHERE vehicle ->> 'id' LIKE 'load-%' ON CONFLICT DO NOTHING;
		INSERT INTO rebuild_customer (rebuild_id, customer_id, salt)
			SELECT r.id, c.id, '' FROM rebuild r JOIN customer c ON c.name = r.vehicle ->> 'owner' WHERE vehicle ->> 'id' LIKE 'load-%' ON CONFLICT DO NOTHING;
		ANALYZE rebuild; ANALYZE entry; ANALYZE customer; ANALYZE vehicle; ANALYZE unit; ANALYZE rebuild_customer`)
	return err
}

// eachUnit is how many generated rebuilds one unit has seen.
const eachUnit = 5

func copyBatch(ctx context.Context, own *pgx.Conn, model record.Ledger, from, to int) error {
	var rebuilds, entries [][]any
	for i := from; i < to; i++ {
		r, list := cloned(model, i)
		row, err := copiedRebuild(r, paper.Cause(model))
		if err != nil {
			return err
		}
		rebuilds = append(rebuilds, row)
		for _, e := range list {
			entries = append(entries, copiedEntry(r.ID, e))
		}
	}
	tx, err := own.Begin(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback(ctx) }()
	_, err = tx.CopyFrom(ctx, pgx.Identifier{"rebuild"}, []string{
		"id", "number", "complaint", "vehicle", "unit", "use", "odometer", "promised", "opened_at", "opened_by",
		"plan_hash", "head_seq", "head_hash", "station", "step", "waits_for", "verdict", "held", "done", "steps",
		"closed", "more", "unit_id", "words", "vehicle_id", "due", "hours_left", "cause",
	}, pgx.CopyFromRows(rebuilds))
	if err != nil {
		return err
	}
	_, err = tx.CopyFrom(ctx, pgx.Identifier{"entry"},
		[]string{"rebuild_id", "seq", "id", "step", "act", "item", "supersedes", "body", "result", "method", "verdict",
			"by_login", "by_name", "by_role", "at", "hash", "key", "digest"}, pgx.CopyFromRows(entries))
	if err != nil {
		return err
	}
	return tx.Commit(ctx)
}

// copiedRebuild is a row of rebuild as COPY takes it.
func copiedRebuild(r record.Rebuild, cause string) ([]any, error) {
	vehicle, err1 := marshal(r.Vehicle)
	unit, err2 := marshal(r.Unit)
	by, err3 := marshal(r.OpenedBy)
	promised, err4 := time.Parse(time.DateOnly, r.Promised)
	return []any{r.ID, r.Number, r.Complaint, vehicle, unit, r.Use, r.Odometer, promised, r.OpenedAt, by, r.PlanHash,
			r.Head.Seq, r.Head.Hash, string(r.Place.Station), r.Place.Step, r.Place.WaitsFor, string(r.Place.Verdict),
			r.Place.Held, r.Place.Done, r.Place.Steps, r.Place.Closed, nullable(r.More()), unitOf(r), wordsOf(r),
			r.Vehicle.ID, promised, r.Place.HoursLeft, cause}, errors.Join(
			err1, err2, err3, err4,
		)
}

func copiedEntry(rebuild string, e record.Entry) []any {
	var supersedes any
	if e.Supersedes != "" {
		supersedes = e.Supersedes
	}
	return []any{rebuild, e.Seq, e.ID, e.Step, string(e.Act), e.Item.String(), supersedes, []byte(e.Body),
		nullable(e.Result), e.Method, string(e.Verdict),
		e.By.Login, e.By.Name, string(e.By.Role), e.At, e.Hash, "generated " + e.ID, ""}
}

// cloned is the model under new ids, chained anew.
func cloned(model record.Ledger, i int) (record.Rebuild, []record.Entry) {
	r := model.Rebuild
	r.ID = uuid.Must(uuid.NewV7()).String()
	r.Number = fmt.Sprintf("%02d-g%05d", r.OpenedAt.Year()%100, i)
	unit := i / eachUnit
	r.Vehicle.ID, r.Vehicle.Owner = fmt.Sprintf("load-%05d", unit), fmt.Sprintf("Owner %04d", unit%1500)
	r.Unit.Serial = fmt.Sprintf("G-%05d", unit)
	before := r.Seal()
	list := make([]record.Entry, len(model.Entries))
	renamed := map[string]string{}
	for j, e := range model.Entries {
		id := uuid.Must(uuid.NewV7()).String()
		renamed[e.ID] = id
		e.ID, e.Supersedes = id, renamed[e.Supersedes]
		e.Hash = e.Chain(before)
		before = e.Hash
		list[j] = e
	}
	r.Head = record.Head{Seq: len(list), Hash: before}
	return r, list
}
