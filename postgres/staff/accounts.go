// Package staff keeps who works here: people, their sessions, programs, and the
// tablets at the bench.
package staff

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/postgres/conn"
	"handwerk/workshop/people"
)

// The rooms of the staff; each is a value of its own.
type (
	Accounts struct{ *conn.Link } // who works here, and the sessions
	Tokens   struct{ *conn.Link } // other programs, which work here by a token
	Benches  struct{ *conn.Link } // the tablets at the bench, and the PINs
)

// KeepAccount adds an account, or renews one; a closed one is open again.
func (s Accounts) KeepAccount(ctx context.Context, a people.Account) error {
	_, err := s.DB.ExecContext(ctx, `INSERT INTO account (login, name, role, password_hash) VALUES ($1, $2, $3, $4)
		ON CONFLICT (login) DO UPDATE SET name = $2, role = $3, password_hash = $4, closed_at = NULL`, a.Login,
		a.Name, a.Role, a.PasswordHash)
	return err
}

// CloseAccount ends an account and all its sessions. The record goes on naming
// its person, so it is never deleted.
func (s Accounts) CloseAccount(ctx context.Context, login string, at time.Time) error {
	if _, err := s.DB.ExecContext(ctx, `UPDATE account SET closed_at = $2 WHERE login = $1 AND closed_at IS NULL`,
		login, at); err != nil {
		return err
	}
	return s.EndSessions(ctx, login, "")
}

// People are all accounts, those who left last.
func (s Accounts) People(ctx context.Context) (list []people.Account, err error) {
	rows, err := s.DB.QueryContext(
		ctx,
		`SELECT login, name, role, closed_at, pin_hash <> '' AND pin_wrong >= $1 FROM account WHERE NOT program ORDER BY closed_at IS NOT NULL, name, login`,
		people.WrongPINs,
	)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var a people.Account
		if err := rows.Scan(&a.Login, &a.Name, &a.Role, &a.ClosedAt, &a.PINAsleep); err != nil {
			return nil, err
		}
		list = append(list, a)
	}
	return list, rows.Err()
}

// AddPerson adds an account; false when the login is somebody's already.
func (s Accounts) AddPerson(ctx context.Context, a people.Account) (added bool, err error) {
	done, err := s.DB.ExecContext(
		ctx,
		`INSERT INTO account (login, name, role, password_hash) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING`,
		a.Login,
		a.Name,
		a.Role,
		a.PasswordHash,
	)
	if err != nil {
		return false, err
	}
	n, err := done.RowsAffected()
	return n == 1, err
}

// ChangePerson keeps what a lead changed; workshop.ErrLastLead when nobody would
// lead then. Two changes at once wait for one another.
func (s Accounts) ChangePerson(ctx context.Context, a people.Account, signedOut bool) error {
	err := s.InTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `SELECT pg_advisory_xact_lock(hashtext('people'))`); err != nil {
			return err
		}
		// Whoever is given a new password is given all anew: his PIN goes too.
		_, err := tx.ExecContext(ctx, `UPDATE account SET name = $2, role = $3, closed_at = $5,
			pin_hash = CASE WHEN password_hash = $4 THEN pin_hash ELSE '' END, password_hash = $4 WHERE login = $1`,
			a.Login, a.Name, a.Role, a.PasswordHash, a.ClosedAt)
		if err != nil {
			return err
		}
		led := false
		if err := tx.GetContext(
			ctx,
			&led,
			`SELECT EXISTS (SELECT FROM account WHERE role = 'lead' AND closed_at IS NULL)`,
		); err != nil {
			return err
		}
		if !led {
			return people.ErrLastLead
		}
		return nil
	})
	if err != nil || !signedOut {
		return err
	}
	return s.EndSessions(ctx, a.Login, "")
}

// Account finds an account; ok is false when there is none.
func (s Accounts) Account(ctx context.Context, login string) (a people.Account, ok bool, err error) {
	row := s.DB.QueryRowContext(
		ctx,
		`SELECT login, name, role, password_hash, closed_at FROM account WHERE login = $1 AND NOT program`,
		login,
	)
	err = row.Scan(&a.Login, &a.Name, &a.Role, &a.PasswordHash, &a.ClosedAt)
	if errors.Is(err, sql.ErrNoRows) {
		return a, false, nil
	}
	return a, err == nil, err
}

// RenewPassword keeps a new password and ends all sessions but one.
func (s Accounts) RenewPassword(ctx context.Context, login, hash, except string) error {
	if _, err := s.DB.ExecContext(ctx, `UPDATE account SET password_hash = $2 WHERE login = $1`, login,
		hash); err != nil {
		return err
	}
	return s.EndSessions(ctx, login, except)
}

// KeepSession keeps a new session under the digest of its token and clears
// those that have run out.
func (s Accounts) KeepSession(ctx context.Context, n people.Session) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `DELETE FROM session WHERE NOT lasting AND (used < $1 OR started < $2)`,
			n.Started.Add(-people.SessionIdle), n.Started.Add(-people.SessionLife))
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(
			ctx,
			`INSERT INTO session (id, token_digest, login, csrf, started, used, browser, address, tablet_id, idle_minutes)
			VALUES ($1, $2, $3, $4, $5, $5, $6, $7, CAST(NULLIF($8, '') AS uuid), $9)`,
			n.ID,
			n.Digest,
			n.Person.Login,
			n.CSRF,
			n.Started,
			n.Browser,
			n.Address,
			n.Tablet,
			n.IdleMinutes,
		)
		return err
	})
}

