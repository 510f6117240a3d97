-- What stands in a message as its date, with its offset, from the first attempt on: however often it is tried and wherever it is
-- written out, it is the same message. Messages of before have none; the moment of their last attempt comes nearest.
ALTER TABLE run_mail ADD COLUMN dated_at TEXT;
