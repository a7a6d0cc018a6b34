-- What is measured of the plants themselves is kept with the counts.

DROP TRIGGER tally_makes_sense;
CREATE TRIGGER tally_makes_sense BEFORE INSERT ON tally
BEGIN
    SELECT RAISE(ABORT, 'a count of a plant at a look of another trial')
    WHERE (SELECT trial_id FROM look WHERE id = NEW.look_id)
        IS NOT (SELECT trial_id FROM plant WHERE id = NEW.plant_id);
    SELECT RAISE(ABORT, 'a count of nothing that can be counted')
    WHERE NEW.measure NOT IN ('live', 'dead', 'hatched', 'cover', 'rating', 'catch', 'young',
        'eggs', 'damage', 'helpers', 'vanished', 'other', 'height', 'leaves', 'picked',
        'moisture');
    SELECT RAISE(ABORT, 'a count at no time') WHERE julianday(NEW.counted_at) IS NULL;
END;
