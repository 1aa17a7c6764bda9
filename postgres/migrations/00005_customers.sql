-- +goose Up
-- Whose it is. Names and ways to reach people stand here and nowhere in the
-- sealed record, so that they can be erased; the record names nobody.
CREATE TABLE customer (
    id        uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    name      text NOT NULL,
    phone     text NOT NULL DEFAULT '',
    mail      text NOT NULL DEFAULT '',
    address   text NOT NULL DEFAULT '',
    known_as  text UNIQUE, -- name and phone in one form: two who add the same person make one
    since     timestamptz NOT NULL DEFAULT now(),
    erased_at timestamptz
);

-- What a rebuild's record says of its customer is the digest of this salt and
-- his id; when the row goes, nobody can tell whom it meant.
CREATE TABLE rebuild_customer (
    rebuild_id  uuid PRIMARY KEY,
    customer_id uuid NOT NULL REFERENCES customer (id),
    salt        text NOT NULL
);
CREATE INDEX rebuild_customer_of ON rebuild_customer (customer_id);

INSERT INTO customer (name, known_as)
SELECT DISTINCT body ->> 'owner', lower(body ->> 'owner') || '/' FROM vehicle WHERE body ->> 'owner' <> '';

-- Vehicles and units as rows of their own: a unit moves to another vehicle, a
-- vehicle to another owner. What an order said of them stays in the order.
ALTER TABLE vehicle
    ADD COLUMN name         text NOT NULL DEFAULT '',
    ADD COLUMN registration text NOT NULL DEFAULT '',
    ADD COLUMN customer_id  uuid REFERENCES customer (id),
    ADD COLUMN facts        json NOT NULL DEFAULT '{}',
    ADD COLUMN plate        text GENERATED ALWAYS AS (lower(regexp_replace(registration, '[^[:alnum:]]', '', 'g'))) STORED; -- however it is spaced
CREATE INDEX vehicle_plate ON vehicle (plate) WHERE plate <> '';

CREATE TABLE unit (
    id         text PRIMARY KEY,
    vehicle_id text NOT NULL REFERENCES vehicle (id),
    kind       text NOT NULL,
    name       text NOT NULL,
    serial     text NOT NULL,
    sheet      text NOT NULL,
    route      text NOT NULL,
    known_as   text NOT NULL UNIQUE -- name and serial number in one form
);
CREATE INDEX unit_in ON unit (vehicle_id);

UPDATE vehicle v SET name = body ->> 'name', customer_id = (SELECT id FROM customer c WHERE c.name = v.body ->> 'owner');
INSERT INTO unit (id, vehicle_id, kind, name, serial, sheet, route, known_as)
SELECT v.id || '.' || (u ->> 'id'), v.id, u ->> 'kind', u ->> 'name', u ->> 'serial', u ->> 'sheet', u ->> 'route',
    lower(u ->> 'name') || '/' || lower(u ->> 'serial')
FROM vehicle v, json_array_elements(v.body -> 'units') u ON CONFLICT DO NOTHING;
ALTER TABLE vehicle DROP COLUMN body;

-- more is what else the order says and the seal covers: what the customer was
-- told, the vehicle's figures, the digest that stands for the customer.
-- words are what it is found by; unit_id leads to the unit's other rebuilds.
ALTER TABLE rebuild
    ADD COLUMN more    json,
    ADD COLUMN unit_id text NOT NULL DEFAULT '',
    ADD COLUMN words   text NOT NULL DEFAULT '',
    ADD COLUMN cause   text NOT NULL DEFAULT '';
UPDATE rebuild SET unit_id = (vehicle ->> 'id') || '.' || (unit ->> 'id'),
    words = lower(concat_ws(' ', number, complaint, vehicle ->> 'name', vehicle ->> 'owner', unit ->> 'name', unit ->> 'serial'));
CREATE INDEX rebuild_of_unit ON rebuild (unit_id, opened_at);

-- Spec sheets the shop wrote itself, over those of the book; each version is kept.
CREATE TABLE sheet (
    id      text NOT NULL,
    version int NOT NULL,
    body    json NOT NULL,
    by      json NOT NULL,
    at      timestamptz NOT NULL DEFAULT now(),
    why     text NOT NULL,
    PRIMARY KEY (id, version)
);

-- +goose Down
DROP TABLE sheet;
ALTER TABLE rebuild DROP COLUMN more, DROP COLUMN unit_id, DROP COLUMN words, DROP COLUMN cause;
ALTER TABLE vehicle ADD COLUMN body json;
UPDATE vehicle v SET body = json_build_object('id', id, 'name', name,
    'owner', coalesce((SELECT c.name FROM customer c WHERE c.id = v.customer_id), ''),
    'units', coalesce((SELECT json_agg(json_build_object('id', u.id, 'kind', kind, 'name', u.name, 'serial', serial, 'sheet', sheet, 'route', route))
        FROM unit u WHERE u.vehicle_id = v.id), '[]'));
ALTER TABLE vehicle ALTER COLUMN body SET NOT NULL, DROP COLUMN name, DROP COLUMN plate, DROP COLUMN registration, DROP COLUMN customer_id, DROP COLUMN facts;
DROP TABLE unit, rebuild_customer, customer;
