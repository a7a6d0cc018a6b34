-- Options that no query asks for are kept as JSON; the core's dataclasses give them their shape.
ALTER TABLE trial ADD COLUMN setup TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(setup));
ALTER TABLE trial ADD COLUMN key_opened_at TEXT;
ALTER TABLE remedy ADD COLUMN traits TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(traits));
ALTER TABLE plant ADD COLUMN size REAL CHECK (size > 0);

-- Findings of the critic that the gardener overruled, with the reason.
CREATE TABLE overrule (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    code TEXT NOT NULL CHECK (length(code) BETWEEN 1 AND 40),
    finding TEXT NOT NULL,
    reason TEXT NOT NULL CHECK (length(trim(reason)) BETWEEN 1 AND 500),
    made_at TEXT NOT NULL,
    UNIQUE (trial_id, code)
) STRICT;

-- A look round that decided whether to act; kept for the journal.
CREATE TABLE quick_look (
    id INTEGER PRIMARY KEY,
    seen_at TEXT NOT NULL,
    place TEXT NOT NULL CHECK (length(place) <= 80),
    pest TEXT NOT NULL CHECK (length(pest) BETWEEN 1 AND 80),
    signs TEXT NOT NULL CHECK (json_valid(signs)),
    looked INTEGER NOT NULL CHECK (looked >= 1),
    affected INTEGER NOT NULL CHECK (affected BETWEEN 0 AND looked),
    helpers INTEGER NOT NULL CHECK (helpers >= 0),
    vigorous INTEGER NOT NULL CHECK (vigorous IN (0, 1)),
    wilting INTEGER NOT NULL CHECK (wilting IN (0, 1)),
    action TEXT NOT NULL CHECK (action IN ('watch', 'clean_first', 'trial', 'too_far')),
    reason TEXT NOT NULL
) STRICT;
CREATE INDEX quick_look_of_pest ON quick_look (pest, place, seen_at);
