package postgres

import (
	"context"

	"handwerk/book"
	"handwerk/workshop/shop"
)

// Sheets lists the latest version of each family's sheet the shop wrote.
func (s Versions) Sheets(ctx context.Context) ([]shop.FoundSheet, error) {
	list := []shop.FoundSheet{}
	err := s.DB.SelectContext(
		ctx,
		&list,
		`SELECT DISTINCT ON (id) id, body ->> 'family' AS family, version FROM sheet WHERE id NOT LIKE 'vehicle-%' ORDER BY id, version DESC`,
	)
	return list, err
}

// SheetVersions reads the latest versions of one.
func (s Versions) SheetVersions(ctx context.Context, id string, most int) ([]shop.Written[book.SpecSheet], error) {
	return selectVersions[book.SpecSheet](ctx, s.link, sheetTable, id, most)
}

// KeepSheet keeps a version, if nobody kept it before.
func (s Versions) KeepSheet(ctx context.Context, v shop.Written[book.SpecSheet]) (bool, error) {
	return keepVersion(ctx, s.link, sheetTable, v)
}

// OwnRoutes reads the latest version of what the shop does otherwise on each route.
func (s Versions) OwnRoutes(ctx context.Context) ([]shop.Written[book.OwnRoute], error) {
	var rows []writtenRow
	if err := s.DB.SelectContext(
		ctx, &rows, `SELECT DISTINCT ON (id) id, version, body, by, at, why FROM route_own ORDER BY id, version DESC`,
	); err != nil {
		return nil, err
	}
	return read[book.OwnRoute](rows)
}

// OwnRouteVersions reads the latest versions of one.
func (s Versions) OwnRouteVersions(ctx context.Context, id string, most int) ([]shop.Written[book.OwnRoute], error) {
	return selectVersions[book.OwnRoute](ctx, s.link, routeTable, id, most)
}

// KeepOwnRoute keeps a version, if nobody kept it before.
func (s Versions) KeepOwnRoute(ctx context.Context, v shop.Written[book.OwnRoute]) (bool, error) {
	return keepVersion(ctx, s.link, routeTable, v)
}
