"""The shipped knowledge is checked before the program serves, and a fault says where it is."""

from __future__ import annotations

import json
import unittest
from importlib.resources import files
from typing import Any

from orthocris.knowledge import disorders, pests, remedies
from orthocris.knowledge.checks import SHAPES, KnowledgeError, check_entries, check_knowledge
from orthocris.services.finding import find_out


class Checks(unittest.TestCase):
    def entries(self, name: str) -> list[dict[str, Any]]:
        """What a file holds."""
        text = files("orthocris.knowledge").joinpath(name).read_text("utf-8")
        found: list[dict[str, Any]] = json.loads(text)
        return found

    def test_what_is_shipped_holds(self) -> None:
        check_knowledge()

    def test_a_fault_names_file_entry_and_field(self) -> None:
        for name in SHAPES:
            first = self.entries(name)[0]
            field = "key"
            for change, said in (
                ({"surprise": 1}, "surprise"),
                ({field: None}, "key"),
            ):
                with self.subTest(name, change=change), self.assertRaises(KnowledgeError) as caught:
                    check_entries(name, SHAPES[name], [{**first, **change}])
                self.assertIn(name, str(caught.exception))
                self.assertIn(said, str(caught.exception))
            with self.assertRaisesRegex(KnowledgeError, "twice"):
                check_entries(name, SHAPES[name], [first, first])

    def test_every_pest_has_several_remedies_and_none_is_said_to_be_unknown(self) -> None:
        for pest in pests():
            used = [r.key for r in remedies() if pest.key in r.works_on]
            self.assertGreaterEqual(len(used), 2, pest.key)
            self.assertFalse(set(used) & set(pest.cannot_work), pest.key)

    def test_what_no_remedy_helps_is_found_by_its_own_sign(self) -> None:
        for one in disorders():
            own = max(one.signs, key=lambda sign: one.signs[sign])
            self.assertEqual(find_out([own])[0].key, one.key)
        self.assertEqual(find_out(["honeydew", "clusters"])[0].key, "aphids")


if __name__ == "__main__":
    unittest.main()
