-- A plant set aside because it died, and when: that is an outcome, not a gap.
ALTER TABLE plant ADD COLUMN died_on TEXT CHECK (date(died_on) = died_on);
