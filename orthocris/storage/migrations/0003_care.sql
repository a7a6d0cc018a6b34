-- What surrounds the rounds: the yard and its weather, batches, patch tests, and richer sprays.
ALTER TABLE trial ADD COLUMN care TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(care));

CREATE TABLE yard (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    settings TEXT NOT NULL CHECK (json_valid(settings))
) STRICT;

CREATE TABLE price (
    name TEXT PRIMARY KEY CHECK (length(trim(name)) BETWEEN 1 AND 60),
    pack REAL NOT NULL CHECK (pack > 0),
    price REAL NOT NULL CHECK (price >= 0)
) STRICT;

-- Hours read in from a file; times are local, on the hour.
CREATE TABLE weather_hour (
    at TEXT PRIMARY KEY,
    temperature REAL,
    humidity REAL CHECK (humidity BETWEEN 0 AND 100),
    rain REAL CHECK (rain >= 0),
    wind REAL CHECK (wind >= 0),
    sun REAL CHECK (sun >= 0)
) STRICT;

CREATE TABLE weather_day (
    day TEXT PRIMARY KEY CHECK (date(day) = day),
    low REAL NOT NULL,
    high REAL NOT NULL CHECK (high >= low),
    wind REAL NOT NULL CHECK (wind >= 0),
    sky TEXT NOT NULL CHECK (sky IN ('clear', 'mixed', 'cloudy')),
    rain REAL NOT NULL CHECK (rain >= 0),
    rain_from INTEGER NOT NULL CHECK (rain_from BETWEEN 0 AND 23),
    rain_to INTEGER NOT NULL CHECK (rain_to BETWEEN 1 AND 24)
) STRICT;

CREATE TABLE batch (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    remedy_id INTEGER NOT NULL REFERENCES remedy (id) ON DELETE CASCADE,
    title TEXT NOT NULL CHECK (length(trim(title)) BETWEEN 1 AND 80),
    kind TEXT NOT NULL CHECK (kind IN ('mix', 'brew', 'product', 'stock')),
    recipe TEXT NOT NULL CHECK (length(recipe) <= 2000),
    volume REAL NOT NULL CHECK (volume > 0),
    parts TEXT NOT NULL CHECK (json_valid(parts)),
    mixed_at TEXT NOT NULL,
    use_by TEXT,
    acknowledged TEXT NOT NULL CHECK (json_valid(acknowledged)),
    mixed_by TEXT NOT NULL CHECK (length(mixed_by) <= 40),
    cost REAL CHECK (cost >= 0),
    note TEXT NOT NULL CHECK (length(note) <= 500),
    discarded_at TEXT
) STRICT;
CREATE INDEX batch_of_trial ON batch (trial_id);

CREATE TABLE patch_test (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    remedy_id INTEGER NOT NULL REFERENCES remedy (id) ON DELETE CASCADE,
    leaf_kind TEXT NOT NULL CHECK (length(trim(leaf_kind)) BETWEEN 1 AND 60),
    leaves INTEGER NOT NULL CHECK (leaves BETWEEN 1 AND 20),
    strength REAL NOT NULL CHECK (strength > 0 AND strength <= 1),
    hours TEXT NOT NULL CHECK (json_valid(hours)),
    applied_at TEXT NOT NULL,
    treated_before INTEGER NOT NULL CHECK (treated_before BETWEEN 0 AND 5),
    beside_before INTEGER NOT NULL CHECK (beside_before BETWEEN 0 AND 5),
    withdrawn_at TEXT
) STRICT;
CREATE INDEX patch_test_of_trial ON patch_test (trial_id);

-- A corrected look is a new line; the newest of a test and hour holds.
CREATE TABLE patch_look (
    id INTEGER PRIMARY KEY,
    patch_id INTEGER NOT NULL REFERENCES patch_test (id) ON DELETE CASCADE,
    hours INTEGER NOT NULL CHECK (hours > 0),
    seen_at TEXT NOT NULL,
    treated INTEGER NOT NULL CHECK (treated BETWEEN 0 AND 5),
    beside INTEGER NOT NULL CHECK (beside BETWEEN 0 AND 5),
    harm TEXT NOT NULL
) STRICT;
CREATE INDEX look_of_patch ON patch_look (patch_id, hours, id);

CREATE TABLE round_start (
    id INTEGER PRIMARY KEY,
    round_id INTEGER NOT NULL REFERENCES round (id) ON DELETE CASCADE,
    started_at TEXT NOT NULL,
    batches TEXT NOT NULL CHECK (json_valid(batches)),
    overruled TEXT NOT NULL CHECK (json_valid(overruled))
) STRICT;

CREATE TABLE round_event (
    id INTEGER PRIMARY KEY,
    round_id INTEGER NOT NULL REFERENCES round (id) ON DELETE CASCADE,
    at TEXT NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('washed_off', 'heat_after_oil', 'moved', 'undone', 'dry_leaf',
        'left_out')),
    amount REAL NOT NULL,
    text TEXT NOT NULL CHECK (length(text) <= 500)
) STRICT;
CREATE UNIQUE INDEX weather_logged_once ON round_event (round_id, kind)
    WHERE kind IN ('washed_off', 'heat_after_oil');

ALTER TABLE spray ADD COLUMN kind TEXT NOT NULL DEFAULT 'sprayed'
    CHECK (kind IN ('sprayed', 'skipped', 'again'));
ALTER TABLE spray ADD COLUMN batch_id INTEGER REFERENCES batch (id) ON DELETE SET NULL;
ALTER TABLE spray ADD COLUMN volume REAL CHECK (volume > 0);
ALTER TABLE spray ADD COLUMN undersides INTEGER NOT NULL DEFAULT 1 CHECK (undersides IN (0, 1));
ALTER TABLE spray ADD COLUMN drifted INTEGER NOT NULL DEFAULT 0 CHECK (drifted IN (0, 1));
ALTER TABLE spray ADD COLUMN neighbour_id INTEGER REFERENCES plant (id)
    ON DELETE SET NULL;
ALTER TABLE spray ADD COLUMN deviation TEXT NOT NULL DEFAULT '' CHECK (length(deviation) <= 500);
ALTER TABLE spray ADD COLUMN note TEXT NOT NULL DEFAULT '' CHECK (length(note) <= 500);
ALTER TABLE spray ADD COLUMN key TEXT;
ALTER TABLE spray ADD COLUMN undo_reason TEXT NOT NULL DEFAULT '' CHECK (length(undo_reason) <= 500);
DROP INDEX sprayed_once;
CREATE UNIQUE INDEX sprayed_once ON spray (round_id, plant_id)
    WHERE undone_at IS NULL AND kind = 'sprayed';
CREATE UNIQUE INDEX spray_key ON spray (key) WHERE key IS NOT NULL;
