package postgres

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"github.com/jmoiron/sqlx"

	"handwerk/postgres/conn"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// vehicleRow is a row of table vehicle.
type vehicleRow struct {
	ID           string
	Name         string
	Registration string
	Customer     sql.NullString `db:"customer_id"`
	Owner        sql.NullString
	Facts        []byte
}

const vehicleColumns = `v.id, v.name, v.registration, v.customer_id, c.name AS owner, v.facts
	FROM vehicle v LEFT JOIN customer c ON c.id = v.customer_id`

func (r vehicleRow) vehicle() (shop.Vehicle, error) {
	v := shop.Vehicle{
		ID: r.ID, Name: r.Name, Owner: r.Owner.String, Registration: r.Registration, Customer: r.Customer.String,
		Facts: &shop.Facts{},
	}
	err := json.Unmarshal(r.Facts, v.Facts)
	if v.Facts.IsZero() {
		v.Facts = nil
	}
	return v, err
}

// unitRow is a row of table unit.
type unitRow struct {
	ID      string
	Vehicle string `db:"vehicle_id"`
	Kind    string
	Name    string
	Serial  string
	Sheet   string
	Route   string
	Gears   int
}

func (r unitRow) unit() shop.Unit {
	return shop.Unit{ID: r.ID, Kind: r.Kind, Name: r.Name, Serial: r.Serial, Sheet: r.Sheet, Route: r.Route,
		Gears: r.Gears}
}

const unitColumns = `id, vehicle_id, kind, name, serial, sheet, route, gears`

// Fleet lists vehicles with their units.
func (s Garage) Fleet(ctx context.Context, most int) ([]shop.Vehicle, error) {
	return s.vehicles(ctx, `ORDER BY v.id LIMIT $1`, most)
}

// vehicles reads some, with their units.
func (s Garage) vehicles(ctx context.Context, where string, args ...any) ([]shop.Vehicle, error) {
	var rows []vehicleRow
	if err := s.DB.SelectContext(ctx, &rows, `SELECT `+vehicleColumns+` `+where, args...); err != nil {
		return nil, err
	}
	fleet, at, ids := make([]shop.Vehicle, len(rows)), map[string]int{}, make([]string, len(rows))
	for i, r := range rows {
		v, err := r.vehicle()
		if err != nil {
			return nil, err
		}
		fleet[i], at[r.ID], ids[i] = v, i, r.ID
	}
	var units []unitRow
	err := s.DB.SelectContext(ctx, &units, `SELECT `+unitColumns+
		` FROM unit WHERE vehicle_id = ANY ($1) ORDER BY name, serial`, ids)
	for _, u := range units {
		v := &fleet[at[u.Vehicle]]
		v.Units = append(v.Units, u.unit())
	}
	return fleet, err
}

// Vehicle reads one with its units.
func (s Garage) Vehicle(ctx context.Context, id string) (shop.Vehicle, error) {
	found, err := s.vehicles(ctx, `WHERE v.id = $1`, id)
	if err != nil || len(found) == 0 {
		return shop.Vehicle{}, err
	}
	return found[0], nil
}

const customerColumns = `id, name, phone, mail, address, since, erased_at`

// oneRow says no when nothing was changed.
func oneRow(res sql.Result, err error, none say.Why) error {
	if conn.IsBadUUID(err) {
		return say.Refusal{Reason: say.NotFound, Why: none}
	}
	if err != nil {
		return err
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, say.Refusal{Reason: say.NotFound, Why: none})
	}
	return nil
}

// AddVehicle keeps a vehicle of a customer.
func (s Garage) AddVehicle(ctx context.Context, v shop.Vehicle) error {
	facts, err := marshal(factsOf(v))
	if err != nil {
		return err
	}
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if err := lockCustomer(ctx, tx, v.Customer, "SHARE"); err != nil {
			return err
		}
		if err := registrationFree(ctx, tx, v); err != nil {
			return err
		}
		_, err := tx.ExecContext(
			ctx,
			`INSERT INTO vehicle (id, name, registration, customer_id, facts) VALUES ($1, $2, $3, $4, $5)`,
			v.ID,
			v.Name,
			v.Registration,
			v.Customer,
			facts,
		)
		return err
	})
	return s.full.note(unknownCustomer(err))
}

func factsOf(v shop.Vehicle) shop.Facts {
	if v.Facts == nil {
		return shop.Facts{}
	}
	return *v.Facts
}

// registrationFree says where a plate is already; two at once are taken in turn.
func registrationFree(ctx context.Context, tx *sqlx.Tx, v shop.Vehicle) error {
	if v.Registration == "" {
		return nil
	}
	const plate = `lower(regexp_replace($1, '[^[:alnum:]]', '', 'g'))`
	if _, err := tx.ExecContext(ctx, `SELECT pg_advisory_xact_lock(hashtext('registration ' || `+plate+`))`,
		v.Registration); err != nil {
		return err
	}
	var other string
	err := tx.GetContext(ctx, &other, `SELECT name FROM vehicle WHERE plate <> '' AND plate = `+plate+
		` AND id <> $2 LIMIT 1`, v.Registration, v.ID)
	if errors.Is(err, sql.ErrNoRows) {
		return nil
	}
	if err != nil {
		return err
	}
	return say.Refusal{Reason: say.Conflict, Why: say.RegistrationTaken, About: []any{v.Registration, other}}
}

