"""A trial knows what its plants are: which ticks that sets, and how much wets one."""

from __future__ import annotations

import unittest

from tests.api.trial.test_routes import QUESTION, ApiCase


class Crops(ApiCase):
    def of_the_day(self, name: str, on: str) -> dict[str, object]:
        """A crop as it is on a day."""
        found = self.client.get("/api/crops", params={"on": on}).json()
        return next(crop for crop in found if crop["name"] == name)

    def test_bloom_follows_the_half_of_the_earth_where_the_yard_lies(self) -> None:
        self.assertTrue(self.of_the_day("lupins", "2026-06-01")["in_bloom"])
        body = {**self.client.get("/api/yard").json(), "latitude": -37.0}
        self.assertEqual(self.client.put("/api/yard", json=body).status_code, 200)
        self.assertFalse(self.of_the_day("lupins", "2026-06-01")["in_bloom"])
        self.assertTrue(self.of_the_day("lupins", "2026-12-01")["in_bloom"])

    def test_a_known_crop_sizes_what_a_plant_gets(self) -> None:
        for crop, ml, kind in (
            ("Strawberry", 40, "strawberries"),
            ("seedlings", 5, "seedlings in trays"),
            ("quillworts", 40, "the trial's plants"),
        ):
            body = {**QUESTION, "name": crop, "setup": {"crop": crop}}
            made = self.client.post("/api/trials", json=body).json()
            care = made["care"]
            self.assertEqual((care["ml_per_plant"], care["leaf_kinds"]), (ml, [kind]), crop)
            self.assertEqual(made["setup"]["crop"], crop)

    def test_an_own_remedy_is_listed_with_what_speaks_against_it(self) -> None:
        body = {"name": "Kernel oil", "recipe": "5 ml neem oil and 2 ml soap in 1 litre"}
        self.client.post("/api/own-remedies", json=body)
        asked = {"pest": "aphids", "setup": {"stressed": True}}
        found = self.client.post("/api/queries/remedies", json=asked).json()
        self.assertEqual(found[0]["name"], "Kernel oil")
        self.assertRegex(" ".join(found[0]["reasons"]), "stressed")
        acts = {r["key"]: r["acts_on_it"] for r in found}
        self.assertEqual((acts["mild_soap"], acts["baking_soda"]), (True, False))


if __name__ == "__main__":
    unittest.main()
