-- A layout may have been made on paper: then nobody drew it here, and there is no seed.
CREATE TABLE layout_event_kept (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    made_at TEXT NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('drawn', 'cleared', 'given')),
    seed INTEGER CHECK (seed >= 0),
    reason TEXT NOT NULL,
    CHECK ((kind = 'drawn') = (seed IS NOT NULL))
) STRICT;
INSERT INTO layout_event_kept SELECT id, trial_id, made_at, kind, seed, reason FROM layout_event;
DROP TABLE layout_event;
ALTER TABLE layout_event_kept RENAME TO layout_event;
CREATE INDEX layout_event_of_trial ON layout_event (trial_id, id);
