-- Times are ISO 8601 in UTC, dates yyyy-MM-dd, JSON in columns whose name says so.
-- The recipients of a list are in a table of their own, rows_<list>, with one column c<id> for each column of the list:
-- a filter or a sort is then plain SQL. RowTable.cs makes and alters those tables.

CREATE TABLE setting (
    key   TEXT PRIMARY KEY,
    value TEXT NOT NULL
) WITHOUT ROWID;

CREATE TABLE upload (
    id         TEXT PRIMARY KEY,
    name       TEXT NOT NULL,
    size       INTEGER NOT NULL,
    at         TEXT NOT NULL,
    by         TEXT NOT NULL
) WITHOUT ROWID;

CREATE TABLE list (
    id          INTEGER PRIMARY KEY,
    name        TEXT NOT NULL,
    state       TEXT NOT NULL CHECK (state IN ('loading', 'ready')),
    row_count   INTEGER NOT NULL DEFAULT 0,
    source_name TEXT,
    upload_id   TEXT,
    report_json TEXT NOT NULL DEFAULT '[]',
    created_at  TEXT NOT NULL,
    created_by  TEXT NOT NULL
);

CREATE TABLE list_column (
    list_id  INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    id       INTEGER NOT NULL,
    position INTEGER NOT NULL,
    name     TEXT NOT NULL,
    type     TEXT NOT NULL,
    role     TEXT NOT NULL,
    PRIMARY KEY (list_id, id)
) WITHOUT ROWID;

-- Recipients' ids are unique over all lists and never used again.
CREATE TABLE sequence (
    name TEXT PRIMARY KEY,
    next INTEGER NOT NULL
) WITHOUT ROWID;
INSERT INTO sequence VALUES ('recipient', 1);

CREATE TABLE action (
    id        INTEGER PRIMARY KEY,
    list_id   INTEGER REFERENCES list(id),
    drop_id   INTEGER,
    label     TEXT NOT NULL,
    at        TEXT NOT NULL,
    by        TEXT NOT NULL,
    undone_by INTEGER REFERENCES action(id),
    undoes    INTEGER REFERENCES action(id)
);
CREATE INDEX action_drop ON action(drop_id, id);

-- Every change of a value, with what it was: nothing that came in is lost, and the values of any moment can be told.
CREATE TABLE cell_change (
    id           INTEGER PRIMARY KEY,
    list_id      INTEGER NOT NULL REFERENCES list(id),
    recipient_id INTEGER NOT NULL,
    column_id    INTEGER NOT NULL,
    old          TEXT,
    new          TEXT,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    action_id    INTEGER NOT NULL REFERENCES action(id)
);
CREATE INDEX cell_change_list ON cell_change(list_id, id);
CREATE INDEX cell_change_recipient ON cell_change(recipient_id);

CREATE TABLE picture (
    id         TEXT PRIMARY KEY,
    name       TEXT NOT NULL,
    media_type TEXT NOT NULL,
    width      INTEGER NOT NULL,
    height     INTEGER NOT NULL,
    size       INTEGER NOT NULL,
    at         TEXT NOT NULL
) WITHOUT ROWID;

CREATE TABLE design (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    kind       TEXT NOT NULL CHECK (kind IN ('letter')),
    list_id    INTEGER REFERENCES list(id),
    created_at TEXT NOT NULL,
    created_by TEXT NOT NULL
);

-- A version that is sealed is never changed again: it was produced, or somebody went on writing later.
CREATE TABLE design_version (
    id            INTEGER PRIMARY KEY,
    design_id     INTEGER NOT NULL REFERENCES design(id),
    number        INTEGER NOT NULL,
    document_json TEXT NOT NULL,
    created_at    TEXT NOT NULL,
    updated_at    TEXT NOT NULL,
    by            TEXT NOT NULL,
    sealed        INTEGER NOT NULL DEFAULT 0,
    restored_from INTEGER,
    UNIQUE (design_id, number)
);
CREATE TRIGGER design_version_sealed BEFORE UPDATE OF document_json ON design_version WHEN OLD.sealed = 1
BEGIN SELECT RAISE(ABORT, 'a sealed version of a design is never changed'); END;

CREATE TABLE campaign (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    created_at TEXT NOT NULL,
    created_by TEXT NOT NULL
);

CREATE TABLE mail_drop (
    id              INTEGER PRIMARY KEY,
    campaign_id     INTEGER NOT NULL REFERENCES campaign(id),
    number          INTEGER NOT NULL,
    name            TEXT NOT NULL,
    list_id         INTEGER NOT NULL REFERENCES list(id),
    design_id       INTEGER NOT NULL REFERENCES design(id),
    mail_date       TEXT,
    checked_mark    TEXT,
    created_at      TEXT NOT NULL,
    created_by      TEXT NOT NULL,
    UNIQUE (campaign_id, number)
);

