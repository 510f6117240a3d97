-- Campaigns with steps: who goes through them and how, and what ends it for somebody.
ALTER TABLE campaign ADD COLUMN mode TEXT NOT NULL DEFAULT 'Drops' CHECK (mode IN ('Drops', 'Together', 'OneByOne'));
ALTER TABLE campaign ADD COLUMN list_id INTEGER REFERENCES list(id);
ALTER TABLE campaign ADD COLUMN starts_on TEXT;
ALTER TABLE campaign ADD COLUMN entry TEXT NOT NULL DEFAULT 'ByHand' CHECK (entry IN ('Everyone', 'Added', 'Condition', 'ByHand'));
ALTER TABLE campaign ADD COLUMN entry_filter TEXT NOT NULL DEFAULT '';
-- Recipients with a greater id were added to the list after the campaign began, or after it was last looked through.
ALTER TABLE campaign ADD COLUMN entry_after INTEGER NOT NULL DEFAULT 0;
ALTER TABLE campaign ADD COLUMN stay_filter TEXT NOT NULL DEFAULT '';
ALTER TABLE campaign ADD COLUMN response_days INTEGER NOT NULL DEFAULT 60;
-- Goes up with every change of steps, leavings, and responses: drops of steps are checked again because of it.
ALTER TABLE campaign ADD COLUMN revision INTEGER NOT NULL DEFAULT 0;
-- For what those who leave by themselves were looked through last.
ALTER TABLE campaign ADD COLUMN leaves_mark TEXT;

CREATE TABLE campaign_step (
    id          INTEGER PRIMARY KEY,
    campaign_id INTEGER NOT NULL REFERENCES campaign(id),
    position    INTEGER NOT NULL,
    name        TEXT NOT NULL,
    who         TEXT NOT NULL CHECK (who IN ('Everyone', 'Segment', 'Condition')),
    segment_id  INTEGER REFERENCES segment(id),
    condition   TEXT NOT NULL DEFAULT '',
    on_date     TEXT,
    after       INTEGER NOT NULL DEFAULT 0,
    unit        TEXT NOT NULL DEFAULT 'Days',
    ready_days  INTEGER NOT NULL DEFAULT 1,
    weekday     INTEGER,
    skipped     INTEGER NOT NULL DEFAULT 0,
    designs     TEXT NOT NULL DEFAULT '[]'
);
CREATE INDEX campaign_step_campaign ON campaign_step(campaign_id, position);

-- A step's drop; one by one there is one for each day on which something is due.
ALTER TABLE mail_drop ADD COLUMN step_id INTEGER REFERENCES campaign_step(id);
ALTER TABLE mail_drop ADD COLUMN collects_on TEXT;
CREATE INDEX mail_drop_step ON mail_drop(step_id) WHERE step_id IS NOT NULL;
CREATE INDEX mail_drop_campaign ON mail_drop(campaign_id);

-- One by one: who is in a campaign since when, and what is next for them; nothing where they left or are through.
CREATE TABLE campaign_person (
    campaign_id  INTEGER NOT NULL REFERENCES campaign(id),
    recipient_id INTEGER NOT NULL,
    entered_on   TEXT NOT NULL,
    next_step_id INTEGER,
    due_on       TEXT,
    PRIMARY KEY (campaign_id, recipient_id)
) WITHOUT ROWID;
CREATE INDEX campaign_person_due ON campaign_person(campaign_id, due_on) WHERE due_on IS NOT NULL;

CREATE TABLE campaign_leave (
    id           INTEGER PRIMARY KEY,
    campaign_id  INTEGER NOT NULL REFERENCES campaign(id),
    recipient_id INTEGER NOT NULL,
    on_date      TEXT NOT NULL,
    reason       TEXT NOT NULL,
    note         TEXT,
    response_id  INTEGER,
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    undone_at    TEXT,
    undone_by    TEXT
);
CREATE UNIQUE INDEX campaign_leave_one ON campaign_leave(campaign_id, recipient_id) WHERE undone_at IS NULL;
CREATE INDEX campaign_leave_recipient ON campaign_leave(recipient_id);

CREATE TABLE campaign_pattern (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    mode       TEXT NOT NULL,
    steps_json TEXT NOT NULL,
    created_at TEXT NOT NULL,
    created_by TEXT NOT NULL
);

-- What came in after a mailing: a renewal, a gift, a form that was sent back.
CREATE TABLE response (
    id           INTEGER PRIMARY KEY,
    list_id      INTEGER NOT NULL REFERENCES list(id),
    recipient_id INTEGER NOT NULL,
    on_date      TEXT NOT NULL,
    kind         TEXT NOT NULL,
    cents        INTEGER,
    note         TEXT,
    source       TEXT NOT NULL,
    -- The piece that is credited with it; none where nothing was mailed within the campaign's window.
    drop_id      INTEGER REFERENCES mail_drop(id),
    at           TEXT NOT NULL,
    by           TEXT NOT NULL,
    batch        INTEGER,
    undone_at    TEXT
);
CREATE INDEX response_recipient ON response(recipient_id);
CREATE INDEX response_drop ON response(drop_id, on_date);
CREATE INDEX response_batch ON response(batch) WHERE batch IS NOT NULL;

