-- What came back to somebody who sends through here lies in a mailbox, from which it is fetched like anywhere else.
ALTER TABLE message ADD COLUMN returned INTEGER NOT NULL DEFAULT 0;
UPDATE message SET returned = 1 WHERE sender = '';
CREATE INDEX message_returned ON message(id) WHERE returned = 1;
CREATE INDEX message_sender ON message(sender COLLATE NOCASE);
