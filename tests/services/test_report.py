"""The document of a trial's verdict: plant by plant only once the key is open."""

from __future__ import annotations

from unittest import mock

from orthocris.core.errors import ConflictError
from orthocris.formats.verdict_sheet import Told
from orthocris.services.field import mess
from orthocris.services.verdict import report
from tests.services.world import ServiceCase


class Report(ServiceCase):
    def told(self) -> Told:
        """What the document tells."""
        with mock.patch.object(report, "verdict_pdf", return_value=b"%PDF") as made:
            report.report_of(self.context, self.trial_id, None, whole=True, paper="a4")
        found = made.call_args.args[0]
        assert isinstance(found, Told)
        return found

    def test_who_got_what_is_told_after_the_last_look_and_not_before(self) -> None:
        self.plant_and_draw()
        with self.assertRaises(ConflictError):
            report.report_of(self.context, self.trial_id, None, whole=False, paper="a4")
        self.count_all(0, soap=20, water=20)
        self.spray_all()
        letter = next(r.letter for r in self.trial.remedies if r.name == "Soap")
        mess.say_mess(self.context, self.trial_id, 1, letter or "", ["stains"])
        self.later(3)
        self.count_all(1, soap=2, water=20)
        with self.assertRaisesRegex(ConflictError, "key is sealed"):
            report.report_of(self.context, self.trial_id, None, whole=False, paper="a4")
        self.later(4)
        self.count_all(2, soap=1, water=24)
        told = self.told()
        self.assertEqual(told.plants[0], ["Plant", "Block", "Remedy", "before", "day 3", "day 7"])
        self.assertEqual((len(told.plants), told.look), (9, "on day 7"))
        self.assertIn("mess: stains", told.prices["Soap"])

    def test_the_whole_record_marks_what_was_missed_and_has_the_doubts(self) -> None:
        self.plant_and_draw()
        self.count_all(0, soap=40, water=40)
        self.spray_all()
        self.later(7)
        self.count_all(1, soap=0, water=40)
        self.count_all(2, soap=0, water=40)
        soap = next(r.id for r in self.trial.remedies if r.name == "Soap")
        missed = next(p for p in self.trial.trial_plants if p.remedy_id == soap)
        self.count(missed.id, 45, 2)
        told = self.told()
        marked = [row[0] for row in told.plants if row[2] == "Soap (missed)"]
        self.assertEqual(marked, [missed.name])
        self.assertTrue(any(line.startswith("Without blocks: ") for line in told.doubts))
        with mock.patch.object(report, "verdict_pdf", return_value=b"%PDF") as made:
            report.report_of(self.context, self.trial_id, None, whole=False, paper="a4")
        self.assertEqual(made.call_args.args[0].doubts, ())
