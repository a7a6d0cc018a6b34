"""The API as a caller sees it: shapes, statuses, refusals."""

from __future__ import annotations

import json
import re
import unittest
from typing import Any

import httpx2
from starlette.testclient import TestClient

from orthocris.api.app import create_app
from orthocris.api.door.gate import COOKIE, Gate
from orthocris.services.door import admission
from tests.services.world import ServiceCase

QUESTION: dict[str, Any] = {
    "name": "Stairs",
    "pest": "whiteflies",
    "measure": "live",
    "threshold": 0.6,
    "start_on": "2026-05-12",
    "remedies": [
        {"name": "Water", "role": "control"},
        {"name": "Soap <b>10 ml</b>", "role": "remedy", "recipe": "<script>alert(1)</script>"},
    ],
    "look_days": [4, 8],
    "round_days": [0, 7],
}
JSON = {"Content-Type": "application/json"}
TALLY: dict[str, Any] = {
    "plant_id": 1,
    "measure": "live",
    "value": 3,
    "finished": True,
    "session": "session-api",
    "step": 1,
}


class ApiCase(ServiceCase):
    """A client on the test's own data."""

    def setUp(self) -> None:
        super().setUp()
        app = create_app(self.context, None)
        self.routes = app.openapi()["paths"]
        self.client = TestClient(
            app, base_url="http://127.0.0.1:8747", raise_server_exceptions=True
        )
        self.addCleanup(self.client.close)
        self.client.event_hooks["response"].append(self.is_told)

    def is_told(self, answer: httpx2.Response) -> None:
        """Every status is one that the schema tells of its route; what is made has a place."""
        method, path = answer.request.method.lower(), answer.request.url.path
        for template, routes in self.routes.items():
            if method in routes and re.fullmatch(re.sub(r"{\w+}", "[^/]+", template), path):
                told = routes[method]["responses"]
                self.assertIn(str(answer.status_code), (*told, "304"), f"{method} {template}")
                self.assertEqual(answer.status_code == 201, "location" in answer.headers, template)
                return

    def phone(self) -> TestClient:
        """A device that was let in through the second door."""
        told = admission.set_passcode(self.context, None)
        token = admission.enter(self.context, told, "a phone", "192.0.2.1")
        gate = Gate(self.client.app, self.context, lambda: frozenset({"garden.test"}))
        phone = TestClient(gate, base_url="https://garden.test", cookies={COOKIE: token})
        self.addCleanup(phone.close)
        self.assertEqual(phone.get("/api/yard").status_code, 200)
        return phone

    def refused(self, answer: httpx2.Response, status: int) -> dict[str, Any]:
        """The error of an answer, checked for its shape."""
        self.assertEqual(answer.status_code, status, answer.text)
        error: dict[str, Any] = answer.json()["error"]
        self.assertEqual(set(error), {"code", "message", "field", "fix"})
        return error


class PutAway(ApiCase):
    def test_a_trial_put_away_takes_nothing_and_comes_back_whole(self) -> None:
        self.plant_and_draw()
        self.count_all(0, 20, 20)
        base = f"/api/trials/{self.trial_id}"
        plant = self.trial.trial_plants[0].id
        self.client.delete(f"{base}?with_records=true")
        tap = {"key": "a-tap-late", "trial_id": self.trial_id, "look": 0}
        tap |= {"tapped_at": self.now.isoformat(), "tally": {**TALLY, "plant_id": plant}}
        (refused,) = self.client.post("/api/taps", json={"taps": [tap]}).json()["refused"]
        self.assertEqual(refused["code"], "put_away")
        question = {**QUESTION, "name": "Another"}
        for method, path, body in (
            ("POST", "/layout", {"reason": "anew"}),
            ("POST", "/rounds/1/start", {"shaken": True}),
            ("POST", "/rounds/1/sprays", {"plant_id": plant}),
            ("POST", "/plants", {"rows": 1, "per_row": 2}),
            ("POST", "/looks/0/tallies", {**TALLY, "plant_id": plant}),
            ("PUT", "/question", question),
            ("POST", "/key", None),
        ):
            answer = self.client.request(method, f"{base}{path}", json=body)
            self.assertEqual(self.refused(answer, 409)["code"], "put_away", path)
        self.assertEqual(self.client.get(base).status_code, 200)
        self.assertEqual(self.client.post(f"{base}/restore").status_code, 200)
        self.assertEqual(
            self.client.post(f"{base}/layout", json={"reason": "anew"}).status_code, 200
        )


