package postgres

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// moveStock books what an entry takes from a drawer, or puts back.
func moveStock(ctx context.Context, tx *sqlx.Tx, m record.Move, of record.Entry, rebuild string) error {
	res, err := tx.ExecContext(
		ctx,
		`UPDATE drawer_item SET count = count - $3 WHERE drawer = $1 AND thickness = $2 AND count >= $3`,
		m.Drawer,
		m.Thickness,
		m.Count,
	)
	if err != nil {
		return err
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, input.At("pack", "what is in the drawer", "someone has just taken the last %s",
			m.Thickness))
	}
	return keepMove(ctx, tx, m.Drawer, m.Thickness, -m.Count, string(of.Act), rebuild, of.By, of.At)
}

func keepMove(ctx context.Context, tx *sqlx.Tx, drawer, size string, change int, why, rebuild string,
	by people.Person, at time.Time) error {
	_, err := tx.ExecContext(
		ctx,
		`INSERT INTO drawer_move (drawer, size, change, why, rebuild_id, by_login, by_name, at)
		VALUES ($1, $2, $3, $4, CAST(NULLIF($5, '') AS uuid), $6, $7, $8)`,
		drawer,
		size,
		change,
		why,
		rebuild,
		by.Login,
		by.Name,
		at,
	)
	return err
}

// fewMoves of each drawer are shown.
const fewMoves = 30

// Drawers lists all, with the last moves of each.
func (s Stock) Drawers(ctx context.Context) ([]shop.DrawerPage, error) {
	var items []struct {
		Drawer, Title, Thickness, Name, Bin string
		Count, Least                        int
	}
	if err := s.DB.SelectContext(
		ctx, &items, `SELECT i.drawer, d.title, i.thickness, i.name, i.bin, i.count, i.least
			FROM drawer_item i JOIN drawer d ON d.id = i.drawer ORDER BY i.drawer, i.place`,
	); err != nil {
		return nil, err
	}
	var moves []struct {
		Drawer, Size, Why, Number, Name string
		Change                          int
		At                              time.Time
	}
	err := s.DB.SelectContext(
		ctx,
		&moves,
		`SELECT d.drawer, m.size, m.why, COALESCE(r.number, '') AS number, m.by_name AS name, m.change, m.at
		FROM (SELECT DISTINCT drawer FROM drawer_item) d
		CROSS JOIN LATERAL (SELECT * FROM drawer_move WHERE drawer = d.drawer ORDER BY id DESC LIMIT $1) m
		LEFT JOIN rebuild r ON r.id = m.rebuild_id ORDER BY d.drawer, m.id DESC`,
		fewMoves,
	)
	if err != nil {
		return nil, err
	}
	list := []shop.DrawerPage{}
	for _, i := range items {
		if n := len(list); n == 0 || list[n-1].ID != i.Drawer {
			list = append(list, shop.DrawerPage{ID: i.Drawer, Title: i.Title, Moves: []shop.DrawerMove{}})
		}
		page := &list[len(list)-1]
		page.Items = append(page.Items, shop.DrawerItem{Size: i.Thickness, Name: i.Name, Count: i.Count, Place: i.Bin,
			Least: i.Least})
	}
	for _, m := range moves {
		for i := range list {
			if list[i].ID == m.Drawer {
				list[i].Moves = append(
					list[i].Moves,
					shop.DrawerMove{Size: m.Size, Change: m.Change, Why: m.Why, Number: m.Number, By: m.Name,
						At: m.At.UTC()},
				)
			}
		}
	}
	return list, nil
}

// KeepDrawer keeps what a drawer holds now, all lines or none.
func (s Stock) KeepDrawer(
	ctx context.Context, d shop.DrawerName, lines []shop.DrawerLine, why string, by people.Person, at time.Time,
) error {
	// In the order in which fitting takes them: no two wait for each other.
	ordered := slices.SortedFunc(slices.Values(lines),
		func(a, b shop.DrawerLine) int { return strings.Compare(a.Size, b.Size) })
	err := s.InTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `SELECT pg_advisory_xact_lock(hashtext('drawer ' || $1))`, d.ID); err != nil {
			return err
		}
		if err := nameDrawer(ctx, tx, d); err != nil {
			return err
		}
		for _, l := range ordered {
			if err := keepDrawerLine(ctx, tx, d.ID, l, why, by, at); err != nil {
				return err
			}
		}
		return nil
	})
	return s.full.note(err)
}

