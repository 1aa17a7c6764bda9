-- +goose Up

-- An account is closed, never deleted: the record names its person.
ALTER TABLE account ADD COLUMN closed_at timestamptz;

-- Whoever was signed in signs in once more.
DROP TABLE session;
CREATE TABLE session (
    id           uuid PRIMARY KEY,
    token_digest text NOT NULL UNIQUE,
    login        text NOT NULL REFERENCES account (login),
    csrf         text NOT NULL,
    started      timestamptz NOT NULL,
    used         timestamptz NOT NULL,
    browser      text NOT NULL,
    address      text NOT NULL
);
CREATE INDEX session_of ON session (login);
CREATE INDEX session_used ON session (used);

-- Tries are counted in windows, by what they have in common.
DROP TABLE login_failure;
CREATE TABLE throttle (
    bucket text PRIMARY KEY,
    since  timestamptz NOT NULL,
    tries  int NOT NULL
);
CREATE INDEX throttle_old ON throttle (since);

-- What was asked for under an opening key, so that the key is not used for another order.
ALTER TABLE rebuild ADD COLUMN open_digest text NOT NULL DEFAULT '';

CREATE TRIGGER photo_not_emptied BEFORE TRUNCATE ON photo FOR EACH STATEMENT EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER plan_copy_not_emptied BEFORE TRUNCATE ON plan_copy FOR EACH STATEMENT EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER rebuild_kept BEFORE DELETE ON rebuild FOR EACH ROW EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER rebuild_not_emptied BEFORE TRUNCATE ON rebuild FOR EACH STATEMENT EXECUTE FUNCTION keep_for_good();

-- The log over all rebuilds. A leaf says that a rebuild's record stood at this
-- head; its chain covers all that came before. No reference to rebuild: a leaf
-- must outlive a row that vanishes.
CREATE TABLE log_leaf (
    n          bigint PRIMARY KEY,
    rebuild_id uuid NOT NULL,
    number     text NOT NULL,
    seq        int NOT NULL,
    hash       text NOT NULL
);
CREATE INDEX log_leaf_of ON log_leaf (rebuild_id, n DESC);

-- The inner hashes of its tree, numbered as golang.org/x/mod/sumdb/tlog does.
CREATE TABLE log_hash (
    i    bigint PRIMARY KEY,
    hash bytea NOT NULL
);

CREATE TABLE checkpoint (
    size bigint PRIMARY KEY,
    note text NOT NULL
);

CREATE TRIGGER log_leaf_kept BEFORE UPDATE OR DELETE ON log_leaf FOR EACH ROW EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER log_leaf_not_emptied BEFORE TRUNCATE ON log_leaf FOR EACH STATEMENT EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER log_hash_kept BEFORE UPDATE OR DELETE ON log_hash FOR EACH ROW EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER log_hash_not_emptied BEFORE TRUNCATE ON log_hash FOR EACH STATEMENT EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER checkpoint_kept BEFORE UPDATE OR DELETE ON checkpoint FOR EACH ROW EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER checkpoint_not_emptied BEFORE TRUNCATE ON checkpoint FOR EACH STATEMENT EXECUTE FUNCTION keep_for_good();

-- +goose Down
DROP TABLE checkpoint, log_hash, log_leaf, throttle, session;
DROP TRIGGER rebuild_not_emptied ON rebuild;
DROP TRIGGER rebuild_kept ON rebuild;
DROP TRIGGER plan_copy_not_emptied ON plan_copy;
DROP TRIGGER photo_not_emptied ON photo;
ALTER TABLE rebuild DROP COLUMN open_digest;
ALTER TABLE account DROP COLUMN closed_at;
CREATE TABLE session (token_digest text PRIMARY KEY, login text NOT NULL REFERENCES account (login), csrf text NOT NULL, expires timestamptz NOT NULL);
CREATE TABLE login_failure (login text NOT NULL, at timestamptz NOT NULL);