class Shapes(ApiCase):
    def test_health(self) -> None:
        self.assertEqual(self.client.get("/api/health").json()["status"], "ok")

    def test_texts_come_back_as_they_were_typed(self) -> None:
        made = self.client.post("/api/trials", json=QUESTION)
        self.assertEqual(made.status_code, 201)
        trial = self.client.get(f"/api/trials/{made.json()['id']}").json()
        self.assertEqual(trial["remedies"][1]["recipe"], "<script>alert(1)</script>")
        self.assertEqual(trial["remedies"][1]["name"], "Soap <b>10 ml</b>")
        self.assertEqual(len(trial["stations"]), 7)

    def test_faults_name_their_field(self) -> None:
        bad = {
            "threshold": {**QUESTION, "threshold": 1.4},
            "name": {**QUESTION, "name": ""},
            "look_days": {**QUESTION, "look_days": []},
            "remedies.0.role": {**QUESTION, "remedies": [{"name": "x", "role": "boss"}]},
            "start_on": {**QUESTION, "start_on": "yesterday"},
            "colour": {**QUESTION, "colour": "red"},
        }
        for field, body in bad.items():
            error = self.refused(self.client.post("/api/trials", json=body), 422)
            self.assertEqual(error["field"], field)

    def test_all_faults_come_at_once(self) -> None:
        shapes, rules = {"name": 3, "start_on": "yesterday"}, {"name": " ", "look_days": [7, 3]}
        for bad in (shapes, rules):
            answer = self.client.post("/api/trials", json={**QUESTION, **bad})
            self.refused(answer, 422)
            found = [answer.json()["error"], *answer.json()["more"]]
            self.assertEqual([one["field"] for one in found], [*bad])

    def test_missing_things(self) -> None:
        self.assertEqual(
            self.refused(self.client.get("/api/trials/999"), 404)["code"], "no_such_trial"
        )
        self.refused(self.client.get("/api/nothing"), 404)
        self.refused(self.client.patch("/api/today"), 405)


class WrongNumbers(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.path = f"/api/trials/{self.trial_id}/looks/0/tallies"
        self.plant = self.trial.trial_plants[0].id

    def test_every_wrong_number_is_422_beside_its_field(self) -> None:
        for value in ("-1", "2.5", "1e9", "NaN", "Infinity", "null", '"x"', "1" + "0" * 400, "[]"):
            body = json.dumps({**TALLY, "plant_id": self.plant, "value": 0}).replace(
                '"value": 0', f'"value": {value}'
            )
            answer = self.client.post(self.path, content=body, headers=JSON)
            self.assertEqual(self.refused(answer, 422)["field"], "value", value)

    def test_what_is_no_json_or_no_text(self) -> None:
        for content in (
            b"",
            b"{",
            b"\xff\xfe",
            b'{"session": "\\ud800aaaaaaaa"}',
            b"[[[[",
            b"null",
        ):
            self.assertEqual(
                self.client.post(self.path, content=content, headers=JSON).status_code, 422
            )
        lone = json.dumps({**QUESTION, "name": "\ud800"})
        self.refused(self.client.post("/api/trials", content=lone, headers=JSON), 422)

    def test_a_good_number_is_answered_with_its_history(self) -> None:
        for step, value in ((1, 3), (2, 4)):
            body = {**TALLY, "plant_id": self.plant, "value": value, "session": f"session-{step}"}
            answer = self.client.post(self.path, json=body)
        self.assertEqual([t["value"] for t in answer.json()], [3, 4])

    def test_ids_out_of_range(self) -> None:
        for wrong in (0, -1, 2**63, 2**31):
            self.refused(self.client.post(self.path, json={**TALLY, "plant_id": wrong}), 422)
            self.refused(self.client.get(f"/api/trials/{wrong}"), 422)
        self.refused(self.client.post(self.path, json={**TALLY, "plant_id": 2**31 - 1}), 404)


class Door(ApiCase):
    def test_foreign_hosts_and_origins_are_refused(self) -> None:
        for headers in (
            {"Host": "example.org"},
            {"Host": "127.0.0.1.example.org"},
            {"Host": "[::1"},
            {"Origin": "http://example.org"},
            {"Origin": "null"},
            {"Origin": "http://127.0.0.1:9999"},
        ):
            for answer in (
                self.client.get("/api/today", headers=headers),
                self.client.post("/api/trials", json=QUESTION, headers=headers),
            ):
                self.assertEqual(answer.status_code, 403, headers)
        own = {"Origin": "http://127.0.0.1:8747"}
        self.assertEqual(self.client.get("/api/today", headers=own).status_code, 200)

    def test_no_script_but_its_own_may_run(self) -> None:
        headers = self.client.get("/api/today").headers
        self.assertIn("default-src 'self'", headers["Content-Security-Policy"])
        self.assertEqual(headers["X-Content-Type-Options"], "nosniff")

    def test_a_huge_body_is_refused(self) -> None:
        self.refused(self.client.post("/api/trials", content=b" " * 3_000_000), 413)


if __name__ == "__main__":
    unittest.main()
