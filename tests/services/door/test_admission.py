"""Who is let in, who is slowed, who is sent out."""

from __future__ import annotations

import time
import unittest
from concurrent.futures import ThreadPoolExecutor
from unittest import mock

from orthocris.core.errors import (
    InputError,
    NotAdmittedError,
    NotFoundError,
    OrthocrisError,
    TooManyError,
)
from orthocris.services.door import admission
from tests.services.world import ServiceCase


class Admission(ServiceCase):
    def enter(self, code: str, origin: str = "192.0.2.7") -> str:
        """Come in from an address."""
        return admission.enter(self.context, code, "a phone", origin)

    def test_in_by_the_passcode_and_out_by_whoever_looks_after_the_door(self) -> None:
        self.assertFalse(admission.has_passcode(self.context))
        with self.assertRaises(NotAdmittedError):
            self.enter("anything")
        code = admission.set_passcode(self.context, None)
        first, second = self.enter(code.replace("-", " ")), self.enter(code)
        self.assertTrue(admission.admitted(self.context, first))
        self.assertIsNone(admission.admitted(self.context, first + "x"))
        self.assertEqual(len(admission.sessions(self.context)), 2)
        admission.leave(self.context, first)
        self.assertIsNone(admission.admitted(self.context, first))
        (left,) = admission.sessions(self.context)
        admission.end_session(self.context, left.id)
        self.assertIsNone(admission.admitted(self.context, second))
        with self.assertRaises(NotFoundError):
            admission.end_session(self.context, left.id)

    def test_a_new_passcode_sends_everybody_out(self) -> None:
        token = self.enter(admission.set_passcode(self.context, None))
        admission.set_passcode(self.context, "quillon yard 7")
        self.assertIsNone(admission.admitted(self.context, token))
        self.enter("Quillon-Yard 7")
        with self.assertRaises(InputError):
            admission.set_passcode(self.context, "abc")

    def test_guessing_is_slowed_for_one_and_in_the_end_for_all(self) -> None:
        code = admission.set_passcode(self.context, None)
        for _ in range(5):
            with self.assertRaises(NotAdmittedError):
                self.enter("0000-0000")
        with self.assertRaises(TooManyError):
            self.enter(code)  # not even the right one, for it might be a lucky guess
        self.enter(code, "192.0.2.8")  # another device is not slowed
        self.later(20 / 86400)
        self.enter(code)
        for k in range(30):
            with self.assertRaises(NotAdmittedError):
                self.enter("0000-0000", f"192.0.2.{100 + k}")
        with self.assertRaises(TooManyError):
            self.enter(code, "192.0.2.9")

    def test_a_burst_is_looked_at_no_oftener_than_one_after_the_other(self) -> None:
        code = admission.set_passcode(self.context, None)
        looked: list[str] = []
        at_once, most = 0, 0

        def slowly(_kept: str, said: str) -> bool:
            nonlocal at_once, most
            at_once += 1
            most = max(most, at_once)
            looked.append(said)
            time.sleep(0.02)
            at_once -= 1
            return said == code

        def guess(k: int) -> type[Exception] | None:
            try:
                self.enter(f"{k:08d}")
            except OrthocrisError as error:
                return type(error)
            return None

        with (
            mock.patch.object(admission, "_is_right", slowly),
            ThreadPoolExecutor(20) as crowd,
        ):
            told = list(crowd.map(guess, range(100)))
        self.assertEqual(most, 1)
        self.assertIn(len(looked), range(1, 6))  # fewer where those at the door send others away
        self.assertEqual(told.count(NotAdmittedError), len(looked))
        self.assertEqual(told.count(TooManyError), 100 - len(looked))
        self.enter(code, "192.0.2.8")  # a phone that knows it is not kept out by the flood
        fresh = admission.set_passcode(self.context, None)
        self.enter(fresh)  # nor is the flooding one, once the owner has made it anew

    def test_a_clock_set_back_locks_nobody(self) -> None:
        code = admission.set_passcode(self.context, None)
        for _ in range(5):
            with self.assertRaises(NotAdmittedError):
                self.enter("0000-0000")
        self.later(-1)
        self.enter(code)

    def test_a_session_ends_when_it_is_unused_for_a_season(self) -> None:
        token = self.enter(admission.set_passcode(self.context, None))
        for _ in range(3):
            self.later(50)
            found = admission.admitted(self.context, token)
            assert found is not None
            self.assertTrue(found.renewed)
        self.later(61)
        self.assertEqual(admission.sessions(self.context), ())
        self.assertIsNone(admission.admitted(self.context, token))

    def test_nothing_that_opens_it_is_in_the_file(self) -> None:
        code = admission.set_passcode(self.context, "quillon yard 7")
        token = self.enter(code)
        with self.context.database.reading() as connection:
            rows = connection.execute("SELECT passcode FROM door").fetchall()
            rows += connection.execute("SELECT token FROM door_session").fetchall()
        kept = " ".join(str(row[0]) for row in rows)
        self.assertNotIn("quillon", kept)
        self.assertNotIn(token, kept)
        self.assertIn("argon2id", kept)

    def test_a_device_is_seen(self) -> None:
        token = self.enter(admission.set_passcode(self.context, None))
        self.later(1)
        admission.admitted(self.context, token)
        self.assertEqual(admission.sessions(self.context)[0].seen_at, self.now)


if __name__ == "__main__":
    unittest.main()
