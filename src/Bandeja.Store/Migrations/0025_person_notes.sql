-- What people note about a recipient. A note that was removed stays until its list's people are erased, so that it can be put back.
CREATE TABLE person_note (
    id           INTEGER PRIMARY KEY,
    list_id      INTEGER NOT NULL REFERENCES list(id),
    recipient_id INTEGER NOT NULL,
    text         TEXT NOT NULL,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    removed_at   TEXT
);
CREATE INDEX person_note_recipient ON person_note(recipient_id);
CREATE INDEX person_note_list ON person_note(list_id);
