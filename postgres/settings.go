package postgres

import (
	"context"
	"crypto/rand"

	"github.com/jackc/pgx/v5"
	"github.com/jmoiron/sqlx"

	"handwerk/postgres/cluster"
	"handwerk/workshop/shop"
)

// StockLine is one size of a drawer as entered by the shop.
type StockLine struct {
	Drawer, Thickness, Name string
	Count, Place            int
}

// Once runs load the first time it is asked for under this name, in any
// process; an interrupted load counts as not done. The lock is held by a
// connection of its own, so that load has the whole pool.
func (s Settings) Once(ctx context.Context, name string, load func() error) error {
	conn, err := pgx.ConnectConfig(ctx, s.Config)
	if err != nil {
		return cluster.Redact(err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	// Others who ask for the same name wait here until this one is done.
	if _, err := conn.Exec(ctx, `SET statement_timeout = 0; SET lock_timeout = 0`); err != nil {
		return err
	}
	if _, err := conn.Exec(ctx, `SELECT pg_advisory_lock(hashtext($1))`, name); err != nil {
		return err
	}
	done, err := s.Has(ctx, name)
	if err != nil || done {
		return err
	}
	if err := load(); err != nil {
		return err
	}
	_, err = s.DB.ExecContext(ctx, `INSERT INTO setting (name, value) VALUES ($1, 'done')`, name)
	return err
}

// Has tells whether something was done once.
func (s Settings) Has(ctx context.Context, name string) (bool, error) {
	var done bool
	err := s.DB.GetContext(ctx, &done, `SELECT EXISTS (SELECT 1 FROM setting WHERE name = $1)`, name)
	return done, err
}

// Secret is a random text under a name, made once for all processes.
func (s Settings) Secret(ctx context.Context, name string) (string, error) {
	if _, err := s.DB.ExecContext(
		ctx, `INSERT INTO setting (name, value) VALUES ($1, $2) ON CONFLICT DO NOTHING`, name, rand.Text()+rand.Text(),
	); err != nil {
		return "", err
	}
	var secret string
	err := s.DB.GetContext(ctx, &secret, `SELECT value FROM setting WHERE name = $1`, name)
	return secret, err
}

// IsEmpty tells whether nobody has entered anything yet.
func (s Settings) IsEmpty(ctx context.Context) (bool, error) {
	var empty bool
	err := s.DB.GetContext(ctx, &empty, `SELECT NOT EXISTS (SELECT FROM rebuild) AND NOT EXISTS (SELECT FROM account)
		AND NOT EXISTS (SELECT FROM vehicle) AND NOT EXISTS (SELECT FROM drawer_item) AND NOT EXISTS (SELECT FROM log_leaf)`)
	return empty, err
}

// KeepFleet enters vehicles and drawers that are not there yet. Its families
// take their packs from the drawers that the book names.
func (s Settings) KeepFleet(ctx context.Context, fleet []shop.Vehicle, stock []StockLine) error {
	return s.InTx(ctx, func(tx *sqlx.Tx) error {
		for _, v := range fleet {
			if err := keepVehicle(ctx, tx, v); err != nil {
				return err
			}
		}
		for _, l := range stock {
			if err := nameDrawer(ctx, tx, shop.DrawerName{ID: l.Drawer}); err != nil {
				return err
			}
			_, err := tx.ExecContext(ctx, `INSERT INTO drawer_item (drawer, thickness, name, count, place)
				VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING`, l.Drawer, l.Thickness, l.Name, l.Count, l.Place)
			if err != nil {
				return err
			}
		}
		_, err := tx.ExecContext(
			ctx,
			`INSERT INTO family_drawer SELECT DISTINCT u.sheet, d.id, d.id FROM unit u CROSS JOIN drawer d
			ON CONFLICT DO NOTHING`,
		)
		return err
	})
}

// keepVehicle enters a vehicle with its owner by name and its units, named
// within the vehicle.
func keepVehicle(ctx context.Context, tx *sqlx.Tx, v shop.Vehicle) error {
	owner := shop.Customer{Name: v.Owner}
	_, err := tx.ExecContext(ctx, `INSERT INTO customer (name, known_as) VALUES ($1, $2) ON CONFLICT DO NOTHING`,
		owner.Name, owner.SayName())
	if err != nil {
		return err
	}
	facts, err := marshal(factsOf(v))
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO vehicle (id, name, registration, customer_id, facts)
		VALUES ($1, $2, $3, (SELECT id FROM customer WHERE known_as = $4), $5) ON CONFLICT DO NOTHING`, v.ID, v.Name,
		v.Registration, owner.SayName(), facts)
	if err != nil {
		return err
	}
	for _, u := range v.Units {
		_, err := tx.ExecContext(
			ctx,
			`INSERT INTO unit (id, vehicle_id, kind, name, serial, sheet, route, known_as, gears)
			VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) ON CONFLICT DO NOTHING`,
			v.ID+"."+u.ID,
			v.ID,
			u.Kind,
			u.Name,
			u.Serial,
			u.Sheet,
			u.Route,
			u.SayName(v.ID),
			u.Gears,
		)
		if err != nil {
			return err
		}
	}
	return nil
}
