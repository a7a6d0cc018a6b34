-- What is written or photographed at a plant, with the marks somebody counted a picture by.
CREATE TABLE note (
    id INTEGER PRIMARY KEY,
    key TEXT NOT NULL UNIQUE CHECK (length(key) BETWEEN 8 AND 64),
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    plant_id INTEGER NOT NULL REFERENCES plant (id) ON DELETE CASCADE,
    look_number INTEGER NOT NULL CHECK (look_number BETWEEN 0 AND 1000),
    sample INTEGER NOT NULL DEFAULT 0 CHECK (sample BETWEEN 0 AND 200),
    said TEXT NOT NULL,
    -- What else was seen, as words of core.counting.notebook; NULL: nobody said.
    seen TEXT CHECK (seen IS NULL OR json_valid(seen)),
    noted_at TEXT NOT NULL,
    kept_at TEXT NOT NULL,
    removed_at TEXT,
    -- The picture: a file of this name (its SHA-256) in the folder "pictures" beside the data.
    file TEXT CHECK (length(file) = 64),
    width INTEGER CHECK (width > 0),
    height INTEGER CHECK (height > 0),
    source TEXT CHECK (source IN ('file', 'lens')),
    marks TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(marks)),
    CHECK ((file IS NULL) = (width IS NULL) AND (file IS NULL) = (height IS NULL)
        AND (file IS NULL) = (source IS NULL))
) STRICT;
CREATE INDEX note_of_trial ON note (trial_id, look_number);
CREATE INDEX note_of_plant ON note (plant_id);

-- Counting practised on drawn leaves whose truth is known from the seed.
CREATE TABLE practice (
    id INTEGER PRIMARY KEY,
    key TEXT NOT NULL UNIQUE CHECK (length(key) BETWEEN 8 AND 80),
    pest TEXT NOT NULL,
    fill TEXT NOT NULL,
    person TEXT NOT NULL,
    seed INTEGER NOT NULL CHECK (seed >= 0),
    leaves INTEGER NOT NULL CHECK (leaves BETWEEN 1 AND 40),
    begun_at TEXT NOT NULL
) STRICT;
CREATE TABLE practice_leaf (
    practice_id INTEGER NOT NULL REFERENCES practice (id) ON DELETE CASCADE,
    number INTEGER NOT NULL CHECK (number >= 1),
    counted TEXT NOT NULL CHECK (json_valid(counted)),
    -- What a perfect count would be, as it was grown then.
    truth TEXT NOT NULL CHECK (json_valid(truth)),
    seconds REAL NOT NULL CHECK (seconds >= 0),
    kept_at TEXT NOT NULL,
    PRIMARY KEY (practice_id, number)
) STRICT, WITHOUT ROWID;
