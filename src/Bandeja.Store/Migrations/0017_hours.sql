-- How often the server ended while this work was being done: work that ends it is not begun a third time.
ALTER TABLE job ADD COLUMN ended_process INTEGER NOT NULL DEFAULT 0;

-- One row that is written to see whether the database can be.
CREATE TABLE health (id INTEGER PRIMARY KEY CHECK (id = 1), at TEXT NOT NULL);

-- The ledger is only ever added to. What is being removed because nothing was produced, or erased because people are, is named here for the
-- length of one transaction.
CREATE TABLE removing (drop_id INTEGER PRIMARY KEY);
DROP TRIGGER drop_event_stays;
DROP TRIGGER drop_event_kept;
CREATE TRIGGER drop_event_stays BEFORE UPDATE ON drop_event WHEN NOT EXISTS (SELECT 1 FROM removing WHERE drop_id = OLD.drop_id)
BEGIN SELECT RAISE(ABORT, 'the ledger is only ever added to'); END;
CREATE TRIGGER drop_event_kept BEFORE DELETE ON drop_event WHEN NOT EXISTS (SELECT 1 FROM removing WHERE drop_id = OLD.drop_id)
BEGIN SELECT RAISE(ABORT, 'the ledger is only ever added to'); END;
