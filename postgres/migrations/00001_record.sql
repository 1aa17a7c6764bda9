-- +goose Up

-- A copy of the book by the hash of its content: rebuilds opened from the
-- same edition share one row, and no edit of the book can reach it.
CREATE TABLE plan_copy (
    hash text PRIMARY KEY,
    body json NOT NULL
);

CREATE TABLE number_counter (
    year int PRIMARY KEY,
    last int NOT NULL
);

CREATE TABLE vehicle (
    id   text PRIMARY KEY,
    body json NOT NULL
);

CREATE TABLE rebuild (
    id        uuid PRIMARY KEY,
    number    text NOT NULL UNIQUE,
    open_key  text UNIQUE,
    complaint text NOT NULL,
    vehicle   json NOT NULL,
    unit      json NOT NULL,
    use       text NOT NULL,
    odometer  text NOT NULL,
    promised  date NOT NULL,
    opened_at timestamptz NOT NULL,
    opened_by json NOT NULL,
    plan_hash text NOT NULL REFERENCES plan_copy (hash),
    -- The end of the chain, and the place for the board. These move on with
    -- each entry; everything above never changes.
    head_seq  int NOT NULL,
    head_hash text NOT NULL,
    station   text NOT NULL,
    step      text NOT NULL,
    waits_for text NOT NULL,
    verdict   text NOT NULL,
    held      boolean NOT NULL,
    done      int NOT NULL,
    steps     int NOT NULL,
    closed    boolean NOT NULL
);

CREATE INDEX rebuild_board ON rebuild (closed, promised, number);

CREATE TABLE entry (
    rebuild_id uuid NOT NULL REFERENCES rebuild (id),
    seq        int NOT NULL,
    id         uuid NOT NULL UNIQUE,
    step       text NOT NULL,
    act        text NOT NULL,
    item       text NOT NULL,
    supersedes uuid,
    -- json, not jsonb: the hash covers the text as it was written.
    body       json NOT NULL,
    result     json,
    method     text NOT NULL,
    verdict    text NOT NULL,
    by_login   text NOT NULL,
    by_name    text NOT NULL,
    by_role    text NOT NULL,
    at         timestamptz NOT NULL,
    hash       text NOT NULL,
    key        text NOT NULL,
    digest     text NOT NULL,
    PRIMARY KEY (rebuild_id, seq),
    UNIQUE (rebuild_id, key)
);

CREATE UNIQUE INDEX entry_superseded_once ON entry (supersedes) WHERE supersedes IS NOT NULL;

-- +goose StatementBegin
CREATE FUNCTION keep_for_good() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'entries are kept for good: % on % is not allowed', TG_OP, TG_TABLE_NAME
        USING ERRCODE = 'restrict_violation';
END
$$;
-- +goose StatementEnd

CREATE TRIGGER entry_kept BEFORE UPDATE OR DELETE ON entry FOR EACH ROW EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER entry_not_emptied BEFORE TRUNCATE ON entry FOR EACH STATEMENT EXECUTE FUNCTION keep_for_good();
CREATE TRIGGER plan_copy_kept BEFORE UPDATE OR DELETE ON plan_copy FOR EACH ROW EXECUTE FUNCTION keep_for_good();
-- Not even the owner holds the right; the triggers stand against a superuser's slip.
REVOKE UPDATE, DELETE, TRUNCATE ON entry FROM PUBLIC, CURRENT_USER;

-- Pictures in a table of their own, so that reading a record never drags them along.
CREATE TABLE photo (
    id         uuid PRIMARY KEY,
    rebuild_id uuid NOT NULL REFERENCES rebuild (id),
    sha256     text NOT NULL,
    type       text NOT NULL,
    width      int NOT NULL,
    height     int NOT NULL,
    bytes      bytea NOT NULL,
    by_login   text NOT NULL,
    by_name    text NOT NULL,
    by_role    text NOT NULL,
    at         timestamptz NOT NULL
);
CREATE INDEX photo_of_rebuild ON photo (rebuild_id);
CREATE TRIGGER photo_kept BEFORE UPDATE OR DELETE ON photo FOR EACH ROW EXECUTE FUNCTION keep_for_good();

CREATE TABLE drawer_item (
    drawer    text NOT NULL,
    thickness text NOT NULL,
    name      text NOT NULL,
    count     int NOT NULL CHECK (count >= 0),
    place     int NOT NULL,
    PRIMARY KEY (drawer, thickness)
);

CREATE TABLE account (
    login         text PRIMARY KEY,
    name          text NOT NULL,
    role          text NOT NULL CHECK (role IN ('reader', 'mechanic', 'lead')),
    password_hash text NOT NULL
);

CREATE TABLE session (
    token_digest text PRIMARY KEY,
    login        text NOT NULL REFERENCES account (login),
    csrf         text NOT NULL,
    expires      timestamptz NOT NULL
);

CREATE TABLE login_failure (
    login text NOT NULL,
    at    timestamptz NOT NULL
);
CREATE INDEX login_failure_recent ON login_failure (login, at);

CREATE TABLE setting (
    name  text PRIMARY KEY,
    value text NOT NULL
);

-- +goose Down
DROP TABLE setting, login_failure, session, account, drawer_item, photo, entry, rebuild, vehicle, number_counter, plan_copy;
DROP FUNCTION keep_for_good;
