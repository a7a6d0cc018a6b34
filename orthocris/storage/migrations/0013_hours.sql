-- Looks after hours, several on one day. A look may fall on the day of the spray; the count before
-- is still number 0. (Tables that others refer to are made anew with those references asleep.)
CREATE TABLE look_kept (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    number INTEGER NOT NULL CHECK (number >= 0),
    day INTEGER NOT NULL CHECK (day BETWEEN 0 AND 365),
    hours INTEGER NOT NULL DEFAULT 0 CHECK (hours BETWEEN 0 AND 23),
    UNIQUE (trial_id, number),
    CHECK ((number = 0) = (day = 0 AND hours = 0))
) STRICT;
INSERT INTO look_kept (id, trial_id, number, day) SELECT id, trial_id, number, day FROM look;
DROP TABLE look;
ALTER TABLE look_kept RENAME TO look;
