-- The journal: looks round, treatments outside trials, newcomers, room air, and what is to be done.
-- A line taken back leaves a trace.
CREATE TABLE journal (
    id INTEGER PRIMARY KEY,
    kind TEXT NOT NULL CHECK (kind IN ('look', 'treated', 'newcomer', 'air', 'task')),
    done_on TEXT NOT NULL CHECK (done_on IS date(done_on)),
    place TEXT NOT NULL CHECK (trim(place) <> ''),
    pest TEXT NOT NULL,
    level INTEGER CHECK (level BETWEEN 0 AND 3),
    helpers INTEGER NOT NULL CHECK (helpers IN (0, 1)),
    what TEXT NOT NULL,
    note TEXT NOT NULL,
    humidity REAL CHECK (humidity BETWEEN 0 AND 100),
    every INTEGER CHECK (every BETWEEN 1 AND 366),
    finished_on TEXT CHECK (finished_on IS date(finished_on)),
    kept_at TEXT NOT NULL,
    undone_at TEXT,
    CHECK ((kind = 'look') = (level IS NOT NULL)),
    CHECK ((kind IN ('look', 'treated')) = (pest <> '')),
    CHECK (kind IN ('look', 'air') OR trim(what) <> ''),
    CHECK ((kind = 'air') = (humidity IS NOT NULL)),
    CHECK (kind = 'task' OR (every IS NULL AND finished_on IS NULL))
) STRICT;
CREATE INDEX journal_by_day ON journal (done_on) WHERE undone_at IS NULL;
