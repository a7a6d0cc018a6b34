-- What each line of counting knew of the others, when it was begun and on which device: from these
-- follows which holds and which contradict one another, in whatever order devices send.
ALTER TABLE tally ADD COLUMN knows TEXT CHECK (knows IS NULL OR json_valid(knows));
ALTER TABLE tally ADD COLUMN begun_at TEXT;
ALTER TABLE tally ADD COLUMN device TEXT NOT NULL DEFAULT '' CHECK (length(device) <= 120);
UPDATE tally SET begun_at = counted_at;
-- Lines that contradict one another knew nothing of each other.
UPDATE tally SET knows = '{}' WHERE EXISTS (SELECT 1 FROM tally c WHERE c.look_id = tally.look_id
    AND c.plant_id = tally.plant_id AND c.sample = tally.sample AND c.standing = 'contested');
