"""Bottle labels: real size, nothing run as markup, nothing off the label."""

from __future__ import annotations

import re
import unittest
from dataclasses import replace
from datetime import datetime
from xml.etree import ElementTree as ET

from orthocris.formats.labels import HEIGHT, WIDTH, BottleLabel, labels_svg
from orthocris.formats.prints import paper_named

LABEL = BottleLabel(
    letter="B",
    notches=2,
    trial="Gutters <i>left</i> & right",
    title="",
    recipe="",
    volume=264,
    mixed_at=datetime(2026, 5, 10, 8, 30),
    use_by=datetime(2026, 5, 10, 16, 30),
    shake="Shake before every plant.",
    cautions=("Alcohol burns with a flame that is hard to see: no fire near. " * 4,),
    some_of_the_bottles=True,
)


class Labels(unittest.TestCase):
    def page(self, *labels: BottleLabel, paper: str = "a4") -> ET.Element:
        """A page, which must be well-formed."""
        return ET.fromstring(labels_svg(labels, paper_named(paper)))

    def texts(self, *labels: BottleLabel) -> list[str]:
        """Every text on the page."""
        return [t.text or "" for t in self.page(*labels).iter("{http://www.w3.org/2000/svg}text")]

    def test_code_dates_and_life(self) -> None:
        said = self.texts(LABEL)
        self.assertIn("Bottle B", said)
        self.assertIn("264 ml, mixed 10 May 2026, 08:30", said)
        self.assertIn("Use by Sun 10 May, 16:30", said)
        self.assertTrue(any("One or more of the bottles" in t for t in said))
        self.assertTrue(any("Never" in t or "bleach" in t for t in said))
        self.assertIn("Life: see the label", self.texts(replace(LABEL, use_by=None)))

    def test_a_name_is_shown_as_text(self) -> None:
        self.assertIn("Gutters <i>left</i> & right", self.texts(LABEL))

    def test_an_open_label_tells_remedy_and_recipe(self) -> None:
        said = self.texts(replace(LABEL, title="Spirit", recipe="150 ml in 1 litre"))
        self.assertIn("Spirit", said)
        self.assertIn("150 ml in 1 litre", said)

    def test_lines_stay_on_the_label(self) -> None:
        for node in self.page(LABEL).iter("{http://www.w3.org/2000/svg}text"):
            self.assertLess(float(node.get("y", "0")), HEIGHT - 1)
            size = float(node.get("font-size", "0"))
            wide = float(node.get("x", "0")) + 0.52 * size * len(node.text or "")
            self.assertLess(wide, WIDTH)

    def test_real_size_on_both_papers(self) -> None:
        for paper, width in (("a4", "210.0mm"), ("letter", "215.9mm")):
            self.assertEqual(self.page(LABEL, paper=paper).get("width"), width)

    def test_labels_do_not_overlap(self) -> None:
        page = labels_svg([LABEL] * 6, paper_named("a4")).decode()
        spots = {
            (float(x), float(y))
            for x, y in re.findall(r"<g transform=\"translate\(([\d.]+) ([\d.]+)\)\"><rect", page)
        }
        self.assertEqual(len(spots), 6)
        for x, y in spots:
            for other_x, other_y in spots - {(x, y)}:
                self.assertTrue(abs(x - other_x) >= WIDTH or abs(y - other_y) >= HEIGHT)


if __name__ == "__main__":
    unittest.main()
