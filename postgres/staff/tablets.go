package staff

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"handwerk/workshop/people"
)

// Tablets are those that were enrolled, those in use first.
func (s Benches) Tablets(ctx context.Context) ([]people.Tablet, error) {
	rows, err := s.DB.QueryContext(
		ctx,
		`SELECT id, name, at, ended_at FROM tablet ORDER BY ended_at IS NOT NULL, name, id`,
	)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	list := []people.Tablet{}
	for rows.Next() {
		var t people.Tablet
		if err := rows.Scan(&t.ID, &t.Name, &t.Since, &t.Ended); err != nil {
			return nil, err
		}
		list = append(list, t)
	}
	return list, rows.Err()
}

// Tablet finds one in use by the digest of its token.
func (s Benches) Tablet(ctx context.Context, digest string) (t people.Tablet, ok bool, err error) {
	err = s.DB.QueryRowContext(ctx, `SELECT id, name, at FROM tablet WHERE digest = $1 AND ended_at IS NULL`,
		digest).Scan(&t.ID, &t.Name, &t.Since)
	if errors.Is(err, sql.ErrNoRows) {
		return t, false, nil
	}
	return t, err == nil, err
}

// Enrol keeps a tablet.
func (s Benches) Enrol(ctx context.Context, t people.Tablet, digest string, by people.Person) error {
	_, err := s.DB.ExecContext(
		ctx, `INSERT INTO tablet (id, name, digest, by_login, at) VALUES ($1, $2, $3, $4, $5)`, t.ID, t.Name, digest,
		by.Login,
		t.Since,
	)
	return err
}

// EndTablet lets nobody in there any more; false when there is none such.
func (s Benches) EndTablet(ctx context.Context, id string, at time.Time) (bool, error) {
	done, err := s.DB.ExecContext(
		ctx,
		`UPDATE tablet SET ended_at = $2 WHERE CAST(id AS text) = $1 AND ended_at IS NULL`,
		id,
		at,
	)
	if err != nil {
		return false, err
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return false, err
	}
	_, err = Accounts(s).endSessions(
		ctx,
		`DELETE FROM session WHERE CAST(tablet_id AS text) = $1 RETURNING token_digest`,
		id,
	)
	return true, err
}

// WithPIN are the people who may say who they are by a PIN.
func (s Benches) WithPIN(ctx context.Context) (list []people.Person, err error) {
	err = s.DB.SelectContext(
		ctx,
		&list,
		`SELECT login, name, role FROM account WHERE pin_hash <> '' AND closed_at IS NULL AND NOT program ORDER BY name, login`,
	)
	return list, err
}

// PIN is the hash of a person's PIN; empty where there is none.
func (s Benches) PIN(ctx context.Context, login string) (p people.Person, hash string, err error) {
	err = s.DB.QueryRowContext(ctx, `SELECT login, name, role, pin_hash FROM account WHERE login = $1 AND closed_at IS NULL AND NOT program`, login).
		Scan(&p.Login, &p.Name, &p.Role, &hash)
	if errors.Is(err, sql.ErrNoRows) {
		return p, "", nil
	}
	return p, hash, err
}

// TryPIN counts a PIN before it is looked at; false when too many were wrong and it sleeps.
func (s Benches) TryPIN(ctx context.Context, login string) (awake bool, err error) {
	done, err := s.DB.ExecContext(
		ctx, `UPDATE account SET pin_wrong = pin_wrong + 1 WHERE login = $1 AND pin_hash <> '' AND pin_wrong < $2`,
		login,
		people.WrongPINs,
	)
	if err != nil {
		return false, err
	}
	n, err := done.RowsAffected()
	return n == 1, err
}

// WakePIN forgets the wrong ones: the right one was said, or the password.
func (s Benches) WakePIN(ctx context.Context, login string) error {
	_, err := s.DB.ExecContext(ctx, `UPDATE account SET pin_wrong = 0 WHERE login = $1 AND pin_wrong > 0`, login)
	return err
}

// KeepPIN keeps a new one, or takes it away.
func (s Benches) KeepPIN(ctx context.Context, login, hash string) error {
	_, err := s.DB.ExecContext(ctx, `UPDATE account SET pin_hash = $2, pin_wrong = 0 WHERE login = $1`, login, hash)
	return err
}
