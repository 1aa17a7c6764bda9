package postgres

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/workshop"
)

// KeepAccount adds an account or renews its name, role and password.
func (s *Store) KeepAccount(ctx context.Context, a workshop.Account) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO account (login, name, role, password_hash) VALUES ($1, $2, $3, $4)
		ON CONFLICT (login) DO UPDATE SET name = $2, role = $3, password_hash = $4`, a.Login, a.Name, a.Role, a.PasswordHash)
	return err
}

// Account finds an account; ok is false when there is none.
func (s *Store) Account(ctx context.Context, login string) (a workshop.Account, ok bool, err error) {
	row := s.db.QueryRowContext(ctx, `SELECT login, name, role, password_hash FROM account WHERE login = $1`, login)
	err = row.Scan(&a.Login, &a.Name, &a.Role, &a.PasswordHash)
	if errors.Is(err, sql.ErrNoRows) {
		return a, false, nil
	}
	return a, err == nil, err
}

// KeepSession keeps a new session under the digest of its token and clears
// those that have run out.
func (s *Store) KeepSession(ctx context.Context, digest string, n workshop.Session, now time.Time) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM session WHERE expires < $1`, now); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO session (token_digest, login, csrf, expires) VALUES ($1, $2, $3, $4)`,
			digest, n.Person.Login, n.CSRF, n.Expires)
		return err
	})
}

// Session finds a session that has not run out. Role and name are those of
// the account now, so that a changed role counts at once.
func (s *Store) Session(ctx context.Context, digest string, now time.Time) (n workshop.Session, ok bool, err error) {
	row := s.db.QueryRowContext(ctx, `SELECT a.login, a.name, a.role, s.csrf, s.expires
		FROM session s JOIN account a ON a.login = s.login WHERE s.token_digest = $1 AND s.expires > $2`, digest, now)
	err = row.Scan(&n.Person.Login, &n.Person.Name, &n.Person.Role, &n.CSRF, &n.Expires)
	if errors.Is(err, sql.ErrNoRows) {
		return n, false, nil
	}
	return n, err == nil, err
}

// EndSession signs a browser out.
func (s *Store) EndSession(ctx context.Context, digest string) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM session WHERE token_digest = $1`, digest)
	return err
}

// LoginFailures counts failed sign-ins of a name since a time.
func (s *Store) LoginFailures(ctx context.Context, login string, since time.Time) (n int, err error) {
	err = s.db.GetContext(ctx, &n, `SELECT count(*) FROM login_failure WHERE login = $1 AND at > $2`, login, since)
	return n, err
}

// NoteLoginFailure counts one more and forgets those older than a day.
func (s *Store) NoteLoginFailure(ctx context.Context, login string, at time.Time) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM login_failure WHERE at < $1`, at.Add(-24*time.Hour)); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO login_failure (login, at) VALUES ($1, $2)`, login, at)
		return err
	})
}

// ForgetLoginFailures after a sign-in that worked.
func (s *Store) ForgetLoginFailures(ctx context.Context, login string) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM login_failure WHERE login = $1`, login)
	return err
}
