-- A round may be for some of the remedies only: their ids as a JSON list; NULL for all of them,
-- as it was for every round before.
ALTER TABLE round ADD COLUMN remedies TEXT CHECK (remedies IS NULL OR json_valid(remedies));

-- The plant that a leaf, a half, a cluster or a trap is on; NULL where the unit stands alone.
ALTER TABLE plant ADD COLUMN host TEXT CHECK (host IS NULL OR length(host) BETWEEN 1 AND 40);

-- The gardener's own remedies beside the shipped ones; one taken off the list stays on record.
CREATE TABLE own_remedy (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    recipe TEXT NOT NULL,
    traits TEXT NOT NULL CHECK (json_valid(traits)),
    made_at TEXT NOT NULL,
    removed_at TEXT
) STRICT;
