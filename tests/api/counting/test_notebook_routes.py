"""Notes, pictures, practice, second people and eggs over HTTP."""

from __future__ import annotations

import io
from typing import Any

from PIL import Image

from orthocris.core.counting.leaf.scene import LeafPlan
from orthocris.devices.simulated_leaf_camera import SimulatedLeafCamera
from tests.api.trial.test_routes import ApiCase

NOTED_AT = "2026-05-10T07:30:00+00:00"


class Http(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.base = f"/api/trials/{self.trial_id}"
        self.plant = self.trial.trial_plants[0].id

    def note(self, key: str = "note-0001", **changes: Any) -> Any:
        """Keep a note at the first plant; returns the answer's body."""
        body = {"key": key, "plant_id": self.plant, "noted_at": NOTED_AT, **changes}
        answer = self.client.post(f"{self.base}/looks/0/notes", json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def picture(self) -> bytes:
        """A leaf under the lens."""
        return SimulatedLeafCamera(4, LeafPlan("spider_mites", 5, 3, 2, 2), 700).take()


class Notes(Http):
    def test_a_note_comes_back_with_its_picture_marks_and_what_they_come_to(self) -> None:
        note = self.note(said="Two lines\nof it", seen=["ants", "new_growth"], sample=2)
        put = self.client.put(
            f"/api/notes/{note['id']}/picture",
            content=self.picture(),
            headers={"Content-Type": "image/jpeg"},
        ).json()
        self.assertEqual((put["picture"]["width"], put["picture"]["source"]), (700, "file"))
        marks = [{"x": 0.5, "y": 0.3, "stage": "young"}, {"x": 0.4, "y": 0.3, "stage": "live"}]
        self.client.put(f"/api/notes/{note['id']}/marks", json={"marks": marks})
        (kept,) = self.client.get(f"{self.base}/notes?look=0").json()
        self.assertEqual(kept["said"], "Two lines\nof it")
        self.assertEqual((kept["seen"], kept["sample"]), (["ants", "new_growth"], 2))
        tallied = {"live": 2, "young": 1, "eggs": 0, "dead": 0}
        self.assertEqual((kept["picture"]["marks"], kept["picture"]["tallied"]), (marks, tallied))
        shown = self.client.get(kept["picture"]["url"])
        self.assertEqual(shown.headers["content-type"], "image/jpeg")
        with Image.open(io.BytesIO(shown.content)) as image:
            self.assertEqual(image.size, (700, 525))

    def test_a_picture_in_place_of_another_has_an_address_of_its_own(self) -> None:
        note = self.note()
        first, second = (
            self.client.put(f"/api/notes/{note['id']}/picture", content=content).json()
            for content in (self.picture(), SimulatedLeafCamera(5, LeafPlan("rust"), 300).take())
        )
        self.assertNotEqual(first["picture"]["url"], second["picture"]["url"])

    def test_a_note_taken_away_can_be_put_back(self) -> None:
        note = self.note()
        self.assertEqual(self.client.delete(f"/api/notes/{note['id']}").status_code, 204)
        self.assertEqual(self.client.get(f"{self.base}/notes").json(), [])
        self.client.post(f"/api/notes/{note['id']}/restore")
        self.assertEqual(len(self.client.get(f"{self.base}/notes").json()), 1)

    def test_what_cannot_be_is_refused_with_field_and_remedy(self) -> None:
        note = self.note()
        path = f"/api/notes/{note['id']}"
        refused = [
            self.client.put(f"{path}/picture", content=b"a poem"),
            self.client.put(f"{path}/picture", content=b"x" * 13_000_000),
            self.client.put(f"{path}/marks", json={"marks": []}),
            self.client.get(f"{path}/picture.jpg"),
            self.client.get(f"{path}/cover?threshold=7"),
            self.client.get("/api/notes/99999/proposed"),
        ]
        codes = [answer.status_code for answer in refused]
        self.assertEqual(codes, [422, 413, 404, 404, 422, 404])
        for answer in refused:
            self.assertTrue(answer.json()["error"]["fix"], answer.text)

    def test_the_lens_proposes_and_measures(self) -> None:
        note = self.note()
        taken = self.client.post(f"/api/notes/{note['id']}/lens").json()
        self.assertEqual(taken["picture"]["source"], "lens")
        proposed = self.client.get(f"/api/notes/{note['id']}/proposed").json()
        self.assertTrue(all(0 <= mark["x"] <= 1 for mark in proposed))
        cover = self.client.get(f"/api/notes/{note['id']}/cover?threshold=0.4").json()
        self.assertTrue(0 <= cover["percent"] <= 100 and cover["threshold"] == 0.4)
        over = self.client.get(f"/api/notes/{note['id']}/cover.png?threshold=0.4")
        self.assertEqual(over.headers["content-type"], "image/png")


class Practice(Http):
    def test_a_spell_is_begun_counted_and_told(self) -> None:
        body = {"key": "spell-0001", "pest": "thrips", "leaves": 2, "person": "Ilse"}
        begun = self.client.post("/api/practice", json=body).json()
        path = f"/api/practice/{begun['id']}"
        self.assertEqual((begun["told"], begun["fill"]), ([], "some"))
        leaf = self.client.get(f"{path}/leaves/1.jpg")
        self.assertEqual(leaf.headers["content-type"], "image/jpeg")
        told = self.client.put(f"{path}/leaves/1", json={"live": 4, "young": 1, "seconds": 12})
        self.assertEqual(told.json()["told"][0]["counted"]["live"], 4)
        wrong = self.client.put(f"{path}/leaves/2", json={"live": 1, "young": 2})
        self.assertEqual(wrong.json()["error"]["field"], "young")
        (one,) = self.client.get("/api/practice").json()
        self.assertEqual((one["person"], one["error"]["leaves"]), ("Ilse", 1))


class SecondPeople(Http):
    def tally(self, value: float, person: str = "") -> None:
        """Keep a count of every plant."""
        for plant in self.trial.trial_plants:
            body = {
                "plant_id": plant.id,
                "measure": "live",
                "value": value + plant.id % 3,
                "finished": True,
                "session": f"{person or 'first'}-session-{plant.id}",
                "step": 1,
                "person": person,
            }
            answer = self.client.post(f"{self.base}/looks/0/tallies", json=body)
            self.assertEqual(answer.status_code, 200, answer.text)

    def test_a_second_count_is_read_apart_and_compared_in_words(self) -> None:
        self.tally(20)
        self.tally(18, "Ilse")
        sheet = self.client.get(f"{self.base}/looks/0/sheet").json()
        self.assertEqual(min(t["value"] for t in sheet["tallies"]), 20)
        theirs = self.client.get(f"{self.base}/looks/0/sheet?person=Ilse").json()
        self.assertEqual(min(t["value"] for t in theirs["tallies"]), 18)
        (found,) = self.client.get(f"{self.base}/looks/0/agreement").json()
        self.assertIn("Ilse counted 8 of the same a second time and found 9% fewer", found["says"])

    def test_eggs_are_watched_where_they_are_counted_alone(self) -> None:
        self.assertEqual(self.client.get(f"{self.base}/eggs").json(), [])


class AfterARound(Http):
    def test_mess_and_the_document_are_read_over_http(self) -> None:
        self.count_all(0, soap=20, water=20)
        self.open_key()
        early = self.client.get(f"{self.base}/verdict.pdf")
        self.assertEqual(early.json()["error"]["code"], "nothing_counted")
        self.spray_all()
        letter = next(r.letter for r in self.trial.remedies if r.name == "Soap")
        said = self.client.put(
            f"{self.base}/rounds/1/mess", json={"letter": letter, "kinds": ["film"]}
        )
        self.assertEqual(said.json(), {letter: ["film"]})
        self.assertEqual(self.client.get(f"{self.base}/rounds/1/mess").json(), {letter: ["film"]})
        self.later(3)
        self.count_all(1, soap=2, water=20)
        found = self.client.get(f"{self.base}/verdict").json()
        self.assertEqual(found["mess"], {"Soap": "leaves a film about"})
        for kind in ("brief", "whole"):
            document = self.client.get(f"{self.base}/verdict.pdf?kind={kind}&paper=letter")
            self.assertEqual(document.headers["content-type"], "application/pdf")
            self.assertTrue(document.content.startswith(b"%PDF-"))
        archive = self.client.get(f"{self.base}/bundle.zip")
        self.assertIn("trial-", archive.headers["content-disposition"])
