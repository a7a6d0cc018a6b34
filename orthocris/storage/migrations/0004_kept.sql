-- What was changed stays on record; what was sent twice is made once; nothing observed is deleted.

-- A trial put away can be brought back; a remedy left out keeps its patch tests and batches.
ALTER TABLE trial ADD COLUMN put_away_at TEXT;
ALTER TABLE remedy ADD COLUMN left_out_at TEXT;
ALTER TABLE remedy ADD COLUMN was_called TEXT;

-- The day a number was really counted on; later corrections keep it.
ALTER TABLE tally ADD COLUMN counted_on TEXT CHECK (date(counted_on) = counted_on);
UPDATE tally SET counted_on = substr(counted_at, 1, 10);

-- Rounds started: limits in force then, and the day it was really done when entered late.
ALTER TABLE round_start ADD COLUMN limits TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(limits));
ALTER TABLE round_start ADD COLUMN done_on TEXT CHECK (date(done_on) = done_on);

-- Every change of what is set up rather than counted: limits, yard, prices, weather by hand.
CREATE TABLE change (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER REFERENCES trial (id) ON DELETE CASCADE,
    made_at TEXT NOT NULL,
    what TEXT NOT NULL CHECK (what IN ('care', 'yard', 'prices', 'weather_day', 'question')),
    before TEXT NOT NULL CHECK (json_valid(before)),
    after TEXT NOT NULL CHECK (json_valid(after))
) STRICT;
CREATE INDEX change_of_trial ON change (trial_id, id);

-- Mends of the critic, each with the plan before and after it, so that it can be taken back.
CREATE TABLE mend (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    code TEXT NOT NULL,
    label TEXT NOT NULL,
    made_at TEXT NOT NULL,
    before TEXT NOT NULL CHECK (json_valid(before)),
    after TEXT NOT NULL CHECK (json_valid(after)),
    undone_at TEXT
) STRICT;
CREATE INDEX mend_of_trial ON mend (trial_id, id);

-- What a request with a key of its own has made: sent again, it is answered, not done again.
CREATE TABLE receipt (
    key TEXT PRIMARY KEY CHECK (length(key) BETWEEN 8 AND 80),
    scope TEXT NOT NULL,
    payload TEXT NOT NULL,
    made INTEGER NOT NULL,
    made_at TEXT NOT NULL
) STRICT;

-- A finding may be overruled again; every reason stays. No table refers to these two.
CREATE TABLE overrule_kept (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    code TEXT NOT NULL CHECK (length(code) BETWEEN 1 AND 40),
    finding TEXT NOT NULL,
    reason TEXT NOT NULL CHECK (length(trim(reason)) BETWEEN 1 AND 500),
    made_at TEXT NOT NULL
) STRICT;
INSERT INTO overrule_kept SELECT id, trial_id, code, finding, reason, made_at FROM overrule;
DROP TABLE overrule;
ALTER TABLE overrule_kept RENAME TO overrule;
CREATE INDEX overrule_of_trial ON overrule (trial_id, id);

CREATE TABLE round_event_kept (
    id INTEGER PRIMARY KEY,
    round_id INTEGER NOT NULL REFERENCES round (id) ON DELETE CASCADE,
    at TEXT NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('washed_off', 'heat_after_oil', 'moved', 'undone', 'dry_leaf',
        'left_out')),
    amount REAL NOT NULL,
    text TEXT NOT NULL CHECK (length(text) <= 2000)
) STRICT;
INSERT INTO round_event_kept SELECT id, round_id, at, kind, amount, text FROM round_event;
DROP TABLE round_event;
ALTER TABLE round_event_kept RENAME TO round_event;
CREATE UNIQUE INDEX weather_logged_once ON round_event (round_id, kind)
    WHERE kind IN ('washed_off', 'heat_after_oil');
CREATE INDEX event_of_round ON round_event (round_id);
