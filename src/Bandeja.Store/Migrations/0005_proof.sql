-- Proofs: what was looked at and how it was found, who signed off on what, and letters that were changed for one recipient alone.

CREATE TABLE proof_look (
    drop_id      INTEGER NOT NULL REFERENCES mail_drop(id),
    recipient_id INTEGER NOT NULL,
    verdict      TEXT NOT NULL CHECK (verdict IN ('right', 'wrong')),
    note         TEXT,
    -- A mark of what was on the pages: where they look otherwise now, they were not looked at.
    pages_mark   TEXT NOT NULL,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    PRIMARY KEY (drop_id, recipient_id)
) WITHOUT ROWID;

-- Recipients whom somebody wants to see in the proof set beside those that were chosen.
CREATE TABLE proof_own (
    drop_id      INTEGER NOT NULL REFERENCES mail_drop(id),
    recipient_id INTEGER NOT NULL,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    PRIMARY KEY (drop_id, recipient_id)
) WITHOUT ROWID;

CREATE TABLE sign_off (
    id           INTEGER PRIMARY KEY,
    drop_id      INTEGER NOT NULL REFERENCES mail_drop(id),
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    note         TEXT,
    -- Exactly what was signed off: versions of the designs, the list's last change, the filter, what addresses and greetings follow.
    on_json      TEXT NOT NULL,
    looks_json   TEXT NOT NULL,
    withdrawn_at TEXT,
    withdrawn_by TEXT
);
CREATE INDEX sign_off_drop ON sign_off(drop_id, id);
ALTER TABLE mail_drop ADD COLUMN needs_sign_off INTEGER NOT NULL DEFAULT 0;

-- A letter as it was changed for one recipient. It holds for the version of the design with which it was settled.
CREATE TABLE one_off (
    drop_id            INTEGER NOT NULL REFERENCES mail_drop(id),
    recipient_id       INTEGER NOT NULL,
    design_id          INTEGER NOT NULL REFERENCES design(id),
    document_json      TEXT NOT NULL,
    settled_version_id INTEGER NOT NULL REFERENCES design_version(id),
    at                 TEXT NOT NULL,
    by                 TEXT NOT NULL,
    PRIMARY KEY (drop_id, recipient_id, design_id)
) WITHOUT ROWID;
