"""Patch tests, bottles, rounds, schedule and yard over HTTP."""

from __future__ import annotations

import unittest
from typing import Any

from tests.api.trial.test_routes import ApiCase


class Rounds(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.base = f"/api/trials/{self.trial_id}"
        self.soap = self.trial.remedies[1].id
        self.plant = self.trial.trial_plants[0].id

    def post(self, path: str, body: dict[str, Any], status: int = 200) -> Any:
        """Post under the trial; the answer must have this status."""
        answer = self.client.post(f"{self.base}{path}", json=body)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def started(self) -> dict[str, Any]:
        """Mix the bottle and start round 1."""
        batch = self.post(f"/remedies/{self.soap}/batches", {"mixed_by": "Bram"}, 201)
        checks = {
            "shaken": True,
            "cautions_read": True,
            "bees_looked": True,
            "fruit_looked": True,
            "weather_looked": True,
            "batches": {batch["letter"]: batch["id"]},
            "reasons": dict.fromkeys(("patch_tests", "window_closed", "before_missing"), "test"),
        }
        started: dict[str, Any] = self.post("/rounds/1/start", checks)
        return started

    def test_a_round_over_http(self) -> None:
        held = self.post("/rounds/1/queries/check", {})
        self.assertIn("no_batch", [b["code"] for b in held])
        refused = self.post("/rounds/1/start", {}, 409)
        self.assertEqual(refused["error"]["code"], "round_held")
        self.assertTrue(self.started()["rounds"][0]["running"])
        body = {"plant_id": self.plant, "volume": 35, "key": "one-tap-0001"}
        for _ in range(2):  # sent twice, kept once
            found = self.post("/rounds/1/sprays", body)
        self.assertEqual(found["sprayed"], [self.plant])
        self.assertEqual(len(self.trial.sprays), 1)
        again = self.post("/rounds/1/sprays", {"plant_id": self.plant}, 409)
        self.assertEqual(again["error"]["field"], "deviation")
        undone = self.post("/rounds/1/undo", {"reason": "wrong bench"})
        self.assertIsNone(undone["sprayed_on"])
        self.assertIn("wrong bench", undone["rounds"][0]["notes"][-1])

    def test_patch_tests_over_http(self) -> None:
        body = {"remedy_id": self.soap, "leaf_kind": "the trial's plants"}
        test = self.post("/patches", body, 201)
        look = {"hours": 24, "treated": 0, "beside": 0}
        early = self.post(f"/patches/{test['id']}/readings", look, 422)
        self.assertEqual(early["error"]["code"], "too_early")
        self.later(1)
        found = self.post(f"/patches/{test['id']}/readings", look)
        self.assertEqual(found["cells"][0]["tests"][0]["outcome"], "running")
        self.client.delete(f"{self.base}/patches/{test['id']}")
        gone = self.client.get(f"{self.base}/patches").json()
        self.assertEqual(gone["cells"][0]["tests"], [])

    def test_labels_and_bottles(self) -> None:
        self.assertEqual(self.client.get(f"{self.base}/labels.svg").status_code, 409)
        self.started()
        label = self.client.get(f"{self.base}/labels.svg?paper=letter")
        self.assertEqual(label.headers["content-type"], "image/svg+xml")
        sealed = self.client.get(f"{self.base}/bottles")
        self.assertEqual(sealed.json()["error"]["code"], "key_sealed")
        self.assertEqual(self.client.get(f"{self.base}/labels.svg?paper=a9").status_code, 422)
        (bottle,) = self.client.get(f"{self.base}/bottles?helper=true").json()
        self.assertEqual(bottle["plants"], 4)
        self.assertEqual(bottle["mix"]["pours"][0]["name"], "soap")
        # Who mixes is told the control's bottle too, sealed or not.
        sealed = self.client.get(f"{self.base}/bottles/water")
        self.assertEqual(sealed.json()["error"]["code"], "key_sealed")
        water = self.client.get(f"{self.base}/bottles/water?helper=true").json()
        self.assertEqual(water["plants"], 4)
        self.assertNotIn(water["letter"], (None, bottle["letter"]))

    def test_care_schedule_and_moves(self) -> None:
        care = self.client.get(self.base).json()["care"]
        bad = self.client.put(f"{self.base}/care", json={**care, "margin": 3})
        self.assertEqual(bad.json()["error"]["field"], "margin")
        self.assertEqual(bad.json()["error"]["message"], "margin of 300%")
        care["round_rhythm"] = "egg_cycle"
        self.assertEqual(self.client.put(f"{self.base}/care", json=care).status_code, 200)
        self.started()
        self.post("/rounds/1/sprays", {"plant_id": self.plant})
        found = self.client.get(f"{self.base}/schedule").json()
        self.assertEqual(found["proposals"][0]["rhythm"], "egg_cycle")
        self.assertFalse(found["degree_days"])
        moved = self.post("/rounds/2/move", {"on": "2026-05-16", "reason": "rain"})
        self.assertEqual(moved["rounds"][1]["day"], 6)


class Yards(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()

    def test_yard_prices_weather_and_calendar(self) -> None:
        yard = self.client.get("/api/yard").json()
        bad = self.client.put("/api/yard", json={**yard, "longitude": 500})
        self.assertEqual(bad.json()["error"]["field"], "longitude")
        turned = {"away": [{"first": "2026-07-14", "last": "2026-07-01"}]}
        error = self.client.put("/api/yard", json={**yard, **turned}).json()["error"]
        self.assertEqual(error["field"], "away")
        kept = self.client.put("/api/yard", json={**yard, "weather_source": "simulated"})
        self.assertEqual(kept.json()["weather_source"], "simulated")
        prices = [{"name": "soap", "pack": 500, "price": 3.95}]
        self.assertEqual(self.client.put("/api/prices", json=prices).json(), prices)
        table = self.client.get("/api/weather/table.csv?days=2").content
        read = self.client.post(
            "/api/weather/table", content=table, headers={"content-type": "text/csv"}
        )
        self.assertEqual(read.json(), {"hours": (2 + 6) * 24})
        ribbon = self.client.get("/api/ribbon").json()
        self.assertEqual((ribbon["station"], len(ribbon["hours"])), ("hourly record", 24))
        feed = self.client.get("/api/calendar.ics")
        self.assertTrue(feed.text.startswith("BEGIN:VCALENDAR"))

    def test_tables_of_anything_get_a_message(self) -> None:
        for table in (b"", b"\xff\xfe", b"time,rain\n,\n", b"time\n1\n", b'"', b"time,rain\n\x00"):
            answer = self.client.post(
                "/api/weather/table", content=table, headers={"content-type": "text/csv"}
            )
            self.assertEqual(answer.status_code, 422, table)
            self.assertTrue(answer.json()["error"]["fix"])

    def test_sound_bodies_with_numbers_at_the_edge_never_break_it(self) -> None:
        soap = self.trial.remedies[1].id
        tiny, huge = 1e-320, 1e9
        for path, body in (
            ("queries/mix", {"text": "10 ml soap in 1 litre", "volume": tiny}),
            ("queries/mix", {"text": f"0.{'0' * 320}1 ml soap in 1 litre", "volume": 100}),
            ("queries/mix", {"text": f"{'9' * 400} ml soap in 1 litre", "volume": 100}),
            ("queries/mix", {"text": "10 ml soap in 1 litre", "bottle": huge}),
            (
                "queries/mix",
                {"text": "10 ml soap in 1 litre", "plants": 10**6, "ml_per_plant": huge},
            ),
            ("queries/dilution", {"stock": 100, "strength": tiny, "volume": 100}),
            ("queries/dilution", {"parts": [tiny, huge], "volume": 100}),
            ("queries/conversion", {"amount": huge, "unit": "ml", "grams_per_ml": tiny}),
            (f"trials/{self.trial_id}/remedies/{soap}/batches", {"volume": tiny}),
            (f"trials/{self.trial_id}/rounds/2/move", {"on": "9999-12-31", "reason": "x"}),
            (f"trials/{self.trial_id}/rounds/2/move", {"on": "0001-01-01", "reason": "x"}),
        ):
            with self.subTest(path, body=str(body)[:60]):
                answer = self.client.post(f"/api/{path}", json=body)
                self.assertEqual(answer.status_code, 422, answer.text[:200])
                self.assertTrue(answer.json()["error"]["fix"])
        prices = [{"name": "soap", "pack": tiny, "price": 1e6}]
        self.assertEqual(self.client.put("/api/prices", json=prices).status_code, 422)
        usual = {"low": 1, "high": 2, "wind": 3, "sky": "clear"}
        for day in ("0001-01-01", "9999-12-31"):
            kept = self.client.post("/api/weather/days", json={**usual, "day": day})
            self.assertEqual(kept.status_code, 422)
        self.assertEqual(self.client.get("/api/ribbon").status_code, 200)
        self.assertEqual(self.client.get("/api/today").status_code, 200)

    def test_dilutions(self) -> None:
        found = self.client.post(
            "/api/queries/dilution", json={"stock": 3, "strength": 0.5, "volume": 600}
        )
        self.assertEqual(found.json()["steps"][0]["take"], 100)
        weak = self.client.post(
            "/api/queries/dilution", json={"stock": 3, "strength": 6, "volume": 600}
        )
        self.assertEqual(weak.json()["error"]["code"], "stock_too_weak")
        none = self.client.post("/api/queries/dilution", json={"volume": 600})
        self.assertEqual(none.json()["error"]["code"], "bad_ratio")


if __name__ == "__main__":
    unittest.main()
