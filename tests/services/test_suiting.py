"""What is minded is said once, kept, and weighs the remedies that work."""

from __future__ import annotations

from orthocris.core.errors import InputError
from orthocris.core.trial.minds import Mind, Weight
from orthocris.services.verdict.suiting import change_minds, suited_to
from orthocris.services.weather.yards import changes_of_yard
from tests.services.world import ServiceCase


class Suiting(ServiceCase):
    def test_only_what_works_is_weighed_and_food_only_where_it_is_eaten(self) -> None:
        self.plant_and_draw(16)
        self.count_all(0, 40, 42)
        self.spray_all()
        for look, days in ((1, 3), (2, 4)):
            self.later(days)
            self.count_all(look, 5, 44)
        found = suited_to(self.context, self.trial_id)
        (soap,) = found.choice.ranked
        self.assertEqual(soap.name, "Soap")
        self.assertNotIn(Mind.FOOD, found.asked)
        self.assertGreater(found.costs["Soap"][Mind.MINUTES] or 0, 0)
        self.assertIsNone(found.costs["Soap"][Mind.HELPERS])  # nobody counted them
        self.assertIsNone(found.costs["Soap"][Mind.MONEY])  # nor told a price
        self.assertEqual(found.minds[Mind.LEAVES], Weight.SOME)

    def test_what_is_said_is_kept_with_what_it_was(self) -> None:
        change_minds(self.context, {"smell": 2, "leaves": 0})
        with self.context.database.reading() as connection:
            told = {r["name"]: r["weight"] for r in connection.execute("SELECT * FROM mind")}
        self.assertEqual((told["smell"], told["leaves"], told["money"]), (2, 0, 1))
        (change,) = changes_of_yard(self.context)
        self.assertEqual(dict(change.after)["minds_smell"], 2)
        with self.assertRaises(InputError):
            change_minds(self.context, {"smell": 7})
        change_minds(self.context, {"smell": 2})  # nothing new, nothing on record
        self.assertEqual(len(changes_of_yard(self.context)), 1)
