"""What ladders and squares answer, and what each kind promises."""

from __future__ import annotations

import unittest

from orthocris.core import Observation, judge
from orthocris.core.trial.setup import Kind
from orthocris.core.verdict.answers import (
    ladder_answer,
    prevention_answer,
    promise,
    square_answer,
)
from tests.core.verdict.gardens import CONTROL, trial

RUNGS = {"5 ml": 5.0, "10 ml": 10.0, "20 ml": 20.0}


class Ladder(unittest.TestCase):
    def test_the_weakest_that_is_as_good_is_named(self) -> None:
        counts = {"control": CONTROL, "5 ml": (30, 25, 41, 22, 44, 33), "10 ml": (4, 6, 5, 3, 6, 4)}
        counts["20 ml"] = (5, 4, 4, 4, 5, 5)
        said = ladder_answer(judge(trial(counts)), RUNGS)
        self.assertTrue(said.startswith("10 ml removes about"))
        self.assertIn("weakest that still works", said)

    def test_the_strongest_when_weaker_ones_fall_behind(self) -> None:
        counts = {
            "control": CONTROL,
            "5 ml": (30, 25, 41, 22, 44, 33),
            "10 ml": (19, 16, 22, 14, 25, 20),
        }
        counts["20 ml"] = (2, 1, 2, 1, 2, 1)
        self.assertIn("takes the strongest", ladder_answer(judge(trial(counts)), RUNGS))

    def test_none_when_none_works(self) -> None:
        same = dict.fromkeys(("control", *RUNGS), CONTROL)
        self.assertIn("No strength", ladder_answer(judge(trial(same)), RUNGS))


class Square(unittest.TestCase):
    def read(self, soap: float, oil: float, both: float) -> tuple[str, ...]:
        """A square whose groups are these multiples of the control, with a little noise."""
        noise = (1.0, 1.1, 0.9, 1.05, 0.95, 1.0)
        seen: list[Observation] = trial(
            {
                name: [round(1000 * level * e) for e in noise[k:] + noise[:k]]
                for k, (name, level) in enumerate(
                    {"control": 1.0, "soap": soap, "oil": oil, "both": both}.items()
                )
            },
            blocked=False,
        )
        return square_answer(
            seen,
            control="control",
            one="soap",
            other="oil",
            both="both",
            measure="live",
            look="last",
        )

    def test_each_ingredient_and_no_interplay(self) -> None:
        """Soap halves, oil leaves a fifth, both multiply: 50% and 80% by hand."""
        soap, oil, together = self.read(0.5, 0.2, 0.1)
        self.assertIn("about 50% fewer", soap)
        self.assertIn("about 80% fewer", oil)
        self.assertIn("not settled", together)

    def test_interplay_both_ways(self) -> None:
        self.assertIn("more than the two apart", self.read(0.9, 0.9, 0.1)[2])
        self.assertIn("less than the two apart", self.read(0.2, 0.2, 0.2)[2])

    def test_an_idle_ingredient_may_be_chance(self) -> None:
        self.assertIn("may be chance", self.read(1.0, 0.2, 0.2)[0])


class Prevention(unittest.TestCase):
    def test_first_arrivals_and_clean_plants(self) -> None:
        seen = [
            Observation(f"{name}{k}", None, name, day, "live", value)
            for name, courses in (
                ("control", ((0, 2), (1, 3), (4, 9))),
                ("soap", ((0, 0), (0, 0), (0, 1))),
            )
            for k, course in enumerate(courses)
            for day, value in zip((3.0, 7.0), course, strict=True)
        ]
        control, soap = prevention_answer(seen, "live", ["control", "soap"])
        self.assertIn("by day 3 on half of the plants; 0 of 3 still clean on day 7", control)
        self.assertIn("half or more stayed clean; 2 of 3", soap)

    def test_of_four_plants_the_second_arrival_makes_half(self) -> None:
        seen = [
            Observation(f"p{k}", None, "control", day, "live", float(day >= first))
            for k, first in enumerate((1, 3, 7, 14))
            for day in (1.0, 3.0, 7.0, 14.0)
        ]
        (said,) = prevention_answer(seen, "live", ["control"])
        self.assertIn("by day 3 on half of the plants", said)


class Promises(unittest.TestCase):
    def test_each_kind_says_something_else(self) -> None:
        said = {promise(kind, ["Soap", "Oil"], 0.6) for kind in Kind}
        self.assertEqual(len(said), len(Kind))


if __name__ == "__main__":
    unittest.main()