// nameDrawer enters a drawer; one that is there keeps its title when none is said.
func nameDrawer(ctx context.Context, tx *sqlx.Tx, d shop.DrawerName) error {
	_, err := tx.ExecContext(
		ctx,
		`INSERT INTO drawer (id, title) VALUES ($1, COALESCE(NULLIF($2, ''), replace($1, '-', ' ')))
		ON CONFLICT (id) DO UPDATE SET title = COALESCE(NULLIF($2, ''), drawer.title)`,
		d.ID,
		d.Title,
	)
	return err
}

// KeepFamilyDrawer keeps which drawer is meant where the book wants one.
func (s Stock) KeepFamilyDrawer(ctx context.Context, sheet, wanted, drawer string) error {
	res, err := s.DB.ExecContext(
		ctx,
		`INSERT INTO family_drawer (sheet, wants, drawer) SELECT $1, $2, id FROM drawer WHERE id = $3
		ON CONFLICT (sheet, wants) DO UPDATE SET drawer = excluded.drawer`,
		sheet,
		wanted,
		drawer,
	)
	if err != nil {
		return s.full.note(err)
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, input.At("drawer", "a drawer of the shop", "there is no drawer %q", drawer))
	}
	return nil
}

// drawerOf is the drawer that a family's packs come from, empty when nobody said.
func (s Stock) drawerOf(ctx context.Context, sheet, wanted string) (drawer string, err error) {
	err = s.DB.GetContext(ctx, &drawer, `SELECT drawer FROM family_drawer WHERE sheet = $1 AND wants = $2`, sheet,
		wanted)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return drawer, err
}

func (s Stock) drawerNames(ctx context.Context) ([]shop.DrawerName, error) {
	names := []shop.DrawerName{}
	return names, s.DB.SelectContext(ctx, &names, `SELECT id, title FROM drawer ORDER BY title, id`)
}

func keepDrawerLine(ctx context.Context, tx *sqlx.Tx, id string, l shop.DrawerLine, why string, by people.Person,
	at time.Time) error {
	var had quantity.Count
	err := tx.GetContext(ctx, &had, `SELECT count FROM drawer_item WHERE drawer = $1 AND thickness = $2 FOR UPDATE`,
		id, l.Size)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return err
	}
	if l.Was != nil && l.Count != nil && *l.Was != had {
		return say.Refusal{Reason: say.Conflict, Why: say.CountedMeanwhile, About: []any{l.Size, int(had)}}
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO drawer_item (drawer, thickness, name, count, bin, least, place)
		VALUES ($1, $2, COALESCE($3, ''), COALESCE($4, 0), COALESCE($5, ''), COALESCE($6, 0), (SELECT COALESCE(max(place), 0) + 1 FROM drawer_item WHERE drawer = $1))
		ON CONFLICT (drawer, thickness) DO UPDATE SET name = COALESCE($3, drawer_item.name), count = COALESCE($4, drawer_item.count),
			bin = COALESCE($5, drawer_item.bin), least = COALESCE($6, drawer_item.least)`, id, l.Size, l.Name,
		l.Count, l.Place, l.Least)
	if err != nil || l.Count == nil || *l.Count == had {
		return err
	}
	return keepMove(ctx, tx, id, l.Size, int(*l.Count-had), why, "", by, at)
}

func selectDrawer(ctx context.Context, q sqlx.QueryerContext, name string) (record.Drawer, error) {
	var rows []struct {
		Thickness, Name string
		Count           int
	}
	err := sqlx.SelectContext(
		ctx,
		q,
		&rows,
		`SELECT thickness, name, count FROM drawer_item WHERE drawer = $1 ORDER BY place`,
		name,
	)
	if err != nil {
		return nil, err
	}
	drawer := record.Drawer{}
	for _, r := range rows {
		l, err := quantity.ParseAs[quantity.Length](r.Thickness)
		if err != nil {
			return nil, fmt.Errorf("drawer %s: %w", name, err)
		}
		drawer = append(drawer, shim.StockItem{Thickness: l, Count: &r.Count, Name: r.Name})
	}
	return drawer, nil
}
