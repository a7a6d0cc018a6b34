-- A round may be for some of the remedies only: their ids as a JSON list; NULL for all of them,
-- as it was for every round before.
ALTER TABLE round ADD COLUMN remedies TEXT CHECK (remedies IS NULL OR json_valid(remedies));
