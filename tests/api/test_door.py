"""The door: whatever is sent gets an answer in the usual shape, with the usual headers."""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Iterator
from pathlib import Path

from starlette.testclient import TestClient

from orthocris.api.app import create_app
from orthocris.api.guard import MAX_BODY
from tests.api.trial.test_routes import JSON, QUESTION, ApiCase

HARDENED = ("content-security-policy", "x-content-type-options", "referrer-policy")


class Door(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        front = Path(folder.name)
        (front / "assets").mkdir()
        (front / "index.html").write_text("<title>the page</title>")
        self.client = TestClient(
            create_app(self.context, front),
            base_url="http://127.0.0.1:8747",
            raise_server_exceptions=False,
        )
        self.addCleanup(self.client.close)

    def test_strange_origins_and_hosts_are_refused_with_the_usual_headers(self) -> None:
        for headers in (
            {"Origin": "http://["},
            {"Origin": "null"},
            {"Origin": "http://elsewhere.test"},
            {"Host": "["},
            {"Host": "elsewhere.test"},
        ):
            answer = self.client.get("/api/health", headers=headers)
            self.refused(answer, 403)
            for name in HARDENED:
                self.assertIn(name, answer.headers, headers)

    def test_addresses_no_page_has(self) -> None:
        for path in ("/%00", "/api/%00", "/assets/%00", "/assets/" + "x" * 300, "/" + "y" * 300):
            self.refused(self.client.get(path), 404)
        self.refused(self.client.get("/assets/missing.js"), 404)

    def test_a_body_in_chunks_is_counted_as_it_comes(self) -> None:
        sent = 0

        def endless() -> Iterator[bytes]:
            nonlocal sent
            while sent < 2 * MAX_BODY:
                sent += 65_536
                yield b"x" * 65_536

        answer = self.client.post("/api/trials", content=endless(), headers=JSON)
        self.assertEqual(self.refused(answer, 413)["code"], "too_large")

    def test_head_answers_like_get_without_a_body(self) -> None:
        for path in ("/", "/api/health", "/api/today"):
            answer = self.client.head(path)
            self.assertEqual((answer.status_code, answer.content), (200, b""))
        self.assertEqual(self.client.head("/api/trials/999").status_code, 404)

    def test_a_wrong_method_names_the_right_ones(self) -> None:
        answer = self.client.patch("/api/health")
        self.refused(answer, 405)
        self.assertIn("GET", answer.headers["allow"])

    def test_five_years_of_hours_are_read_in(self) -> None:
        line = "{}-{:02d}-{:02d}T{:02d}:00,11.5,80,0.1,12.25,140.5\n"
        lines = [
            line.format(year, month, day, hour)
            for year in range(2021, 2026)
            for month in range(1, 13)
            for day in range(1, 29)
            for hour in range(24)
        ]
        table = "time,temperature,humidity,rain,wind,sun\n" + "".join(lines)
        self.assertGreater(len(table), MAX_BODY * 0.8)
        answer = self.client.post(
            "/api/weather/table", content=table, headers={"Content-Type": "text/csv"}
        )
        self.assertEqual(answer.json(), {"hours": len(lines)})
        self.refused(
            self.client.post("/api/trials", content=b" " * (MAX_BODY + 1), headers=JSON), 413
        )


class WhatBrokeBefore(ApiCase):
    """Each of these was an error of the server once."""

    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.client = TestClient(
            create_app(self.context, None),
            base_url="http://127.0.0.1:8747",
            raise_server_exceptions=False,
        )
        self.addCleanup(self.client.close)

    def test_signs_that_cannot_be_seen(self) -> None:
        for name in ("\0Gutters", "Gut\nters", "Gut\x1bters", "\r"):
            answer = self.client.post("/api/trials", json={**QUESTION, "name": name})
            self.assertEqual(self.refused(answer, 422)["field"], "name")
        yard = self.client.get("/api/yard").json()
        answer = self.client.put("/api/yard", json={**yard, "name": "A\nB"})
        self.assertEqual(self.refused(answer, 422)["field"], "name")
        remedies = [QUESTION["remedies"][0], {**QUESTION["remedies"][1], "recipe": "one\r\ntwo"}]
        made = self.client.post("/api/trials", json={**QUESTION, "remedies": remedies})
        kept = self.client.get(f"/api/trials/{made.json()['id']}").json()
        self.assertEqual(kept["remedies"][1]["recipe"], "one\ntwo")

    def test_numbers_and_names_at_the_edge(self) -> None:
        trial = f"/api/trials/{self.trial_id}"
        tally = {
            "plant_id": self.trial.trial_plants[0].id,
            "measure": "live",
            "value": None,
            "of": 0,
            "finished": False,
            "session": "session-x",
            "step": 1,
        }
        long_name = [{"name": "x" * 61, "pack": 100, "price": 2}]
        water = self.trial.remedies[0].id
        checks = {"batches": {str(water): 77}}
        for method, path, body, field in (
            ("post", f"{trial}/looks/0/tallies", tally, "of"),
            ("put", "/api/prices", long_name, "name"),
            ("post", f"{trial}/rounds/1/start", checks, f"batches.{water}"),
            ("post", f"{trial}/rounds/1/queries/check", checks, f"batches.{water}"),
        ):
            answer = self.client.request(method, path, json=body)
            self.assertEqual(self.refused(answer, 422)["field"], field)
        strengths = {"keys": ["mild_soap"], "strengths": [5, 10_001]}
        self.refused(self.client.post("/api/queries/proposal", json=strengths), 422)

    def test_the_longest_reason_fits(self) -> None:
        self.spray_all()
        answer = self.client.post(
            f"/api/trials/{self.trial_id}/rounds/1/undo", json={"reason": "y" * 500}
        )
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertIn("y" * 500, answer.json()["rounds"][0]["events"][-1]["text"])

    def test_a_recipe_of_a_thousand_digits_costs_nothing(self) -> None:
        answer = self.client.post(
            "/api/queries/mix", json={"text": "1" * 480 + " ml soap in 1 litre"}
        )
        self.assertEqual(self.refused(answer, 422)["code"], "no_amount")

    def test_a_file_that_goes_away_or_breaks_is_told_in_words(self) -> None:
        self.whole = False
        path = self.context.database.path
        kept = path.read_bytes()
        path.rename(path.with_suffix(".away"))
        error = self.refused(self.client.get("/api/today"), 503)
        self.assertEqual(error["code"], "data_gone")
        self.assertFalse(path.exists())
        path.write_bytes(kept[:100] + b"\xff" * 8000)
        error = self.refused(self.client.get("/api/today"), 503)
        self.assertIn(error["code"], ("data_damaged", "data_busy"))


class TwoWindowsOverHttp(ApiCase):
    def test_a_change_with_an_old_revision_is_412(self) -> None:
        path = f"/api/trials/{self.trial_id}/question"
        read = self.client.get(f"/api/trials/{self.trial_id}").json()["question_revision"]
        for name, status in (("First", 200), ("Second", 412)):
            body = {**QUESTION, "name": name, "start_on": "2026-05-12"}
            answer = self.client.put(path, json=body, headers={"If-Match": f'"{read}"'})
            self.assertEqual(answer.status_code, status, answer.text)
        base = f"/api/trials/{self.trial_id}"
        self.client.post(f"{base}/plants", json={"prefix": "S", "rows": 1, "per_row": 3})
        plant = self.client.get(base).json()["plants"][0]
        asked = {k: plant[k] for k in ("name", "row", "place")} | {"match_count": 31}
        for part, body in (
            ("question", {**QUESTION, "name": "Third", "start_on": "2026-05-12"}),
            ("care", {**self.client.get(base).json()["care"], "ml_per_plant": 55}),
            (f"plants/{plant['id']}", asked),
        ):
            old = self.client.get(base).headers["etag"]  # the trial's own goes back as it came
            for status in (200, 412):
                answer = self.client.put(f"{base}/{part}", json=body, headers={"If-Match": old})
                self.assertEqual(answer.status_code, status, answer.text)
        yard = self.client.get("/api/yard")
        old = yard.headers["etag"]
        for status in (200, 412):
            body = {**yard.json(), "hardness": 100 + status}
            answer = self.client.put("/api/yard", json=body, headers={"If-Match": old})
            self.assertEqual(answer.status_code, status)
        prices = [{"name": "soap", "pack": 500, "price": 3}]
        old = self.client.get("/api/prices").headers["etag"]
        self.assertEqual(
            self.client.put("/api/prices", json=prices, headers={"If-Match": old}).status_code, 200
        )
        self.refused(self.client.put("/api/prices", json=[], headers={"If-Match": old}), 412)
        said = [{"name": "oil", "pack": "1,5 l", "price": 4}]
        self.assertEqual(self.client.put("/api/prices", json=said).json()[0]["pack"], 1500)
        lots = [{"name": "oil", "pack": "lots of it", "price": 4}]
        self.refused(self.client.put("/api/prices", json=lots), 422)

    def test_a_create_sent_twice_with_its_key_makes_one_trial(self) -> None:
        headers = {"Idempotency-Key": "sent-by-a-test"}
        ids = {
            self.client.post("/api/trials", json=QUESTION, headers=headers).json()["id"]
            for _ in range(3)
        }
        self.assertEqual(len(ids), 1)
        other = self.client.post("/api/trials", json={**QUESTION, "name": "Other"}, headers=headers)
        self.assertEqual(self.refused(other, 409)["code"], "key_used")


class PutAway(ApiCase):
    def test_over_http(self) -> None:
        self.plant_and_draw()
        self.count(self.trial.plants[0].id, 3)
        path = f"/api/trials/{self.trial_id}"
        self.assertEqual(self.client.get(path).json()["holds"], ["1 count"])
        self.refused(self.client.delete(path), 409)
        self.assertEqual(self.client.delete(f"{path}?with_records=true").status_code, 204)
        shown = self.client.get("/api/today").json()
        self.assertEqual((shown["trials"], len(shown["put_away"])), ([], 1))
        self.assertIsNone(self.client.post(f"{path}/restore").json()["put_away_at"])


class VerdictAndTable(ApiCase):
    def test_over_http(self) -> None:
        self.plant_and_draw()
        path = f"/api/trials/{self.trial_id}"
        error = self.refused(self.client.get(f"{path}/verdict"), 409)
        self.assertEqual(error["code"], "nothing_counted")
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(7)
        self.count_all(2, 2, 33)
        found = self.client.get(f"{path}/verdict").json()
        self.assertEqual((found["verdict"]["outcome"], found["final"]), ("winner", True))
        self.refused(self.client.get(f"{path}/verdict?look=1"), 409)
        self.refused(self.client.get(f"{path}/verdict?look=99"), 404)
        table = self.client.get(f"{path}/table.csv")
        self.assertTrue(table.headers["content-type"].startswith("text/csv"))
        lines = table.text.splitlines()
        self.assertEqual(lines[0], "plant,block,remedy,day,measure,value,of,effort,column,group")
        self.assertEqual(len(lines), 1 + 16)


if __name__ == "__main__":
    unittest.main()
