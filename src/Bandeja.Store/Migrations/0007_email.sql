-- Email: a second way for the pieces of a drop. Who goes by which, accounts to send with, each message's way through a server, what came back.

-- What decides who goes by which: see ChannelRule.
ALTER TABLE mail_drop ADD COLUMN channel_by TEXT NOT NULL DEFAULT 'Package';
ALTER TABLE mail_drop ADD COLUMN channel_column INTEGER;

ALTER TABLE drop_recipient ADD COLUMN channel TEXT NOT NULL DEFAULT 'Paper' CHECK (channel IN ('Paper', 'Email', 'Both'));
ALTER TABLE drop_recipient ADD COLUMN channel_by_hand INTEGER NOT NULL DEFAULT 0;
-- What run_id and mailed_on are for paper.
ALTER TABLE drop_recipient ADD COLUMN email_run_id INTEGER;
ALTER TABLE drop_recipient ADD COLUMN emailed_on TEXT;

CREATE TABLE mail_account (
    id           INTEGER PRIMARY KEY,
    name         TEXT NOT NULL UNIQUE COLLATE NOCASE,
    -- practice: the practice post office, whose place is known; smtp: a server somewhere.
    kind         TEXT NOT NULL CHECK (kind IN ('practice', 'smtp')),
    host         TEXT NOT NULL,
    port         INTEGER NOT NULL,
    tls          TEXT NOT NULL CHECK (tls IN ('none', 'starttls', 'tls')),
    user_name    TEXT,
    -- The password, encrypted by the server; never in clear.
    secret       TEXT,
    per_minute   INTEGER NOT NULL DEFAULT 0,
    per_day      INTEGER NOT NULL DEFAULT 0,
    connections  INTEGER NOT NULL DEFAULT 2,
    -- Seconds until a message that was put off is tried again for the first time.
    first_wait   INTEGER NOT NULL DEFAULT 60,
    created_at   TEXT NOT NULL,
    created_by   TEXT NOT NULL
);
INSERT INTO mail_account (name, kind, host, port, tls, connections, first_wait, created_at, created_by) VALUES ('Practice post office', 'practice', '127.0.0.1', 0, 'none', 4, 5, '', 'Bandeja');

ALTER TABLE run ADD COLUMN account_id INTEGER REFERENCES mail_account(id);
-- Not before this moment; null for at once.
ALTER TABLE run ADD COLUMN not_before TEXT;
ALTER TABLE job ADD COLUMN not_before TEXT;

-- A message of a run.
CREATE TABLE run_mail (
    run_id       INTEGER NOT NULL REFERENCES run(id),
    recipient_id INTEGER NOT NULL,
    position     INTEGER NOT NULL,
    -- Given before the first attempt, so that whatever comes of it can be told by it (RFC 5322, section 3.6.4).
    message_id   TEXT NOT NULL,
    -- By which the recipient ends further mail.
    token        TEXT NOT NULL,
    state        TEXT NOT NULL CHECK (state IN ('waiting', 'handing', 'later', 'doubt', 'sent', 'refused', 'left out')),
    address      TEXT,
    attempts     INTEGER NOT NULL DEFAULT 0,
    -- When it is tried again, where it was put off.
    next_at      TEXT,
    -- When the last attempt began, and when the server took it.
    tried_at     TEXT,
    sent_at      TEXT,
    -- The server's own words.
    words        TEXT,
    PRIMARY KEY (run_id, recipient_id)
) WITHOUT ROWID;
CREATE INDEX run_mail_next ON run_mail(run_id, state, position);
CREATE UNIQUE INDEX run_mail_message ON run_mail(message_id);
CREATE UNIQUE INDEX run_mail_token ON run_mail(token);
CREATE INDEX run_mail_sent ON run_mail(sent_at) WHERE sent_at IS NOT NULL;

-- An address that a mail server refused for good. It holds for this very address: another one may be tried.
CREATE TABLE mail_refusal (
    drop_id      INTEGER NOT NULL REFERENCES mail_drop(id),
    recipient_id INTEGER NOT NULL,
    address      TEXT NOT NULL,
    words        TEXT NOT NULL,
    at           TEXT NOT NULL,
    PRIMARY KEY (drop_id, recipient_id)
) WITHOUT ROWID;

-- A delivery report (RFC 3464) that was matched to its piece, or not.
CREATE TABLE mail_report (
    id           INTEGER PRIMARY KEY,
    at           TEXT NOT NULL,
    run_id       INTEGER,
    recipient_id INTEGER,
    drop_id      INTEGER,
    address      TEXT NOT NULL,
    action       TEXT NOT NULL,
    status       TEXT NOT NULL,
    words        TEXT NOT NULL,
    -- True where the address is gone for good and not only unreachable for a while.
    hard         INTEGER NOT NULL,
    -- The digest of the report, so that the same one counts once.
    mark         TEXT NOT NULL UNIQUE,
    -- What came of the proposal to suppress: null while it is open.
    settled      TEXT CHECK (settled IN ('suppressed', 'left'))
);
CREATE INDEX mail_report_drop ON mail_report(drop_id, id);
CREATE INDEX mail_report_piece ON mail_report(run_id, recipient_id);

-- Folders of files to attach, one for a recipient each, and files that are attached for everybody. Nothing is overwritten: the newest of a
-- name holds, and a run keeps what was the newest when it began. A file without a digest says that the name was taken away.
CREATE TABLE mail_folder (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL UNIQUE COLLATE NOCASE,
    created_at TEXT NOT NULL,
    created_by TEXT NOT NULL
);
CREATE TABLE mail_file (
    id        INTEGER PRIMARY KEY,
    folder_id INTEGER REFERENCES mail_folder(id),
    name      TEXT NOT NULL COLLATE NOCASE,
    sha256    TEXT,
    size      INTEGER NOT NULL,
    at        TEXT NOT NULL,
    by        TEXT NOT NULL
);
CREATE INDEX mail_file_name ON mail_file(folder_id, name, id);

