"""Young and eggs read beside the live: found as they are, and nothing claimed of them."""

from __future__ import annotations

import unittest

import numpy as np

from orthocris.core import Observation, judge


def trial(*, eggs: bool = True) -> list[Observation]:
    """A soap that takes nine of ten moving ones and leaves the eggs; six blocks."""
    rng = np.random.default_rng(11)
    seen = []
    for block in range(6):
        for remedy in ("control", "soap"):
            for day, live, laid in ((0, 40.0, 60.0), (7, 4.0 if remedy == "soap" else 44.0, 62.0)):
                plant = f"{remedy}{block}"
                number = float(rng.poisson(live))
                home = (plant, f"b{block}", remedy, day)
                seen.append(Observation(*home, "live", number))
                seen.append(Observation(*home, "young", float(rng.binomial(int(number), 0.5))))
                if eggs:
                    seen.append(Observation(*home, "eggs", float(rng.poisson(laid))))
    return seen


class Beside(unittest.TestCase):
    def test_each_measure_is_read_and_only_the_asked_one_decides(self) -> None:
        verdict = judge(trial())
        self.assertEqual((verdict.measure, verdict.outcome), ("live", "winner"))
        read = {b.measure: b.remedies[0] for b in verdict.beside}
        self.assertEqual(list(read), ["young", "eggs"])
        self.assertGreater(read["young"].efficacy_low, 0.7)
        self.assertLess(read["eggs"].efficacy_high, 0.3)
        self.assertLess(read["eggs"].efficacy_low, read["eggs"].efficacy)
        self.assertEqual(verdict.to_dict()["beside"][1]["remedies"][0]["name"], "soap")

    def test_what_is_read_is_what_it_would_be_as_the_question_s_own(self) -> None:
        own = judge(trial(), measure="eggs")
        beside = next(b for b in judge(trial()).beside if b.measure == "eggs").remedies[0]
        asked = next(r for r in own.remedies if r.name == "soap")
        self.assertEqual(beside.efficacy, asked.efficacy)
        self.assertEqual([b.measure for b in own.beside], ["live", "young"])

    def test_nothing_without_a_control_or_where_it_was_counted_before_alone(self) -> None:
        self.assertEqual(judge(trial(), control=None).beside, ())
        before = [o for o in trial() if o.measure != "eggs" or o.day == 0]
        self.assertEqual([b.measure for b in judge(before).beside], ["young"])
        self.assertEqual(judge([o for o in trial() if o.measure == "live"]).beside, ())


if __name__ == "__main__":
    unittest.main()
