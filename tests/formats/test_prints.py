"""Printed tags and sheets: real size, right notches, nothing a name could break."""

from __future__ import annotations

import unittest
import xml.etree.ElementTree as ET
from dataclasses import replace
from datetime import date

from orthocris.core.errors import InputError
from orthocris.core.pantry.units import Region
from orthocris.core.trial.plan import Remedy, Role
from orthocris.core.trial.setup import Setup, Unit
from orthocris.core.trial.trial import Plant, Trial
from orthocris.formats.prints import PAPERS, sheet_svg, tag_pages, tag_path, tags_svg

SVG = "{http://www.w3.org/2000/svg}"


def trial(plants: int = 16) -> Trial:
    """A drawn trial with names that would break careless markup."""
    remedies = (
        Remedy(1, "Water", Role.CONTROL, "", "A", 1),
        Remedy(2, "Soap", Role.REMEDY, "", "B", 2),
    )
    bench = tuple(
        Plant(k, f"<S&{k}>", (k - 1) // 8 + 1, (k - 1) % 8 + 1, 5, None, 1, 1 + k % 2)
        for k in range(1, plants + 1)
    )
    day = date(2026, 5, 10)
    return Trial(
        7, "Soap & <b>water</b>", "aphids", "live", 0.6, day, None, 1, remedies, plants=bench
    )


class Tags(unittest.TestCase):
    def test_pages_are_as_large_as_the_paper(self) -> None:
        for name, (width, height) in {
            "a4": ("210.0mm", "297.0mm"),
            "letter": ("215.9mm", "279.4mm"),
        }.items():
            root = ET.fromstring(tags_svg(trial(), PAPERS[name], 1, "http://127.0.0.1:1"))
            self.assertEqual((root.get("width"), root.get("height")), (width, height))
            self.assertEqual(root.get("viewBox"), f"0 0 {width[:-2]} {height[:-2]}")

    def test_every_plant_has_a_tag_on_some_page(self) -> None:
        pages = tag_pages(trial(33), PAPERS["a4"])
        self.assertEqual((pages, tag_pages(trial(33), PAPERS["letter"])), (2, 3))
        names = [
            text.text
            for page in range(1, pages + 1)
            for text in ET.fromstring(tags_svg(trial(33), PAPERS["a4"], page, "x")).iter(
                f"{SVG}text"
            )
        ]
        for k in range(1, 34):
            self.assertIn(f"<S&{k}>", names)
        with self.assertRaises(InputError):
            tags_svg(trial(), PAPERS["a4"], 9, "x")

    def test_notches_are_cut(self) -> None:
        for notches in range(13):
            corners = tag_path(24, 88, notches).count("L") + 1
            self.assertEqual(corners, 5 + 3 * notches)

    def test_the_code_leads_to_the_plant(self) -> None:
        """Two plants differ in their codes, and so do two addresses; the same is the same."""
        one = tags_svg(trial(1), PAPERS["a4"], 1, "http://127.0.0.1:8747")
        self.assertEqual(one, tags_svg(trial(1), PAPERS["a4"], 1, "http://127.0.0.1:8747"))
        self.assertNotEqual(one, tags_svg(trial(1), PAPERS["a4"], 1, "http://127.0.0.1:9999"))


class Sheet(unittest.TestCase):
    def test_all_stays_on_the_page_in_walking_order(self) -> None:
        for bench in (trial(16), replace(trial(40), setup=Setup(place_cm=10, row_cm=300))):
            root = ET.fromstring(sheet_svg(bench, PAPERS["a4"], [(1, 2)]))
            for text in root.iter(f"{SVG}text"):
                if text.get("x"):
                    self.assertLessEqual(float(text.get("x") or 0), 210)
                    self.assertLessEqual(float(text.get("y") or 0), 297)
        long = replace(trial(16), name="A terrace with a name " * 3)
        long = replace(
            long, plants=tuple(replace(p, name=f"{p.name}{'y' * 30}") for p in long.plants)
        )
        for text in ET.fromstring(sheet_svg(long, PAPERS["a4"], [])).iter(f"{SVG}text"):
            if text.get("x"):
                half = 0.315 * float(text.get("font-size") or 0) * len(text.text or "")
                middle = text.get("text-anchor") == "middle"
                right = float(text.get("x") or 0) + (half if middle else 2 * half)
                self.assertLess(right, 205, text.text)
        inches = sheet_svg(
            replace(trial(4), setup=Setup(place_cm=30, row_cm=61)), PAPERS["a4"], [], Region.US
        )
        self.assertIn(b"12 in between plants, 24 in between rows.", inches)
        shown = {
            t.text for t in ET.fromstring(sheet_svg(trial(), PAPERS["a4"], [])).iter(f"{SVG}text")
        }
        self.assertLessEqual({str(k) for k in range(1, 17)}, shown)
        self.assertEqual(len(list(root.iter(f"{SVG}line"))), 2)

    def test_leaves_carry_a_thread_with_as_many_knots_as_notches(self) -> None:
        leaves = replace(trial(16), setup=Setup(unit=Unit.LEAF))
        root = ET.fromstring(sheet_svg(leaves, PAPERS["a4"], []))
        said = " ".join(t.text or "" for t in root.iter(f"{SVG}text"))
        self.assertIn("knots", said)
        self.assertNotIn("between plants", said)  # they stand on one
        notches = {r.id: r.notches or 0 for r in leaves.remedies}
        knots = [
            len(list(g.iter(f"{SVG}circle")))
            for g in root.iter(f"{SVG}g")
            if g.get("class") == "knots"
        ]
        self.assertEqual(knots, [notches[p.remedy_id or 0] for p in leaves.plants])
        self.assertNotIn(b"knots", sheet_svg(trial(16), PAPERS["a4"], []))


if __name__ == "__main__":
    unittest.main()
