-- What happened in a drop last is read from the end of its events, and not from among those of all drops.
CREATE INDEX drop_event_drop ON drop_event(drop_id, id);
