package postgres

import (
	"context"
	"fmt"
	"strings"
	"time"

	"handwerk/workshop"
)

// Find looks for every word in one line of text for each row: without an index,
// for a shop's ten thousand rebuilds are read in a few milliseconds.
func (s *Store) Find(ctx context.Context, words []string, most int) (workshop.Found, error) {
	found := workshop.Found{Customers: []workshop.Customer{}, Vehicles: []workshop.Vehicle{}, Units: []workshop.FoundUnit{}, Sheets: []workshop.FoundSheet{}}
	var err error
	where, args := has(`r.words || ' ' || lower(r.cause) || ' ' || lower(concat_ws(' ', v.registration, c.name, c.phone))`, words)
	if found.Rebuilds, err = s.rebuilds(ctx, `WHERE `+where+fmt.Sprintf(` ORDER BY r.closed, r.opened_at DESC LIMIT %d`, most), args...); err != nil {
		return found, err
	}
	where, args = has(`lower(concat_ws(' ', name, phone, mail, address))`, words)
	var customers []customerRow
	err = s.db.SelectContext(ctx, &customers, `SELECT `+customerColumns+` FROM customer WHERE erased_at IS NULL AND `+where+fmt.Sprintf(` ORDER BY name LIMIT %d`, most), args...)
	if err != nil {
		return found, err
	}
	for _, c := range customers {
		found.Customers = append(found.Customers, c.customer())
	}
	where, args = has(`lower(concat_ws(' ', v.name, v.registration, c.name))`, words)
	if found.Vehicles, err = s.vehicles(ctx, `WHERE `+where+fmt.Sprintf(` ORDER BY v.name LIMIT %d`, most), args...); err != nil {
		return found, err
	}
	found.Units, err = s.findUnits(ctx, words, most)
	return found, err
}

func (s *Store) findUnits(ctx context.Context, words []string, most int) ([]workshop.FoundUnit, error) {
	where, args := has(`lower(concat_ws(' ', u.name, u.serial, u.kind, v.name, v.registration))`, words)
	var rows []struct {
		unitRow
		VehicleName string `db:"vehicle_name"`
		Open        string
	}
	err := s.db.SelectContext(ctx, &rows, `SELECT u.id, u.vehicle_id, u.kind, u.name, u.serial, u.sheet, u.route, v.name AS vehicle_name,
			COALESCE((SELECT number FROM rebuild r WHERE r.unit_id = u.id AND NOT r.closed LIMIT 1), '') AS open
		FROM unit u JOIN vehicle v ON v.id = u.vehicle_id WHERE `+where+fmt.Sprintf(` ORDER BY u.name, u.serial LIMIT %d`, most), args...)
	units := make([]workshop.FoundUnit, 0, len(rows))
	for _, r := range rows {
		units = append(units, workshop.FoundUnit{Unit: r.unit(), Vehicle: r.Vehicle, VehicleName: r.VehicleName, Open: r.Open})
	}
	return units, err
}

// has is a condition that a text has every word somewhere.
func has(text string, words []string) (where string, args []any) {
	parts := make([]string, len(words))
	for i, w := range words {
		parts[i] = fmt.Sprintf(`strpos(%s, $%d) > 0`, text, i+1)
		args = append(args, w)
	}
	return strings.Join(parts, " AND "), args
}

// Promises counts open rebuilds by promised day.
func (s *Store) Promises(ctx context.Context, from, to string) ([]workshop.Promises, error) {
	var rows []struct {
		Promised time.Time
		Count    int
	}
	err := s.db.SelectContext(ctx, &rows, `SELECT promised, count(*) AS count FROM rebuild
		WHERE NOT closed AND promised BETWEEN CAST($1 AS date) AND CAST($2 AS date) GROUP BY promised ORDER BY promised`, from, to)
	list := make([]workshop.Promises, 0, len(rows))
	for _, r := range rows {
		list = append(list, workshop.Promises{Day: r.Promised.Format(time.DateOnly), Count: r.Count})
	}
	return list, err
}
