-- +goose Up

-- Whatever refers to another row is found by it.
CREATE INDEX rebuild_along_plan ON rebuild (plan_hash);
CREATE INDEX shop_said_by ON shop (by);
CREATE INDEX vehicle_of ON vehicle (customer_id);
CREATE INDEX drawer_move_for ON drawer_move (rebuild_id) WHERE rebuild_id IS NOT NULL;
CREATE INDEX tablet_named_by ON tablet (by_login);
CREATE INDEX session_at ON session (tablet_id) WHERE tablet_id IS NOT NULL;
CREATE INDEX family_drawer_is ON family_drawer (drawer);

-- +goose Down
DROP INDEX rebuild_along_plan, shop_said_by, vehicle_of, drawer_move_for, tablet_named_by, session_at, family_drawer_is;
