-- Production: runs in any order, as one file, as parts, as a file for each recipient, or on a printer; paused, resumed, made again.

ALTER TABLE run ADD COLUMN stage TEXT NOT NULL DEFAULT 'queued' CHECK (stage IN ('queued', 'running', 'paused', 'done', 'cancelled', 'failed'));
UPDATE run SET stage = state;
ALTER TABLE run DROP COLUMN state;
ALTER TABLE run RENAME COLUMN stage TO state;
-- one: a file for each design; parts: files of so many pieces; each: a file for each recipient, in a ZIP; print: on a printer.
ALTER TABLE run ADD COLUMN output TEXT NOT NULL DEFAULT 'one';
ALTER TABLE run ADD COLUMN sort TEXT NOT NULL DEFAULT 'piece';
ALTER TABLE run ADD COLUMN settings_json TEXT NOT NULL DEFAULT '{}';
-- Passwords and the seed of a protected run's files, encrypted by the server; never in clear.
ALTER TABLE run ADD COLUMN secret TEXT;
-- What the designs met when the run began: the list's columns, the organisation, how it addresses and greets.
ALTER TABLE run ADD COLUMN frozen_json TEXT;
ALTER TABLE run ADD COLUMN reprint_of INTEGER REFERENCES run(id);
ALTER TABLE run ADD COLUMN device_id INTEGER;
ALTER TABLE run ADD COLUMN files_gone_at TEXT;

ALTER TABLE run_piece ADD COLUMN position INTEGER NOT NULL DEFAULT 0;
-- Which of the run's serial numbers the piece has; a reprint has those of the run that it repeats.
ALTER TABLE run_piece ADD COLUMN serial INTEGER NOT NULL DEFAULT 0;
ALTER TABLE run_piece ADD COLUMN file_name TEXT;
ALTER TABLE run_piece ADD COLUMN printed_at TEXT;
UPDATE run_piece SET position = (SELECT count(*) FROM run_piece o WHERE o.run_id = run_piece.run_id AND o.piece_number < run_piece.piece_number);
UPDATE run_piece SET serial = position;
UPDATE run_piece SET printed_at = (SELECT finished_at FROM run WHERE id = run_id AND state = 'done');
-- Which designs of the package are out of the printer for this piece, a bit for each position.
ALTER TABLE run_piece ADD COLUMN out_mask INTEGER NOT NULL DEFAULT 0;
CREATE INDEX run_piece_position ON run_piece(run_id, position);

CREATE TABLE run_file (
    run_id      INTEGER NOT NULL REFERENCES run(id),
    number      INTEGER NOT NULL,
    name        TEXT NOT NULL,
    -- Which design it holds; 0 for all of the package.
    position    INTEGER NOT NULL,
    first_piece INTEGER NOT NULL,
    last_piece  INTEGER NOT NULL,
    pages       INTEGER NOT NULL,
    size        INTEGER NOT NULL,
    sha256      TEXT,
    PRIMARY KEY (run_id, number)
) WITHOUT ROWID;
INSERT INTO run_file (run_id, number, name, position, first_piece, last_piece, pages, size)
SELECT d.run_id, d.position, d.file_name, d.position, (SELECT coalesce(min(piece_number), 0) FROM run_piece WHERE run_id = d.run_id), (SELECT coalesce(max(piece_number), 0) FROM run_piece WHERE run_id = d.run_id), d.pages, coalesce(d.file_size, 0)
FROM run_design d JOIN run r ON r.id = d.run_id WHERE r.state = 'done';
ALTER TABLE run_design DROP COLUMN file_name;
ALTER TABLE run_design DROP COLUMN file_size;

-- Letters that were changed for one recipient, as they were when the run began.
CREATE TABLE run_one_off (
    run_id        INTEGER NOT NULL REFERENCES run(id),
    recipient_id  INTEGER NOT NULL,
    design_id     INTEGER NOT NULL,
    document_json TEXT NOT NULL,
    PRIMARY KEY (run_id, recipient_id, design_id)
) WITHOUT ROWID;

CREATE TABLE run_log (
    id     INTEGER PRIMARY KEY,
    run_id INTEGER NOT NULL REFERENCES run(id),
    at     TEXT NOT NULL,
    text   TEXT NOT NULL
);
CREATE INDEX run_log_run ON run_log(run_id, id);

