package postgres

import (
	"context"
	"encoding/json"
	"time"

	"handwerk/workshop/shop"
)

// tables of what a lead writes in versions, all of one shape.
const (
	sheetTable = "sheet"
	routeTable = "route_own"
)

type writtenRow struct {
	ID       string
	Version  int
	Body, By []byte
	At       time.Time
	Why      string
}

func read[T any](rows []writtenRow) ([]shop.Written[T], error) {
	list := make([]shop.Written[T], len(rows))
	for i, r := range rows {
		list[i] = shop.Written[T]{ID: r.ID, Version: r.Version, At: r.At.UTC(), Why: r.Why}
		if err := json.Unmarshal(r.Body, &list[i].Says); err != nil {
			return nil, err
		}
		if err := json.Unmarshal(r.By, &list[i].By); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// selectVersions reads the latest versions of one.
func selectVersions[T any](ctx context.Context, s *link, table, id string, most int) ([]shop.Written[T], error) {
	var rows []writtenRow
	err := s.DB.SelectContext(
		ctx, &rows, `SELECT id, version, body, by, at, why FROM `+table+
			` WHERE id = $1 ORDER BY version DESC LIMIT $2`, id, most,
	)
	if err != nil {
		return nil, err
	}
	return read[T](rows)
}

// keepVersion keeps a version, if nobody kept it before.
func keepVersion[T any](ctx context.Context, s *link, table string, v shop.Written[T]) (bool, error) {
	body, err := marshal(v.Says)
	if err != nil {
		return false, err
	}
	by, err := marshal(v.By)
	if err != nil {
		return false, err
	}
	res, err := s.DB.ExecContext(ctx, `INSERT INTO `+table+
		` (id, version, body, by, at, why) VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT DO NOTHING`,
		v.ID, v.Version, body, by, v.At, v.Why)
	if err != nil {
		return false, s.full.note(err)
	}
	n, err := res.RowsAffected()
	return n == 1, err
}
