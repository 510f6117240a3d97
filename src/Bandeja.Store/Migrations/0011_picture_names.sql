-- Which picture a name has meant since when: only ever added to, so that a run prints what the name meant when it began.
CREATE TABLE picture_naming (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    name       TEXT NOT NULL COLLATE NOCASE,
    picture_id TEXT NOT NULL REFERENCES picture(id),
    at         TEXT NOT NULL
);
CREATE INDEX picture_naming_name ON picture_naming(name, id);
INSERT INTO picture_naming (name, picture_id, at) SELECT name, picture_id, at FROM picture_name ORDER BY at, name;
DROP TABLE picture_name;
