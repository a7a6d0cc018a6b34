"""The year and the journal over HTTP."""

from __future__ import annotations

import io
import os
import unittest
from typing import Any

from PIL import Image

from orthocris.services.counting.notebook import sweep_pictures
from tests.api.trial.test_routes import ApiCase

LOOK = {"kind": "look", "on": "2026-05-09", "place": "Stairs", "pest": "thrips", "level": 2}


def a_picture() -> bytes:
    """A small green picture."""
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "green").save(out, "PNG")
    return out.getvalue()


class Journal(ApiCase):
    def write(self, status: int = 201, **other: Any) -> Any:
        """Write a line."""
        answer = self.client.post("/api/journal", json={**LOOK, **other})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def test_a_line_is_written_read_and_taken_back(self) -> None:
        year = self.write(helpers=True, note="two\nlines")
        (entry,) = year["entries"]
        self.assertEqual(
            (entry["name"], entry["level"], entry["note"]), ("Thrips", 2, "two\nlines")
        )
        self.assertEqual(year["lanes"][0]["this"]["place"], "Stairs")
        self.assertEqual(year, self.client.get("/api/year?start=2026-01-01").json())
        self.assertIn("thrips", self.client.get("/api/journal.csv").text)
        path = f"/api/journal/{entry['id']}"
        self.assertEqual(self.client.delete(path).status_code, 204)
        self.assertEqual(self.client.delete(path).status_code, 404)
        self.assertEqual(self.client.get("/api/year").json()["entries"], [])

    def test_a_photo_of_a_line_is_kept_until_the_line_is_taken_back(self) -> None:
        (entry,) = self.write()["entries"]
        path = f"/api/journal/{entry['id']}"
        self.assertIsNone(entry["photo"])
        self.assertEqual(self.client.get(f"{path}/picture.jpg").status_code, 404)
        self.refused(self.client.put(f"{path}/picture", content=b"no picture"), 422)
        self.refused(self.client.put("/api/journal/77/picture", content=a_picture()), 404)
        year = self.client.put(f"{path}/picture", content=a_picture()).json()
        (kept,) = year["entries"]
        shown = self.client.get(kept["photo"])
        self.assertEqual(shown.headers["content-type"], "image/jpeg")
        folder = self.context.database.path.parent / "pictures"
        for file in folder.iterdir():  # long ago: no row would hold it but the line's
            os.utime(file, (0, 0))
        sweep_pictures(self.context)
        self.assertEqual(self.client.get(kept["photo"]).content, shown.content)
        self.client.delete(path)
        self.assertEqual(self.client.get(kept["photo"]).status_code, 404)
        sweep_pictures(self.context)
        self.assertEqual(list(folder.iterdir()), [])

    def test_a_task_is_done_once(self) -> None:
        year = self.write(kind="task", pest="", level=None, what="Refill", on="2026-06-01")
        (task,) = year["tasks"]
        path = f"/api/journal/{task['id']}/done"
        done = self.client.post(path)
        self.assertEqual(done.status_code, 200, done.text)
        self.assertEqual(done.json()["tasks"], [])
        self.assertEqual(done.json()["entries"][0]["finished_on"], "2026-05-10")
        self.assertEqual(self.client.post(path).status_code, 404)

    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        for other, field in (
            ({"on": "2026-05-11"}, "on"),
            ({"place": "  "}, "place"),
            ({"level": None}, "level"),
            ({"level": 4}, "level"),
            ({"kind": "treated"}, "what"),
            ({"kind": "newcomer"}, "what"),
            ({"kind": "seen"}, "kind"),
            ({"place": "x" * 121}, "place"),
        ):
            error = self.write(422, **other)["error"]
            self.assertEqual(error["field"], field, error)
        self.assertEqual(self.client.get("/api/year?start=2020-01-01").status_code, 404)
        self.assertEqual(self.client.get("/api/year?start=soon").status_code, 422)

    def test_a_place_is_asked_for_as_it_was_written_or_not(self) -> None:
        self.write()
        self.write(place="Rail", pest="aphids", on="2026-05-10")
        found = self.client.get("/api/year", params={"place": "STAIRS"}).json()
        self.assertEqual([lane["pest"] for lane in found["lanes"]], ["thrips"])
        self.assertEqual(found["places"], ["Rail", "Stairs"])
        nowhere = self.client.get("/api/year", params={"place": "'; --"}).json()
        self.assertEqual((nowhere["lanes"], nowhere["entries"]), ([], []))


if __name__ == "__main__":
    unittest.main()