-- A part of a printed run that is handed to the printer at once.
CREATE TABLE run_batch (
    run_id     INTEGER NOT NULL REFERENCES run(id),
    number     INTEGER NOT NULL,
    position   INTEGER NOT NULL,
    first_at   INTEGER NOT NULL,
    last_at    INTEGER NOT NULL,
    state      TEXT NOT NULL CHECK (state IN ('waiting', 'handing', 'printing', 'out', 'given up', 'doubt')),
    device_job TEXT,
    sheets_out INTEGER NOT NULL DEFAULT 0,
    -- Sheets up to and with each piece of the batch, and sheets before the first.
    ends_json  TEXT,
    before     INTEGER NOT NULL DEFAULT 0,
    again      INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (run_id, number)
) WITHOUT ROWID;

-- What is known of a printer: how paper goes in, and, where something stands behind it, what.
ALTER TABLE printer ADD COLUMN kind TEXT NOT NULL DEFAULT 'paper' CHECK (kind IN ('paper', 'practice', 'queue'));
ALTER TABLE printer ADD COLUMN queue TEXT;

-- The practice printer: its trays, what it was given, the sheets that came out.
CREATE TABLE practice_printer (
    printer_id       INTEGER PRIMARY KEY REFERENCES printer(id) ON DELETE CASCADE,
    sheets_a_minute  INTEGER NOT NULL,
    jams_in_10000    INTEGER NOT NULL DEFAULT 0,
    -- What it waits for; null while it can print.
    trouble          TEXT,
    jam_next         INTEGER NOT NULL DEFAULT 0,
    random_state     INTEGER NOT NULL DEFAULT 1
);
CREATE TABLE practice_tray (
    printer_id INTEGER NOT NULL REFERENCES practice_printer(printer_id) ON DELETE CASCADE,
    number     INTEGER NOT NULL,
    -- letter, envelope or labels.
    holds      TEXT NOT NULL,
    sheets     INTEGER NOT NULL,
    capacity   INTEGER NOT NULL,
    PRIMARY KEY (printer_id, number)
) WITHOUT ROWID;
CREATE TABLE practice_job (
    id         INTEGER PRIMARY KEY,
    printer_id INTEGER NOT NULL REFERENCES practice_printer(printer_id) ON DELETE CASCADE,
    -- Who hands the same thing over twice, because the first answer was lost, gets the same job.
    key        TEXT NOT NULL UNIQUE,
    title      TEXT NOT NULL,
    file       TEXT NOT NULL,
    paper      TEXT NOT NULL,
    duplex     INTEGER NOT NULL,
    copies     INTEGER NOT NULL,
    collated   INTEGER NOT NULL,
    pages      INTEGER NOT NULL,
    total      INTEGER NOT NULL,
    sheets_out INTEGER NOT NULL DEFAULT 0,
    state      TEXT NOT NULL CHECK (state IN ('waiting', 'printing', 'held', 'done', 'cancelled')),
    at         TEXT NOT NULL
);
CREATE INDEX practice_job_open ON practice_job(printer_id, id) WHERE state IN ('waiting', 'printing');
CREATE TABLE practice_sheet (
    id       INTEGER PRIMARY KEY,
    job_id   INTEGER NOT NULL REFERENCES practice_job(id) ON DELETE CASCADE,
    -- Which sheet of the job, from 1; a sheet that jammed comes out again under the same number.
    sheet    INTEGER NOT NULL,
    spoiled  INTEGER NOT NULL DEFAULT 0,
    at       TEXT NOT NULL
);
CREATE INDEX practice_sheet_job ON practice_sheet(job_id, sheet);

INSERT INTO printer (name, envelope_edge, envelope_face, envelope_turn, kind)
SELECT 'Practice printer', 'short', 'up', 0, 'practice' WHERE NOT EXISTS (SELECT 1 FROM printer WHERE name = 'Practice printer' COLLATE NOCASE);
INSERT INTO practice_printer (printer_id, sheets_a_minute) SELECT id, 2400 FROM printer WHERE kind = 'practice';
INSERT INTO practice_tray (printer_id, number, holds, sheets, capacity)
SELECT p.printer_id, t.column1, t.column2, t.column3, t.column3 FROM practice_printer p, (VALUES (1, 'letter', 5000), (2, 'envelope', 2000), (3, 'labels', 500)) t;
