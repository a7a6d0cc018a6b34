-- Plants counted leaf by leaf; every tap kept once; counts of one leaf that contradict each other.

ALTER TABLE tally ADD COLUMN sample INTEGER NOT NULL DEFAULT 0 CHECK (sample BETWEEN 0 AND 200);
ALTER TABLE tally ADD COLUMN last INTEGER NOT NULL DEFAULT 0 CHECK (last IN (0, 1));
-- Two devices that counted one sample without knowing of each other: one holds, the other waits
-- until somebody says which is right.
ALTER TABLE tally ADD COLUMN standing TEXT NOT NULL DEFAULT 'held'
    CHECK (standing IN ('held', 'contested', 'set_aside'));
DROP INDEX tally_of_plant;
CREATE INDEX tally_of_plant ON tally (look_id, plant_id, measure, sample, id);
CREATE INDEX tally_contested ON tally (look_id) WHERE standing = 'contested';

-- The newest line that holds of each sample; sample 0 is the plant as a whole.
CREATE TABLE sample_now (
    look_id INTEGER NOT NULL REFERENCES look (id) ON DELETE CASCADE,
    plant_id INTEGER NOT NULL REFERENCES plant (id) ON DELETE CASCADE,
    measure TEXT NOT NULL,
    sample INTEGER NOT NULL,
    tally_id INTEGER NOT NULL REFERENCES tally (id) ON DELETE CASCADE,
    value REAL,
    total REAL,
    effort REAL NOT NULL,
    finished INTEGER NOT NULL,
    last INTEGER NOT NULL,
    counted_at TEXT NOT NULL,
    counted_on TEXT NOT NULL,
    PRIMARY KEY (look_id, plant_id, measure, sample)
) STRICT, WITHOUT ROWID;

INSERT INTO sample_now
SELECT look_id, plant_id, measure, 0, tally_id, value, total, effort, finished, 0, counted_at, counted_on
FROM tally_now;

CREATE INDEX sample_now_of_plant ON sample_now (plant_id);
CREATE INDEX sample_now_of_tally ON sample_now (tally_id);

-- Every tap under the name its device gave it, with the device's own time.
CREATE TABLE tap (
    key TEXT PRIMARY KEY CHECK (length(key) BETWEEN 8 AND 64),
    tally_id INTEGER NOT NULL REFERENCES tally (id) ON DELETE CASCADE,
    step INTEGER NOT NULL,
    value REAL,
    tapped_at TEXT NOT NULL,
    kept_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX tap_of_tally ON tap (tally_id);
