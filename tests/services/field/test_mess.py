"""What bottles were like to use: said by letter while blind, told by remedy in the verdict."""

from __future__ import annotations

from orthocris.core.errors import InputError, NotFoundError
from orthocris.core.trial.mess import RoundMess, mess_words
from orthocris.services.field import mess
from orthocris.services.verdict import judging
from tests.services.world import ServiceCase


class Mess(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.count_all(0, soap=20, water=20)
        self.spray_all()
        self.letters = {r.name: r.letter or "" for r in self.trial.remedies}

    def test_it_is_said_by_letter_can_be_corrected_and_stands_with_the_price(self) -> None:
        soap = self.letters["Soap"]
        mess.say_mess(self.context, self.trial_id, 1, soap, ["clogs", "stains"])
        said = mess.say_mess(self.context, self.trial_id, 1, soap, ["clogs", "clogs"])
        self.assertEqual(said, {soap: ("clogs",)})
        self.assertEqual(mess.mess_in(self.context, self.trial_id, 2), {})
        self.later(3)
        self.count_all(1, soap=2, water=20)
        self.open_key()
        found = judging.verdict_of(self.context, self.trial_id, 1)
        self.assertEqual(found.mess, {"Soap": "clogs the nozzle"})

    def test_dry_leaves_are_answered_for_each_and_look_one_way(self) -> None:
        soap, water = self.letters["Soap"], self.letters["Water"]
        mess.say_mess(self.context, self.trial_id, 1, water, ["dull"])
        said = mess.say_mess(self.context, self.trial_id, 1, soap, ["eggs", "shiny"])
        self.assertEqual(said, {soap: ("eggs", "shiny"), water: ("dull",)})
        with self.assertRaises(InputError) as caught:
            mess.say_mess(self.context, self.trial_id, 1, soap, ["shiny", "sticky"])
        self.assertEqual(caught.exception.code, "one_dry_leaf")
        self.assertEqual(mess.mess_in(self.context, self.trial_id, 1), said)
        self.assertEqual(
            mess_words([RoundMess(1, 7, ("eggs", "shiny"))], 7),
            "leaves eggs on, even gloss once dry: enough",
        )

    def test_a_letter_or_round_that_is_not_there_is_refused(self) -> None:
        with self.assertRaises(InputError):
            mess.say_mess(self.context, self.trial_id, 1, "Z", [])
        with self.assertRaises(NotFoundError):
            mess.say_mess(self.context, self.trial_id, 9, "A", [])

    def test_rounds_in_which_it_was_so_are_counted(self) -> None:
        said = [
            RoundMess(1, 7, ("smells", "clogs")),
            RoundMess(2, 7, ("smells",)),
            RoundMess(2, 8, ()),
        ]
        self.assertEqual(mess_words(said, 7), "smells, clogs the nozzle (1 of 2 rounds)")
        self.assertEqual((mess_words(said, 8), mess_words(said, 9)), ("fine", ""))
