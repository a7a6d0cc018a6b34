CREATE TABLE trial (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(trim(name)) BETWEEN 1 AND 80),
    pest TEXT NOT NULL CHECK (length(pest) BETWEEN 1 AND 80),
    measure TEXT NOT NULL CHECK (measure IN ('live', 'dead', 'hatched', 'cover', 'rating', 'catch')),
    threshold REAL NOT NULL CHECK (threshold > 0 AND threshold < 1),
    start_on TEXT NOT NULL CHECK (date(start_on) = start_on),
    sprayed_on TEXT CHECK (sprayed_on IS NULL OR date(sprayed_on) = sprayed_on),
    seed INTEGER CHECK (seed >= 0),
    created_at TEXT NOT NULL
) STRICT;

CREATE TABLE remedy (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    position INTEGER NOT NULL CHECK (position >= 0),
    name TEXT NOT NULL CHECK (length(trim(name)) BETWEEN 1 AND 80),
    role TEXT NOT NULL CHECK (role IN ('control', 'remedy')),
    recipe TEXT NOT NULL CHECK (length(recipe) <= 2000),
    letter TEXT CHECK (length(letter) = 1),
    notches INTEGER CHECK (notches BETWEEN 1 AND 12),
    UNIQUE (trial_id, name),
    CHECK ((letter IS NULL) = (notches IS NULL))
) STRICT;
CREATE UNIQUE INDEX one_control ON remedy (trial_id) WHERE role = 'control';

CREATE TABLE plant (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    name TEXT NOT NULL CHECK (length(trim(name)) BETWEEN 1 AND 40),
    row INTEGER NOT NULL CHECK (row BETWEEN 1 AND 40),
    place INTEGER NOT NULL CHECK (place BETWEEN 1 AND 60),
    match_count REAL CHECK (match_count BETWEEN 0 AND 1000000),
    set_aside TEXT CHECK (length(set_aside) BETWEEN 1 AND 200),
    block INTEGER CHECK (block >= 1),
    remedy_id INTEGER REFERENCES remedy (id),
    UNIQUE (trial_id, name),
    UNIQUE (trial_id, row, place),
    CHECK ((block IS NULL) = (remedy_id IS NULL))
) STRICT;

CREATE TABLE layout_event (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    made_at TEXT NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('drawn', 'cleared')),
    seed INTEGER CHECK (seed >= 0),
    reason TEXT NOT NULL,
    CHECK ((kind = 'drawn') = (seed IS NOT NULL))
) STRICT;

CREATE TABLE round (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    number INTEGER NOT NULL CHECK (number >= 1),
    day INTEGER NOT NULL CHECK (day BETWEEN 0 AND 365),
    UNIQUE (trial_id, number)
) STRICT;

CREATE TABLE look (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    number INTEGER NOT NULL CHECK (number >= 0),
    day INTEGER NOT NULL CHECK (day BETWEEN 0 AND 365),
    UNIQUE (trial_id, number),
    CHECK ((number = 0) = (day = 0))
) STRICT;

-- One line a counting session: while the same session counts on, its line moves on with it;
-- a later correction is a new line, and the newest line of a plant, look and measure holds.
CREATE TABLE tally (
    id INTEGER PRIMARY KEY,
    look_id INTEGER NOT NULL REFERENCES look (id) ON DELETE CASCADE,
    plant_id INTEGER NOT NULL REFERENCES plant (id) ON DELETE CASCADE,
    measure TEXT NOT NULL,
    session TEXT NOT NULL CHECK (length(session) BETWEEN 8 AND 64),
    step INTEGER NOT NULL CHECK (step >= 0),
    value REAL CHECK (value BETWEEN 0 AND 1000000),
    total REAL CHECK (total BETWEEN 1 AND 1000000),
    effort REAL NOT NULL CHECK (effort > 0),
    finished INTEGER NOT NULL CHECK (finished IN (0, 1)),
    counted_at TEXT NOT NULL,
    UNIQUE (session, look_id, plant_id, measure)
) STRICT;
CREATE INDEX tally_of_plant ON tally (look_id, plant_id, measure, id);

CREATE TABLE spray (
    id INTEGER PRIMARY KEY,
    round_id INTEGER NOT NULL REFERENCES round (id) ON DELETE CASCADE,
    plant_id INTEGER NOT NULL REFERENCES plant (id) ON DELETE CASCADE,
    sprayed_at TEXT NOT NULL,
    undone_at TEXT
) STRICT;
CREATE UNIQUE INDEX sprayed_once ON spray (round_id, plant_id) WHERE undone_at IS NULL;
