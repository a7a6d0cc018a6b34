"""The rest of the garden: what comes next, act by act, and when it is over."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any

from orthocris.core.errors import InputError
from orthocris.core.field.rest import (
    Act,
    Done,
    Pace,
    Promise,
    RestDraft,
    RestStanding,
    Treatment,
    Which,
    check_done,
    check_rest,
    expected_left,
    rest_standing,
)

DAY = date(2026, 6, 1)
DRAFT = RestDraft(7, Which.SICK, "The bed by the wall", 12, DAY, ml_each=40)
SHOWN = Promise(0.85, 0.7, 0.93)
SOAP = Pace(patch_days=2, look_days=3)


def on(days: int) -> date:
    """A day counted from the start."""
    return DAY + timedelta(days=days)


def count(days: int, pests: float, *, harmed: bool = False) -> Done:
    return Done(Act.COUNT, on(days), pests, 5, harmed)


def spray(days: int) -> Done:
    return Done(Act.SPRAY, on(days))


def propose(last: date, left: float | None) -> tuple[date | None, str]:
    """Five days later, whatever is left."""
    return last + timedelta(days=5), "eggs"


def stands(
    *done: Done, draft: RestDraft = DRAFT, pace: Pace = SOAP, ended: date | None = None
) -> RestStanding:
    return rest_standing(Treatment(1, 1, draft, done, ended), pace, SHOWN, propose)


def due(*done: Done, draft: RestDraft = DRAFT, pace: Pace = SOAP) -> tuple[Act, int]:
    """The next act, and its day from the start."""
    found = stands(*done, draft=draft, pace=pace).due
    assert found is not None
    return found.act, (found.on - DAY).days


class ActByAct(unittest.TestCase):
    def test_count_spray_look_and_again_until_two_looks_find_hardly_any(self) -> None:
        done = [count(0, 40)]
        self.assertEqual(due(), (Act.COUNT, 0))
        self.assertEqual(due(*done), (Act.SPRAY, 0))
        done.append(spray(0))
        self.assertEqual(due(*done), (Act.COUNT, 3))
        done.append(count(3, 8))
        self.assertEqual(due(*done), (Act.SPRAY, 5))  # as the pest's eggs call for
        done += [spray(6), count(9, 1)]
        self.assertEqual(due(*done), (Act.COUNT, 16))  # eggs and survivors show in a week
        done.append(count(16, 2))
        found = stands(*done)
        self.assertIsNone(found.due)
        self.assertIn("as good as gone", found.ended)
        self.assertEqual(found.left, (0.2, 0.025, 0.05))

    def test_counted_again_on_a_day_the_later_number_holds(self) -> None:
        done = [count(0, 20), count(0, 40), spray(0), count(3, 1), count(3, 2)]
        self.assertEqual(stands(*done).left, (0.05,))
        self.assertEqual(stands(*done, count(5, 0)).ended, "")  # two days are no proof
        self.assertIn("as good as gone", stands(*done, count(5, 0), count(8, 1)).ended)

    def test_one_that_comes_back_is_treated_again(self) -> None:
        done = [count(0, 40), spray(0), count(3, 1), count(10, 12)]
        self.assertEqual(due(*done), (Act.SPRAY, 10))  # five days after the first have passed

    def test_what_it_found_is_told_beside_the_trial_and_claims_nothing(self) -> None:
        self.assertEqual(stands(count(0, 40), spray(0)).said, "")
        said = stands(count(0, 40), spray(0), count(3, 8)).said
        for words in ("80% fewer", "40, then 8 a plant", "5 plants", "85%", "70% to 93%"):
            self.assertIn(words, said)
        self.assertIn("proves nothing", said)
        self.assertIn("25% more", stands(count(0, 40), spray(0), count(3, 50)).said)

    def test_it_ends_where_it_harms_fails_or_takes_too_long(self) -> None:
        begun = [count(0, 40), spray(0)]
        self.assertIn("marked", stands(*begun, count(3, 8, harmed=True)).ended)
        slow = [*begun, count(3, 35), spray(5)]
        self.assertIsNotNone(stands(*slow).due)  # one look is not enough to give up
        self.assertIn("less than half", stands(*slow, count(8, 30)).ended)
        half = [count(k, 18) for k in (3, 8, 13)]
        self.assertEqual(stands(*begun, *half).ended, "")
        self.assertIn("Not gone after 4 looks", stands(*begun, *half, count(18, 18)).ended)
        self.assertIn("nothing to treat", stands(count(0, 0)).ended)
        self.assertIn("You ended it on 3 Jun 2026", stands(*begun, ended=on(2)).ended)

    def test_kinds_never_tested_come_first_and_a_marked_leaf_stops_them(self) -> None:
        new = RestDraft(7, Which.ALL, "Shelf", 9, DAY, 40, kinds=("Fuchsias",))
        self.assertEqual(due(draft=new), (Act.PATCH, -2))
        on_leaf = Done(Act.PATCH, on(-2))
        self.assertEqual(due(on_leaf, draft=new), (Act.PATCH_LOOK, 0))
        passed = Done(Act.PATCH_LOOK, on(0))
        self.assertEqual(due(on_leaf, passed, draft=new), (Act.COUNT, 0))
        marked = Done(Act.PATCH_LOOK, on(0), harmed=True)
        again = stands(on_leaf, marked, draft=new).due
        assert again is not None
        self.assertIs(again.act, Act.PATCH)
        self.assertIn("weaker", again.why)
        # What is picked off by hand needs none.
        self.assertEqual(due(draft=new, pace=Pace(0, 1)), (Act.COUNT, 0))

    def test_a_remedy_of_days_of_its_own_is_given_on_them_and_looked_at_between(self) -> None:
        jet = Pace(0, look_days=3, every=1)
        done = [count(0, 40), spray(0)]
        self.assertEqual(due(*done, pace=jet), (Act.SPRAY, 1))
        done += [spray(1), spray(2)]
        self.assertEqual(due(*done, pace=jet), (Act.COUNT, 3))
        done.append(count(3, 20))
        self.assertEqual(due(*done, pace=jet), (Act.SPRAY, 3))
        card = Pace(0, look_days=7, once=True)
        self.assertEqual(due(count(0, 40), spray(0), count(7, 20), pace=card), (Act.COUNT, 14))

    def test_what_is_expected_is_what_each_time_leaves(self) -> None:
        self.assertEqual([round(x, 4) for x in expected_left(0.8)], [0.2, 0.04])
        self.assertEqual(len(expected_left(0.3)), 4)
        self.assertEqual(expected_left(1.0), (0.0,))


class Refused(unittest.TestCase):
    def field(self, *before: Done, done: Done, today: int = 30) -> str:
        """The field that is refused."""
        with self.assertRaises(InputError) as caught:
            check_done(done, stands(*before), before, on(today))
        return str(caught.exception.field)

    def test_acts_come_in_their_order_on_days_that_were(self) -> None:
        self.assertEqual(self.field(done=spray(0)), "act")  # nothing was counted before
        self.assertEqual(self.field(done=Done(Act.PATCH_LOOK, DAY)), "act")
        self.assertEqual(self.field(done=count(31, 4)), "on")
        self.assertEqual(self.field(count(5, 40), done=spray(4)), "on")
        self.assertEqual(self.field(done=Done(Act.COUNT, DAY, None, 5)), "pests")
        self.assertEqual(self.field(done=Done(Act.COUNT, DAY, 4.0, None)), "looked_at")
        self.assertEqual(self.field(done=Done(Act.COUNT, DAY, float("nan"), 5)), "pests")
        self.assertEqual(self.field(count(0, 0), done=spray(1)), "act")  # it is over
        begun = (count(0, 40), spray(0))
        check_done(count(1, 30), stands(*begun), begun, on(30))  # a look between is welcome
        check_done(spray(1), stands(*begun), begun, on(30))

    def test_a_draft_says_where_how_many_and_how_much(self) -> None:
        changes: dict[str, dict[str, Any]] = {
            "place": {"place": " "},
            "plants": {"plants": 0},
            "ml_each": {"ml_each": 0.0},
            "kinds": {"kinds": ("a", " ")},
        }
        for field, change in changes.items():
            told: dict[str, Any] = {
                "place": "Bed",
                "plants": 3,
                "ml_each": 40.0,
                "kinds": (),
                **change,
            }
            with self.subTest(field), self.assertRaises(InputError) as caught:
                check_rest(RestDraft(1, Which.SICK, start_on=DAY, **told))
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
