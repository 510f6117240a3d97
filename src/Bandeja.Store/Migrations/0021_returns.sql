-- What the barcodes of pieces say, by which a piece that came back is found. Intelligent Mail barcodes by their tracking code.
CREATE TABLE piece_code (
    code         TEXT NOT NULL,
    run_id       INTEGER NOT NULL,
    piece_number INTEGER NOT NULL,
    PRIMARY KEY (code, run_id, piece_number)
) WITHOUT ROWID;

WITH RECURSIVE part (run_id, piece_number, code, rest) AS (
    SELECT run_id, piece_number, NULL, barcodes || char(10) FROM run_piece WHERE barcodes IS NOT NULL AND barcodes <> ''
    UNION ALL
    SELECT run_id, piece_number, substr(rest, 1, instr(rest, char(10)) - 1), substr(rest, instr(rest, char(10)) + 1)
        FROM part WHERE rest <> ''
), plain (run_id, piece_number, code, digits) AS (
    SELECT run_id, piece_number, trim(code), replace(replace(trim(code), ' ', ''), '-', '') FROM part WHERE trim(coalesce(code, '')) <> ''
)
INSERT OR IGNORE INTO piece_code (code, run_id, piece_number)
    SELECT CASE WHEN length(digits) BETWEEN 20 AND 31 AND digits NOT GLOB '*[^0-9]*' THEN substr(digits, 1, 20) ELSE code END,
        run_id, piece_number FROM plain;

-- A drop of pieces that are mailed again holds only who was put into it.
ALTER TABLE mail_drop ADD COLUMN remails INTEGER REFERENCES mail_drop(id);

-- What was entered at the returns desk, with what followed from it, so that it can be taken back as a whole.
CREATE TABLE piece_return (
    id             INTEGER PRIMARY KEY,
    drop_id        INTEGER NOT NULL REFERENCES mail_drop(id),
    recipient_id   INTEGER NOT NULL,
    piece_number   INTEGER NOT NULL,
    reason         TEXT NOT NULL,
    follow_up      TEXT NOT NULL,
    action_id      INTEGER NOT NULL,
    suppression_id INTEGER,
    remail_drop_id INTEGER,
    at             TEXT NOT NULL,
    by             TEXT NOT NULL,
    undone_at      TEXT
);
CREATE INDEX piece_return_drop ON piece_return(drop_id, recipient_id);
