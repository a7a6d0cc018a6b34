"""A plan played through: moves, weather, sealed letters, and how often its verdicts are right."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.playing.garden import PlayedRemedy, PlayPlan, Spray, Truth, course, removed
from orthocris.core.playing.hindsight import hindsight
from orthocris.core.playing.lessons import About, lesson
from orthocris.core.playing.play import Board, Due, Move, play

PLAN = PlayPlan(
    (PlayedRemedy("Water only"), PlayedRemedy("Soap"), PlayedRemedy("Neem", 4)),
    plants=14,
    looks=(3, 7, 14),
    rounds=(0, 7),
)


def to_the_end(plan: PlayPlan, seed: int, spray: Move = Move.SPRAY) -> tuple[Board, list[Move]]:
    """Play it, with one and the same choice for each spray after the first."""
    moves: list[Move] = []
    board = play(plan, seed, moves)
    while board.choices:
        moves.append(spray if spray in board.choices else board.choices[0])
        board = play(plan, seed, moves)
    return board, moves


class Playing(unittest.TestCase):
    def test_the_same_moves_give_the_same_board_and_what_was_counted_stays(self) -> None:
        _, moves = to_the_end(PLAN, 3)
        half = play(PLAN, 3, moves[:4])
        whole = play(PLAN, 3, moves)
        for (day, then), (same, now) in zip(half.looks, whole.looks, strict=False):
            self.assertEqual(day, same)
            np.testing.assert_array_equal(then, now)
        self.assertEqual(whole.told, play(PLAN, 3, moves).told)

    def test_each_group_has_every_remedy_and_the_lot_differs_from_play_to_play(self) -> None:
        bench = play(PLAN, 3, []).bench
        for group in range(4):
            inside = bench.remedy[bench.block == group]
            self.assertLessEqual({0, 1, 2}, set(inside.tolist()))
        other = play(PLAN, 4, []).bench
        self.assertNotEqual(bench.remedy.tolist(), other.remedy.tolist())

    def test_the_letters_do_not_tell_the_remedies(self) -> None:
        seen = {tuple(play(PLAN, seed, []).bench.letter.tolist()) for seed in range(30)}
        self.assertGreater(len(seen), 4)

    def test_a_first_spray_waits_but_is_never_left_out(self) -> None:
        moves = [Move.COUNT]
        self.assertEqual(play(PLAN, 1, moves).choices, (Move.SPRAY, Move.WAIT))
        moves += [Move.WAIT] * 3
        self.assertEqual(play(PLAN, 1, moves).choices, (Move.SPRAY,))
        self.assertEqual(play(PLAN, 1, moves).station.day, 0)

    def test_a_later_round_waits_no_longer_than_the_next_look_allows(self) -> None:
        plan = replace(PLAN, looks=(3, 7, 9))
        moves = [Move.COUNT, Move.SPRAY, Move.COUNT, Move.COUNT, Move.WAIT]
        board = play(plan, 1, moves)
        self.assertEqual(board.station.day, 8)
        self.assertEqual(board.choices, (Move.SPRAY, Move.MISS))

    def test_rounds_left_out_remove_less(self) -> None:
        kept, _ = to_the_end(PLAN, 5)
        missed, _ = to_the_end(PLAN, 5, Move.MISS)
        self.assertEqual(len(missed.sprays), 1)
        best = int(kept.truth.kills.argmax())
        self.assertLess(
            removed(PLAN, missed.truth, missed.sprays, 14)[best],
            removed(PLAN, kept.truth, kept.sprays, 14)[best],
        )

    def test_moves_of_another_station_are_refused(self) -> None:
        for moves in ([Move.SPRAY], [Move.COUNT, Move.MISS], [Move.COUNT, Move.OPEN]):
            with self.assertRaises(InputError, msg=moves):
                play(PLAN, 1, moves)

    def test_what_cannot_be_played_is_refused_by_its_field(self) -> None:
        for field, plan in (
            ("plants", replace(PLAN, plants=5)),
            ("looks", replace(PLAN, looks=(7, 3))),
            ("looks", replace(PLAN, looks=(0, 3))),
            ("looks", replace(PLAN, rounds=(1, 7))),
            ("looks", replace(PLAN, looks=(3, 99))),
            ("remedies", replace(PLAN, remedies=(*PLAN.remedies, PlayedRemedy("soap ")))),
        ):
            with self.assertRaises(InputError) as caught:
                play(plan, 1, [])
            self.assertEqual(caught.exception.field, field)

    def test_percentages_are_played_as_such_and_shares_as_pests(self) -> None:
        cover, _ = to_the_end(replace(PLAN, measure="cover"), 2)
        self.assertLessEqual(max(v.max() for _, v in cover.looks), 100)
        eggs, _ = to_the_end(replace(PLAN, measure="hatched"), 2)
        assert eggs.verdict is not None
        self.assertEqual(eggs.verdict.measure, "live")


class World(unittest.TestCase):
    TRUTH = Truth(np.array([0.0, 0.8, 0.8]), rise=1.0, hatch=0.0, sunny=0.0)

    def test_what_a_spray_takes_comes_in_the_days_that_its_remedy_takes(self) -> None:
        dry = (Spray(0, 1.0),)
        np.testing.assert_allclose(removed(PLAN, self.TRUTH, dry, 1)[1:], [0.8, 1 - 0.2**0.25])
        np.testing.assert_allclose(removed(PLAN, self.TRUTH, dry, 14)[1:], [0.8, 0.8])

    def test_rain_and_hatching_leave_more(self) -> None:
        wet = removed(PLAN, self.TRUTH, (Spray(0, 0.4),), 14)[1]
        self.assertAlmostEqual(wet, 0.32)
        hatching = replace(self.TRUTH, hatch=0.05)
        self.assertLess(removed(PLAN, hatching, (Spray(0, 1.0),), 14)[1], 0.7)

    def test_untreated_plants_grow_by_the_week_and_faster_at_the_sunny_end(self) -> None:
        truth = replace(self.TRUTH, rise=1.5, sunny=0.2)
        ends = course(PLAN, truth, (), np.array([-1.0, 0.0, 1.0]))[7, 0]
        np.testing.assert_allclose(ends, 1.5 * np.exp([-0.2, 0.0, 0.2]))


class InTheEnd(unittest.TestCase):
    def test_two_hundred_plays_are_right_as_often_as_the_bench_says(self) -> None:
        _, moves = to_the_end(PLAN, 0)
        held: list[bool] = []
        false = wrong = named = 0
        for seed in range(200):
            board = play(PLAN, seed, moves)
            assert board.verdict is not None
            truth = dict(
                zip(
                    (r.name for r in PLAN.remedies),
                    removed(PLAN, board.truth, board.sprays, 14),
                    strict=True,
                )
            )
            for r in board.verdict.remedies:
                if r.efficacy_low is not None and r.efficacy_high is not None:
                    held.append(bool(r.efficacy_low <= truth[r.name] <= r.efficacy_high))
                false += r.beats_control and truth[r.name] <= 0
            named += board.verdict.recommended is not None
            best = max(truth, key=lambda name: truth[name])
            wrong += board.verdict.outcome == "winner" and board.verdict.recommended != best
        self.assertGreater(np.mean(held), 0.92)
        self.assertLess(false, 14)
        self.assertLess(wrong, 10)
        self.assertGreater(named, 30)

    def test_the_truth_lies_beside_what_was_said_and_other_ways_beneath(self) -> None:
        judged = set()
        for seed in range(12):
            board, _ = to_the_end(PLAN, seed)
            told = hindsight(board, seed)
            judged.add(told.right)
            self.assertEqual([w.code for w in told.what_if], ["more", "control", "lot", "wait"])
            self.assertEqual({t.name for t in told.remedies}, {"Soap", "Neem"})
            self.assertIn("28 plants", told.what_if[0].title)
            for one in told.what_if:
                self.assertRegex(one.says, r"^[A-Z].*\.$")
        self.assertIn(True, judged)

    def test_nothing_is_opened_before_the_verdict_was_read(self) -> None:
        _, moves = to_the_end(PLAN, 1)
        self.assertIsNone(play(PLAN, 1, moves[:-2]).verdict)
        self.assertIs(play(PLAN, 1, moves[:-1]).station.due, Due.OPEN)
        with self.assertRaises(InputError):
            hindsight(play(PLAN, 1, moves[:-2]), 1)


class Lessons(unittest.TestCase):
    def test_without_the_thing_more_gardens_mislead(self) -> None:
        short = PlayPlan(PLAN.remedies[:2], 12, (2, 5, 9), (0, 5))
        cases = [(PLAN, about) for about in About] + [(short, About.CONTROL), (short, About.LOT)]
        for plan, about in cases:
            told = lesson(plan, about, 1)
            self.assertEqual((len(told.without), len(told.with_)), (200, 200))
            self.assertGreater(told.fooled, told.fooled_with + 0.05, about)
            self.assertIn(f"{round(200 * told.fooled)} of 200", told.says)


if __name__ == "__main__":
    unittest.main()
