package postgres

import (
	"context"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/workshop"
)

func moveStock(ctx context.Context, tx *sqlx.Tx, m workshop.Move) error {
	res, err := tx.ExecContext(ctx, `UPDATE drawer_item SET count = count - $3 WHERE drawer = $1 AND thickness = $2 AND count >= $3`,
		m.Drawer, m.Thickness, m.Count)
	if err != nil {
		return err
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, input.At("pack", "what is in the drawer", "somebody took the last %s a moment ago", m.Thickness))
	}
	return nil
}

func selectDrawer(ctx context.Context, q sqlx.QueryerContext, name string) (workshop.Drawer, error) {
	var rows []struct {
		Thickness, Name string
		Count           int
	}
	err := sqlx.SelectContext(ctx, q, &rows, `SELECT thickness, name, count FROM drawer_item WHERE drawer = $1 ORDER BY place`, name)
	if err != nil {
		return nil, err
	}
	drawer := workshop.Drawer{}
	for _, r := range rows {
		l, err := quantity.ParseAs[quantity.Length](r.Thickness)
		if err != nil {
			return nil, fmt.Errorf("drawer %s: %w", name, err)
		}
		drawer = append(drawer, shim.StockItem{Thickness: l, Count: &r.Count, Name: r.Name})
	}
	return drawer, nil
}