const sessionColumns = `SELECT s.id, s.token_digest, a.login, a.name, a.role, s.csrf, s.started, s.used, s.browser, s.address, s.lasting, a.board_only,
	COALESCE(CAST(s.tablet_id AS text), ''), s.idle_minutes
	FROM session s JOIN account a ON a.login = s.login `

func scanSession(row interface{ Scan(...any) error }) (n people.Session, err error) {
	err = row.Scan(
		&n.ID, &n.Digest, &n.Person.Login, &n.Person.Name, &n.Person.Role, &n.CSRF, &n.Started, &n.Used, &n.Browser,
		&n.Address, &n.Lasting, &n.Board, &n.Tablet, &n.IdleMinutes,
	)
	return n, err
}

// Session finds a session that has not run out. Role and name are those of
// the account now, so that a changed role counts at once.
func (s Accounts) Session(ctx context.Context, digest string, now time.Time) (people.Session, bool, error) {
	n, err := scanSession(s.DB.QueryRowContext(
		ctx,
		sessionColumns+`WHERE s.token_digest = $1 AND (s.lasting OR (s.used > $2 AND s.started > $3)) AND a.closed_at IS NULL
		AND (s.idle_minutes = 0 OR s.used + make_interval(mins => s.idle_minutes) > CAST($4 AS timestamptz))`,
		digest,
		now.Add(-people.SessionIdle),
		now.Add(-people.SessionLife),
		now,
	))
	if errors.Is(err, sql.ErrNoRows) {
		return n, false, nil
	}
	return n, err == nil, err
}

// UseSession notes that a session is in use.
func (s Accounts) UseSession(ctx context.Context, digest string, now time.Time) error {
	_, err := s.DB.ExecContext(ctx, `UPDATE session SET used = $2 WHERE token_digest = $1 AND used < $2`, digest, now)
	return err
}

// Sessions lists where a person is signed in, the latest first.
func (s Accounts) Sessions(ctx context.Context, login string, now time.Time, most int) ([]people.Session, error) {
	rows, err := s.DB.QueryContext(ctx, sessionColumns+
		`WHERE s.login = $1 AND s.used > $2 AND s.started > $3 ORDER BY s.used DESC, s.id LIMIT $4`,
		login, now.Add(-people.SessionIdle), now.Add(-people.SessionLife), most)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	list := []people.Session{}
	for rows.Next() {
		n, err := scanSession(rows)
		if err != nil {
			return nil, err
		}
		list = append(list, n)
	}
	return list, rows.Err()
}

// EndSession ends one session of a person, by its id; false when he has none such.
func (s Accounts) EndSession(ctx context.Context, login, id string) (bool, error) {
	ended, err := s.endSessions(
		ctx,
		`DELETE FROM session WHERE login = $1 AND CAST(id AS text) = $2 RETURNING token_digest`,
		login,
		id,
	)
	return ended > 0, err
}

// EndSessions ends all sessions of a person but the one with this digest.
func (s Accounts) EndSessions(ctx context.Context, login, except string) error {
	_, err := s.endSessions(ctx, `DELETE FROM session WHERE login = $1 AND token_digest <> $2 RETURNING token_digest`,
		login, except)
	return err
}

// EndDigest ends the session of a token, whoever's it is.
func (s Accounts) EndDigest(ctx context.Context, digest string) error {
	_, err := s.endSessions(ctx, `DELETE FROM session WHERE token_digest = $1 AND NOT lasting RETURNING token_digest`,
		digest)
	return err
}

// LockOut ends every session, token and tablet: what was given out before a
// restore opens nothing after it. It gives how many there were.
func (s Accounts) LockOut(ctx context.Context, at time.Time) (int, error) {
	if _, err := s.DB.ExecContext(ctx, `UPDATE tablet SET ended_at = $1 WHERE ended_at IS NULL`, at); err != nil {
		return 0, err
	}
	return s.endSessions(ctx, `DELETE FROM session RETURNING token_digest`)
}

// endSessions tells every process which streams end.
func (s Accounts) endSessions(ctx context.Context, query string, args ...any) (int, error) {
	var digests []string
	if err := s.DB.SelectContext(ctx, &digests, query, args...); err != nil {
		return 0, err
	}
	for _, d := range digests {
		s.Tell(conn.Event{Session: d})
	}
	return len(digests), nil
}

// CountTry counts one more try of a bucket and gives how many there were in
// its window, this one included, and when the window began. Counting comes
// before trying, so that many at once are not all let through.
func (s Accounts) CountTry(ctx context.Context, bucket string, now time.Time, window time.Duration) (tries int,
	since time.Time, err error) {
	err = s.DB.QueryRowContext(ctx, `INSERT INTO throttle AS t (bucket, since, tries) VALUES ($1, $2, 1)
		ON CONFLICT (bucket) DO UPDATE SET
			tries = CASE WHEN t.since < $3 OR t.since > $4 THEN 1 ELSE t.tries + 1 END, -- later than now: the clock was put right
			since = CASE WHEN t.since < $3 OR t.since > $4 THEN $2 ELSE t.since END
		RETURNING tries, since`, bucket, now, now.Add(-window), now.Add(window)).Scan(&tries, &since)
	return tries, since, err
}

// TakeBackTry after a try that was no guess.
func (s Accounts) TakeBackTry(ctx context.Context, bucket string) error {
	_, err := s.DB.ExecContext(ctx, `UPDATE throttle SET tries = tries - 1 WHERE bucket = $1 AND tries > 0`, bucket)
	return err
}

// ForgetTries clears windows that are over.
func (s Accounts) ForgetTries(ctx context.Context, before time.Time) error {
	_, err := s.DB.ExecContext(ctx, `DELETE FROM throttle WHERE since < $1`, before)
	return err
}
