"""Whatever is sent, the answer is never a fault of the program (5xx), and always has its shape."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path
from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from starlette.testclient import TestClient

from orthocris.api.app import create_app
from orthocris.core.field.rest import RestDraft, Which
from orthocris.services.field import patches, rest_plans
from orthocris.services.field.patches import PatchDraft
from tests.api.trial.test_routes import JSON, QUESTION, ApiCase

ANY_NUMBER = (
    st.integers(-(10**20), 10**20)
    | st.floats(allow_nan=True, allow_infinity=True)
    | st.sampled_from([0, -1, 2**31, 2**63, 0.5, 1e308, -0.0])
)
ANY_TEXT = st.text(max_size=30) | st.sampled_from(
    ["", " ", "\0", "'; DROP TABLE trial; --", "💧" * 50, "0001-01-01", "9999-12-31"]
)
ANYTHING = st.recursive(
    st.none() | st.booleans() | ANY_NUMBER | ANY_TEXT,
    lambda inner: (
        st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3)
    ),
    max_leaves=6,
)


class AnyInput(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        soap = self.trial.remedies[1].id
        patches.put_on(self.context, self.trial_id, PatchDraft(soap, "the trial's plants"))
        self.start(1)  # a bottle is mixed and the round is open
        self.record()
        bed = RestDraft(soap, Which.SICK, "The bed", 5, self.now.date(), 40)
        rest_plans.begin(self.context, self.trial_id, bed)
        self.paths = self.writing_paths()

    def writing_paths(self) -> list[tuple[str, str, list[str]]]:
        """Method, path and body fields of every route that takes a body, from the schema."""
        schema = self.client.get("/api/openapi.json").json()
        found = []
        for path, methods in schema["paths"].items():
            for method, route in methods.items():
                body = route.get("requestBody")
                if body is None:
                    continue
                shape = body["content"].get("application/json", {}).get("schema", {})
                if "$ref" not in shape:
                    continue  # a table or a list; they have tests of their own
                name = shape["$ref"].rsplit("/", 1)[1]
                fields = list(schema["components"]["schemas"][name]["properties"])
                found.append((method, path, fields))
        return found

    def filled(self, path: str) -> str:
        """The path with ids of things that exist."""
        ids: dict[str, object] = {
            "trial_id": self.trial_id,
            "plant_id": self.trial.trial_plants[0].id,
            "remedy_id": self.trial.remedies[1].id,
            "number": 1 if "/rounds/" in path else 0,
            "code": "gradient",
        }
        return path.format(
            **ids, job_id=1, patch_id=1, batch_id=1, row_id=1, treatment_id=1, pest_id=1
        )

    @given(data=st.data())
    @settings(max_examples=150, deadline=None, suppress_health_check=list(HealthCheck))
    def test_bodies_of_anything(self, data: st.DataObject) -> None:
        method, path, fields = data.draw(st.sampled_from(self.paths))
        body = data.draw(
            ANYTHING | st.dictionaries(st.sampled_from(fields), ANYTHING, max_size=len(fields))
        )
        self.send(method, path, body)

    @given(field=st.sampled_from(sorted(QUESTION)), value=ANYTHING)
    @settings(max_examples=120, deadline=None, suppress_health_check=list(HealthCheck))
    def test_a_good_question_with_one_field_of_anything(self, field: str, value: Any) -> None:
        self.send("post", "/api/trials", {**QUESTION, field: value})

    def test_days_at_the_ends_of_the_calendar(self) -> None:
        """A 500 once, found by 12,000 requests: nothing can be counted on from them."""
        for day in ("0001-01-01", "0001-12-31", "9999-12-31"):
            for setup in ({}, {"harvest_days": 3}, {"eaten": True, "harvest_on": day}):
                self.send("post", "/api/trials", {**QUESTION, "start_on": day, "setup": setup})
                self.send("post", "/api/trials", {**QUESTION, "setup": setup})
            for method, path, fields in self.paths:
                self.send(method, path, dict.fromkeys(fields, day))
                self.send(method, path, dict.fromkeys(fields, f"{day}T23:59:59-23:59"))

    @given(value=ANY_NUMBER, of=st.none() | ANY_NUMBER, effort=ANY_NUMBER)
    @settings(max_examples=80, deadline=None, suppress_health_check=list(HealthCheck))
    def test_tallies_of_any_number(self, value: float, of: float | None, effort: float) -> None:
        body = {
            "plant_id": self.trial.trial_plants[0].id,
            "measure": "live",
            "value": value,
            "of": of,
            "effort": effort,
            "finished": True,
            "session": "any-number",
            "step": 1,
        }
        self.send("post", "/api/trials/{trial_id}/looks/{number}/tallies", body)

    def send(self, method: str, path: str, body: Any) -> None:
        """Send a body and check the answer."""
        answer = self.client.request(
            method, self.filled(path), content=json.dumps(body), headers=JSON
        )
        self.assertLess(answer.status_code, 500, f"{method} {path} {body!r}: {answer.text[:300]}")
        if answer.status_code >= 400:
            self.assertEqual(
                set(answer.json()["error"]), {"code", "message", "field", "fix"}, answer.text
            )

    def test_routes_tell_the_errors_that_they_may_give_and_no_others(self) -> None:
        paths = self.client.get("/api/openapi.json").json()["paths"]
        for methods in paths.values():
            for route in methods.values():
                for status, answer in route["responses"].items():
                    if status >= "400":
                        shape = answer["content"]["application/json"]["schema"]["$ref"]
                        self.assertTrue(shape.endswith("/ErrorOut"), shape)
        always = {"401", "403", "503"}
        for method, path, refusals in (
            ("get", "/api/health", {"403", "503"}),
            ("get", "/api/trials/{trial_id}", always | {"404", "422"}),
            ("post", "/api/weather/log", always),
            ("put", "/api/yard", always | {"400", "412", "413", "422"}),
            ("put", "/api/minds", always | {"400", "413", "422"}),
            ("post", "/api/door/enter", {"400", "401", "403", "413", "422", "429", "503"}),
        ):
            told = {s for s in paths[path][method]["responses"] if s >= "400"}
            self.assertEqual(told, refusals, path)


class FrontEnd(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "dist"
        (self.folder / "assets").mkdir(parents=True)
        (self.folder / "index.html").write_text("<title>the page</title>")
        (self.folder / "icon.svg").write_text("<svg/>")
        (self.folder.parent / "secret.txt").write_text("secret")
        app = create_app(self.context, self.folder)
        self.client = TestClient(app, base_url="http://127.0.0.1:8747")
        self.addCleanup(self.client.close)

    def test_every_address_of_the_router_gives_the_page(self) -> None:
        for path in ("/", "/new", "/trial/3/look/2", "/p/1/2"):
            self.assertIn("the page", self.client.get(path).text)
        self.assertEqual(self.client.get("/icon.svg").text, "<svg/>")

    def test_nothing_outside_its_folder_is_served(self) -> None:
        for path in (
            "/../secret.txt",
            "/%2e%2e/secret.txt",
            "/assets/../../secret.txt",
            "/..%2fsecret.txt",
        ):
            self.assertNotIn("secret", self.client.get(path).text.replace("secret.txt", ""))

    def test_an_unknown_route_of_the_api_is_no_page(self) -> None:
        self.assertEqual(self.refused(self.client.get("/api/none"), 404)["code"], "not_found")


if __name__ == "__main__":
    unittest.main()
