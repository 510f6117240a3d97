-- How often the server ended while this work was being done: work that ends it is not begun a third time.
ALTER TABLE job ADD COLUMN ended_process INTEGER NOT NULL DEFAULT 0;

-- One row that is written to see whether the database can be.
CREATE TABLE health (id INTEGER PRIMARY KEY CHECK (id = 1), at TEXT NOT NULL);
