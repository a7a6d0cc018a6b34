-- What a remedy was like to use in a round: a price beside money and minutes.
CREATE TABLE round_mess (
    round_id INTEGER NOT NULL REFERENCES round (id) ON DELETE CASCADE,
    remedy_id INTEGER NOT NULL REFERENCES remedy (id) ON DELETE CASCADE,
    kinds TEXT NOT NULL CHECK (json_valid(kinds)),
    noted_at TEXT NOT NULL,
    PRIMARY KEY (round_id, remedy_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX round_mess_of_remedy ON round_mess (remedy_id);
