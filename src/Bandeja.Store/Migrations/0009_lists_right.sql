-- What barcodes a piece carries, so that scans can be tied to recipients: one a line, as they read.
ALTER TABLE run_piece ADD COLUMN barcodes TEXT;

-- Whom an entry keeps from being mailed to: everything, or emails alone. Whoever opted out of emails still gets letters.
ALTER TABLE suppression ADD COLUMN channel TEXT NOT NULL DEFAULT 'all' CHECK (channel IN ('all', 'email'));
UPDATE suppression SET channel = 'email' WHERE list_id IN (SELECT id FROM suppression_list WHERE name IN ('No more email, at their own wish', 'Email that came back'));
