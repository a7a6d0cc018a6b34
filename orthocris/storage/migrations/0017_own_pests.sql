-- The gardener's own pests beside the shipped ones, by name; how each is counted as JSON. One taken
-- off the list stays on record.
CREATE TABLE own_pest (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    facts TEXT NOT NULL CHECK (json_valid(facts)),
    made_at TEXT NOT NULL,
    removed_at TEXT
) STRICT;
