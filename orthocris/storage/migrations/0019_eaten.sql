-- Eaten or not is a fact of the plants, and the day of the harvest a day: neither moves with the
-- start of the trial. Until now a number of days from that start told both.
UPDATE trial SET setup = json_set(
    setup, '$.eaten', json('true'),
    '$.harvest_on', date(start_on, '+' || json_extract(setup, '$.harvest_days') || ' days'))
    WHERE json_extract(setup, '$.harvest_days') IS NOT NULL;
UPDATE trial SET setup = json_remove(setup, '$.harvest_days');
UPDATE mend SET before = json_set(
    before, '$.question.setup.eaten', json('true'), '$.question.setup.harvest_on',
    date(json_extract(before, '$.start_on'),
        '+' || json_extract(before, '$.question.setup.harvest_days') || ' days'))
    WHERE json_extract(before, '$.question.setup.harvest_days') IS NOT NULL;
UPDATE mend SET after = json_set(
    after, '$.question.setup.eaten', json('true'), '$.question.setup.harvest_on',
    date(json_extract(after, '$.start_on'),
        '+' || json_extract(after, '$.question.setup.harvest_days') || ' days'))
    WHERE json_extract(after, '$.question.setup.harvest_days') IS NOT NULL;
-- The old mend of a near harvest had made plants that are eaten into plants that nobody eats.
UPDATE trial SET setup = json_set(setup, '$.eaten', json('true'))
    WHERE id IN (SELECT trial_id FROM mend WHERE code = 'near_harvest' AND undone_at IS NULL);
UPDATE mend SET before = json_remove(before, '$.question.setup.harvest_days'),
    after = json_remove(after, '$.question.setup.harvest_days');
