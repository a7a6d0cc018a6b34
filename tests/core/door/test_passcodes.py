"""What a passcode must be, and how guessing is slowed."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime, timedelta

from orthocris.core.door.passcodes import check_code, plain_code, spoken, wait_after, wait_for
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
        for code in ("password", "Passw0rd!", "password1", "1234-5678", "87654321", "qwertzui",
                     "abcdefgh", "abcdabcd", "letmein1", "1q2w3e4r", "garden2026"):  # fmt: skip
            with self.subTest(code), self.assertRaises(InputError):
                check_code(code)
        for code in ("quillon yard 7", "4271-5190", "pass the marmalade", "1978 leaves"):
            with self.subTest(code):
                check_code(code)

    def test_the_wait_doubles_and_ends(self) -> None:
        def wait(misses: int, ago: float = 0) -> float:
            at = NOW - timedelta(seconds=ago)
            return wait_after([at] * misses, NOW).total_seconds()

        self.assertEqual([wait(n) for n in (0, 4, 5, 6, 7)], [0, 0, 15, 30, 60])
        self.assertEqual(wait(50), 900)
        self.assertEqual((wait(5, 10), wait(5, 16), wait(50, 3601)), (5, 0, 0))
        self.assertEqual(wait(50, -3600), 0)  # noted before the clock was set back

    def test_one_device_does_not_keep_the_others_out(self) -> None:
        flood = [("one", NOW)] * 500
        self.assertGreater(wait_for(flood, "one", NOW).total_seconds(), 0)
        self.assertEqual(wait_for(flood, "another", NOW).total_seconds(), 0)
        many = [(f"device {k}", NOW) for k in range(30)]
        self.assertGreater(wait_for(many, "another", NOW).total_seconds(), 0)


if __name__ == "__main__":
    unittest.main()
