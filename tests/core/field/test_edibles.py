"""What is eaten waits: the day counts from the last spray of that remedy."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

from orthocris.core.field.edibles import BY_LABEL, eat_after
from orthocris.core.pantry.recipe_cards import own_card
from orthocris.core.trial.plan import Remedy, Role, Round
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.trial import Plant, Spray, Trial

SOAP = Remedy(2, "Soap", Role.REMEDY, "10 ml soap in 1 litre")
CARD = replace(own_card("soap", (), "spray"), eat_after_days=1)


def trial(harvest_days: int | None) -> Trial:
    """Two rounds, on 1 and 8 June, nothing sprayed yet."""
    return Trial(
        id=1, name="Beans", pest="aphids", measure="live", threshold=0.6,
        start_on=date(2026, 6, 1), sprayed_on=None, seed=None,
        remedies=(SOAP,), rounds=(Round(1, 1, 0), Round(2, 2, 7)),
        setup=Setup(harvest_days=harvest_days),
    )  # fmt: skip


class Eating(unittest.TestCase):
    def test_a_day_after_the_last_round(self) -> None:
        self.assertIn(
            "nothing before Tue 09 Jun 2026, 1 day after", eat_after(trial(60), SOAP, CARD)
        )

    def test_a_round_given_late_counts_from_when_it_was_given(self) -> None:
        late = datetime(2026, 6, 4, 19, tzinfo=UTC)  # planned for the 1st
        bean, other = Plant(5, "Bean", 1, 1, remedy_id=2), Plant(6, "Pea", 1, 2, remedy_id=1)
        sprays = (
            Spray(1, 5, late),
            Spray(2, 5, late + timedelta(days=9), kind=SprayKind.SKIPPED),
            Spray(2, 6, late + timedelta(days=9)),
        )
        found = replace(trial(60), plants=(bean, other), sprays=sprays)
        self.assertIn("nothing before Fri 05 Jun 2026", eat_after(found, SOAP, CARD))

    def test_a_label_and_what_nobody_eats(self) -> None:
        by_label = replace(CARD, eat_after_days=None)
        self.assertEqual(eat_after(trial(60), SOAP, by_label), BY_LABEL)
        self.assertEqual(eat_after(trial(None), SOAP, by_label), "")
        control = replace(SOAP, role=Role.CONTROL)
        self.assertEqual(eat_after(trial(60), control, CARD), "")


if __name__ == "__main__":
    unittest.main()