-- What the events of each recipient add up to. Written only together with the events, in one transaction.
CREATE TABLE drop_recipient (
    drop_id       INTEGER NOT NULL REFERENCES mail_drop(id),
    recipient_id  INTEGER NOT NULL,
    piece_number  INTEGER NOT NULL,
    tray          TEXT NOT NULL,
    pages         INTEGER NOT NULL DEFAULT 1,
    hold_reason   TEXT,
    run_id        INTEGER,
    mailed_on     TEXT,
    return_reason TEXT,
    accepted_json TEXT,
    PRIMARY KEY (drop_id, recipient_id)
) WITHOUT ROWID;
CREATE UNIQUE INDEX drop_recipient_piece ON drop_recipient(drop_id, piece_number);
CREATE INDEX drop_recipient_tray ON drop_recipient(drop_id, tray);
CREATE INDEX drop_recipient_recipient ON drop_recipient(recipient_id);

CREATE TABLE finding (
    drop_id      INTEGER NOT NULL,
    recipient_id INTEGER NOT NULL,
    key          TEXT NOT NULL,
    alike        TEXT NOT NULL,
    kind         TEXT NOT NULL,
    subject      TEXT NOT NULL,
    detail       TEXT NOT NULL,
    message      TEXT NOT NULL,
    PRIMARY KEY (drop_id, recipient_id, key),
    FOREIGN KEY (drop_id, recipient_id) REFERENCES drop_recipient(drop_id, recipient_id)
) WITHOUT ROWID;
CREATE INDEX finding_alike ON finding(drop_id, alike);

CREATE TABLE drop_event (
    id           INTEGER PRIMARY KEY,
    drop_id      INTEGER NOT NULL REFERENCES mail_drop(id),
    recipient_id INTEGER NOT NULL,
    kind         TEXT NOT NULL,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    note         TEXT,
    keys_json    TEXT,
    run_id       INTEGER,
    date         TEXT,
    action_id    INTEGER REFERENCES action(id)
);
CREATE INDEX drop_event_recipient ON drop_event(recipient_id, drop_id, id);
CREATE INDEX drop_event_action ON drop_event(action_id) WHERE action_id IS NOT NULL;
CREATE TRIGGER drop_event_stays BEFORE UPDATE ON drop_event BEGIN SELECT RAISE(ABORT, 'the ledger is only ever added to'); END;
CREATE TRIGGER drop_event_kept BEFORE DELETE ON drop_event BEGIN SELECT RAISE(ABORT, 'the ledger is only ever added to'); END;

CREATE TABLE run (
    id                INTEGER PRIMARY KEY,
    drop_id           INTEGER NOT NULL REFERENCES mail_drop(id),
    number            INTEGER NOT NULL,
    state             TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'cancelled', 'failed')),
    pieces            INTEGER NOT NULL,
    pages             INTEGER NOT NULL,
    design_version_id INTEGER NOT NULL REFERENCES design_version(id),
    as_of_change      INTEGER NOT NULL,
    today             TEXT NOT NULL,
    chosen            TEXT NOT NULL,
    created_at        TEXT NOT NULL,
    created_by        TEXT NOT NULL,
    finished_at       TEXT,
    file_name         TEXT NOT NULL,
    file_size         INTEGER,
    message           TEXT,
    UNIQUE (drop_id, number)
);

CREATE TABLE run_piece (
    run_id       INTEGER NOT NULL REFERENCES run(id),
    piece_number INTEGER NOT NULL,
    recipient_id INTEGER NOT NULL,
    PRIMARY KEY (run_id, piece_number)
) WITHOUT ROWID;
CREATE INDEX run_piece_recipient ON run_piece(recipient_id);

-- Long work. What is queued or running when the process dies is taken up again at the next start.
CREATE TABLE job (
    id           INTEGER PRIMARY KEY,
    kind         TEXT NOT NULL,
    subject_id   INTEGER NOT NULL,
    state        TEXT NOT NULL CHECK (state IN ('queued', 'running', 'done', 'cancelled', 'failed')),
    label        TEXT NOT NULL,
    payload_json TEXT NOT NULL DEFAULT '{}',
    done         INTEGER NOT NULL DEFAULT 0,
    total        INTEGER NOT NULL DEFAULT 0,
    message      TEXT,
    created_at   TEXT NOT NULL,
    created_by   TEXT NOT NULL,
    finished_at  TEXT
);
CREATE INDEX job_open ON job(state) WHERE state IN ('queued', 'running');
