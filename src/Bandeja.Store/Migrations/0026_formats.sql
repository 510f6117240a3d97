-- How the numbers of a column print where a field names no format, such as “money”; NULL for as they are stored.
ALTER TABLE list_column ADD COLUMN format TEXT;
ALTER TABLE detail_column ADD COLUMN format TEXT;
-- What a column was before and after an act says it too, so that acts from before can be undone as before.
UPDATE column_change SET old_json = json_set(old_json, '$.format', NULL) WHERE old_json IS NOT NULL;
UPDATE column_change SET new_json = json_set(new_json, '$.format', NULL) WHERE new_json IS NOT NULL;
