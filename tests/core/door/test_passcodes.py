"""What a passcode must be, and how guessing is slowed."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime, timedelta

from orthocris.core.door.passcodes import check_code, plain_code, spoken, wait_after
from orthocris.core.errors import InputError

NOW = datetime(2026, 5, 10, 8, tzinfo=UTC)


class Passcodes(unittest.TestCase):
    def test_as_people_read_it_out(self) -> None:
        self.assertEqual(plain_code(" 4271 - 5190"), plain_code(spoken(42715190)))
        self.assertEqual(spoken(17), "0000-0017")

    def test_what_is_quickly_guessed_is_refused(self) -> None:
        for code in ("short", "4-2-7-1", "11112222", "a" * 65):
            with self.subTest(code), self.assertRaises(InputError):
                check_code(code)
        check_code("quillon yard 7")

    def test_the_wait_doubles_and_ends(self) -> None:
        def wait(misses: int, ago: float = 0) -> float:
            at = NOW - timedelta(seconds=ago)
            return wait_after([at] * misses, NOW).total_seconds()

        self.assertEqual([wait(n) for n in (0, 4, 5, 6, 7)], [0, 0, 15, 30, 60])
        self.assertEqual(wait(50), 900)
        self.assertEqual((wait(5, 10), wait(5, 16), wait(50, 3601)), (5, 0, 0))


if __name__ == "__main__":
    unittest.main()
