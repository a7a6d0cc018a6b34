"""A garden over the door: taken along, looked at, brought in once, and from this machine alone."""

from __future__ import annotations

import io
import zipfile

from tests.api.trial.test_routes import ApiCase

ZIPPED = {"Content-Type": "application/zip"}
ONCE = {**ZIPPED, "Idempotency-Key": "key-of-this-file"}


class Moving(ApiCase):
    def test_what_was_saved_is_looked_at_and_brought_in_beside_what_is_there(self) -> None:
        answer = self.client.get("/api/moving/garden.zip")
        self.assertIn('filename="garden.zip"', answer.headers["content-disposition"])
        with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
            self.assertNotIn("tables/door.csv", archive.namelist())
        coming = self.client.post("/api/moving/look", content=answer.content, headers=ZIPPED).json()
        (trial,) = coming["trials"]
        self.assertEqual(trial["called"], f"{trial['name']} (brought in)")
        came = [
            self.client.post("/api/moving", content=answer.content, headers=ONCE) for _ in range(2)
        ]
        self.assertEqual([one.status_code for one in came], [201, 201])
        self.assertEqual(came[0].json(), came[1].json())
        names = [row["name"] for row in self.client.get("/api/today").json()["trials"]]
        self.assertEqual(sorted(names), sorted([trial["name"], trial["called"]]))
        self.refused(self.client.post("/api/moving", content=b"another", headers=ONCE), 409)
        self.refused(self.client.post("/api/moving/look", content=b"PK", headers=ZIPPED), 422)

    def test_a_device_that_was_let_in_does_not_reach_it(self) -> None:
        phone = self.phone()
        self.refused(phone.get("/api/moving/garden.zip"), 403)
        self.refused(phone.post("/api/moving", content=b"", headers=ZIPPED), 403)
