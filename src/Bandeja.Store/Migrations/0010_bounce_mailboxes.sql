-- The mailbox in which an account's bounces arrive. It is read now and then, and nothing in it is changed.
CREATE TABLE bounce_mailbox (
    account_id     INTEGER PRIMARY KEY REFERENCES mail_account(id) ON DELETE CASCADE,
    host           TEXT NOT NULL,
    port           INTEGER NOT NULL,
    -- starttls or tls; none only for the practice post office.
    tls            TEXT NOT NULL CHECK (tls IN ('none', 'starttls', 'tls')),
    user_name      TEXT NOT NULL,
    secret         TEXT,
    folder         TEXT NOT NULL DEFAULT 'INBOX',
    every_minutes  INTEGER NOT NULL DEFAULT 10,
    -- The envelope's sender, to which bounces go; null for the sender in the message.
    return_address TEXT,
    -- 1 where each message gets a return address of its own, by which a bounce in any form is matched.
    own_address    INTEGER NOT NULL DEFAULT 0,
    -- How far it has been read (RFC 3501, section 2.3.1.1).
    uid_validity   INTEGER NOT NULL DEFAULT 0,
    last_uid       INTEGER NOT NULL DEFAULT 0,
    read_at        TEXT,
    -- What went wrong the last time; null where nothing did.
    problem        TEXT,
    messages       INTEGER NOT NULL DEFAULT 0,
    reports        INTEGER NOT NULL DEFAULT 0
);
INSERT INTO bounce_mailbox (account_id, host, port, tls, user_name) SELECT id, '127.0.0.1', 0, 'none', 'practice' FROM mail_account WHERE kind = 'practice';
