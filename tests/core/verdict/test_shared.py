"""A trial as it is shared: the same after the way there and back, and nothing strange believed."""

from __future__ import annotations

import copy
import json
import unittest
from collections.abc import Callable
from datetime import date
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.trial.plan import Amount, Remedy, Role, Traits
from orthocris.core.verdict.shared import Shared, check_numbers, shared_from
from tests.core.verdict.gardens import trial

WATER = Remedy(0, "control", Role.CONTROL, "Plain water")
SOAP = Remedy(
    0,
    "soap",
    Role.REMEDY,
    "10 ml in 1 litre\nshake it",
    traits=Traits(catalogue="mild_soap", ingredients=(Amount("soap", 10.0, "ml/L"),)),
)
GOOD = Shared(
    "Lupins", "aphids", "Aphids", "lupins", date(2026, 5, 10), "live", 7.0, 0.6, (WATER, SOAP)
)
NAMES = st.text(st.characters(exclude_categories=("C", "Zl", "Zp")), min_size=1, max_size=40)
WORDS = NAMES.filter(lambda text: bool(text.strip()) and text.isprintable())


class ThereAndBack(unittest.TestCase):
    @given(
        name=WORDS,
        crop=WORDS,
        look=st.floats(0, 3660),
        planned=st.lists(st.floats(0, 3660), max_size=5),
        usual=st.booleans(),
        amount=st.floats(0, 1e6),
    )
    @settings(max_examples=200, deadline=None)
    def test_it_is_the_same_again(
        self, name: str, crop: str, look: float, planned: list[float], usual: bool, amount: float
    ) -> None:
        made_of = Traits(ingredients=(Amount(name, amount, "g/L"),))
        remedies = (WATER, Remedy(0, f"{name}!", Role.REMEDY, "", traits=made_of))
        shared = Shared(
            name, name, crop, crop, date(2026, 1, 1), "live", look, 0.5, remedies,
            "control" if usual else "", tuple(planned), look, True,
        )  # fmt: skip
        self.assertEqual(shared_from(json.loads(json.dumps(shared.to_plain()))), shared)


class Strange(unittest.TestCase):
    def refused(self, change: Callable[[dict[str, Any]], object]) -> str:
        plain = copy.deepcopy(GOOD.to_plain())
        change(plain)
        with self.assertRaises(InputError) as caught:
            shared_from(plain)
        return str(caught.exception.field)

    def test_each_value_is_looked_at_and_named(self) -> None:
        for field, value in (
            ("name", 7),
            ("name", "  "),
            ("name", "x" * 201),
            ("name", "\x1b[31m"),
            ("pest", None),
            ("first_spray", "soon"),
            ("first_spray", "0001-01-01"),
            ("measure", "joy"),
            ("look", "7"),
            ("look", float("nan")),
            ("look", True),
            ("look", 10**400),
            ("threshold", -0.1),
            ("planned", [7, None]),
            ("planned", [7.0] * 401),
            ("two_waves", 1),
            ("two_looks", "yes"),
            ("remedies", []),
            ("remedies", {}),
            ("remedies", [7]),
            ("remedies", [GOOD.to_plain()["remedies"][0]] * 61),
            ("usual", "soap"),
        ):
            with self.subTest(field=field, value=str(value)[:30]):
                found = self.refused(lambda plain, f=field, v=value: plain.update({f: v}))  # type: ignore[misc]
                self.assertIn(field, found)

    def test_remedies_are_looked_at_one_by_one(self) -> None:
        for change in (
            lambda p: p["remedies"][1].update(name="control"),
            lambda p: p["remedies"][1].update(control=True),
            lambda p: p["remedies"][1].update(catalogue=3),
            lambda p: p["remedies"][1]["made_of"][0].update(amount="much"),
            lambda p: p["remedies"][1]["made_of"][0].update(amount=-1),
            lambda p: p["remedies"][1].update(made_of=[{}]),
            lambda p: p["remedies"][1].update(recipe="x" * 4001),
            lambda p: p["remedies"][1].pop("recipe"),
        ):
            self.assertIn("remedies", self.refused(change))
        nothing: object
        for nothing in (None, [], "trial", 7):
            with self.assertRaises(InputError):
                shared_from(nothing)

    def test_numbers_of_remedies_it_does_not_know_and_of_no_control(self) -> None:
        seen = trial({"control": (40, 38, 52), "soap": (4, 3, 5)})
        check_numbers(GOOD, seen)
        with self.assertRaisesRegex(InputError, "'oil' is not in the description"):
            check_numbers(GOOD, [*seen, seen[0]._replace(remedy="oil")])
        alone = shared_from({**GOOD.to_plain(), "remedies": GOOD.to_plain()["remedies"][1:]})
        with self.assertRaisesRegex(InputError, "no control"):
            check_numbers(alone, [one for one in seen if one.remedy == "soap"])
