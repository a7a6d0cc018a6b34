"""Other gardens' trials over HTTP: a file is looked at, taken in under a name, taken off."""

from __future__ import annotations

import unittest
from typing import Any
from unittest.mock import patch

from orthocris.core.verdict.shared import Shared
from orthocris.formats.bundle import bundle
from orthocris.formats.tidy_table import write_table
from tests.api.trial.test_routes import ApiCase
from tests.core.verdict.test_shared import GOOD
from tests.formats.test_bundle_reading import MADE, SEEN

ZIP = {"Content-Type": "application/zip"}


class Files(ApiCase):
    def send(self, content: bytes, status: int, path: str = "/api/queries/bundle") -> Any:
        """Send a file."""
        answer = self.client.post(path, content=content, headers=ZIP)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def test_looked_at_taken_in_and_taken_off(self) -> None:
        looked = self.send(MADE, 200)
        self.assertEqual((looked["name"], looked["plants"], looked["here"]), ("Lupins", 8, False))
        self.assertIn("soap", looked["sentence"].lower())
        (kept,) = self.send(MADE, 201, "/api/neighbours?garden=Bram")
        self.assertEqual(kept["garden"], "Bram")
        self.assertEqual(self.client.get("/api/neighbours").json(), [kept])
        self.assertTrue(self.send(MADE, 200)["here"])
        (trial,) = self.client.get("/api/known/aphids").json()["remedies"][0]["trials"]
        self.assertEqual((trial["garden"], trial["trial_id"]), ("Bram", None))
        path = f"/api/neighbours/{kept['id']}"
        self.assertEqual(self.client.delete(path).status_code, 204)
        self.assertEqual(self.client.delete(path).status_code, 404)

    def test_no_file_no_name_and_no_sense(self) -> None:
        self.assertEqual(self.send(b"no", 422)["error"]["field"], "file")
        self.assertEqual(self.send(b"PK\3\4nothing", 422)["error"]["code"], "bad_bundle")
        self.assertEqual(
            self.send(MADE, 422, "/api/neighbours?garden=")["error"]["field"], "garden"
        )
        self.send(MADE, 422, "/api/neighbours")
        with patch("orthocris.api.guard.MAX_PACKAGE", 1000):
            self.send(MADE, 413)
        wrong = [*SEEN, SEEN[0]._replace(value=-3.0)]
        error = self.send(made_of(wrong, GOOD), 422)["error"]
        self.assertIn("line 10", error["message"])
        self.assertEqual(self.client.get("/api/neighbours").json(), [])


def made_of(seen: Any, told: Shared) -> bytes:
    """A bundle of these numbers."""
    return bundle("x", write_table(seen), (), {}, {}, told.to_plain())


if __name__ == "__main__":
    unittest.main()
