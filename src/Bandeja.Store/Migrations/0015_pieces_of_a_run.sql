-- A run's counts are told from its own pieces, however large the drop is.
CREATE INDEX drop_recipient_run ON drop_recipient (run_id) WHERE run_id IS NOT NULL;
CREATE INDEX drop_recipient_email_run ON drop_recipient (email_run_id) WHERE email_run_id IS NOT NULL;
