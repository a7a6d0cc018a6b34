"""The route of the mixing bench."""

from __future__ import annotations

import unittest

from tests.api.trial.test_routes import QUESTION, ApiCase


class Mixing(ApiCase):
    def test_a_recipe_comes_back_in_pouring_order(self) -> None:
        body = {"text": "10 ml oil and 2 ml soap in 1 litre", "volume": 750}
        found = self.client.post("/api/queries/mix", json=body).json()
        self.assertEqual([p["name"] for p in found["pours"]], ["soap", "oil", "water"])
        self.assertEqual([p["level"] for p in found["pours"]], [1.5, 9.0, 750.0])
        self.assertEqual(found["bottle"], 1000)
        self.assertIsNone(found["pours"][-1]["measured"])

    def test_decimals_are_taken_as_they_were_typed(self) -> None:
        body = {"text": "1 ml soap in 1 litre", "volume": 0.1}
        self.assertEqual(self.client.post("/api/queries/mix", json=body).json()["volume"], 0.1)

    def test_own_recipes_stand_before_the_shipped_ones(self) -> None:
        tea = {"name": "My tea", "recipe": "50 ml nettle tea in 1 litre"}
        bare = {"name": "A card", "recipe": ""}
        for body in (tea, bare):
            self.assertEqual(self.client.post("/api/own-remedies", json=body).status_code, 201)
        found = self.client.get("/api/recipes").json()
        self.assertEqual({k: found[0][k] for k in tea}, tea)
        self.assertNotIn("A card", [r["name"] for r in found])
        self.assertIn("Mild soap", [r["name"] for r in found])

    def test_own_pests_are_kept_by_name_and_stand_on_the_card_of_their_trials(self) -> None:
        moth = {"name": "Gorse weevil", "sample_unit": "twig", "count_what": "Every live one."}
        made = self.client.post("/api/own-pests", json=moth).json()
        self.assertEqual(
            (made["key"], made["look_days"], made["measures"]), ("Gorse weevil", [3, 7], [])
        )
        own = f"/api/own-pests/{made['id']}"
        other = {**moth, "name": "gorse  WEEVIL"}
        self.assertEqual(self.client.post("/api/own-pests", json=other).status_code, 409)
        self.assertEqual(self.client.put(own, json=other).json()["name"], "gorse WEEVIL")
        self.assertEqual(self.client.put("/api/own-pests/99", json=moth).status_code, 404)
        key = {"Idempotency-Key": "an-own-pest"}
        ant = {**moth, "name": "Root ant"}
        for _ in range(2):
            twice = self.client.post("/api/own-pests", json=ant, headers=key).json()["id"]
        self.client.delete(f"/api/own-pests/{twice}")
        self.assertEqual(len(self.client.get("/api/own-pests").json()), 1)
        trial = self.client.post("/api/trials", json={**QUESTION, "pest": "gorse weevil"}).json()
        self.assertEqual(trial["pest_card"]["sample_unit"], "twig")
        for body, status in (
            ({**moth, "name": "aphids"}, 409), ({**moth, "kind": "weed"}, 422),
            ({**moth, "measure": "damage"}, 422), ({"sample_unit": "leaf"}, 422),
        ):  # fmt: skip
            self.assertEqual(self.client.put(own, json=body).status_code, status, body)
        self.assertEqual([self.client.delete(own).status_code for _ in range(2)], [204, 404])
        kept = self.client.get(f"/api/trials/{trial['id']}").json()
        self.assertEqual((kept["pest"], kept["pest_card"]), ("gorse weevil", None))

    def test_refusals(self) -> None:
        for body, field in (
            ({"text": "soap", "volume": 1000}, "text"),
            ({"text": "10 ml soap in 1 litre", "volume": -5}, "volume"),
            ({"text": "10 ml soap in 1 litre", "plants": 0}, "plants"),
            ({"text": "10 ml soap in 1 litre", "volume": 100, "tools": ["ladle"]}, "tools"),
            ({"text": "5 ml bleach, 5 ml soap in 1 litre", "volume": 100}, "parts"),
        ):
            answer = self.client.post("/api/queries/mix", json=body)
            self.assertEqual(self.refused(answer, 422)["field"], field, body)

    def test_every_tool_offered_is_taken(self) -> None:
        keys = [tool["key"] for tool in self.client.get("/api/tools").json()]
        body = {"text": "5 g baking soda and 5 ml oil in 1 litre", "volume": 500, "tools": keys}
        self.assertEqual(self.client.post("/api/queries/mix", json=body).status_code, 200)


if __name__ == "__main__":
    unittest.main()
