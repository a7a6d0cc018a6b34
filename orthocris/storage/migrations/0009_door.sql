-- The door for other devices of the home network: one passcode, and a session for each device.
CREATE TABLE door (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    passcode TEXT NOT NULL,
    open INTEGER NOT NULL CHECK (open IN (0, 1)),
    changed_at TEXT NOT NULL
) STRICT;

-- Only a digest of what a device carries is kept.
CREATE TABLE door_session (
    id INTEGER PRIMARY KEY,
    token TEXT NOT NULL UNIQUE CHECK (length(token) = 64),
    device TEXT NOT NULL CHECK (length(device) <= 120),
    made_at TEXT NOT NULL,
    seen_at TEXT NOT NULL,
    ended_at TEXT
) STRICT;

-- Wrong passcodes, so that guessing is slowed also over a restart.
CREATE TABLE door_miss (
    id INTEGER PRIMARY KEY,
    origin TEXT NOT NULL,
    at TEXT NOT NULL
) STRICT;
CREATE INDEX door_miss_of_origin ON door_miss (origin, at);
