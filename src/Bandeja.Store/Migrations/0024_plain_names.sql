-- Names that code, screens, and the API have in common: organization, needs review, excluded.
UPDATE list_column SET role = 'Organization' WHERE role = 'Organisation';
UPDATE column_change SET old_json = json_set(old_json, '$.role', 'Organization') WHERE json_extract(old_json, '$.role') = 'Organisation';
UPDATE column_change SET new_json = json_set(new_json, '$.role', 'Organization') WHERE json_extract(new_json, '$.role') = 'Organisation';

UPDATE setting SET key = 'organization' WHERE key = 'organisation';
-- Salutations name the part of an address, not a column: only there may it be written in the new way.
UPDATE setting SET value = replace(replace(value, '{Organisation', '{Organization'), '{organisation', '{organization') WHERE key = 'salutations';
UPDATE run SET frozen_json = json_remove(json_set(frozen_json,
        '$.Organization', json_extract(frozen_json, '$.Organisation'),
        '$.Ladders', json(replace(replace(json_extract(frozen_json, '$.Ladders'), '{Organisation', '{Organization'), '{organisation', '{organization'))),
    '$.Organisation')
WHERE json_extract(frozen_json, '$.Organisation') IS NOT NULL;

-- The sums by tray follow by themselves.
UPDATE drop_recipient SET tray = 'NeedsReview' WHERE tray = 'NeedsALook';
DELETE FROM drop_sum WHERE what = 'NeedsALook';

DROP VIEW piece_doubt;
CREATE TABLE run_mail_renamed (
    run_id       INTEGER NOT NULL REFERENCES run(id),
    recipient_id INTEGER NOT NULL,
    position     INTEGER NOT NULL,
    -- Given before the first attempt, so that whatever comes of it can be told by it (RFC 5322, section 3.6.4).
    message_id   TEXT NOT NULL,
    -- By which the recipient ends further mail.
    token        TEXT NOT NULL,
    state        TEXT NOT NULL CHECK (state IN ('waiting', 'handing', 'later', 'doubt', 'sent', 'refused', 'excluded')),
    address      TEXT,
    attempts     INTEGER NOT NULL DEFAULT 0,
    -- When it is tried again, where it was put off.
    next_at      TEXT,
    -- When the last attempt began, and when the server took it.
    tried_at     TEXT,
    sent_at      TEXT,
    -- The server's own words.
    words        TEXT,
    dated_at     TEXT,
    PRIMARY KEY (run_id, recipient_id)
) WITHOUT ROWID;
INSERT INTO run_mail_renamed
SELECT run_id, recipient_id, position, message_id, token, CASE state WHEN 'left out' THEN 'excluded' ELSE state END, address, attempts, next_at,
    tried_at, sent_at, words, dated_at
FROM run_mail;
DROP TABLE run_mail;
ALTER TABLE run_mail_renamed RENAME TO run_mail;
CREATE INDEX run_mail_next ON run_mail(run_id, state, position);
CREATE UNIQUE INDEX run_mail_message ON run_mail(message_id);
CREATE UNIQUE INDEX run_mail_token ON run_mail(token);
CREATE INDEX run_mail_sent ON run_mail(sent_at) WHERE sent_at IS NOT NULL;
CREATE INDEX run_mail_doubt ON run_mail(recipient_id) WHERE state IN ('doubt', 'handing');
CREATE VIEW piece_doubt AS
SELECT u.drop_id, m.recipient_id, m.run_id, u.number AS run_number, 1 AS email, NULL AS batch, m.words
FROM run_mail m JOIN run u ON u.id = m.run_id JOIN drop_recipient d ON d.drop_id = u.drop_id AND d.recipient_id = m.recipient_id
WHERE (m.state = 'doubt' OR m.state = 'handing' AND u.state NOT IN ('queued', 'running', 'paused')) AND (d.emailed_on IS NULL OR d.email_run_id = m.run_id)
UNION ALL
SELECT u.drop_id, p.recipient_id, b.run_id, u.number, 0, b.number, NULL
FROM run_batch b JOIN run u ON u.id = b.run_id JOIN run_piece p ON p.run_id = b.run_id AND p.position BETWEEN b.first_at AND b.last_at AND p.printed_at IS NULL
WHERE b.state = 'doubt' OR b.state = 'handing' AND u.state NOT IN ('queued', 'running', 'paused');
