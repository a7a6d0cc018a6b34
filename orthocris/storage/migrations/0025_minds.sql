-- What the gardener minds about remedies beside what they remove: 0 not, 1 some, 2 much.
CREATE TABLE mind (
    name TEXT PRIMARY KEY
        CHECK (name IN ('leaves', 'helpers', 'pets', 'smell', 'money', 'minutes', 'food')),
    weight INTEGER NOT NULL CHECK (weight BETWEEN 0 AND 2)
) STRICT;