// ChangeVehicle writes it down anew.
func (s Garage) ChangeVehicle(ctx context.Context, v shop.Vehicle) error {
	facts, err := marshal(factsOf(v))
	if err != nil {
		return err
	}
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if err := lockCustomer(ctx, tx, v.Customer, "SHARE"); err != nil {
			return err
		}
		if err := registrationFree(ctx, tx, v); err != nil {
			return err
		}
		res, err := tx.ExecContext(
			ctx,
			`UPDATE vehicle SET name = $2, registration = $3, customer_id = $4, facts = $5 WHERE id = $1`,
			v.ID,
			v.Name,
			v.Registration,
			v.Customer,
			facts,
		)
		if err = unknownCustomer(err); err != nil {
			return err
		}
		return oneRow(res, err, say.NoSuchVehicle)
	})
	return s.full.note(err)
}

// AddUnit keeps a unit of a vehicle.
func (s Garage) AddUnit(ctx context.Context, vehicle string, u shop.Unit) error {
	res, err := s.DB.ExecContext(
		ctx,
		`INSERT INTO unit (id, vehicle_id, kind, name, serial, sheet, route, known_as, gears)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
		ON CONFLICT (known_as) DO NOTHING`,
		u.ID,
		vehicle,
		u.Kind,
		u.Name,
		u.Serial,
		u.Sheet,
		u.Route,
		u.SayName(vehicle),
		u.Gears,
	)
	added := int64(1)
	if err == nil {
		added, err = res.RowsAffected()
	}
	switch {
	case err == nil && added == 0:
		var in string
		if err := s.DB.GetContext(
			ctx, &in, `SELECT v.name FROM unit u JOIN vehicle v ON v.id = u.vehicle_id WHERE u.known_as = $1`,
			u.SayName(vehicle),
		); err != nil {
			return err
		}
		return say.Refusal{Reason: say.Conflict, Why: say.SerialTaken, About: []any{u.Name, u.SerialWords(), in}}
	case conn.IsNoReference(err):
		return say.Refusal{Reason: say.NotFound, Why: say.NoSuchVehicle}
	}
	return s.full.note(err)
}

// ChangeUnit moves a unit, or changes its sheet or route, where they are said.
func (s Garage) ChangeUnit(ctx context.Context, u shop.Unit, vehicle string) error {
	res, err := s.DB.ExecContext(
		ctx,
		`UPDATE unit SET vehicle_id = COALESCE(NULLIF($2, ''), vehicle_id), sheet = COALESCE(NULLIF($3, ''), sheet),
		route = COALESCE(NULLIF($4, ''), route), gears = COALESCE(NULLIF($5, 0), gears) WHERE id = $1`,
		u.ID,
		vehicle,
		u.Sheet,
		u.Route,
		u.Gears,
	)
	if conn.IsNoReference(err) {
		return say.Refusal{Reason: say.NotFound, Why: say.NoSuchVehicle}
	}
	return s.full.note(oneRow(res, err, say.NoSuchUnit))
}

// Unit reads one with the vehicle it sits in and its rebuilds.
func (s Garage) Unit(ctx context.Context, id string) (shop.Unit, shop.Vehicle, error) {
	var row unitRow
	err := s.DB.GetContext(ctx, &row, `SELECT `+unitColumns+` FROM unit WHERE id = $1`, id)
	if errors.Is(err, sql.ErrNoRows) {
		err = say.Refusal{Reason: say.NotFound, Why: say.NoSuchUnit}
	}
	if err != nil {
		return shop.Unit{}, shop.Vehicle{}, err
	}
	v, err := s.Vehicle(ctx, row.Vehicle)
	if err != nil {
		return shop.Unit{}, v, err
	}
	v.Units = nil
	return row.unit(), v, nil
}

// RebuildsOf lists those of a unit, the latest first.
func (s Finder) RebuildsOf(ctx context.Context, unit string, most int) ([]record.Rebuild, error) {
	return s.rooms.rebuilds(ctx, `WHERE r.unit_id = $1 ORDER BY r.opened_at DESC, r.id DESC LIMIT $2`, unit, most)
}

// FoundIn lists the rebuilds of vehicles in which something was found along the
// way, the oldest first.
func (s Finder) FoundIn(ctx context.Context, vehicles []string, most int) ([]record.Rebuild, error) {
	return s.rooms.rebuilds(
		ctx,
		`WHERE r.vehicle_id = ANY ($1) AND EXISTS (SELECT FROM entry e WHERE e.rebuild_id = r.id AND e.act = 'found')
		ORDER BY r.opened_at, r.id LIMIT $2`,
		vehicles, most,
	)
}
