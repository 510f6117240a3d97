-- A drop sends a package of designs, not one letter; a run makes a file for each; envelopes and labels are designs, too.

ALTER TABLE design ADD COLUMN piece_kind TEXT NOT NULL DEFAULT 'letter';
ALTER TABLE design DROP COLUMN kind;
ALTER TABLE design RENAME COLUMN piece_kind TO kind;

CREATE TABLE drop_design (
    drop_id   INTEGER NOT NULL REFERENCES mail_drop(id),
    position  INTEGER NOT NULL,
    design_id INTEGER NOT NULL REFERENCES design(id),
    PRIMARY KEY (drop_id, position),
    UNIQUE (drop_id, design_id)
) WITHOUT ROWID;
CREATE INDEX drop_design_design ON drop_design(design_id);
INSERT INTO drop_design (drop_id, position, design_id) SELECT id, 1, design_id FROM mail_drop;
ALTER TABLE mail_drop DROP COLUMN design_id;

-- One file of a run. For labels: where on the first sheet they began.
CREATE TABLE run_design (
    run_id            INTEGER NOT NULL REFERENCES run(id),
    position          INTEGER NOT NULL,
    design_version_id INTEGER NOT NULL REFERENCES design_version(id),
    file_name         TEXT NOT NULL,
    file_size         INTEGER,
    pages             INTEGER NOT NULL,
    start_json        TEXT,
    PRIMARY KEY (run_id, position)
) WITHOUT ROWID;
CREATE INDEX run_design_version ON run_design(design_version_id);
INSERT INTO run_design (run_id, position, design_version_id, file_name, file_size, pages) SELECT id, 1, design_version_id, file_name, file_size, pages FROM run;
ALTER TABLE run DROP COLUMN design_version_id;
ALTER TABLE run DROP COLUMN file_name;
ALTER TABLE run DROP COLUMN file_size;
-- How the printer wants envelopes and label sheets, as it was when the run began.
ALTER TABLE run ADD COLUMN printer_json TEXT;

-- How a printer takes envelopes, and how far what it prints sits from where it should; millimetres.
CREATE TABLE printer (
    id             INTEGER PRIMARY KEY,
    name           TEXT NOT NULL UNIQUE,
    envelope_edge  TEXT NOT NULL CHECK (envelope_edge IN ('short', 'long')),
    envelope_face  TEXT NOT NULL CHECK (envelope_face IN ('up', 'down')),
    envelope_turn  INTEGER NOT NULL CHECK (envelope_turn IN (0, 180)),
    envelope_right REAL NOT NULL DEFAULT 0,
    envelope_down  REAL NOT NULL DEFAULT 0,
    sheet_right    REAL NOT NULL DEFAULT 0,
    sheet_down     REAL NOT NULL DEFAULT 0
);

-- Serial numbers of Intelligent Mail barcodes that were given out: each run has a stretch of them for each mailer identifier.
CREATE TABLE mail_serial (
    id     INTEGER PRIMARY KEY,
    mailer TEXT NOT NULL,
    first  INTEGER NOT NULL,
    count  INTEGER NOT NULL,
    run_id INTEGER NOT NULL REFERENCES run(id),
    at     TEXT NOT NULL
);
CREATE INDEX mail_serial_mailer ON mail_serial(mailer, id);
CREATE INDEX mail_serial_run ON mail_serial(run_id);
