-- Recipients of all lists as they are matched with others, and which of them are one person.
CREATE TABLE person_row (
    recipient_id INTEGER PRIMARY KEY,
    list_id      INTEGER NOT NULL REFERENCES list(id),
    person_id    INTEGER NOT NULL,
    email        TEXT NOT NULL,
    name         TEXT NOT NULL,
    street       TEXT NOT NULL,
    place        TEXT NOT NULL,
    family       TEXT NOT NULL,
    -- What households are told apart by; empty for organizations, and where the address is not whole.
    home         TEXT NOT NULL
);
CREATE INDEX person_row_person ON person_row(person_id);
CREATE INDEX person_row_home ON person_row(home) WHERE home <> '';
CREATE INDEX person_row_list ON person_row(list_id);

CREATE TABLE person_block (
    block        INTEGER NOT NULL,
    recipient_id INTEGER NOT NULL,
    PRIMARY KEY (block, recipient_id)
) WITHOUT ROWID;
CREATE INDEX person_block_recipient ON person_block(recipient_id);

CREATE TABLE same_person (
    a       INTEGER NOT NULL,
    b       INTEGER NOT NULL,
    reason  TEXT NOT NULL,
    by_hand INTEGER NOT NULL DEFAULT 0,
    at      TEXT,
    by      TEXT,
    PRIMARY KEY (a, b)
) WITHOUT ROWID;
CREATE INDEX same_person_b ON same_person(b);

CREATE TABLE not_same_person (
    a  INTEGER NOT NULL,
    b  INTEGER NOT NULL,
    at TEXT NOT NULL,
    by TEXT NOT NULL,
    PRIMARY KEY (a, b)
) WITHOUT ROWID;
CREATE INDEX not_same_person_b ON not_same_person(b);

-- Up to where a list was looked through for people, and by which columns.
CREATE TABLE people_mark (
    list_id   INTEGER PRIMARY KEY REFERENCES list(id),
    columns   TEXT NOT NULL,
    change_id INTEGER NOT NULL,
    row_id    INTEGER NOT NULL
);

-- Which of two drops goes where a contact limit lets only one go. Single letters are written knowingly.
ALTER TABLE mail_drop ADD COLUMN priority TEXT NOT NULL DEFAULT 'Usual' CHECK (priority IN ('Always', 'First', 'Usual', 'Last'));
UPDATE mail_drop SET priority = 'Always' WHERE single = 1;

-- How often somebody in a drop was held, released, returned, or joined, and how often a piece was made or taken back: other drops look
-- again at whom contact limits keep back when that changes.
CREATE TABLE drop_moves (
    drop_id INTEGER PRIMARY KEY,
    held    INTEGER NOT NULL,
    made    INTEGER NOT NULL
);
INSERT INTO drop_moves SELECT id, 0, 0 FROM mail_drop;
CREATE TRIGGER drop_moves_begun AFTER INSERT ON mail_drop BEGIN
    INSERT INTO drop_moves VALUES (NEW.id, 0, 0);
END;
CREATE TRIGGER drop_moves_removed AFTER DELETE ON mail_drop BEGIN
    DELETE FROM drop_moves WHERE drop_id = OLD.id;
END;
CREATE TRIGGER drop_moves_joined AFTER INSERT ON drop_recipient BEGIN
    UPDATE drop_moves SET held = held + 1 WHERE drop_id = NEW.drop_id;
END;
CREATE TRIGGER drop_moves_tray AFTER UPDATE OF tray ON drop_recipient WHEN OLD.tray <> NEW.tray BEGIN
    UPDATE drop_moves SET
        held = held + (OLD.tray IN ('Held', 'Returned') OR NEW.tray IN ('Held', 'Returned')),
        made = made + ((OLD.tray IN ('Produced', 'Mailed', 'Returned')) <> (NEW.tray IN ('Produced', 'Mailed', 'Returned')))
    WHERE drop_id = NEW.drop_id;
END;

-- Returns that came as a file are taken back together.
ALTER TABLE piece_return ADD COLUMN batch INTEGER;
CREATE INDEX piece_return_batch ON piece_return(batch) WHERE batch IS NOT NULL;

-- Documents that are kept with recipients; their bytes lie in the folder “people”. Numbers are never given out twice: what a run may use
-- is told by the newest number when it began.
CREATE TABLE person_file (
    id           INTEGER PRIMARY KEY AUTOINCREMENT,
    list_id      INTEGER NOT NULL REFERENCES list(id),
    recipient_id INTEGER NOT NULL,
    name         TEXT NOT NULL,
    sha256       TEXT NOT NULL,
    media_type   TEXT NOT NULL,
    size         INTEGER NOT NULL,
    picture      TEXT NOT NULL,
    width        REAL NOT NULL,
    height       REAL NOT NULL,
    drawing      INTEGER NOT NULL,
    pages        INTEGER NOT NULL,
    written      INTEGER NOT NULL,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL
);
CREATE INDEX person_file_recipient ON person_file(recipient_id);
CREATE INDEX person_file_list ON person_file(list_id);
