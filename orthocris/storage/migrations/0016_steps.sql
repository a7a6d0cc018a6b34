-- A remedy may have steps (soap, the next day neem): of which remedies a later part is given in a
-- round, as a JSON list of [remedy, part]; NULL where all are given by their first part.
ALTER TABLE round ADD COLUMN steps TEXT CHECK (steps IS NULL OR json_valid(steps));
-- The part of its remedy that is in a bottle, 0 for the first.
ALTER TABLE batch ADD COLUMN step INTEGER NOT NULL DEFAULT 0 CHECK (step BETWEEN 0 AND 9);
