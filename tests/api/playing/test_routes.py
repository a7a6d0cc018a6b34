"""Playing over HTTP: sealed until the end, refused by its field, and nothing kept."""

from __future__ import annotations

import unittest
from typing import Any

from tests.api.trial.test_routes import ApiCase

PLAN: dict[str, Any] = {
    "remedies": [{"name": "Water"}, {"name": "Soap"}, {"name": "Oil", "days_to_show": 3}],
    "plants": 13,
    "looks": [3, 9],
    "rounds": [0, 5],
}


class Playing(ApiCase):
    def play(self, moves: list[str], **plan: Any) -> dict[str, Any]:
        body = {"plan": {**PLAN, **plan}, "seed": 7, "moves": moves}
        answer = self.client.post("/api/queries/play", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        found: dict[str, Any] = answer.json()
        return found

    def test_nothing_tells_a_letter_s_remedy_before_all_is_counted(self) -> None:
        moves: list[str] = []
        board = self.play(moves)
        while board["due"] != "open":
            self.assertNotIn("Soap", str(board))
            self.assertIsNone(board["hindsight"])
            moves.append(board["choices"][0])
            board = self.play(moves)
        self.assertEqual({t["name"] for t in board["tags"]}, {"Water", "Soap", "Oil"})
        self.assertIsNone(board["hindsight"])
        board = self.play([*moves, "open"])
        self.assertEqual((board["due"], board["choices"]), ("over", []))
        self.assertEqual(len(board["hindsight"]["remedies"]), 2)
        self.assertEqual(board["days"], [0, 3, 9])
        left_over = [p for p in board["plants"] if p["tag"] is None]
        self.assertEqual(left_over, [])  # the thirteenth has a tag: one group has a remedy twice

    def test_what_cannot_be_played_is_refused_beside_its_field(self) -> None:
        for field, wrong in (
            ("plants", {"plants": 5}),
            ("looks", {"looks": [9, 3]}),
            ("remedies", {"remedies": [{"name": "Soap"}, {"name": "soap"}]}),
        ):
            body = {"plan": {**PLAN, **wrong}, "seed": 1}
            refused = self.refused(self.client.post("/api/queries/play", json=body), 422)
            self.assertEqual(refused["field"], field)
        body = {"plan": PLAN, "seed": 1, "moves": ["open"]}
        self.assertEqual(
            self.refused(self.client.post("/api/queries/play", json=body), 422)["code"],
            "no_such_move",
        )

    def test_a_lesson_is_the_same_plan_in_many_gardens(self) -> None:
        body = {"plan": PLAN, "about": "lot"}
        told = self.client.post("/api/queries/lesson", json=body).json()
        self.assertEqual((len(told["without"]), len(told["with_"])), (200, 200))
        self.assertIn("Oil", told["says"])


if __name__ == "__main__":
    unittest.main()
