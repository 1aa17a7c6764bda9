-- +goose Up

-- Wrong PINs since the right one or the password: after too many it sleeps.
ALTER TABLE account ADD COLUMN pin_wrong int NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE account DROP COLUMN pin_wrong;
