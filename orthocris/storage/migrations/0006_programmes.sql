-- A round may be for some of the remedies only: their ids as a JSON list; NULL for all of them,
-- as it was for every round before.
ALTER TABLE round ADD COLUMN remedies TEXT CHECK (remedies IS NULL OR json_valid(remedies));

-- The plant that a leaf, a half, a cluster or a trap is on; NULL where the unit stands alone.
ALTER TABLE plant ADD COLUMN host TEXT CHECK (host IS NULL OR length(host) BETWEEN 1 AND 40);
