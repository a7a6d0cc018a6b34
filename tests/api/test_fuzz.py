"""A short stateful fuzz over the schema; python -m tests.api.fuzz presses longer."""

from __future__ import annotations

import unittest

from tests.api.fuzz import FuzzCase


class Fuzz(FuzzCase):
    def test_every_answer_is_one_the_schema_tells_of(self) -> None:
        faults, statuses = self.fuzz(400, seed=20)
        self.assertEqual(faults, [])
        self.assertGreater(statuses[200] + statuses[201], 100)  # it reaches what is behind


if __name__ == "__main__":
    unittest.main()
