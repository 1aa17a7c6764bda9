-- +goose Up

-- What was found along the way is looked for over all rebuilds of a vehicle.
CREATE INDEX entry_found ON entry (rebuild_id) WHERE act = 'found';
CREATE INDEX rebuild_of ON rebuild (vehicle_id);

-- +goose Down
DROP INDEX rebuild_of;
DROP INDEX entry_found;
