package postgres

import (
	"context"
	"database/sql"
	"errors"
	"iter"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/postgres/conn"
	"handwerk/workshop"
	"handwerk/workshop/say"
)

// KeepPhoto keeps a picture of a rebuild.
func (s Pictures) KeepPhoto(ctx context.Context, p workshop.Photo) error {
	if _, err := selectRebuild(ctx, s.DB, `WHERE r.id = $1`, p.Rebuild); err != nil {
		return err
	}
	return s.InTx(ctx, func(tx *sqlx.Tx) error { return insertPhoto(ctx, tx, p) })
}

func insertPhoto(ctx context.Context, tx *sqlx.Tx, p workshop.Photo) error {
	_, err := tx.ExecContext(
		ctx,
		`INSERT INTO photo (id, rebuild_id, sha256, type, width, height, bytes, by_login, by_name, by_role, at)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) ON CONFLICT (id) DO NOTHING`,
		p.ID,
		p.Rebuild,
		p.SHA256,
		p.Type,
		p.Width,
		p.Height,
		p.Bytes,
		p.By.Login,
		p.By.Name,
		p.By.Role,
		p.At,
	)
	return err
}

const photoColumns = `SELECT id, rebuild_id, sha256, type, width, height, bytes, by_login, by_name, by_role, at FROM photo `

func scanPhoto(row interface{ Scan(...any) error }) (workshop.Photo, error) {
	var p workshop.Photo
	err := row.Scan(&p.ID, &p.Rebuild, &p.SHA256, &p.Type, &p.Width, &p.Height, &p.Bytes, &p.By.Login, &p.By.Name,
		&p.By.Role, &p.At)
	p.At = p.At.UTC()
	return p, err
}

// Exists tells whether there is such a rebuild; the error says no.
func (s Pictures) Exists(ctx context.Context, id string) error {
	_, err := selectRebuild(ctx, s.DB, `WHERE r.id = $1`, id)
	return err
}

// ForgetUnshown takes away pictures that no entry shows and that were taken
// before a time: sent, and then not used. The store must be the owner's.
func (s Pictures) ForgetUnshown(ctx context.Context, before time.Time) (gone int64, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		// Nobody deletes a picture but here, and only what the record does not name.
		if _, err := tx.ExecContext(
			ctx,
			`GRANT DELETE ON photo TO CURRENT_USER; ALTER TABLE photo DISABLE TRIGGER photo_kept`,
		); err != nil {
			return err
		}
		res, err := tx.ExecContext(ctx, `DELETE FROM photo p WHERE p.at < $1 AND NOT EXISTS (
			SELECT FROM entry e WHERE e.rebuild_id = p.rebuild_id AND position(CAST(p.id AS text) IN CAST(e.body AS text)) > 0)`, before)
		if err != nil {
			return err
		}
		if gone, err = res.RowsAffected(); err != nil {
			return err
		}
		_, err = tx.ExecContext(
			ctx,
			`ALTER TABLE photo ENABLE TRIGGER photo_kept; REVOKE DELETE ON photo FROM CURRENT_USER`,
		)
		return err
	})
	return gone, err
}

// Photo reads a picture.
func (s Pictures) Photo(ctx context.Context, id string) (workshop.Photo, error) {
	p, err := scanPhoto(s.DB.QueryRowContext(ctx, photoColumns+`WHERE id = $1`, id))
	if errors.Is(err, sql.ErrNoRows) || conn.IsBadUUID(err) {
		return p, say.Refusal{Reason: say.NotFound, Why: say.NoSuchPicture}
	}
	return p, err
}

// Photos reads the pictures of a rebuild one at a time, in the order they were
// taken; between two of them no connection is held, and only one is in memory.
func (s Pictures) Photos(ctx context.Context, rebuild string) iter.Seq2[workshop.Photo, error] {
	return func(yield func(workshop.Photo, error) bool) {
		var ids []string
		if err := s.DB.SelectContext(ctx, &ids, `SELECT id FROM photo WHERE rebuild_id = $1 ORDER BY at, id`,
			rebuild); err != nil {
			yield(workshop.Photo{}, err)
			return
		}
		for _, id := range ids {
			p, err := s.Photo(ctx, id)
			if !yield(p, err) || err != nil {
				return
			}
		}
	}
}

// selectPhotoHash gives the digest of a rebuild's picture, empty when it has none such.
func selectPhotoHash(ctx context.Context, q sqlx.QueryerContext, rebuild, id string) (string, error) {
	var hash string
	err := sqlx.GetContext(ctx, q, &hash, `SELECT sha256 FROM photo WHERE id = $1 AND rebuild_id = $2`, id, rebuild)
	if errors.Is(err, sql.ErrNoRows) || conn.IsBadUUID(err) {
		return "", nil
	}
	return hash, err
}
