"""What goes over the wire: tags, compression, assets for ever, what a sealed key leaves out."""

from __future__ import annotations

import gzip
import json
import tempfile
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from orthocris.api.app import create_app
from orthocris.services.planning import critiques
from tests.services.world import ServiceCase


class Wire(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        assets = Path(folder.name) / "assets"
        assets.mkdir()
        (assets.parent / "index.html").write_text("<title>the page</title>")
        (assets / "app-12ab.js").write_text("plain")
        (assets / "app-12ab.js.br").write_bytes(b"as brotli")
        app = create_app(self.context, assets.parent)
        self.client = TestClient(app, base_url="http://127.0.0.1:8747")
        self.addCleanup(self.client.close)
        self.base = f"/api/trials/{self.trial_id}"

    def test_what_is_still_the_same_is_not_sent_again(self) -> None:
        first = self.client.get(self.base)
        self.assertEqual(first.headers["cache-control"], "private, no-cache")
        known = {"If-None-Match": first.headers["etag"]}
        again = self.client.get(self.base, headers=known)
        self.assertEqual((again.status_code, again.content), (304, b""))
        self.count(self.trial.trial_plants[0].id, 4)
        changed = self.client.get(self.base, headers=known)
        self.assertEqual(changed.status_code, 200)
        self.assertNotEqual(changed.headers["etag"], first.headers["etag"])

    def test_texts_are_compressed_for_who_takes_it(self) -> None:
        with self.client.stream("GET", self.base, headers={"Accept-Encoding": "gzip"}) as answer:
            sent = b"".join(answer.iter_raw())
        self.assertEqual(answer.headers["content-encoding"], "gzip")
        self.assertEqual(int(answer.headers["content-length"]), len(sent))
        self.assertEqual(json.loads(gzip.decompress(sent))["id"], self.trial_id)
        plain = self.client.get(self.base, headers={"Accept-Encoding": "identity"})
        self.assertNotIn("content-encoding", plain.headers)
        for packed in ("/api/moving/garden.zip", f"{self.base}/blank.pdf"):
            answer = self.client.get(packed, headers={"Accept-Encoding": "gzip"})
            self.assertEqual(answer.status_code, 200)
            self.assertNotIn("content-encoding", answer.headers)

    def test_assets_are_kept_for_ever_and_go_out_as_the_build_compressed_them(self) -> None:
        path = "/assets/app-12ab.js"
        with self.client.stream("GET", path, headers={"Accept-Encoding": "br, gzip"}) as answer:
            sent = b"".join(answer.iter_raw())
        self.assertEqual(sent, b"as brotli")
        self.assertEqual(answer.headers["content-encoding"], "br")
        self.assertIn("javascript", answer.headers["content-type"])
        self.assertIn("immutable", answer.headers["cache-control"])
        plain = self.client.get(path, headers={"Accept-Encoding": "identity"})
        self.assertEqual(plain.text, "plain")
        self.assertEqual(self.client.get("/assets/none.js").status_code, 404)

    def test_a_wrong_method_names_those_that_are_allowed(self) -> None:
        answer = self.client.delete("/api/today")
        self.assertEqual(answer.status_code, 405)
        self.assertEqual(answer.headers["allow"], "GET")
        for path, allowed in (
            ("/api/trials", "GET, POST"),
            ("/api/prices", "GET, PUT"),
            ("/api/queries/mix", "POST"),
            (f"/api/trials/{self.trial_id}", "DELETE, GET"),
        ):
            self.assertEqual(self.client.patch(path).headers["allow"], allowed, path)

    def test_what_is_only_asked_by_post_is_not_said_to_be_nowhere(self) -> None:
        answer = self.client.get("/api/queries/mix")
        self.assertEqual((answer.status_code, answer.headers["allow"]), (405, "POST"))
        self.assertEqual(self.client.get("/api/queries/nothing").status_code, 404)

    def test_reading_writes_nothing(self) -> None:
        before = self.context.database.commits
        schema = self.client.get("/api/openapi.json").json()
        for path, methods in schema["paths"].items():
            if "get" in methods:
                filled = path.replace("{trial_id}", str(self.trial_id)).replace("{number}", "1")
                self.client.get(filled.replace("{plant_id}", "1").replace("{job_id}", "1"))
        self.assertEqual(self.context.database.commits, before)

    def test_a_list_of_trials_by_pages(self) -> None:
        from orthocris.services.trial import questions
        from tests.services.world import QUESTION

        for _ in range(3):
            questions.create_trial(self.context, QUESTION, self.now.date())
        first = self.client.get("/api/trials?limit=3").json()
        self.assertEqual(([t["id"] for t in first["trials"]], first["next"]), ([1, 2, 3], 3))
        rest = self.client.get(f"/api/trials?limit=3&after={first['next']}").json()
        self.assertEqual(([t["id"] for t in rest["trials"]], rest["next"]), ([4], None))


class Sealed(Wire):
    """While counts are to come, nothing that is sent tells which letter is which remedy."""

    def links(self, answer: Any) -> set[tuple[str, str]]:
        """Letters and remedies' names or ids that stand together in one object of an answer."""
        found = set()
        if isinstance(answer, dict):
            letter = answer.get("letter")
            names = [r.name for r in self.trial.remedies]
            for value in answer.values():
                if letter and (
                    value in names or (value is not None and value is answer.get("remedy_id"))
                ):
                    found.add((letter, str(value)))
                found |= self.links(value)
        elif isinstance(answer, list):
            for item in answer:
                found |= self.links(item)
        return found

    def test_no_answer_tells_before_the_key_is_opened(self) -> None:
        self.count_all(0, 20, 20)
        self.spray_all()
        paths = ("", "/patches", "/ribbon", "/schedule", "/course", "/looks/0/sheet", "/critique")
        for path in paths:
            answer = self.client.get(f"{self.base}{path}")
            self.assertEqual(answer.status_code, 200, answer.text)
            self.assertEqual(self.links(answer.json()), set(), path)
        trial = self.client.get(self.base).json()
        self.assertTrue(trial["sealed"])
        self.assertEqual({t["remedy_id"] for t in trial["tags"]}, {None})
        self.assertEqual({r["letter"] for r in trial["remedies"]}, {None})
        self.assertNotIn("remedy_id", trial["plants"][0])
        for path in ("/bottles", "/table.csv"):
            self.assertEqual(self.client.get(f"{self.base}{path}").status_code, 409, path)

    def test_which_plant_a_remedy_missed_is_told_with_the_key(self) -> None:
        self.count_all(0, 40, 40)
        self.spray_all()
        self.later(3)
        self.count_all(1, 0, 40)
        soap = next(r.id for r in self.trial.remedies if r.name == "Soap")
        missed = next(p for p in self.trial.trial_plants if p.remedy_id == soap)
        self.count(missed.id, 45, 1)

        def verdict() -> tuple[set[str], list[str]]:
            found = self.client.get(f"{self.base}/verdict").json()["verdict"]
            by_name = {r["name"]: r for r in found["remedies"]}
            return {w["code"] for w in found["warnings"]}, by_name["Soap"]["missed"]

        sealed = self.client.get(f"{self.base}/verdict").json()["verdict"]
        self.assertEqual((sealed["remedies"], sealed["warnings"]), ([], []))
        self.assertIn("So far: 8 of 8 plants are counted on day 3", sealed["sentence"])
        critiques.open_key(self.context, self.trial_id)
        codes, plants = verdict()
        self.assertEqual(("patchy" in codes, plants), (True, [missed.name]))

    def test_after_it_is_opened_names_stand_beside_letters(self) -> None:
        critiques.open_key(self.context, self.trial_id)
        trial = self.client.get(self.base).json()
        self.assertFalse(trial["sealed"])
        self.assertEqual(
            {t["letter"]: t["remedy_id"] for t in trial["tags"]},
            {r.letter: r.id for r in self.trial.remedies},
        )
        self.assertEqual(self.client.get(f"{self.base}/bottles").status_code, 200)

    def test_once_all_is_counted_there_is_nothing_to_hide(self) -> None:
        self.count_all(0, 20, 20)
        self.spray_all()
        self.later(7)
        self.count_all(2, 2, 20)
        trial = self.client.get(self.base).json()
        self.assertFalse(trial["sealed"])
        self.assertIsNone(trial["key_opened_at"])
        self.assertEqual(self.client.get(f"{self.base}/table.csv").status_code, 200)
