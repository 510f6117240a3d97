-- The list desk: columns of several kinds, checks, duplicates, suppression, segments, detail rows, loading again.

ALTER TABLE list_column ADD COLUMN kind TEXT NOT NULL DEFAULT 'Source';
ALTER TABLE list_column ADD COLUMN expression TEXT;
-- What the column is called in the file; loading again finds it by that, whatever it is called here.
ALTER TABLE list_column ADD COLUMN source_name TEXT;
ALTER TABLE list_column ADD COLUMN removed INTEGER NOT NULL DEFAULT 0;
UPDATE list_column SET source_name = name;

ALTER TABLE list ADD COLUMN checked_mark TEXT;
ALTER TABLE list ADD COLUMN twins_mark TEXT;
ALTER TABLE list ADD COLUMN computed_on TEXT;
-- Goes up with every change of the list, so that whoever keeps something about it knows when it is out of date.
ALTER TABLE list ADD COLUMN revision INTEGER NOT NULL DEFAULT 0;

-- What the program does by itself, such as computing columns anew: it is logged, and nobody takes it back.
ALTER TABLE action ADD COLUMN by_itself INTEGER NOT NULL DEFAULT 0;
CREATE INDEX action_list ON action(list_id, id);
CREATE INDEX cell_change_action ON cell_change(action_id);
CREATE INDEX cell_change_cell ON cell_change(list_id, recipient_id, column_id);

CREATE TABLE column_change (
    id        INTEGER PRIMARY KEY,
    list_id   INTEGER NOT NULL REFERENCES list(id),
    column_id INTEGER NOT NULL,
    old_json  TEXT,
    new_json  TEXT,
    action_id INTEGER NOT NULL REFERENCES action(id)
);
CREATE INDEX column_change_action ON column_change(action_id);

-- What the file said where something else stands here now: a fix is kept until the file says something new.
CREATE TABLE source_value (
    list_id      INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    recipient_id INTEGER NOT NULL,
    column_id    INTEGER NOT NULL,
    value        TEXT,
    PRIMARY KEY (list_id, recipient_id, column_id)
) WITHOUT ROWID;
INSERT OR IGNORE INTO source_value (list_id, recipient_id, column_id, value)
SELECT list_id, recipient_id, column_id, old FROM cell_change ORDER BY id;

-- A load of a list: the values of that moment are those of now with every change after the mark taken back.
CREATE TABLE list_version (
    list_id     INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    number      INTEGER NOT NULL,
    mark        INTEGER NOT NULL,
    at          TEXT NOT NULL,
    by          TEXT NOT NULL,
    source_name TEXT,
    order_json  TEXT,
    recipients  INTEGER NOT NULL,
    added       INTEGER NOT NULL DEFAULT 0,
    changed     INTEGER NOT NULL DEFAULT 0,
    gone        INTEGER NOT NULL DEFAULT 0,
    report_json TEXT NOT NULL DEFAULT '[]',
    PRIMARY KEY (list_id, number)
) WITHOUT ROWID;
INSERT INTO list_version (list_id, number, mark, at, by, source_name, order_json, recipients, added, report_json)
SELECT id, 1, 0, created_at, created_by, source_name,
       (SELECT payload_json FROM job WHERE kind = 'import' AND json_valid(message) AND json_extract(message, '$.listId') = list.id LIMIT 1),
       row_count, row_count, report_json
FROM list WHERE state = 'ready';

-- A newer file held against the list, until somebody takes it over or leaves it.
CREATE TABLE reload (
    id          INTEGER PRIMARY KEY,
    list_id     INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    order_json  TEXT NOT NULL,
    source_name TEXT NOT NULL,
    revision    INTEGER NOT NULL,
    matched_by  TEXT NOT NULL,
    unchanged   INTEGER NOT NULL,
    report_json TEXT NOT NULL,
    at          TEXT NOT NULL,
    by          TEXT NOT NULL
);
CREATE TABLE reload_row (
    reload_id    INTEGER NOT NULL REFERENCES reload(id) ON DELETE CASCADE,
    n            INTEGER NOT NULL,
    kind         TEXT NOT NULL CHECK (kind IN ('added', 'changed', 'gone')),
    recipient_id INTEGER,
    in_both      INTEGER NOT NULL DEFAULT 0,
    -- Added: all values. Changed: for each cell [column, before, here, file].
    cells_json   TEXT NOT NULL,
    PRIMARY KEY (reload_id, n)
) WITHOUT ROWID;
CREATE INDEX reload_row_kind ON reload_row(reload_id, kind, n);

