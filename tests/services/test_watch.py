"""Work beside the requests goes on after a failure, and ends when it is told."""

from __future__ import annotations

import threading
import unittest

from orthocris.services.watch import Watch


class Watches(unittest.TestCase):
    def test_it_goes_on_after_a_failure_and_ends_when_told(self) -> None:
        done = threading.Event()
        calls: list[int] = []

        def work() -> None:
            calls.append(1)
            if len(calls) < 4:
                raise OSError("away")
            done.set()

        watch = Watch("a test", 0.01, work)
        with self.assertLogs("orthocris.services.watch", "ERROR") as log:
            watch.start()
            self.assertTrue(done.wait(5))
        watch.end()
        self.assertIn("a test failed", log.output[0])
        self.assertEqual(len(log.output), 1)  # three times the same is told once
        after = len(calls)
        self.assertFalse(threading.Event().wait(0.05))
        self.assertEqual(len(calls), after)

    def test_once_only_and_ended_before_it_began(self) -> None:
        calls: list[int] = []
        watch = Watch("a test", None, lambda: calls.append(1))
        watch.start()
        watch.end()
        self.assertLessEqual(len(calls), 1)  # told to end at once, it may not even begin
        Watch("a test", None, lambda: calls.append(1)).end()
        self.assertLessEqual(len(calls), 1)


if __name__ == "__main__":
    unittest.main()
