-- The word processor files that letters were made of. The bytes lie in the folder “documents”, named by their digest. What was chosen for the
-- placeholders is kept, so that a newer file needs no choosing again.
CREATE TABLE design_file (
    id INTEGER PRIMARY KEY,
    design_id INTEGER NOT NULL REFERENCES design (id),
    version INTEGER NOT NULL,
    digest TEXT NOT NULL,
    name TEXT NOT NULL,
    size INTEGER NOT NULL,
    marks_json TEXT NOT NULL,
    answers_json TEXT NOT NULL,
    at TEXT NOT NULL,
    by TEXT NOT NULL
);
CREATE INDEX design_file_design ON design_file (design_id);
