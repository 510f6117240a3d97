-- How a column of whole names or addresses was divided after it came in, as JSON; NULL where it was not. A newer file's values are divided so.
ALTER TABLE list_column ADD COLUMN division_json TEXT;
