-- The organization's own typefaces. The bytes lie in the folder “typefaces”, named by their digest.
CREATE TABLE typeface (
    id INTEGER PRIMARY KEY,
    digest TEXT NOT NULL UNIQUE,
    family TEXT NOT NULL,
    bold INTEGER NOT NULL,
    italic INTEGER NOT NULL,
    style TEXT NOT NULL,
    file_name TEXT NOT NULL,
    size INTEGER NOT NULL,
    line_height REAL NOT NULL,
    at TEXT NOT NULL,
    by TEXT NOT NULL
);
CREATE UNIQUE INDEX typeface_cut ON typeface (family COLLATE NOCASE, bold, italic);

-- What prints typefaces that documents name, where somebody chose it.
CREATE TABLE typeface_replacement (
    named TEXT PRIMARY KEY COLLATE NOCASE,
    printed TEXT NOT NULL
);
