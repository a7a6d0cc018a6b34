"""Where clocks are."""

from __future__ import annotations

import unittest

from orthocris.knowledge.zones import place_of_zone


class Zones(unittest.TestCase):
    def test_towns_lie_where_they_lie(self) -> None:
        """By an atlas, to a tenth of a degree; south and west are negative."""
        self.assertEqual(place_of_zone("Europe/Berlin"), (52.5, 13.4))
        self.assertEqual(place_of_zone("America/Argentina/Ushuaia"), (-54.8, -68.3))
        self.assertEqual(place_of_zone("Pacific/Auckland"), (-36.9, 174.8))

    def test_a_clock_of_no_town(self) -> None:
        for zone in ("Etc/UTC", "", "../../etc/passwd"):
            self.assertIsNone(place_of_zone(zone))
