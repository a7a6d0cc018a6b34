"""What is eaten waits: the day counts from the last spray of that remedy."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date

from orthocris.core.field.edibles import BY_LABEL, eat_after
from orthocris.core.pantry.recipe_cards import own_card
from orthocris.core.trial.plan import Remedy, Role, Round
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.trial import Trial

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

    def test_a_label_and_what_nobody_eats(self) -> None:
        by_label = replace(CARD, eat_after_days=None)
        self.assertEqual(eat_after(trial(60), SOAP, by_label), BY_LABEL)
        self.assertEqual(eat_after(trial(None), SOAP, by_label), "")
        control = replace(SOAP, role=Role.CONTROL)
        self.assertEqual(eat_after(trial(60), control, CARD), "")


if __name__ == "__main__":
    unittest.main()
