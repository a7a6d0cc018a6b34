-- After the verdict: the plants outside the trial, treated by one of its remedies, act by act.
CREATE TABLE treatment (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    remedy_id INTEGER NOT NULL REFERENCES remedy (id) ON DELETE CASCADE,
    which TEXT NOT NULL CHECK (which IN ('sick', 'place', 'near', 'all')),
    place TEXT NOT NULL CHECK (trim(place) <> ''),
    plants INTEGER NOT NULL CHECK (plants > 0),
    ml_each REAL CHECK (ml_each > 0),
    kinds TEXT NOT NULL CHECK (json_type(kinds) = 'array'),
    eaten INTEGER NOT NULL CHECK (eaten IN (0, 1)),
    start_on TEXT NOT NULL CHECK (start_on IS date(start_on)),
    rhythm TEXT NOT NULL,
    -- What the trial had shown when it was begun: the fraction removed, and its limits.
    removes REAL NOT NULL,
    low REAL NOT NULL,
    high REAL NOT NULL,
    made_at TEXT NOT NULL,
    ended_on TEXT CHECK (ended_on IS date(ended_on))
) STRICT;
CREATE INDEX treatment_of_trial ON treatment (trial_id);
CREATE INDEX treatment_of_remedy ON treatment (remedy_id);

CREATE TABLE treatment_act (
    id INTEGER PRIMARY KEY,
    treatment_id INTEGER NOT NULL REFERENCES treatment (id) ON DELETE CASCADE,
    act TEXT NOT NULL CHECK (act IN ('patch', 'patch_look', 'count', 'spray')),
    done_on TEXT NOT NULL CHECK (done_on IS date(done_on)),
    pests REAL CHECK (pests >= 0),
    looked_at INTEGER CHECK (looked_at > 0),
    harmed INTEGER NOT NULL CHECK (harmed IN (0, 1)),
    reason TEXT NOT NULL,
    kept_at TEXT NOT NULL,
    undone_at TEXT,
    CHECK ((act = 'count') = (pests IS NOT NULL AND looked_at IS NOT NULL))
) STRICT;
CREATE INDEX act_of_treatment ON treatment_act (treatment_id, id);
