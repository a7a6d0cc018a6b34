"""Sheets to fill in by hand: the plants in walking order, by their tags' letters alone."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace
from typing import Any
from unittest import mock

from reportlab.platypus import Paragraph, Table

from orthocris.core.errors import ConflictError
from orthocris.formats import blank_sheets
from orthocris.services.planning import printing
from orthocris.services.trial import questions
from tests.services.world import QUESTION, ServiceCase


class BlankSheets(ServiceCase):
    def words(self) -> str:
        """All that is written on the sheets, in its order."""
        with mock.patch.object(blank_sheets, "document", return_value=b"") as made:
            printing.blank_of(self.context, self.trial_id, "a4")
        (_, story, _), _ = made.call_args
        return " ".join(word for part in story for word in written(part))

    def test_they_hold_each_plant_twice_in_the_order_of_the_walk_and_no_remedy(self) -> None:
        self.plant_and_draw(40)
        said = self.words()
        walk = [plant.name for plant in self.trial.trial_plants]
        self.assertEqual(re.findall(r"\bS\d+\b", said), [*walk, *walk])
        self.assertIn("count live pests", said)
        self.assertIn("no bees about", said)
        self.assertNotIn("Soap", said)
        for paper in ("a4", "letter"):
            content = printing.blank_of(self.context, self.trial_id, paper)
            self.assertEqual(len(re.findall(rb"/Type /Page\b(?!s)", content)), 4)

    def test_leaves_have_a_box_each_and_damage_its_scale(self) -> None:
        asked = replace(QUESTION, setup=replace(QUESTION.setup, samples=3))
        self.trial_id = questions.create_trial(self.context, asked, self.now.date())
        self.plant_and_draw()
        said = self.words()
        self.assertIn("Damage: 0 none", said)
        self.assertIn("Row, place 1 2 3 damage note", said)

    def test_there_is_none_before_the_layout(self) -> None:
        with self.assertRaises(ConflictError):
            printing.blank_of(self.context, self.trial_id, "a4")


def written(part: Any) -> Iterator[str]:
    """The words of a part of a document."""
    if isinstance(part, Paragraph):
        yield part.getPlainText()
    elif isinstance(part, Table):
        for row in part._cellvalues:
            for cell in row:
                yield from written(cell)
