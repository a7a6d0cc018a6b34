-- The verdict of a finished look as it was put on record: what went in, with which seed and version,
-- and what came out. It is never changed; a later one that differs says why.
CREATE TABLE verdict_record (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    look_number INTEGER NOT NULL CHECK (look_number >= 0),
    made_at TEXT NOT NULL,
    version TEXT NOT NULL,
    seed INTEGER NOT NULL,
    inputs TEXT NOT NULL,
    verdict TEXT NOT NULL CHECK (json_valid(verdict)),
    UNIQUE (trial_id, look_number)
) STRICT;

-- The layouts that the lot could have drawn, where a rule restricts it: ids of the plants, and for
-- each layout the index of each plant's remedy. Drawn with the layout, read by the verdict.
CREATE TABLE layout_set (
    trial_id INTEGER PRIMARY KEY REFERENCES trial (id) ON DELETE CASCADE,
    plants TEXT NOT NULL CHECK (json_valid(plants)),
    layouts BLOB NOT NULL
) STRICT;
