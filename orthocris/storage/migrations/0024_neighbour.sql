-- Trials of other gardens, taken in from their bundles and judged here. One taken off leaves a trace.
CREATE TABLE neighbour (
    id INTEGER PRIMARY KEY,
    digest TEXT NOT NULL,
    garden TEXT NOT NULL CHECK (trim(garden) <> ''),
    pest TEXT NOT NULL,
    trial TEXT NOT NULL CHECK (json_valid(trial)),
    inputs TEXT NOT NULL,
    version TEXT NOT NULL,
    verdict TEXT NOT NULL CHECK (json_valid(verdict)),
    came_at TEXT NOT NULL,
    removed_at TEXT
) STRICT;
CREATE UNIQUE INDEX neighbour_once ON neighbour (digest) WHERE removed_at IS NULL;
CREATE INDEX neighbour_of_pest ON neighbour (pest) WHERE removed_at IS NULL;
