"""What is eaten waits: the day follows what was and what will still be given."""

from __future__ import annotations

import unittest
from collections.abc import Mapping
from dataclasses import replace
from datetime import UTC, date, datetime

from orthocris.core.field.edibles import BY_LABEL, eat_after, eat_trial, eating
from orthocris.core.pantry.food import Food
from orthocris.core.pantry.recipe_cards import RecipeCard, own_card
from orthocris.core.trial.plan import Remedy, Role, Round
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.standing import Standing, standing_of
from orthocris.core.trial.trial import CountedTrial, Plant, Spray

CONTROL = Remedy(1, "Water", Role.CONTROL, "")
SOAP = Remedy(2, "Soap", Role.REMEDY, "10 ml soap in 1 litre")
COPPER = Remedy(3, "Copper", Role.REMEDY, "By its label")


def card_of(remedy: Remedy) -> RecipeCard:
    """Soap waits one day, copper for its label, and after water nobody does."""
    if remedy.id == 1:
        return own_card("water", (), "spray", food=Food.FREE)
    if remedy.id == 3:
        return own_card("copper", (), "spray")
    return replace(own_card("soap", (), "spray", food=Food.WAIT), eat_after_days=1)


def at(day: int) -> datetime:
    """A June evening."""
    return datetime(2026, 6, day, 19, tzinfo=UTC)


def standing(
    sprays: Mapping[tuple[int, int], int],
    *,
    skipped: Mapping[tuple[int, int], int] | None = None,
    eaten: bool = True,
    remedies: tuple[Remedy, ...] = (CONTROL, SOAP),
) -> Standing:
    """Rounds planned on 1 and 8 June; what was sprayed by round and plant, on which day."""
    plants = tuple(
        Plant(10 + r.id, f"Bean {r.id}", 1, r.id, block=1, remedy_id=r.id) for r in remedies
    )
    marks = [Spray(round_, plant, at(day)) for (round_, plant), day in sprays.items()]
    marks += [
        Spray(round_, plant, at(day), kind=SprayKind.SKIPPED)
        for (round_, plant), day in (skipped or {}).items()
    ]
    first = min((s.sprayed_at.date() for s in marks), default=None)
    return standing_of(
        CountedTrial(
            id=1, name="Beans", pest="aphids", measure="live", threshold=0.6,
            start_on=date(2026, 6, 1), sprayed_on=first, seed=None, remedies=remedies,
            rounds=(Round(1, 1, 0), Round(2, 2, 7)), setup=Setup(eaten=eaten),
            plants=plants, sprays=tuple(marks),
        )
    )  # fmt: skip


class Eating(unittest.TestCase):
    def said(self, found: Standing, today: int) -> str:
        """What is said on a June day, with the key open."""
        return eat_trial(eating(found, card_of, date(2026, 6, today)), sealed=False)

    def test_before_the_start_the_last_planned_round_counts(self) -> None:
        self.assertIn("before Tue 9 Jun 2026", self.said(standing({}), 1))

    def test_an_overdue_round_is_still_to_come(self) -> None:
        begun = standing({(1, 11): 1, (1, 12): 1})
        self.assertIn("before Tue 9 Jun 2026", self.said(begun, 4))
        # The round of the 8th is sprayed on the 10th, half of it so far.
        half = standing({(1, 11): 1, (1, 12): 1, (2, 11): 10})
        self.assertIn("before Thu 11 Jun 2026", self.said(half, 10))
        whole = standing({(1, 11): 1, (1, 12): 1, (2, 11): 10, (2, 12): 10})
        self.assertIn("before Thu 11 Jun 2026", self.said(whole, 20))

    def test_a_round_entered_later_counts_on_the_day_it_was_done(self) -> None:
        late = standing({(1, 11): 1, (1, 12): 1, (2, 11): 8, (2, 12): 9})
        self.assertIn("before Wed 10 Jun 2026", self.said(late, 30))

    def test_what_was_skipped_is_not_waited_for(self) -> None:
        skipped = standing({(1, 11): 1, (1, 12): 1}, skipped={(2, 11): 8, (2, 12): 8})
        self.assertIn("before Tue 2 Jun 2026", self.said(skipped, 9))

    def test_a_label_and_what_nobody_eats(self) -> None:
        both = standing({}, remedies=(CONTROL, SOAP, COPPER))
        soap, copper = eating(both, card_of, date(2026, 6, 1))
        self.assertEqual(eat_after(copper, sealed=False), BY_LABEL)
        self.assertIn("before Tue 9 Jun 2026, 1 day after", eat_after(soap, sealed=False))
        self.assertIn("After Copper by the label only", self.said(both, 1))
        self.assertEqual(self.said(standing({}, eaten=False), 1), "")

    def test_while_the_key_is_sealed_nothing_tells_which_plants_wait(self) -> None:
        found = eating(standing({}, remedies=(CONTROL, SOAP, COPPER)), card_of, date(2026, 6, 1))
        said = eat_trial(found, sealed=True)
        self.assertNotIn("Copper", said)
        self.assertIn("nothing of any of them is eaten", said)
        self.assertNotIn("Jun", " ".join(eat_after(one, sealed=True) for one in found))


if __name__ == "__main__":
    unittest.main()
