-- Numbers that are classes (4 to 10), and those of a second person, who is not the one that holds.
ALTER TABLE tally ADD COLUMN classed INTEGER NOT NULL DEFAULT 0 CHECK (classed IN (0, 1));
ALTER TABLE tally ADD COLUMN person TEXT NOT NULL DEFAULT '' CHECK (length(person) <= 40);
CREATE INDEX tally_of_second ON tally (look_id) WHERE person <> '';
-- What was sprayed in the last weeks is asked of all trials at once.
CREATE INDEX spray_by_day ON spray (sprayed_at) WHERE undone_at IS NULL;
