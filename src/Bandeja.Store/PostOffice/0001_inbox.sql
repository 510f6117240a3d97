-- The practice post office: what it took, and what it is told to do. A database of its own, as a mail server elsewhere would have.
CREATE TABLE message (
    id         INTEGER PRIMARY KEY,
    at         TEXT NOT NULL,
    -- The envelope (RFC 5321, section 2.3.1).
    sender     TEXT NOT NULL,
    recipients TEXT NOT NULL,
    from_line  TEXT NOT NULL,
    subject    TEXT NOT NULL,
    message_id TEXT NOT NULL,
    size       INTEGER NOT NULL,
    files      INTEGER NOT NULL
);
CREATE INDEX message_mid ON message(message_id);
-- Apart from the list, so that going through it reads no messages.
CREATE TABLE message_raw (id INTEGER PRIMARY KEY REFERENCES message(id) ON DELETE CASCADE, raw BLOB NOT NULL);
CREATE VIRTUAL TABLE message_words USING fts5 (recipients, from_line, subject, body, content = '', contentless_delete = 1, prefix = '2 3');
CREATE TABLE behaviour (
    id      INTEGER PRIMARY KEY,
    -- refuse, later, slow, drop, drop after, report.
    kind    TEXT NOT NULL,
    -- An address, @ and a domain, or * for all.
    address TEXT NOT NULL,
    -- How often it still does so; null for ever.
    times   INTEGER,
    words   TEXT NOT NULL
);
