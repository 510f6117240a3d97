-- How many of a batch's spoiled sheets the run's log tells of already: a server that starts again goes on after them.
ALTER TABLE run_batch ADD COLUMN spoiled_told INTEGER NOT NULL DEFAULT 0;

UPDATE run_batch
SET spoiled_told = (SELECT count(*) FROM practice_sheet s WHERE s.spoiled = 1 AND s.job_id = CAST(run_batch.device_job AS INTEGER))
WHERE state = 'printing';