-- What somebody said of a piece of work on Today: whose it is, until when it rests, that it is done as it was.
CREATE TABLE work_mark (
    work        TEXT PRIMARY KEY,
    assigned_to TEXT,
    until       TEXT,
    reason      TEXT,
    done_as     TEXT,
    at          TEXT NOT NULL,
    by          TEXT NOT NULL
) WITHOUT ROWID;

-- A drop for one recipient alone: a letter that somebody wrote to them from their page. Nobody joins it by being added to the list.
ALTER TABLE mail_drop ADD COLUMN single INTEGER NOT NULL DEFAULT 0;

-- How many pieces of a drop are in each tray, and how many left on each day: kept by the database with every change, so that pages need
-- not count millions of rows.
CREATE TABLE drop_sum (
    drop_id INTEGER NOT NULL,
    what    TEXT NOT NULL,
    day     TEXT NOT NULL,
    pieces  INTEGER NOT NULL,
    PRIMARY KEY (drop_id, what, day)
) WITHOUT ROWID;
INSERT INTO drop_sum SELECT drop_id, tray, '', count(*) FROM drop_recipient GROUP BY drop_id, tray;
INSERT INTO drop_sum SELECT drop_id, 'on paper', mailed_on, count(*) FROM drop_recipient WHERE mailed_on IS NOT NULL GROUP BY drop_id, mailed_on;
INSERT INTO drop_sum SELECT drop_id, 'by email', emailed_on, count(*) FROM drop_recipient WHERE emailed_on IS NOT NULL GROUP BY drop_id, emailed_on;
CREATE TRIGGER drop_sum_joined AFTER INSERT ON drop_recipient BEGIN
    INSERT INTO drop_sum VALUES (NEW.drop_id, NEW.tray, '', 1) ON CONFLICT (drop_id, what, day) DO UPDATE SET pieces = pieces + 1;
END;
CREATE TRIGGER drop_sum_tray AFTER UPDATE OF tray ON drop_recipient WHEN OLD.tray <> NEW.tray BEGIN
    UPDATE drop_sum SET pieces = pieces - 1 WHERE drop_id = OLD.drop_id AND what = OLD.tray AND day = '';
    INSERT INTO drop_sum VALUES (NEW.drop_id, NEW.tray, '', 1) ON CONFLICT (drop_id, what, day) DO UPDATE SET pieces = pieces + 1;
END;
CREATE TRIGGER drop_sum_mailed AFTER UPDATE OF mailed_on ON drop_recipient WHEN OLD.mailed_on IS NOT NEW.mailed_on BEGIN
    UPDATE drop_sum SET pieces = pieces - 1 WHERE drop_id = OLD.drop_id AND what = 'on paper' AND day = OLD.mailed_on;
    INSERT INTO drop_sum SELECT NEW.drop_id, 'on paper', NEW.mailed_on, 1 WHERE NEW.mailed_on IS NOT NULL
        ON CONFLICT (drop_id, what, day) DO UPDATE SET pieces = pieces + 1;
END;
CREATE TRIGGER drop_sum_emailed AFTER UPDATE OF emailed_on ON drop_recipient WHEN OLD.emailed_on IS NOT NEW.emailed_on BEGIN
    UPDATE drop_sum SET pieces = pieces - 1 WHERE drop_id = OLD.drop_id AND what = 'by email' AND day = OLD.emailed_on;
    INSERT INTO drop_sum SELECT NEW.drop_id, 'by email', NEW.emailed_on, 1 WHERE NEW.emailed_on IS NOT NULL
        ON CONFLICT (drop_id, what, day) DO UPDATE SET pieces = pieces + 1;
END;
CREATE TRIGGER drop_sum_removed AFTER DELETE ON drop_recipient BEGIN
    UPDATE drop_sum SET pieces = pieces - 1 WHERE drop_id = OLD.drop_id AND what = OLD.tray AND day = '';
    UPDATE drop_sum SET pieces = pieces - 1 WHERE drop_id = OLD.drop_id AND what = 'on paper' AND day = OLD.mailed_on;
    UPDATE drop_sum SET pieces = pieces - 1 WHERE drop_id = OLD.drop_id AND what = 'by email' AND day = OLD.emailed_on;
END;

-- Few pieces have such a note, among millions.
CREATE INDEX drop_recipient_noted ON drop_recipient(drop_id) WHERE rule_note IS NOT NULL;

-- What a run's paper, envelopes, and postage cost by the prices of its day; in the currency's hundredth part. Unknown for runs before this.
ALTER TABLE run ADD COLUMN cents INTEGER;
