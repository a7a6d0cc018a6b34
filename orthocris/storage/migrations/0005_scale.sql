-- What holds now, beside the whole record, so that no screen reads through years of lines.

-- The newest line of each look, measure and plant; written with the line, in one transaction.
CREATE TABLE tally_now (
    look_id INTEGER NOT NULL REFERENCES look (id) ON DELETE CASCADE,
    measure TEXT NOT NULL,
    plant_id INTEGER NOT NULL REFERENCES plant (id) ON DELETE CASCADE,
    tally_id INTEGER NOT NULL REFERENCES tally (id) ON DELETE CASCADE,
    value REAL,
    total REAL,
    effort REAL NOT NULL,
    finished INTEGER NOT NULL,
    counted_at TEXT NOT NULL,
    counted_on TEXT NOT NULL,
    first_counted_at TEXT NOT NULL,
    PRIMARY KEY (look_id, measure, plant_id)
) STRICT, WITHOUT ROWID;

INSERT INTO tally_now
SELECT t.look_id, t.measure, t.plant_id, t.id, t.value, t.total, t.effort, t.finished, t.counted_at,
    coalesce(t.counted_on, substr(t.counted_at, 1, 10)), f.counted_at
FROM (SELECT max(id) AS newest, min(id) AS oldest FROM tally GROUP BY look_id, plant_id, measure) AS k
JOIN tally AS t ON t.id = k.newest
JOIN tally AS f ON f.id = k.oldest;

CREATE INDEX tally_now_of_plant ON tally_now (plant_id);
CREATE INDEX tally_now_of_tally ON tally_now (tally_id);
CREATE INDEX tally_of_plant_alone ON tally (plant_id);

-- How many of the trial's plants (allotted, not set aside) are counted at a look, by day.
CREATE TABLE look_count (
    look_id INTEGER NOT NULL REFERENCES look (id) ON DELETE CASCADE,
    counted_on TEXT NOT NULL,
    finished INTEGER NOT NULL,
    PRIMARY KEY (look_id, counted_on)
) STRICT, WITHOUT ROWID;

INSERT INTO look_count
SELECT n.look_id, n.counted_on, count(*)
FROM tally_now AS n
JOIN look AS l ON l.id = n.look_id
JOIN trial AS t ON t.id = l.trial_id
JOIN plant AS p ON p.id = n.plant_id
WHERE n.measure = t.measure AND n.finished = 1 AND n.value IS NOT NULL
    AND p.set_aside IS NULL AND p.remedy_id IS NOT NULL
GROUP BY n.look_id, n.counted_on;

CREATE INDEX spray_of_round ON spray (round_id, plant_id) WHERE undone_at IS NULL;
CREATE INDEX spray_of_plant ON spray (plant_id) WHERE undone_at IS NULL;
CREATE INDEX spray_of_batch ON spray (batch_id);
CREATE INDEX spray_of_neighbour ON spray (neighbour_id);

-- How many of the trial's plants are sprayed, or done with, in a round.
CREATE TABLE round_count (
    round_id INTEGER PRIMARY KEY REFERENCES round (id) ON DELETE CASCADE,
    sprayed INTEGER NOT NULL,
    done INTEGER NOT NULL,
    begun_at TEXT
) STRICT;

INSERT INTO round_count
SELECT s.round_id,
    count(DISTINCT CASE WHEN s.kind <> 'skipped' AND p.set_aside IS NULL THEN s.plant_id END),
    count(DISTINCT CASE WHEN p.set_aside IS NULL THEN s.plant_id END),
    (SELECT f.sprayed_at FROM spray AS f WHERE f.round_id = s.round_id AND f.undone_at IS NULL
        AND f.kind <> 'skipped' ORDER BY julianday(f.sprayed_at), f.id LIMIT 1)
FROM spray AS s
JOIN plant AS p ON p.id = s.plant_id
WHERE s.undone_at IS NULL
GROUP BY s.round_id;

CREATE INDEX start_of_round ON round_start (round_id, id);
CREATE INDEX layout_event_of_trial ON layout_event (trial_id, id);
CREATE INDEX plant_of_remedy ON plant (remedy_id);
-- Holds all that the numbers of a bench are made of.
CREATE INDEX plant_in_numbers ON plant (trial_id, set_aside, remedy_id, block, match_count);
CREATE INDEX batch_of_remedy ON batch (remedy_id);
CREATE INDEX patch_test_of_remedy ON patch_test (remedy_id);
CREATE INDEX trial_on_the_list ON trial (created_at) WHERE put_away_at IS NULL;

-- One word, one meaning: an inspection decides whether to act, a look counts a trial's plants.
ALTER TABLE quick_look RENAME TO inspection;
DROP INDEX quick_look_of_pest;
CREATE INDEX inspection_of_pest ON inspection (pest, place, seen_at);
ALTER TABLE patch_look RENAME TO patch_reading;
UPDATE yard SET settings = json_remove(
    json_set(settings, '$.weather_source', json_extract(settings, '$.station')), '$.station')
WHERE json_extract(settings, '$.station') IS NOT NULL;
UPDATE trial SET care = json_remove(
    json_set(care, '$.patch_wait', json_extract(care, '$.patch_school')), '$.patch_school')
WHERE json_extract(care, '$.patch_school') IS NOT NULL;
UPDATE trial SET care = json_remove(
    json_set(care, '$.round_rhythm', json_extract(care, '$.round_school')), '$.round_school')
WHERE json_extract(care, '$.round_school') IS NOT NULL;
