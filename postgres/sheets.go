package postgres

import (
	"context"
	"encoding/json"
	"time"

	"handwerk/workshop"
)

// Sheets lists the latest version of each sheet the shop wrote.
func (s *Store) Sheets(ctx context.Context) ([]workshop.FoundSheet, error) {
	list := []workshop.FoundSheet{}
	err := s.db.SelectContext(ctx, &list, `SELECT DISTINCT ON (id) id, body ->> 'family' AS family, version FROM sheet ORDER BY id, version DESC`)
	return list, err
}

// SheetVersions reads the latest versions of one.
func (s *Store) SheetVersions(ctx context.Context, id string, most int) ([]workshop.SheetVersion, error) {
	var rows []struct {
		Body, By []byte
		At       time.Time
		Why      string
	}
	if err := s.db.SelectContext(ctx, &rows, `SELECT body, by, at, why FROM sheet WHERE id = $1 ORDER BY version DESC LIMIT $2`, id, most); err != nil {
		return nil, err
	}
	list := make([]workshop.SheetVersion, len(rows))
	for i, r := range rows {
		list[i].At, list[i].Why = r.At.UTC(), r.Why
		if err := json.Unmarshal(r.Body, &list[i].Sheet); err != nil {
			return nil, err
		}
		if err := json.Unmarshal(r.By, &list[i].By); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// KeepSheet keeps a version, if nobody kept it before.
func (s *Store) KeepSheet(ctx context.Context, v workshop.SheetVersion) (bool, error) {
	body, err := marshal(v.Sheet)
	if err != nil {
		return false, err
	}
	by, err := marshal(v.By)
	if err != nil {
		return false, err
	}
	res, err := s.db.ExecContext(ctx, `INSERT INTO sheet (id, version, body, by, at, why) VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT DO NOTHING`,
		v.Sheet.ID, v.Sheet.Version, body, by, v.At, v.Why)
	if err != nil {
		return false, s.full.note(err)
	}
	n, err := res.RowsAffected()
	return n == 1, err
}
