-- Trials whose other possible layouts are still to be drawn: the layout itself stands, and they are
-- drawn after it while nobody waits. A program that was stopped in between finds its work here.
CREATE TABLE layout_due (
    trial_id INTEGER PRIMARY KEY REFERENCES trial (id) ON DELETE CASCADE
) STRICT;
