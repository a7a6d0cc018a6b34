"""The planning routes: shapes, statuses, and bad input beside its field."""

from __future__ import annotations

import time
import unittest
from typing import Any

from orthocris.storage.trial import layout_sets
from tests.api.trial.test_routes import JSON, QUESTION, ApiCase


class Planning(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.base = f"/api/trials/{self.trial_id}"

    def test_candidates_and_decisions(self) -> None:
        found = self.client.get("/api/signs/candidates", params={"signs": ["webbing", "stippling"]})
        self.assertEqual(found.json()[0]["key"], "spider_mites")
        self.refused(self.client.get("/api/signs/candidates", params={"signs": ["x"]}), 422)
        look: dict[str, Any] = {"pest": "aphids", "looked": 10, "affected": 6}
        said = self.client.post("/api/queries/advice", json=look).json()
        self.assertEqual((said["action"], said["share"]), ("trial", 0.6))
        self.assertEqual(self.client.get("/api/inspections").json(), [])
        self.assertEqual(self.client.post("/api/inspections", json=look).status_code, 201)
        self.assertEqual(len(self.client.get("/api/inspections").json()), 1)
        for field, value in (("looked", 0), ("affected", 11), ("helpers", -1), ("looked", 10**9)):
            bad = self.client.post("/api/inspections", json={**look, field: value})
            self.assertEqual(self.refused(bad, 422)["field"], field)

    def test_a_plan_that_is_still_being_said_is_reviewed_word_by_word(self) -> None:
        oil = {"name": "Oil", "role": "remedy", "recipe": "20 ml rape oil in 1 litre of water"}
        traits = {"ingredients": [{"key": "oil", "amount": 20, "unit": "ml per litre"}]}
        asked = {
            **QUESTION,
            "remedies": [QUESTION["remedies"][0], {**oil, "traits": traits}],
            "look_days": [1],
        }
        ask = "/api/queries/remarks"
        found = {r["code"]: r for r in self.client.post(ask, json={"question": asked}).json()}
        early = found["looks_too_early"]
        self.assertEqual((early["about"], early["remedy"]), ("days", None))
        self.assertNotIn("too_few_blocks", found)
        mended = found["oil_alone"]["mended"]
        self.assertIn("soap", [i["key"] for i in mended["remedies"][1]["traits"]["ingredients"]])
        again = self.client.post(ask, json={"question": mended}).json()  # as it came
        self.assertNotIn("oil_alone", [r["code"] for r in again])
        benched = [{"row": 1, "place": k + 1, "match_count": 1} for k in range(3)]
        found = {
            r["code"]: r["about"]
            for r in self.client.post(ask, json={"question": asked, "plants": benched}).json()
        }
        self.assertEqual((found["too_few_blocks"], found["low_start"]), ("plants", "bench"), found)
        early = self.client.post(ask, json={"question": {**asked, "remedies": []}})
        self.assertEqual((early.status_code, early.json()), (200, []))

    def test_the_lot_s_other_layouts_are_drawn_behind_the_answer(self) -> None:
        """Where pots stand close, a rule restricts it; nobody waits, and none is left due."""
        close = {**QUESTION, "setup": {"place_cm": 20}}
        self.assertEqual(self.client.put(f"{self.base}/question", json=close).status_code, 200)
        drawn = self.client.post(f"{self.base}/layout", json={"reason": "closer together"})
        self.assertEqual(drawn.status_code, 200)
        with self.context.database.reading() as connection:
            self.assertIsNotNone(layout_sets.kept(connection, self.trial_id))
            self.assertEqual(layout_sets.due(connection), ())

    def test_remedies_with_reasons_and_proposals(self) -> None:
        rows = self.client.post("/api/queries/remedies", json={"pest": "aphids"}).json()
        by_key = {r["key"]: r for r in rows}
        self.assertEqual(by_key["mild_soap"]["reasons"], [])
        self.assertTrue(by_key["bt_spray"]["reasons"])
        asked = {"keys": ["mild_soap"], "strengths": [5, 10, 20]}
        made = self.client.post("/api/queries/proposal", json=asked).json()["remedies"]
        question = {
            **QUESTION,
            "remedies": [QUESTION["remedies"][0], *made],
            "setup": {"kind": "ladder"},
        }
        self.assertEqual(self.client.post("/api/trials", json=question).status_code, 201)
        question["remedies"] = QUESTION["remedies"]
        self.assertEqual(
            self.refused(self.client.post("/api/trials", json=question), 422)["code"],
            "not_a_ladder",
        )
        self.refused(self.client.post("/api/queries/proposal", json={"keys": ["magic"]}), 404)

    def test_bad_setups_name_their_field(self) -> None:
        for field, value in (
            ("place_cm", 0),
            ("row_cm", 1e9),
            ("harvest_days", -1),
            ("block_size", 1),
        ):
            setup = {field: value, "design": "incomplete", "block_size": 1}
            if field != "block_size":
                setup = {field: value}
            answer = self.client.post("/api/trials", json={**QUESTION, "setup": setup})
            self.assertEqual(self.refused(answer, 422)["field"], f"setup.{field}")
        answer = self.client.post("/api/trials", json={**QUESTION, "setup": {"design": "spiral"}})
        self.assertEqual(self.refused(answer, 422)["field"], "setup.design")

    def test_critique_mend_and_overrule(self) -> None:
        found = self.client.get(f"{self.base}/critique").json()
        self.assertIn("The verdict will say", found["promise"])
        self.refused(self.client.post(f"{self.base}/critique/no_control/mend"), 404)
        code = "neighbours_close"
        narrow = {**self.question(), "setup": {"place_cm": 10}}
        self.client.put(f"{self.base}/question", json=narrow)
        codes = [f["code"] for f in self.client.get(f"{self.base}/critique").json()["findings"]]
        self.assertIn(code, codes)
        no_reason = self.client.post(f"{self.base}/critique/{code}/overrule", json={"reason": ""})
        self.assertEqual(self.refused(no_reason, 422)["field"], "reason")
        mended = self.client.post(f"{self.base}/critique/{code}/mend").json()
        self.assertTrue(mended["setup"]["shields"])

    def question(self) -> dict[str, Any]:
        """The trial's question as it can be sent again."""
        trial = self.client.get(self.base).json()
        keep = ("id", "name", "role", "recipe", "traits")
        return {
            **QUESTION,
            "pest": trial["pest"],
            "remedies": [{k: r[k] for k in keep} for r in trial["remedies"]],
        }

    def test_a_simulation_runs_beside_and_ends(self) -> None:
        begun = self.client.post(f"{self.base}/power", json={})
        self.assertEqual(begun.status_code, 202)
        for _ in range(200):
            now = self.client.get(f"/api/power/{begun.json()['id']}").json()
            if now["state"] != "running":
                break
            time.sleep(0.05)
        self.assertEqual(now["state"], "done")
        self.assertTrue(now["answer"])
        nan = self.client.post(f"{self.base}/power", content='{"growth": NaN}', headers=JSON)
        self.assertEqual(self.refused(nan, 422)["field"], "growth")
        self.refused(self.client.get("/api/power/9999"), 404)

    def test_prints_are_svg_and_bad_pages_are_refused(self) -> None:
        offered = self.client.get(f"{self.base}/prints").json()
        for address in (offered["sheet"]["a4"], offered["tags"]["letter"][0]):
            answer = self.client.get(address)
            self.assertEqual(answer.headers["content-type"], "image/svg+xml")
        self.refused(self.client.get(f"{self.base}/tags.svg?page=0"), 422)
        self.refused(self.client.get(f"{self.base}/sheet.svg?paper=a3"), 422)

    def test_moves_and_the_key(self) -> None:
        plant = self.trial.plants[0].id
        moved = self.client.post(f"{self.base}/plants/{plant}/move", json={"row": 2, "place": 2})
        self.assertEqual(moved.status_code, 200)
        far = self.client.post(f"{self.base}/plants/{plant}/move", json={"row": 2, "place": 999})
        self.assertEqual(self.refused(far, 422)["field"], "place")
        self.assertIsNotNone(self.client.post(f"{self.base}/key").json()["key_opened_at"])

    def test_ten_thousand_plants_and_double_names_are_refused(self) -> None:
        many = self.client.post(
            f"{self.base}/plants", json={"prefix": "Q", "rows": 40, "per_row": 60}
        )
        self.assertEqual(self.refused(many, 422)["code"], "too_many_plants")
        one, two = self.trial.plants[:2]
        body = {"name": two.name, "row": one.row, "place": one.place}
        same = self.client.put(f"{self.base}/plants/{one.id}", json=body)
        self.assertEqual(self.refused(same, 422)["field"], "name")
        sized = self.client.put(
            f"{self.base}/plants/{one.id}", json={**body, "name": one.name, "size": -1}
        )
        self.assertEqual(self.refused(sized, 422)["field"], "size")


if __name__ == "__main__":
    unittest.main()
