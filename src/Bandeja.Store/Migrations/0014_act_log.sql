-- What was done, by whom, whatever it was done to: one row for each act, in the transaction of the act itself.
-- An act that is repeated on the same thing by the same actor (a text that is being typed) counts in one row.
CREATE TABLE act_log (
    id INTEGER PRIMARY KEY,
    act TEXT NOT NULL,
    actor_kind TEXT NOT NULL,
    actor TEXT NOT NULL,
    at TEXT NOT NULL,
    until TEXT NOT NULL,
    times INTEGER NOT NULL DEFAULT 1,
    about TEXT,
    about_id INTEGER,
    text TEXT NOT NULL
);
CREATE INDEX act_log_about ON act_log (about, about_id);
