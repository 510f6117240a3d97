-- The password that opens a PDF of a form, encrypted with a key that is not in the database.
ALTER TABLE picture ADD COLUMN secret TEXT;
