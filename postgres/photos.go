package postgres

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"

	"handwerk/workshop"
)

// KeepPhoto keeps a picture of a rebuild.
func (s *Store) KeepPhoto(ctx context.Context, p workshop.Photo) error {
	if _, err := selectRebuild(ctx, s.db, `WHERE id = $1`, p.Rebuild); err != nil {
		return err
	}
	return s.inTx(ctx, func(tx *sqlx.Tx) error { return insertPhoto(ctx, tx, p) })
}

func insertPhoto(ctx context.Context, tx *sqlx.Tx, p workshop.Photo) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO photo (id, rebuild_id, sha256, type, width, height, bytes, by_login, by_name, by_role, at)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		p.ID, p.Rebuild, p.SHA256, p.Type, p.Width, p.Height, p.Bytes, p.By.Login, p.By.Name, p.By.Role, p.At)
	return err
}

const photoColumns = `SELECT id, rebuild_id, sha256, type, width, height, bytes, by_login, by_name, by_role, at FROM photo `

func scanPhoto(row interface{ Scan(...any) error }) (workshop.Photo, error) {
	var p workshop.Photo
	err := row.Scan(&p.ID, &p.Rebuild, &p.SHA256, &p.Type, &p.Width, &p.Height, &p.Bytes, &p.By.Login, &p.By.Name, &p.By.Role, &p.At)
	p.At = p.At.UTC()
	return p, err
}

// Photo reads a picture.
func (s *Store) Photo(ctx context.Context, id string) (workshop.Photo, error) {
	p, err := scanPhoto(s.db.QueryRowContext(ctx, photoColumns+`WHERE id = $1`, id))
	if errors.Is(err, sql.ErrNoRows) || isBadUUID(err) {
		return p, workshop.Refusal{Reason: workshop.NotFound, Text: "there is no such picture"}
	}
	return p, err
}

// Photos reads all pictures of a rebuild, for its archive.
func (s *Store) Photos(ctx context.Context, rebuild string) ([]workshop.Photo, error) {
	rows, err := s.db.QueryContext(ctx, photoColumns+`WHERE rebuild_id = $1 ORDER BY at, id`, rebuild)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	photos := []workshop.Photo{}
	for rows.Next() {
		p, err := scanPhoto(rows)
		if err != nil {
			return nil, err
		}
		photos = append(photos, p)
	}
	return photos, rows.Err()
}

func photoKnown(ctx context.Context, q sqlx.QueryerContext, rebuild, id string) (bool, error) {
	var known bool
	err := sqlx.GetContext(ctx, q, &known, `SELECT EXISTS (SELECT 1 FROM photo WHERE CAST(id AS text) = $1 AND rebuild_id = $2)`, id, rebuild)
	return known, err
}
