package staff

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/workshop/people"
)

// Programs are all that work or worked here by a token, those at work first.
func (s Tokens) Programs(ctx context.Context) ([]people.Program, error) {
	rows, err := s.DB.QueryContext(ctx, `SELECT a.login, a.name, a.role, a.board_only, s.started, s.used, a.closed_at
		FROM account a LEFT JOIN session s ON s.login = a.login WHERE a.program ORDER BY a.closed_at IS NOT NULL, a.name, a.login`)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	list := []people.Program{}
	for rows.Next() {
		var p people.Program
		if err := rows.Scan(&p.Person.Login, &p.Person.Name, &p.Person.Role, &p.Board, &p.Since, &p.Used,
			&p.Ended); err != nil {
			return nil, err
		}
		list = append(list, p)
	}
	return list, rows.Err()
}

// AddProgram keeps a program and its session, which lasts; no password opens it.
func (s Tokens) AddProgram(ctx context.Context, p people.Person, n people.Session) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(
			ctx,
			`INSERT INTO account (login, name, role, password_hash, program, board_only) VALUES ($1, $2, $3, '', true, $4)`,
			p.Login,
			p.Name,
			p.Role,
			n.Board,
		)
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(
			ctx,
			`INSERT INTO session (id, token_digest, login, csrf, started, used, browser, address, lasting)
			VALUES ($1, $2, $3, '', $4, $4, '', '', true)`,
			n.ID,
			n.Digest,
			p.Login,
			n.Started,
		)
		return err
	})
}

// EndProgram ends a program's token; the record goes on naming it.
func (s Tokens) EndProgram(ctx context.Context, login string, at time.Time) (bool, error) {
	var program bool
	if err := s.DB.GetContext(ctx, &program, `SELECT EXISTS (SELECT FROM account WHERE login = $1 AND program)`,
		login); err != nil || !program {
		return false, err
	}
	return true, Accounts(s).CloseAccount(ctx, login, at)
}
