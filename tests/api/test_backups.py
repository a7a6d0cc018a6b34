"""The copies over the door: made, taken along, put back, also while the data itself is damaged."""

from __future__ import annotations

import sqlite3
import tempfile
from contextlib import closing
from pathlib import Path

from orthocris.storage.soundness import DatabaseError
from tests.api.trial.test_routes import ApiCase


class Copies(ApiCase):
    def name(self) -> str:
        """Make a copy; return its name."""
        return str(self.client.post("/api/backups").json()["name"])

    def test_a_copy_is_made_taken_along_and_removed(self) -> None:
        name = self.name()
        (listed,) = self.client.get("/api/backups").json()["items"]
        self.assertEqual((listed["name"], listed["reason"]), (name, "asked"))
        with tempfile.TemporaryDirectory() as folder:
            place = Path(folder) / "garden.sqlite"
            place.write_bytes(self.client.get(f"/api/backups/{name}").content)
            with closing(sqlite3.connect(place)) as connection:
                row = connection.execute("SELECT count(*) FROM migration").fetchone()
            self.assertGreater(row[0], 20)
        self.assertEqual(self.client.delete(f"/api/backups/{name}").status_code, 204)
        self.refused(self.client.get(f"/api/backups/{name}"), 404)
        self.assertEqual(self.client.get("/api/backups").json()["items"], [])

    def test_names_that_are_no_copies(self) -> None:
        for name in ("orthocris.sqlite", "..%2Forthocris.sqlite", "x", "20260510T08Z-daily.sqlite"):
            for ask in (self.client.get, self.client.delete):
                self.assertIn(ask(f"/api/backups/{name}").status_code, (404, 422), name)
            self.assertIn(self.client.post(f"/api/backups/{name}/restore").status_code, (404, 422))

    def test_damaged_data_is_told_and_a_copy_put_back(self) -> None:
        name = self.name()
        self.context.database.refuse(DatabaseError("it is damaged", code="data_damaged"))
        self.refused(self.client.get("/api/yard"), 503)
        self.refused(self.client.post("/api/backups"), 503)
        self.assertEqual(self.client.get("/api/backups").json()["damage"], "it is damaged")
        became = self.client.post(f"/api/backups/{name}/restore").json()
        self.assertIsNotNone(became["set_aside"])
        self.assertEqual(self.client.get("/api/yard").status_code, 200)

    def test_a_device_that_was_let_in_does_not_reach_them(self) -> None:
        phone = self.phone()
        for path in ("/api/backups", f"/api/backups/{self.name()}"):
            self.refused(phone.get(path), 403)