CREATE TABLE doubt (
    list_id      INTEGER NOT NULL,
    recipient_id INTEGER NOT NULL,
    kind         TEXT NOT NULL,
    column_id    INTEGER NOT NULL,
    message      TEXT NOT NULL,
    fixes_json   TEXT,
    PRIMARY KEY (list_id, recipient_id, kind, column_id)
) WITHOUT ROWID;
CREATE INDEX doubt_kind ON doubt(list_id, kind, recipient_id);
-- Doubts that somebody looked at and left; they come back when the value changes.
CREATE TABLE doubt_left (
    list_id      INTEGER NOT NULL,
    recipient_id INTEGER NOT NULL,
    kind         TEXT NOT NULL,
    column_id    INTEGER NOT NULL,
    value        TEXT,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    action_id    INTEGER NOT NULL REFERENCES action(id),
    PRIMARY KEY (list_id, recipient_id, kind, column_id)
) WITHOUT ROWID;

CREATE TABLE twin (
    list_id  INTEGER NOT NULL,
    a        INTEGER NOT NULL,
    b        INTEGER NOT NULL,
    reason   TEXT NOT NULL,
    likeness INTEGER NOT NULL,
    PRIMARY KEY (list_id, a, b)
) WITHOUT ROWID;
CREATE INDEX twin_b ON twin(list_id, b);
CREATE TABLE twin_different (
    list_id   INTEGER NOT NULL,
    a         INTEGER NOT NULL,
    b         INTEGER NOT NULL,
    action_id INTEGER NOT NULL REFERENCES action(id),
    PRIMARY KEY (list_id, a, b)
) WITHOUT ROWID;
CREATE TABLE household_found (
    list_id      INTEGER NOT NULL,
    n            INTEGER NOT NULL,
    members_json TEXT NOT NULL,
    PRIMARY KEY (list_id, n)
) WITHOUT ROWID;
-- One piece for several people: all but the addressee are held in every drop.
CREATE TABLE household_member (
    list_id      INTEGER NOT NULL,
    recipient_id INTEGER NOT NULL,
    addressee_id INTEGER NOT NULL,
    action_id    INTEGER NOT NULL REFERENCES action(id),
    PRIMARY KEY (list_id, recipient_id)
) WITHOUT ROWID;
CREATE INDEX household_addressee ON household_member(list_id, addressee_id);

CREATE TABLE suppression_list (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    created_at TEXT NOT NULL,
    created_by TEXT NOT NULL
);
CREATE TABLE suppression (
    id           INTEGER PRIMARY KEY,
    list_id      INTEGER NOT NULL REFERENCES suppression_list(id),
    name         TEXT,
    street       TEXT,
    city         TEXT,
    postal_code  TEXT,
    email        TEXT,
    key          TEXT,
    reason       TEXT NOT NULL,
    until        TEXT,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    removed_at   TEXT,
    removed_by   TEXT,
    match_key    TEXT NOT NULL,
    match_email  TEXT NOT NULL,
    match_person TEXT NOT NULL
);
CREATE INDEX suppression_of_list ON suppression(list_id, id);

CREATE TABLE segment (
    id         INTEGER PRIMARY KEY,
    list_id    INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    name       TEXT NOT NULL,
    filter     TEXT NOT NULL,
    sorts      TEXT NOT NULL DEFAULT '',
    created_at TEXT NOT NULL,
    created_by TEXT NOT NULL,
    UNIQUE (list_id, name)
);
CREATE TABLE segment_tick (
    segment_id   INTEGER NOT NULL REFERENCES segment(id) ON DELETE CASCADE,
    recipient_id INTEGER NOT NULL,
    ticked       INTEGER NOT NULL,
    PRIMARY KEY (segment_id, recipient_id)
) WITHOUT ROWID;

ALTER TABLE mail_drop ADD COLUMN segment_id INTEGER REFERENCES segment(id);
-- The rule behind a hold that nobody made by hand, and the rules that somebody lifted knowingly.
ALTER TABLE drop_recipient ADD COLUMN hold_rule TEXT;
ALTER TABLE drop_recipient ADD COLUMN overruled_json TEXT;

CREATE TABLE detail_set (
    id          INTEGER PRIMARY KEY,
    list_id     INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    name        TEXT NOT NULL,
    key_column  TEXT NOT NULL,
    state       TEXT NOT NULL CHECK (state IN ('loading', 'ready')),
    source_name TEXT NOT NULL,
    row_count   INTEGER NOT NULL DEFAULT 0,
    unmatched   INTEGER NOT NULL DEFAULT 0,
    report_json TEXT NOT NULL DEFAULT '[]',
    at          TEXT NOT NULL,
    by          TEXT NOT NULL
);
CREATE TABLE detail_column (
    detail_id INTEGER NOT NULL REFERENCES detail_set(id) ON DELETE CASCADE,
    id        INTEGER NOT NULL,
    name      TEXT NOT NULL,
    type      TEXT NOT NULL,
    PRIMARY KEY (detail_id, id)
) WITHOUT ROWID;
