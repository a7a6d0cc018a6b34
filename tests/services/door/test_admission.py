"""Who is let in, who is slowed, who is sent out."""

from __future__ import annotations

import unittest

from orthocris.core.errors import InputError, NotAdmittedError, NotFoundError, TooManyError
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
        self.assertTrue(admission.is_admitted(self.context, first))
        self.assertFalse(admission.is_admitted(self.context, first + "x"))
        self.assertEqual(len(admission.sessions(self.context)), 2)
        admission.leave(self.context, first)
        self.assertFalse(admission.is_admitted(self.context, first))
        (left,) = admission.sessions(self.context)
        admission.end_session(self.context, left.id)
        self.assertFalse(admission.is_admitted(self.context, second))
        with self.assertRaises(NotFoundError):
            admission.end_session(self.context, left.id)

    def test_a_new_passcode_sends_everybody_out(self) -> None:
        token = self.enter(admission.set_passcode(self.context, None))
        admission.set_passcode(self.context, "quillon yard 7")
        self.assertFalse(admission.is_admitted(self.context, token))
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
        admission.is_admitted(self.context, token)
        self.assertEqual(admission.sessions(self.context)[0].seen_at, self.now)


if __name__ == "__main__":
    unittest.main()
