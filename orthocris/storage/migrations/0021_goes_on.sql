-- A trial may go on from another: the same question on further plants, judged together with it. Each
-- is gone on from once, for the error that is kept for it is spent once.
ALTER TABLE trial ADD COLUMN goes_on INTEGER REFERENCES trial(id);
CREATE UNIQUE INDEX one_goes_on ON trial(goes_on) WHERE goes_on IS NOT NULL;
