"""Bottle labels: real size, nothing run as markup, nothing off the label."""

from __future__ import annotations

import re
import unittest
from dataclasses import replace
from datetime import datetime
from xml.etree import ElementTree as ET

from orthocris.core.errors import InputError
from orthocris.core.pantry.units import Region
from orthocris.formats.labels import WIDTH, BottleLabel, label_pages, labels_svg
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
        self.assertIn("Use by Sun 10 May 2026, 16:30", said)
        self.assertTrue(any("One or more of the bottles" in t for t in said))
        self.assertTrue(any("Never" in t or "bleach" in t for t in said))
        self.assertIn("Life: see the label", self.texts(replace(LABEL, use_by=None)))

    def test_a_code_leads_to_the_bottles_and_the_lines_beside_it_end_before_it(self) -> None:
        link = "https://192.168.178.23:8748/trial/12/mix"
        page = self.page(replace(LABEL, link=link))
        code = [g.get("transform", "") for g in page.iter("{http://www.w3.org/2000/svg}g")][-1]
        left = float(code.split("(")[1].split()[0])
        beside = [t for t in page.iter("{http://www.w3.org/2000/svg}text") if t.get("x") == "24"]
        for text in beside[2:]:
            wide = 0.63 * float(text.get("font-size", "0")) * len(text.text or "")
            self.assertLess(24 + wide, left + 6, text.text)
        self.assertNotIn(code, [g.get("transform", "") for g in self.page(LABEL).iter()])

    def test_volumes_are_told_in_the_gardeners_own_units(self) -> None:
        american = replace(LABEL, region=Region.US)
        self.assertIn("8.9 fl oz (264 ml), mixed 10 May 2026, 8:30 am", self.texts(american))

    def test_a_name_is_shown_as_text(self) -> None:
        self.assertIn("Gutters <i>left</i> & right", self.texts(LABEL))

    def test_an_open_label_tells_remedy_and_recipe(self) -> None:
        said = self.texts(replace(LABEL, title="Spirit", recipe="150 ml in 1 litre"))
        self.assertIn("Spirit", said)
        self.assertIn("150 ml in 1 litre", said)

    def test_lines_stay_on_the_label(self) -> None:
        (frame,) = self.frames(labels_svg([LABEL], paper_named("a4")))
        lowest = max(
            float(text.get("y", "0"))
            for text in self.page(LABEL).iter("{http://www.w3.org/2000/svg}text")
        )
        self.assertLess(lowest, frame[3] - 1)
        long = replace(
            LABEL,
            title="A remedy with quite a long name of its own",
            trial="Gutters and pots and rails along the whole terrace",
            shake="Shake before every plant: oil floats up within a minute, and again at each.",
            volume=12_345,
        )
        for node in (
            text
            for label in (LABEL, long)
            for text in self.page(label).iter("{http://www.w3.org/2000/svg}text")
        ):
            size = float(node.get("font-size", "0"))
            letter = 0.63 if node.get("font-weight") else 0.56  # of its size, as measured
            wide = float(node.get("x", "0")) + letter * size * len(node.text or "")
            self.assertLess(wide, WIDTH, node.text)

    def test_every_caution_is_printed_whole_however_many_there_are(self) -> None:
        cautions = tuple(f"Caution {k}: gloves, eyes, and no fire near. " * 3 for k in range(60))
        paper = paper_named("letter")
        full = replace(LABEL, cautions=cautions)
        pages = label_pages([full], paper)
        self.assertGreater(pages, 0)
        printed = " ".join(
            t.text or ""
            for page in range(1, pages + 1)
            for t in ET.fromstring(labels_svg([full], paper, page)).iter(
                "{http://www.w3.org/2000/svg}text"
            )
        )
        for k in range(60):
            self.assertIn(f"Caution {k}: gloves", printed)
        self.assertIn("Never mix with bleach.", printed)

    def test_every_bottle_is_labelled_on_one_page_or_the_next(self) -> None:
        labels = [replace(LABEL, letter=c, title=f"Bottle no {c}") for c in "ABCDEFGHJKL"]
        paper = paper_named("a4")
        pages = range(1, label_pages(labels, paper) + 1)
        printed = "".join(labels_svg(labels, paper, page).decode() for page in pages)
        for label in labels:
            self.assertIn(f">{label.title}<", printed)
        for page in (0, pages[-1] + 1):
            with self.assertRaises(InputError):
                labels_svg(labels, paper, page)

    def frames(self, page: bytes) -> list[tuple[float, float, float, float]]:
        """Left, top, width and height of each label on a page, mm."""
        found = re.findall(
            r"<g transform=\"translate\(([\d.]+) ([\d.]+)\)\"><rect width=\"([\d.]+)\""
            r" height=\"([\d.]+)\"",
            page.decode(),
        )
        return [(float(x), float(y), float(w), float(h)) for x, y, w, h in found]

    def test_real_size_on_both_papers(self) -> None:
        for paper, width in (("a4", "210.0mm"), ("letter", "215.9mm")):
            self.assertEqual(self.page(LABEL, paper=paper).get("width"), width)

    def test_labels_do_not_overlap_and_stay_on_the_paper(self) -> None:
        paper = paper_named("a4")
        spots = self.frames(labels_svg([LABEL] * 6, paper))
        self.assertEqual(len(spots), 6)
        for k, (x, y, w, h) in enumerate(spots):
            self.assertLess(max(x + w - paper.width, y + h - paper.height), 0)
            for other_x, other_y, _, other_h in spots[k + 1 :]:
                apart = y + h <= other_y or other_y + other_h <= y
                self.assertTrue(abs(x - other_x) >= WIDTH or apart)


if __name__ == "__main__":
    unittest.main()
