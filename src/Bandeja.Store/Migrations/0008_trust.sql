-- Nobody twice, and every change reaches everything: doubts that outlive their run, marks that survive a restart, households that
-- are looked at anew with every change, what a run printed as it printed it, and what every save is based on.

-- Who may have been sent a piece of a drop already. It is told from the messages and batches themselves, so nothing can forget it: not a
-- pause, not a cancellation, not another run. A message that is being sent counts once its run has ended, because nobody waits for its
-- answer then. Where another run has sent the piece since, there is nothing left to settle.
CREATE INDEX run_mail_doubt ON run_mail(recipient_id) WHERE state IN ('doubt', 'handing');
CREATE INDEX run_batch_doubt ON run_batch(run_id) WHERE state IN ('doubt', 'handing');
CREATE VIEW piece_doubt AS
SELECT u.drop_id, m.recipient_id, m.run_id, u.number AS run_number, 1 AS email, NULL AS batch, m.words
FROM run_mail m JOIN run u ON u.id = m.run_id JOIN drop_recipient d ON d.drop_id = u.drop_id AND d.recipient_id = m.recipient_id
WHERE (m.state = 'doubt' OR m.state = 'handing' AND u.state NOT IN ('queued', 'running', 'paused')) AND (d.emailed_on IS NULL OR d.email_run_id = m.run_id)
UNION ALL
SELECT u.drop_id, p.recipient_id, b.run_id, u.number, 0, b.number, NULL
FROM run_batch b JOIN run u ON u.id = b.run_id JOIN run_piece p ON p.run_id = b.run_id AND p.position BETWEEN b.first_at AND b.last_at AND p.printed_at IS NULL
WHERE b.state = 'doubt' OR b.state = 'handing' AND u.state NOT IN ('queued', 'running', 'paused');

-- Goes up when the values of many recipients changed at once, so that the drop's mark differs and it is checked again.
ALTER TABLE mail_drop ADD COLUMN changes INTEGER NOT NULL DEFAULT 0;
-- Why the last check of the drop failed, and the mark for which it did: it is tried again when something has changed.
ALTER TABLE mail_drop ADD COLUMN check_error TEXT;
ALTER TABLE mail_drop ADD COLUMN check_error_mark TEXT;
-- What the rules would hold a recipient for whose piece was produced already: it is reported, and the piece stays where it is.
ALTER TABLE drop_recipient ADD COLUMN rule_note TEXT;

-- Households: who belongs, in order, the first one who can get the piece being addressed.
CREATE TABLE household (
    id      INTEGER PRIMARY KEY,
    list_id INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    form    TEXT NOT NULL DEFAULT 'GivenNames',
    -- The name of all that was written last; one that a person wrote instead stays until the members or their names change.
    named   TEXT
);
CREATE INDEX household_list ON household(list_id);
CREATE TABLE household_person (
    list_id      INTEGER NOT NULL,
    recipient_id INTEGER NOT NULL,
    household_id INTEGER NOT NULL REFERENCES household(id) ON DELETE CASCADE,
    position     INTEGER NOT NULL,
    -- Null while they live with the others and can get mail; else why the piece is not addressed to them: moved, suppressed, removed.
    apart        TEXT,
    PRIMARY KEY (list_id, recipient_id)
) WITHOUT ROWID;
CREATE INDEX household_person_household ON household_person(household_id, position);
-- What an act did to households, so that it can be undone and redone exactly.
CREATE TABLE household_change (
    id           INTEGER PRIMARY KEY,
    household_id INTEGER NOT NULL,
    list_id      INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    old_json     TEXT,
    new_json     TEXT,
    action_id    INTEGER NOT NULL REFERENCES action(id)
);
CREATE INDEX household_change_action ON household_change(action_id);
INSERT INTO household (id, list_id) SELECT min(addressee_id), list_id FROM household_member GROUP BY list_id, addressee_id;
INSERT OR IGNORE INTO household_person (list_id, recipient_id, household_id, position) SELECT list_id, addressee_id, addressee_id, 0 FROM household_member GROUP BY list_id, addressee_id;
INSERT OR IGNORE INTO household_person (list_id, recipient_id, household_id, position) SELECT list_id, recipient_id, addressee_id, row_number() OVER (PARTITION BY list_id, addressee_id ORDER BY recipient_id) FROM household_member;
INSERT INTO household_change (household_id, list_id, old_json, new_json, action_id)
SELECT h.id, h.list_id, NULL, json_object('form', h.form, 'members', (SELECT json_group_array(recipient_id) FROM (SELECT recipient_id FROM household_person p WHERE p.household_id = h.id ORDER BY position))),
       (SELECT min(m.action_id) FROM household_member m WHERE m.list_id = h.list_id AND m.addressee_id = h.id)
FROM household h;
DROP TABLE household_member;
UPDATE list_column SET role = 'AddressedTo' WHERE name = 'Addressed to' COLLATE NOCASE AND kind = 'Hand' AND role = 'None' AND removed = 0 AND list_id IN (SELECT list_id FROM household);

-- What stood on the piece, as it was printed or sent; a reprint says whether it takes corrections.
ALTER TABLE run_piece ADD COLUMN printed_name TEXT;
ALTER TABLE run_piece ADD COLUMN printed_address TEXT;
ALTER TABLE run ADD COLUMN corrected INTEGER NOT NULL DEFAULT 0;
-- Detail rows as they were when the run began: a newer file changes no piece that was produced.
CREATE TABLE run_detail (
    run_id       INTEGER NOT NULL REFERENCES run(id),
    recipient_id INTEGER NOT NULL,
    -- Position among the sets of the run, which are frozen with their columns.
    position     INTEGER NOT NULL,
    rows_json    TEXT NOT NULL,
    PRIMARY KEY (run_id, recipient_id, position)
) WITHOUT ROWID;

-- Goes up with every save of a version: a save says which one it is based on.
ALTER TABLE design_version ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
-- Goes up with every change of a record that two people can edit.
ALTER TABLE segment ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;

-- How many pages a PDF has, and how many bytes a picture adds to each piece; 0 where that was not looked at yet.
ALTER TABLE picture ADD COLUMN pages INTEGER NOT NULL DEFAULT 0;
ALTER TABLE picture ADD COLUMN written INTEGER NOT NULL DEFAULT 0;

-- Names of a design that stand for detail rows of a list, or for a column within them, though they are called otherwise there. Rows are
-- remembered by name: a newer file replaces a set of the same name.
CREATE TABLE design_rows_match (
    design_id INTEGER NOT NULL REFERENCES design(id),
    list_id   INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    -- The name of the rows in the design, and, for a column, its name there; else empty.
    name      TEXT NOT NULL COLLATE NOCASE,
    field     TEXT NOT NULL DEFAULT '' COLLATE NOCASE,
    target    TEXT NOT NULL,
    PRIMARY KEY (design_id, list_id, name, field)
) WITHOUT ROWID;
