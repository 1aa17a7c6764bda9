package postgres

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/postgres/conn"
	"handwerk/workshop"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

type customerRow struct {
	ID       string
	Name     string
	Phone    string
	Mail     string
	Address  string
	Since    time.Time
	ErasedAt *time.Time `db:"erased_at"`
}

func (r customerRow) customer() shop.Customer {
	return shop.Customer{ID: r.ID, Name: r.Name, Phone: r.Phone, Mail: r.Mail, Address: r.Address,
		Since: r.Since.UTC(), ErasedAt: r.ErasedAt}
}

// AddCustomer keeps one, or gives the one who is known by that name and number.
func (s Garage) AddCustomer(ctx context.Context, c shop.Customer) (shop.Customer, bool, error) {
	var row customerRow
	err := s.DB.GetContext(
		ctx,
		&row,
		`INSERT INTO customer (id, name, phone, mail, address, known_as, since) VALUES ($1, $2, $3, $4, $5, $6, $7)
		ON CONFLICT (known_as) DO NOTHING RETURNING `+customerColumns,
		c.ID,
		c.Name,
		c.Phone,
		c.Mail,
		c.Address,
		c.SayName(),
		c.Since,
	)
	there := errors.Is(err, sql.ErrNoRows)
	if there {
		err = s.DB.GetContext(ctx, &row, `SELECT `+customerColumns+` FROM customer WHERE known_as = $1`, c.SayName())
	}
	return row.customer(), there, s.full.note(err)
}

// ChangeCustomer writes him down anew.
func (s Garage) ChangeCustomer(ctx context.Context, c shop.Customer) error {
	err := s.InTx(ctx, func(tx *sqlx.Tx) error {
		// Asked before it is written: the error of a unique index stands in the
		// server's log with the name.
		if _, err := tx.ExecContext(ctx, `SELECT pg_advisory_xact_lock(hashtext('customer ' || $1))`,
			c.SayName()); err != nil {
			return err
		}
		var taken bool
		err := tx.GetContext(
			ctx,
			&taken,
			`SELECT EXISTS (SELECT FROM customer WHERE known_as = $2 AND CAST(id AS text) <> $1)`,
			c.ID,
			c.SayName(),
		)
		if err == nil && taken {
			err = say.Refusal{Reason: say.Conflict, Why: say.KnownCustomer, About: []any{c.Name}}
		}
		if err != nil {
			return err
		}
		res, err := tx.ExecContext(
			ctx,
			`UPDATE customer SET name = $2, phone = $3, mail = $4, address = $5, known_as = $6
			WHERE id = $1 AND erased_at IS NULL`,
			c.ID,
			c.Name,
			c.Phone,
			c.Mail,
			c.Address,
			c.SayName(),
		)
		return oneRow(res, err, say.NoSuchCustomer)
	})
	return s.full.note(err)
}

// Customer reads one with so many of his vehicles and rebuilds.
func (s Garage) Customer(ctx context.Context, id string, most int) (workshop.CustomerPage, error) {
	var row customerRow
	err := s.DB.GetContext(ctx, &row, `SELECT `+customerColumns+` FROM customer WHERE id = $1`, id)
	if errors.Is(err, sql.ErrNoRows) || conn.IsBadUUID(err) {
		return workshop.CustomerPage{}, say.Refusal{Reason: say.NotFound, Why: say.NoSuchCustomer}
	}
	page := workshop.CustomerPage{Customer: row.customer()}
	if err != nil {
		return page, err
	}
	if page.Vehicles, err = s.vehicles(ctx, `WHERE v.customer_id = $1 ORDER BY v.name LIMIT $2`, id, most); err != nil {
		return page, err
	}
	page.Rebuilds, err = s.rooms.rebuilds(ctx, `WHERE k.customer_id = $1 ORDER BY r.opened_at DESC, r.id DESC LIMIT $2`,
		id, most)
	return page, err
}

// lockCustomer holds a customer as he is until the transaction ends: whoever
// gives him a rebuild or a vehicle, and whoever erases him, wait for each other.
func lockCustomer(ctx context.Context, tx *sqlx.Tx, id, how string) error {
	var erased bool
	err := tx.GetContext(ctx, &erased, `SELECT erased_at IS NOT NULL FROM customer WHERE id = $1 FOR `+how, id)
	if errors.Is(err, sql.ErrNoRows) || conn.IsBadUUID(err) || (erased && how == "SHARE") {
		return say.Refusal{Reason: say.NotFound, Why: say.NoSuchCustomer}
	}
	return err
}

// EraseCustomer forgets who he was: the row says nothing any more, the salts of
// his rebuilds go, and the plates of his vehicles. It may be done again.
func (s Garage) EraseCustomer(ctx context.Context, id string, now time.Time) error {
	var gone []string
	err := s.InTx(ctx, func(tx *sqlx.Tx) error {
		if err := lockCustomer(ctx, tx, id, "UPDATE"); err != nil {
			return err
		}
		var open string
		err := tx.GetContext(ctx, &open, `SELECT r.number FROM rebuild r JOIN rebuild_customer k ON k.rebuild_id = r.id
			WHERE k.customer_id = $1 AND NOT r.closed ORDER BY r.number LIMIT 1`, id)
		if err == nil {
			return say.Refusal{Reason: say.Conflict, Why: say.StillOpen, About: []any{open}}
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return oneRow(nil, err, say.NoSuchCustomer)
		}
		res, err := tx.ExecContext(
			ctx,
			`UPDATE customer SET name = '', phone = '', mail = '', address = '', known_as = NULL, erased_at = COALESCE(erased_at, $2)
			WHERE id = $1`,
			id,
			now,
		)
		if err := oneRow(res, err, say.NoSuchCustomer); err != nil {
			return err
		}
		if _, err := tx.ExecContext(
			ctx,
			`UPDATE vehicle SET registration = '', customer_id = NULL WHERE customer_id = $1`,
			id,
		); err != nil {
			return err
		}
		return tx.SelectContext(
			ctx,
			&gone,
			`DELETE FROM rebuild_customer WHERE customer_id = $1 RETURNING rebuild_id`,
			id,
		)
	})
	for _, rebuild := range gone {
		s.ledgers.forget(rebuild)
	}
	if err != nil {
		return s.full.note(err)
	}
	return s.noteErased(id)
}

// unknownCustomer says it in the workshop's words.
func unknownCustomer(err error) error {
	if conn.IsBadUUID(err) || conn.IsNoReference(err) {
		return say.Refusal{Reason: say.NotFound, Why: say.NoSuchCustomer}
	}
	return err
}
