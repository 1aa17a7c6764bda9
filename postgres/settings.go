package postgres

import (
	"context"

	"github.com/jmoiron/sqlx"

	"handwerk/workshop"
)

// StockLine is one size of a drawer as entered by the shop.
type StockLine struct {
	Drawer, Thickness, Name string
	Count, Place            int
}

// Once runs load the first time it is asked for under this name, in any
// process; an interrupted load counts as not done.
func (s *Store) Once(ctx context.Context, name string, load func() error) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		// Others who ask for the same name wait here until this one is done.
		if _, err := tx.ExecContext(ctx, `SELECT pg_advisory_xact_lock(hashtext($1))`, name); err != nil {
			return err
		}
		var done bool
		if err := tx.GetContext(ctx, &done, `SELECT EXISTS (SELECT 1 FROM setting WHERE name = $1)`, name); err != nil || done {
			return err
		}
		if err := load(); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO setting (name, value) VALUES ($1, 'done')`, name)
		return err
	})
}

// KeepFleet enters vehicles and drawers that are not there yet.
func (s *Store) KeepFleet(ctx context.Context, fleet []workshop.Vehicle, stock []StockLine) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, v := range fleet {
			raw, err := marshal(v)
			if err != nil {
				return err
			}
			if _, err := tx.ExecContext(ctx, `INSERT INTO vehicle (id, body) VALUES ($1, $2) ON CONFLICT DO NOTHING`, v.ID, raw); err != nil {
				return err
			}
		}
		for _, l := range stock {
			_, err := tx.ExecContext(ctx, `INSERT INTO drawer_item (drawer, thickness, name, count, place)
				VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING`, l.Drawer, l.Thickness, l.Name, l.Count, l.Place)
			if err != nil {
				return err
			}
		}
		return nil
	})
}
