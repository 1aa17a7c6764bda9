package postgres

import (
	"context"
	"fmt"
	"strings"
	"time"

	"handwerk/workshop"
	"handwerk/workshop/buying"
	"handwerk/workshop/shop"
)

// Find looks for every word anywhere in what is found by it: without an index, for
// a shop's ten thousand rebuilds are read in a few milliseconds.
func (s Finder) Find(ctx context.Context, words []string, most int) (workshop.Found, error) {
	found := workshop.Found{
		Customers: []shop.Customer{}, Vehicles: []shop.Vehicle{}, Units: []workshop.FoundUnit{},
		Sheets: []shop.FoundSheet{},
	}
	args := make([]any, len(words))
	for i, w := range words {
		args[i] = w
	}
	limit := fmt.Sprintf(` LIMIT %d`, most)
	const newest = ` ORDER BY r.closed, r.opened_at DESC, r.id DESC`
	var err error
	// Only the few that are shown are read whole. Of customers and vehicles there are
	// few: which of them have the word is asked once.
	where := each(words, `strpos(r.words, $%[1]d) > 0 OR strpos(lower(r.cause), $%[1]d) > 0
		OR r.id IN (SELECT rebuild_id FROM rebuild_customer
			WHERE customer_id IN (SELECT id FROM customer WHERE strpos(words, $%[1]d) > 0))
		OR r.vehicle_id IN (SELECT id FROM vehicle WHERE strpos(words, $%[1]d) > 0)
		OR r.id IN (SELECT rebuild_id FROM entry WHERE act = 'found' AND strpos(lower(body ->> 'note'), $%[1]d) > 0)`)
	if found.Rebuilds, err = s.rooms.rebuilds(
		ctx,
		`WHERE r.id IN (SELECT r.id FROM rebuild r WHERE `+where+newest+limit+
			`)`+newest,
		args...); err != nil {
		return found, err
	}
	var customers []customerRow
	err = s.DB.SelectContext(ctx, &customers, `SELECT `+customerColumns+` FROM customer
		WHERE erased_at IS NULL AND `+each(words, `strpos(words, $%d) > 0`)+` ORDER BY name`+limit, args...)
	if err != nil {
		return found, err
	}
	for _, c := range customers {
		found.Customers = append(found.Customers, c.customer())
	}
	where = each(words, `strpos(v.words, $%[1]d) > 0 OR strpos(c.words, $%[1]d) > 0`)
	if found.Vehicles, err = s.rooms.vehicles(ctx, `WHERE `+where+` ORDER BY v.name`+limit, args...); err != nil {
		return found, err
	}
	found.Units, err = s.findUnits(ctx, each(words, `strpos(u.words, $%[1]d) > 0 OR strpos(v.words, $%[1]d) > 0`),
		limit, args)
	return found, err
}

// each is a condition that holds for every word, by its number.
func each(words []string, condition string) string {
	parts := make([]string, len(words))
	for i := range words {
		parts[i] = `(` + fmt.Sprintf(condition, i+1) + `)`
	}
	return strings.Join(parts, " AND ")
}

func (s Finder) findUnits(ctx context.Context, where, limit string, args []any) ([]workshop.FoundUnit, error) {
	var rows []struct {
		unitRow
		VehicleName string `db:"vehicle_name"`
		Open        string
	}
	err := s.DB.SelectContext(
		ctx,
		&rows,
		`SELECT u.id, u.vehicle_id, u.kind, u.name, u.serial, u.sheet, u.route, u.gears, v.name AS vehicle_name,
			COALESCE((SELECT number FROM rebuild r WHERE r.unit_id = u.id AND NOT r.closed LIMIT 1), '') AS open
		FROM unit u JOIN vehicle v ON v.id = u.vehicle_id WHERE `+where+` ORDER BY u.name, u.serial`+limit,
		args...)
	units := make([]workshop.FoundUnit, 0, len(rows))
	for _, r := range rows {
		units = append(units, workshop.FoundUnit{Unit: r.unit(), Vehicle: r.Vehicle, VehicleName: r.VehicleName,
			Open: r.Open})
	}
	return units, err
}

// Promises counts open rebuilds by promised day.
func (s Finder) Promises(ctx context.Context, from, to string) ([]workshop.Promises, error) {
	var rows []struct {
		Due   time.Time
		Count int
	}
	err := s.DB.SelectContext(ctx, &rows, `SELECT due, count(*) AS count FROM rebuild
		WHERE NOT closed AND due BETWEEN CAST($1 AS date) AND CAST($2 AS date) GROUP BY due ORDER BY due`, from, to)
	list := make([]workshop.Promises, 0, len(rows))
	for _, r := range rows {
		list = append(list, workshop.Promises{Day: r.Due.Format(time.DateOnly), Count: r.Count})
	}
	return list, err
}

// mostInHand bounds the promises that are read of one person.
const mostInHand = 200

// OpenPromises reads the open rebuilds that somebody wrote in last, or opened
// when nobody wrote yet.
func (s Finder) OpenPromises(ctx context.Context, login, but string) ([]buying.OpenPromise, error) {
	var rows []struct {
		ID, Number, Unit string
		Due              time.Time
		Hours            float64
	}
	err := s.DB.SelectContext(
		ctx,
		&rows,
		`SELECT r.id, r.number, r.unit ->> 'name' AS unit, r.due, r.hours_left AS hours
		FROM rebuild r LEFT JOIN entry e ON e.rebuild_id = r.id AND e.seq = r.head_seq
		WHERE NOT r.closed AND COALESCE(e.by_login, r.opened_by ->> 'login') = $1 AND CAST(r.id AS text) <> $2
		ORDER BY r.due, r.number LIMIT $3`,
		login,
		but,
		mostInHand,
	)
	list := make([]buying.OpenPromise, 0, len(rows))
	for _, r := range rows {
		list = append(
			list,
			buying.OpenPromise{
				Rebuild: r.ID, Number: r.Number, Unit: r.Unit, Promised: r.Due.Format(time.DateOnly), Hours: r.Hours,
			},
		)
	}
	return list, err
}

// HowLong reads how many days the last rebuilds along a route took, from
// opening to the entry that closed them.
func (s Finder) HowLong(ctx context.Context, route string, most int) ([]float64, error) {
	var days []float64
	err := s.DB.SelectContext(ctx, &days, `SELECT extract(epoch FROM e.at - r.opened_at) / 86400
		FROM (SELECT id, head_seq, opened_at FROM rebuild
			WHERE closed AND unit ->> 'route' = $1 ORDER BY opened_at DESC LIMIT $2) r
		JOIN entry e ON e.rebuild_id = r.id AND e.seq = r.head_seq`, route, most)
	return days, err
}
