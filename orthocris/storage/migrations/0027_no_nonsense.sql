-- What belongs to one trial never refers to another's, whatever writes it; measures and times are
-- what they can be. Each rule looks at the lines that come: what was kept before stays as it is.

CREATE TRIGGER plant_gets_own_remedy BEFORE INSERT ON plant
WHEN NEW.remedy_id IS NOT NULL
    AND (SELECT trial_id FROM remedy WHERE id = NEW.remedy_id) IS NOT NEW.trial_id
BEGIN SELECT RAISE(ABORT, 'a plant with a remedy of another trial'); END;

CREATE TRIGGER plant_keeps_own_remedy BEFORE UPDATE OF remedy_id, trial_id ON plant
WHEN NEW.remedy_id IS NOT NULL
    AND (SELECT trial_id FROM remedy WHERE id = NEW.remedy_id) IS NOT NEW.trial_id
BEGIN SELECT RAISE(ABORT, 'a plant with a remedy of another trial'); END;

CREATE TRIGGER tally_makes_sense BEFORE INSERT ON tally
BEGIN
    SELECT RAISE(ABORT, 'a count of a plant at a look of another trial')
    WHERE (SELECT trial_id FROM look WHERE id = NEW.look_id)
        IS NOT (SELECT trial_id FROM plant WHERE id = NEW.plant_id);
    SELECT RAISE(ABORT, 'a count of nothing that can be counted')
    WHERE NEW.measure NOT IN ('live', 'dead', 'hatched', 'cover', 'rating', 'catch', 'young',
        'eggs', 'damage', 'helpers', 'vanished');
    SELECT RAISE(ABORT, 'a count at no time') WHERE julianday(NEW.counted_at) IS NULL;
END;

CREATE TRIGGER spray_makes_sense BEFORE INSERT ON spray
BEGIN
    SELECT RAISE(ABORT, 'a spray on a plant of another trial')
    WHERE (SELECT trial_id FROM round WHERE id = NEW.round_id)
        IS NOT (SELECT trial_id FROM plant WHERE id = NEW.plant_id);
    SELECT RAISE(ABORT, 'a spray from a bottle of another trial')
    WHERE NEW.batch_id IS NOT NULL AND (SELECT trial_id FROM round WHERE id = NEW.round_id)
        IS NOT (SELECT trial_id FROM batch WHERE id = NEW.batch_id);
    SELECT RAISE(ABORT, 'a spray at no time') WHERE julianday(NEW.sprayed_at) IS NULL;
END;

CREATE TRIGGER batch_of_own_remedy BEFORE INSERT ON batch
BEGIN
    SELECT RAISE(ABORT, 'a bottle of a remedy of another trial')
    WHERE (SELECT trial_id FROM remedy WHERE id = NEW.remedy_id) IS NOT NEW.trial_id;
    SELECT RAISE(ABORT, 'a bottle mixed at no time') WHERE julianday(NEW.mixed_at) IS NULL;
END;

CREATE TRIGGER patch_test_of_own_remedy BEFORE INSERT ON patch_test
WHEN (SELECT trial_id FROM remedy WHERE id = NEW.remedy_id) IS NOT NEW.trial_id
BEGIN SELECT RAISE(ABORT, 'a patch test of a remedy of another trial'); END;

CREATE TRIGGER treatment_with_own_remedy BEFORE INSERT ON treatment
WHEN (SELECT trial_id FROM remedy WHERE id = NEW.remedy_id) IS NOT NEW.trial_id
BEGIN SELECT RAISE(ABORT, 'a plan with a remedy of another trial'); END;

CREATE TRIGGER mess_of_own_remedy BEFORE INSERT ON round_mess
WHEN (SELECT trial_id FROM remedy WHERE id = NEW.remedy_id)
    IS NOT (SELECT trial_id FROM round WHERE id = NEW.round_id)
BEGIN SELECT RAISE(ABORT, 'what a remedy of another trial left in a round'); END;

CREATE TRIGGER round_gives_own_remedies BEFORE INSERT ON round
WHEN NEW.remedies IS NOT NULL AND EXISTS (
    SELECT 1 FROM json_each(NEW.remedies) j
    WHERE j.value NOT IN (SELECT id FROM remedy WHERE trial_id = NEW.trial_id))
BEGIN SELECT RAISE(ABORT, 'a round of a remedy that the trial does not have'); END;

CREATE TRIGGER round_keeps_own_remedies BEFORE UPDATE OF remedies ON round
WHEN NEW.remedies IS NOT NULL AND EXISTS (
    SELECT 1 FROM json_each(NEW.remedies) j
    WHERE j.value NOT IN (SELECT id FROM remedy WHERE trial_id = NEW.trial_id))
BEGIN SELECT RAISE(ABORT, 'a round of a remedy that the trial does not have'); END;

CREATE TRIGGER note_at_own_plant_and_look BEFORE INSERT ON note
BEGIN
    SELECT RAISE(ABORT, 'a note at a plant of another trial')
    WHERE (SELECT trial_id FROM plant WHERE id = NEW.plant_id) IS NOT NEW.trial_id;
    SELECT RAISE(ABORT, 'a note at a look that the trial does not have')
    WHERE NOT EXISTS
        (SELECT 1 FROM look WHERE trial_id = NEW.trial_id AND number = NEW.look_number);
END;

CREATE TRIGGER own_remedy_of_one_name BEFORE INSERT ON own_remedy
WHEN EXISTS (
    SELECT 1 FROM own_remedy
    WHERE removed_at IS NULL AND lower(name) = lower(NEW.name) AND id IS NOT NEW.id)
BEGIN SELECT RAISE(ABORT, 'an own remedy of this name'); END;

CREATE TRIGGER own_pest_of_one_name BEFORE INSERT ON own_pest
WHEN EXISTS (
    SELECT 1 FROM own_pest
    WHERE removed_at IS NULL AND lower(name) = lower(NEW.name) AND id IS NOT NEW.id)
BEGIN SELECT RAISE(ABORT, 'an own pest of this name'); END;

-- A name that a gardener could give meant that a remedy was left out; only `was_called` does now.
UPDATE remedy SET name = hex(randomblob(16)) WHERE left_out_at IS NOT NULL AND was_called IS NOT NULL;
