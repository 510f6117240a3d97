-- One name for each thing: duplicate, issue. Indexes follow their tables.
ALTER TABLE doubt RENAME TO check_issue;
ALTER TABLE doubt_left RENAME TO accepted_issue;
ALTER TABLE finding RENAME TO piece_issue;
ALTER TABLE twin RENAME TO duplicate;
ALTER TABLE twin_different RENAME TO not_duplicate;
ALTER TABLE list RENAME COLUMN twins_mark TO duplicates_mark;
UPDATE job SET kind = 'duplicates' WHERE kind = 'twins';
