"""While the key is sealed nothing answered tells it.

Two gardens are alike but for the key: in the second two remedies have exchanged their letters, so
that every plant has the tag, the counts and the sprays that it had. Whatever differs between the
answers of the two would tell which letter is which.
"""

from __future__ import annotations

import json
import unittest
from dataclasses import replace
from datetime import timedelta
from typing import Any

from orthocris.core.trial.care import Spot
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.weather.yard import WeatherSource, Yard
from orthocris.services.field import patches
from orthocris.services.trial import questions
from orthocris.services.weather import yards
from orthocris.storage.trial.recount import recount_trial
from tests.api.trial.test_routes import ApiCase

ASKED = (
    "/api/trials/1",
    "/api/today",
    "/api/trials",
    "/api/calendar.ics",
    "/api/trials/1/course",
    "/api/trials/1/critique",
    "/api/trials/1/eggs",
    "/api/trials/1/verdict",
    "/api/trials/1/verdict?look=1",
    "/api/trials/1/verdict/checks",
    "/api/trials/1/verdict.pdf?kind=brief",
    "/api/trials/1/verdict.pdf?kind=whole",
    "/api/trials/1/table.csv",
    "/api/trials/1/bundle.zip",
    "/api/trials/1/notes",
    "/api/trials/1/prints",
    "/api/trials/1/tags.svg",
    "/api/trials/1/sheet.svg",
    "/api/trials/1/ribbon",
    "/api/trials/1/bottles",
    "/api/trials/1/bottles/water",
    "/api/trials/1/labels",
    "/api/trials/1/labels.svg",
    "/api/trials/1/patches",
    "/api/trials/1/schedule",
    "/api/trials/1/sampling",
    "/api/trials/1/rounds/1/mess",
    "/api/trials/1/looks/1/sheet",
    "/api/trials/1/looks/1/checks",
    "/api/trials/1/looks/1/agreement",
    "/api/trials/1/looks/1/tallies/1?measure=live",
)
CHECKED = {"shaken": True, "cautions_read": True, "bees_looked": True, "fruit_looked": True}


