"""A verdict as a document: one page or the whole record, whatever names it holds."""

from __future__ import annotations

import re
import unittest
from dataclasses import replace

from orthocris.core import judge
from orthocris.core.trial.measures import measure_named
from orthocris.core.verdict.observation import Observation
from orthocris.formats.pages import shown
from orthocris.formats.verdict_pdf import _arithmetic_rows, verdict_pdf
from orthocris.formats.verdict_sheet import Told, losses, removed, x_of


def told(soap: str = "Soap", plants: int = 0) -> Told:
    """A verdict of soap against water on eight plants."""
    seen = [
        Observation(f"p{k}", str(k // 2), soap if k % 2 else "Water", day, "live", count + k)
        for k in range(8)
        for day, count in ((0.0, 20.0), (3.0, 1.0 if k % 2 else 22.0))
    ]
    return Told(
        trial="Gutters <left> & right",
        look="on day 3",
        final=True,
        verdict=judge(seen, control="Water"),
        tags={soap: ("B", 2), "Water": ("A", 1)},
        prices={soap: "bottles 0.20 €; mess: clogs the nozzle"},
        notes=("Round 1 left out S3.",) * 4,
        dots={soap: (0.9, 1.0, 0.4, -0.5)},
        answers=(),
        plants=[["Plant", "before", "day 3"], *[[f"S{k}", "20", "1"] for k in range(plants)]],
        version="0",
    )


def pages(content: bytes) -> int:
    """How many pages a document has."""
    return len(re.findall(rb"/Type /Page\b(?!s)", content))


class Document(unittest.TestCase):
    def test_one_page_for_a_neighbour_and_as_many_as_it_takes_for_a_sceptic(self) -> None:
        self.assertEqual(pages(verdict_pdf(told(), whole=False)), 1)
        self.assertGreater(pages(verdict_pdf(told(plants=90), whole=True, paper="letter")), 2)

    def test_no_more_is_claimed_than_was_seen_and_what_is_worse_is_drawn(self) -> None:
        soap = next(r for r in told().verdict.remedies if r.role == "remedy")
        clean = replace(soap, efficacy=0.998, efficacy_low=0.992, efficacy_high=0.9999)
        self.assertEqual(
            removed(clean, measure_named("live")),
            "99.8% fewer live pests, likely between 99.2% and 99.9%",
        )
        # Nine times the control: on a line that ends at sixteen times it lies inside.
        self.assertTrue(x_of(1 - 16, 16) < x_of(-8, 16) < x_of(0, 16) < x_of(0.5, 16))
        worse = replace(soap, efficacy=-8.0, efficacy_low=-12.0, efficacy_high=-6.0)
        seen = told()
        others = replace(seen.verdict, remedies=(worse, *seen.verdict.remedies[1:]))
        self.assertEqual(pages(verdict_pdf(replace(seen, verdict=others), whole=False)), 1)

    def test_a_plant_that_nobody_counted_is_not_told_as_lost(self) -> None:
        soap = next(r for r in told().verdict.remedies if r.role == "remedy")
        for lost, died, said in ((0, 0, "none"), (3, 3, "3"), (3, 1, "1, 2 not counted")):
            self.assertEqual(losses(replace(soap, lost=lost, died=died)), said)

    def test_the_arithmetic_tells_every_number_and_a_dash_where_there_is_none(self) -> None:
        head, *rows = _arithmetic_rows(told().verdict)
        self.assertEqual({len(row) for row in rows}, {len(head)})
        by_name = {row[0]: dict(zip(head, row, strict=True)) for row in rows}
        self.assertEqual(by_name["Soap"]["Best"], "over 99%")
        self.assertEqual(by_name["Soap"]["Before"], "24.0")
        self.assertEqual(by_name["Water"]["Best"], "–")
        self.assertRegex(by_name["Soap"]["p, all together"], r"^0\.\d{3}$")

    def test_the_same_verdict_makes_the_same_bytes(self) -> None:
        first, second = (verdict_pdf(told(plants=3), whole=True) for _ in range(2))
        self.assertEqual(first, second)
        self.assertTrue(first.startswith(b"%PDF-"))
        for weight in (b"Regular", b"Bold"):  # the screens' own face
            self.assertIn(b"AtkinsonHyperlegibleNext-" + weight, first)

    def test_any_name_is_told_and_a_letter_the_face_lacks_is_not_lost_unseen(self) -> None:
        self.assertEqual(shown("Žluté mýdlo – 5 %"), "Žluté mýdlo – 5 %")
        self.assertEqual(shown("ṩoap 肥"), "soap ?")
        for name in ("肥皂", "<b>", "x" * 200, "ṩ" * 40):
            with self.subTest(name=name):
                self.assertEqual(pages(verdict_pdf(told(name), whole=False)), 1)

    def test_a_verdict_without_a_control_has_no_picture_and_is_told_all_the_same(self) -> None:
        seen = told()
        bare = replace(
            seen,
            verdict=replace(
                seen.verdict,
                remedies=tuple(
                    replace(r, efficacy=None, efficacy_low=None, efficacy_high=None, kills=True)
                    for r in seen.verdict.remedies
                ),
            ),
        )
        self.assertEqual(pages(verdict_pdf(bare, whole=True)), 1)
