-- +goose Up

-- How long such jobs took, the last hundred along a route.
CREATE INDEX rebuild_closed_along ON rebuild ((unit ->> 'route'), opened_at) WHERE closed;

-- +goose Down
DROP INDEX rebuild_closed_along;