class Sealed(ApiCase):
    """Soap, oil and neem on 18 plants, eaten, of which two had the control too; one look done."""

    def setUp(self) -> None:
        super().setUp()
        asked = questions.question_of(self.trial)
        remedies = (
            *asked.remedies[:1],
            RemedyDraft("Soap", Role.REMEDY, "10 ml soap in 1 litre"),
            RemedyDraft("Oil", Role.REMEDY, "10 ml oil and 2 ml soap in 1 litre"),
            RemedyDraft("Copper", Role.REMEDY, "2 g copper soap in 1 litre"),
        )
        asked = replace(asked, remedies=remedies, setup=replace(asked.setup, eaten=True))
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        yards.change_yard(self.context, Yard(weather_source=WeatherSource.SIMULATED))
        spot = Spot(bees=False)
        patches.change_care(self.context, self.trial_id, replace(self.trial.care, spot=spot))
        self.plant_and_draw(18)
        self.count_every(0, {})
        self.start(1)
        for k, plant in enumerate(self.trial.trial_plants):
            self.now += timedelta(minutes=k % 2)
            self.spray_one(1, plant.id, volume=40.0)
        self.later(3)
        self.count_every(1, {"Water": 60, "Soap": 9, "Oil": 30, "Copper": 2})
        self.later(2)
        self.start(2)
        self.spray_one(2, self.trial.trial_plants[0].id)

    def count_every(self, look: int, levels: dict[str, float]) -> None:
        """Count all plants at about their remedy's level, damage too."""
        names = {r.id: r.name for r in self.trial.remedies}
        for k, plant in enumerate(self.trial.trial_plants):
            name = names[plant.remedy_id or 0]
            self.count(plant.id, levels.get(name, 40) + k % 3, look)

    def answers(self) -> dict[str, str]:
        """Everything that is answered, also to what is refused; PDFs by their text's length."""
        found = {}
        for path in ASKED:
            answer = self.client.get(path)
            self.assertIn(answer.status_code, (200, 404, 409), f"{path}: {answer.text[:300]}")
            found[path] = answer.text
        body = {**CHECKED, "batches": {}, "reasons": {}}
        asked = self.client.post("/api/trials/1/rounds/2/queries/check", json=body)
        self.assertEqual(asked.status_code, 200, asked.text)
        found["check"] = asked.text
        return found

    def exchange(self, one: str, other: str) -> None:
        """Exchange two remedies behind their letters; plants keep their tags."""
        ids = {r.name: r.id for r in self.trial.remedies}
        a, b = ids[one], ids[other]
        with self.context.database.atomic() as connection:
            code = {
                k: tuple(
                    connection.execute(
                        "SELECT letter, notches FROM remedy WHERE id = ?", (k,)
                    ).fetchone()
                )
                for k in (a, b)
            }
            connection.execute(
                "UPDATE remedy SET letter = NULL, notches = NULL WHERE id IN (?, ?)", (a, b)
            )
            for k, other_k in ((a, b), (b, a)):
                connection.execute(
                    "UPDATE remedy SET letter = ?, notches = ? WHERE id = ?", (*code[other_k], k)
                )
            connection.execute(
                "UPDATE plant SET remedy_id = CASE remedy_id WHEN :a THEN :b ELSE :a END"
                " WHERE remedy_id IN (:a, :b)",
                {"a": a, "b": b},
            )
            connection.execute(
                "UPDATE spray SET batch_id = (SELECT max(n.id) FROM batch n, plant p"
                " WHERE p.id = spray.plant_id AND n.remedy_id = p.remedy_id)"
            )
            recount_trial(connection, self.trial_id)

    def test_no_answer_changes_when_remedies_change_behind_their_letters(self) -> None:
        before = self.answers()
        for one, other in (("Soap", "Copper"), ("Oil", "Soap"), ("Water", "Oil")):
            self.exchange(one, other)
            after = self.answers()
            for path in before:
                with self.subTest(path, exchanged=(one, other)):
                    self.assertEqual(differing(before[path], after[path]), [])

    def test_one_plant_counted_at_the_last_look_opens_nothing(self) -> None:
        self.later(2)
        plants = [p.id for p in self.trial.trial_plants]
        last = self.trial.looks[-1].number
        for k, plant in enumerate(plants, 1):
            self.assertTrue(self.client.get("/api/trials/1").json()["sealed"], k)
            self.count(plant, 3, last)
        self.assertFalse(self.client.get("/api/trials/1").json()["sealed"])

    def test_once_it_is_open_they_are_told_apart(self) -> None:
        """Else the test above would prove nothing."""
        self.client.post("/api/trials/1/key")
        before = self.answers()
        self.exchange("Soap", "Copper")
        after = self.answers()
        changed = {path for path in before if before[path] != after[path]}
        self.assertLessEqual(
            {"/api/trials/1", "/api/trials/1/verdict", "/api/trials/1/table.csv"}, changed
        )

    def test_lists_of_letters_stand_in_the_order_of_the_alphabet(self) -> None:
        """Any other order would be that of the remedies."""
        for path, text in self.answers().items():
            try:
                found = json.loads(text)
            except ValueError:
                continue
            for letters in letter_lists(found):
                with self.subTest(path):
                    self.assertEqual(letters, sorted(letters))


def differing(one: str, other: str) -> list[str]:
    """The places where two answers differ."""
    try:
        return list(_differences(json.loads(one), json.loads(other), ""))
    except ValueError:
        return [] if one == other else ["the whole"]


def _differences(one: Any, other: Any, at: str) -> list[str]:
    if isinstance(one, dict) and isinstance(other, dict) and list(one) == list(other):
        return [d for k in one for d in _differences(one[k], other[k], f"{at}.{k}")]
    if isinstance(one, list) and isinstance(other, list) and len(one) == len(other):
        return [
            d
            for k, (a, b) in enumerate(zip(one, other, strict=True))
            for d in _differences(a, b, f"{at}[{k}]")
        ]
    return [] if one == other else [f"{at}: {one!r} / {other!r}"[:200]]


def letter_lists(found: Any) -> list[list[str]]:
    """The letters of every list of things that have one each, and the letters that are keys."""
    lists = []
    if isinstance(found, dict):
        keys = [k for k in found if len(k) == 1 and k.isupper()]
        lists += [keys] if keys else []
        for value in found.values():
            lists += letter_lists(value)
    if isinstance(found, list):
        letters = [e["letter"] for e in found if isinstance(e, dict) and e.get("letter")]
        if len(letters) == len(set(letters)) > 1:
            lists.append(letters)
        for value in found:
            lists += letter_lists(value)
    return lists


if __name__ == "__main__":
    unittest.main()
