-- Designs get a description, tags and an archive, and remember which column of a list a name of theirs stands for.

ALTER TABLE design ADD COLUMN description TEXT NOT NULL DEFAULT '';
ALTER TABLE design ADD COLUMN tags_json TEXT NOT NULL DEFAULT '[]';
ALTER TABLE design ADD COLUMN archived INTEGER NOT NULL DEFAULT 0;

-- A name in a letter that stands for a column called otherwise: settled by hand or by role for a list it was not written for, or the
-- heading that a column had before it was renamed.
CREATE TABLE design_match (
    design_id INTEGER NOT NULL REFERENCES design(id),
    list_id   INTEGER NOT NULL REFERENCES list(id) ON DELETE CASCADE,
    name      TEXT NOT NULL COLLATE NOCASE,
    column_id INTEGER NOT NULL,
    how       TEXT NOT NULL CHECK (how IN ('hand', 'role', 'renamed')),
    PRIMARY KEY (design_id, list_id, name)
) WITHOUT ROWID;
CREATE INDEX design_match_list ON design_match(list_id);

-- One picture may have come in under several names; a column that names pictures finds it by any of them, the newest first.
CREATE TABLE picture_name (
    name       TEXT PRIMARY KEY COLLATE NOCASE,
    picture_id TEXT NOT NULL REFERENCES picture(id),
    at         TEXT NOT NULL
) WITHOUT ROWID;
INSERT OR REPLACE INTO picture_name (name, picture_id, at) SELECT name, id, at FROM picture ORDER BY at;
