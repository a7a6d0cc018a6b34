"""The journal: what a line needs, remedies tried in turn, and newcomers that stand apart."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta

from orthocris.core.errors import InputError
from orthocris.core.seasons.journal import (
    Entry,
    EntryDraft,
    EntryKind,
    Level,
    air_words,
    apart,
    check_entry,
    next_task,
    tried_in_turn,
)

DAY = date(2026, 5, 1)


def look(on: int, level: Level, place: str = "Stairs", pest: str = "aphids") -> EntryDraft:
    return EntryDraft(EntryKind.LOOK, DAY + timedelta(days=on), place, pest, level)


def treated(on: int, what: str, place: str = "Stairs") -> EntryDraft:
    return EntryDraft(EntryKind.TREATED, DAY + timedelta(days=on), place, "aphids", what=what)


def newcomer(on: int = 0) -> EntryDraft:
    return EntryDraft(EntryKind.NEWCOMER, DAY + timedelta(days=on), "Sill", what="Fuchsia")


def kept(*drafts: EntryDraft) -> list[Entry]:
    return [Entry(k, draft) for k, draft in enumerate(drafts, 1)]


class Lines(unittest.TestCase):
    def test_a_line_needs_what_its_kind_tells(self) -> None:
        for draft, field in (
            (look(0, Level.FEW, place=" "), "place"),
            (look(0, Level.FEW, pest=""), "pest"),
            (EntryDraft(EntryKind.LOOK, DAY, "Stairs", "aphids"), "level"),
            (treated(0, " "), "what"),
            (EntryDraft(EntryKind.NEWCOMER, DAY, "Sill"), "what"),
            (look(1, Level.FEW), "on"),
            (look(-365 * 31, Level.FEW), "on"),
        ):
            with self.assertRaises(InputError) as caught:
                check_entry(draft, DAY)
            self.assertEqual(caught.exception.field, field)
        check_entry(look(-365 * 20, Level.NONE), DAY)  # an old notebook, and nothing found


class RoomsAndTasks(unittest.TestCase):
    def test_a_task_may_lie_ahead_and_air_is_a_share(self) -> None:
        task = EntryDraft(EntryKind.TASK, DAY + timedelta(days=30), "Sill", what="Refill", every=14)
        check_entry(task, DAY)
        check_entry(EntryDraft(EntryKind.AIR, DAY, "Sill", humidity=0), DAY)
        for draft, field in (
            (replace(task, on=DAY + timedelta(days=800)), "on"),
            (replace(task, every=0), "every"),
            (replace(task, what=""), "what"),
            (EntryDraft(EntryKind.AIR, DAY, "Sill"), "humidity"),
            (EntryDraft(EntryKind.AIR, DAY, "Sill", humidity=101), "humidity"),
            (EntryDraft(EntryKind.AIR, DAY, "", humidity=50), "place"),
        ):
            with self.assertRaises(InputError) as caught:
                check_entry(draft, DAY)
            self.assertEqual(caught.exception.field, field)
        following = next_task(task, DAY)
        assert following is not None
        self.assertEqual((following.on, following.every), (DAY + timedelta(days=14), 14))
        self.assertIsNone(next_task(replace(task, every=None), DAY))

    def test_damp_air_of_late_is_said_to_be(self) -> None:
        def air(on: int, humidity: float) -> EntryDraft:
            return EntryDraft(EntryKind.AIR, DAY + timedelta(days=on), "Sill", humidity=humidity)

        self.assertEqual(air_words(kept(air(-30, 90)), DAY), "")
        self.assertIn(
            "70%, the mean of 2: damp enough", air_words(kept(air(-1, 60), air(0, 80)), DAY)
        )
        self.assertNotIn("damp", air_words(kept(air(0, 45)), DAY))
        self.assertEqual(tried_in_turn(kept(air(0, 45), treated(1, "Soap")))[0].before, None)


class InTurn(unittest.TestCase):
    def test_each_is_told_with_the_looks_about_it(self) -> None:
        found = tried_in_turn(
            kept(
                look(0, Level.MANY),
                treated(1, "Soap"),
                look(5, Level.SOME),
                treated(6, "Neem"),
                look(9, Level.NONE),
            )
        )
        self.assertEqual(
            [(one.entry.draft.what, one.said) for one in found],
            [
                ("Soap", "Many before, some 4 days later."),
                ("Neem", "Some before, none 3 days later."),
            ],
        )

    def test_a_look_after_the_next_treatment_tells_of_that_one(self) -> None:
        soap, neem = tried_in_turn(
            kept(look(0, Level.MANY), treated(1, "Soap"), treated(3, "Neem"), look(6, Level.FEW))
        )
        self.assertEqual(soap.said, "Many before; what came after it was not written down.")
        self.assertEqual(neem.said, "Many before, few 3 days later.")

    def test_another_place_and_a_look_long_ago_tell_nothing(self) -> None:
        (soap,) = tried_in_turn(
            kept(
                look(-20, Level.MANY),
                look(0, Level.MANY, place="Rail"),
                treated(1, "Soap"),
                look(25, Level.FEW),
            )
        )
        self.assertEqual(soap.said, "Nobody wrote down what there was before or after.")

    def test_lines_written_later_stand_by_their_days(self) -> None:
        """An old notebook is typed in backwards; whoever sprays has looked on that day before."""
        (soap,) = tried_in_turn(
            kept(look(2, Level.FEW, place="stairs "), treated(1, "Soap"), look(1, Level.SOME))
        )
        self.assertEqual(soap.said, "Some before, few a day later.")


class Newcomers(unittest.TestCase):
    def due(self, on: int, *drafts: EntryDraft) -> tuple[int | None, int] | None:
        """Days until its next look and until it may join; None once it is no newcomer."""
        found = apart(kept(newcomer(), *drafts), DAY + timedelta(days=on))
        if not found:
            return None
        (one,) = found
        look_on = None if one.look_on is None else (one.look_on - DAY).days
        return look_on, (one.until - DAY).days

    def test_it_is_looked_at_each_week_for_three_weeks(self) -> None:
        def clean(on: int) -> EntryDraft:
            return look(on, Level.NONE, place="sill")

        self.assertEqual(self.due(0), (7, 21))
        self.assertEqual(self.due(9), (7, 21))  # overdue, not forgotten
        self.assertEqual(self.due(9, clean(8)), (14, 21))
        self.assertEqual(self.due(15, clean(8), clean(15)), (21, 21))
        self.assertEqual(self.due(22, clean(8), clean(15), clean(21)), (None, 21))  # it may join
        self.assertIsNone(self.due(29, clean(8), clean(15), clean(21)))
        self.assertEqual(self.due(40), (7, 21))  # nobody looked: it does not join by itself

    def test_what_is_found_on_it_begins_the_weeks_anew(self) -> None:
        found = look(8, Level.FEW, place="Sill")
        self.assertEqual(self.due(9, found), (15, 29))
        (one,) = apart(kept(newcomer(), found), DAY + timedelta(days=9))
        self.assertEqual(one.found, "aphids")
        self.assertEqual(self.due(9, look(8, Level.FEW, place="Stairs")), (7, 21))
        self.assertEqual(self.due(9, look(-3, Level.FEW, place="Sill")), (7, 21))
