"""What a remark hangs on: every finding of the critic has its word."""

from __future__ import annotations

import ast
import unittest
from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from pathlib import Path

from orthocris.core import planning
from orthocris.core.planning.critique import critique
from orthocris.core.planning.findings import PestFacts, Plan
from orthocris.core.planning.remarks import ABOUT, RemarkOn, remark
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.setup import Setup
from orthocris.knowledge import recipe_cards, remedies


def codes() -> Iterator[str]:
    """The stems of all codes that a rule of the critic writes."""
    for file in Path(planning.__path__[0]).glob("critique*.py"):
        for node in ast.walk(ast.parse(file.read_text("utf-8"))):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "Finding":
                code = node.args[0]
                if isinstance(code, ast.JoinedStr) and isinstance(code.values[0], ast.Constant):
                    yield str(code.values[0].value).rstrip("_")
                elif isinstance(code, ast.Constant):
                    yield str(code.value)


class Remarks(unittest.TestCase):
    def test_every_finding_has_its_word_and_no_word_is_left_over(self) -> None:
        self.assertEqual(set(codes()), set(ABOUT))

    def test_a_remedy_s_own_remark_names_it_kept_or_not(self) -> None:
        soap = RemedyDraft("Soap", Role.REMEDY, "5 ml soap a litre", traits=Traits("mild_soap"))
        water = RemedyDraft("Water", Role.CONTROL, "plain water", traits=Traits("water_only"))
        asked = Question("x", "aphids", "live", 0.6, (water, soap), (3, 7), (0, 7))
        asked = replace(asked, setup=Setup(delicate=True))
        plan = Plan(
            asked,
            date(2026, 6, 1),
            (),
            PestFacts("Aphids"),
            {r.key: r for r in remedies()},
            recipe_cards(),
        )
        kept = replace(asked, remedies=(replace(water, id=7), replace(soap, id=9)))
        for said in (plan, replace(plan, question=kept)):
            found = [remark(said, finding) for finding in critique(said)]
            mine = next(one for one in found if one.finding.code.startswith("unsuited_"))
            self.assertEqual((mine.about, mine.remedy), (RemarkOn.REMEDIES, "Soap"))
