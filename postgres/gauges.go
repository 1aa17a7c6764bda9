package postgres

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"handwerk/postgres/conn"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// Gauges are the shop's own, each as it was said of last.
func (s Stock) Gauges(ctx context.Context) ([]shop.Gauge, error) {
	var rows []json.RawMessage
	if err := s.DB.SelectContext(
		ctx,
		&rows,
		`SELECT DISTINCT ON (id) body FROM gauge ORDER BY id, version DESC`,
	); err != nil {
		return nil, err
	}
	list := make([]shop.Gauge, len(rows))
	for i, raw := range rows {
		if err := json.Unmarshal(raw, &list[i]); err != nil {
			return nil, fmt.Errorf("gauge: %w", err)
		}
	}
	return list, nil
}

// KeepGauge keeps what is said of a gauge from now on.
func (s Stock) KeepGauge(ctx context.Context, g shop.Gauge, by people.Person, at time.Time) error {
	body, err := marshal(g)
	if err != nil {
		return err
	}
	_, err = s.DB.ExecContext(ctx, `INSERT INTO gauge (id, version, body, by_login, by_name, at)
		SELECT $1, COALESCE(max(version), 0) + 1, CAST($2 AS json), $3, $4, CAST($5 AS timestamptz) FROM gauge WHERE id = $1`, g.ID, body, by.Login, by.Name, at)
	if conn.IsUnique(err) {
		return say.Refusal{Reason: say.Conflict, Why: say.GaugeMeanwhile, About: []any{g.Name}}
	}
	return s.full.note(err)
}
