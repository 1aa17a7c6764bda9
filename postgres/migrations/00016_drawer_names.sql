-- +goose Up

-- A drawer by the name its shop gave it, as it was typed.
CREATE TABLE drawer (
    id    text PRIMARY KEY,
    title text NOT NULL
);
INSERT INTO drawer SELECT DISTINCT drawer, replace(drawer, '-', ' ') FROM drawer_item;

-- Which drawer a family's packs come from: the book names what it wants, the
-- shop says once per family where that lies.
CREATE TABLE family_drawer (
    sheet  text NOT NULL,
    wants  text NOT NULL,
    drawer text NOT NULL REFERENCES drawer (id),
    PRIMARY KEY (sheet, wants)
);
-- Rebuilds that are open go on with the drawer they had.
INSERT INTO family_drawer
SELECT DISTINCT u.sheet, d.id, d.id FROM unit u CROSS JOIN drawer d;

-- +goose Down
DROP TABLE family_drawer;
DROP TABLE drawer;
