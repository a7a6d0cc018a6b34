"""A table pasted from a spreadsheet: found by its header, whatever its columns are called."""

from __future__ import annotations

import unittest
from datetime import date

from orthocris.core.counting.pasted import Pasted, read_pasted
from orthocris.core.counting.said_dates import read_date, read_dates
from orthocris.core.trial.plan import Look

TODAY = date(2026, 5, 20)
LOOKS = (Look(1, 0, 0), Look(2, 1, 3), Look(3, 2, 7))
NAMES = ("live", "live pests", "aphids")


def table(text: str, month_first: bool | None = None, also: str = "") -> Pasted:
    """Read lines divided by semicolons."""
    rows = [line.split(";") for line in text.strip().splitlines()]
    found = read_pasted(rows, LOOKS, NAMES, TODAY, also=also, month_first=month_first)
    assert found is not None
    return found


class Headers(unittest.TestCase):
    def test_columns_are_found_by_name_in_any_order(self) -> None:
        for head in (
            "Treatment;pot;before;day 3;day 7",
            "remedy;Plant name;day 0;D3;after 7 days",
            "What;Plant no.;0;3;7",
            "Product;Tag;aphids before;aphids day 3;aphids 1 week",
            "got;pots;look 0;look 1;look 2",
        ):
            with self.subTest(head):
                found = table(f"{head}\nSoap;P1;12;4;0\nWater;P2;11;;9,5")
                self.assertEqual(found.left, ())
                self.assertEqual(
                    found.lines,
                    (
                        {"remedy": "Soap", "plant": "P1", "value/0": "12", "value/1": "4",
                         "value/2": "0"},
                        {"remedy": "Water", "plant": "P2", "value/0": "11", "value/2": "9,5"},
                    ),
                )  # fmt: skip

    def test_a_look_of_hours_is_found_by_its_name(self) -> None:
        looks = (*LOOKS[:1], Look(2, 1, 0, 3), Look(3, 2, 1), Look(4, 3, 1, 3))
        names = [f"Live pests, {look.when}" for look in looks[1:]]
        rows = [["plant", "before", *names], ["P1", "9", "1", "2", "3"]]
        found = read_pasted(rows, looks, NAMES, TODAY)
        assert found is not None
        (line,) = found.lines
        self.assertEqual([line[f"value/{k}"] for k in range(4)], ["9", "1", "2", "3"])

    def test_a_second_pest_has_columns_and_lines_of_its_own(self) -> None:
        line = {"plant": "P1", "remedy": "Soap", "value/0": "12", "other/0": "7", "value/2": "3"}
        found = table(
            "plant;remedy;aphids before;whiteflies before;aphids day 7;Whiteflies, day 7\n"
            "P1;Soap;12;7;3;",
            also="whiteflies",
        )
        self.assertEqual((found.lines, found.left), ((line,), ()))
        found = table(
            "plant;remedy;day;measure;value\nP1;Soap;0;live;12\nP1;Soap;0;whiteflies;7\n"
            "P1;Soap;7;aphids;3\nP1;Soap;7;thrips;9",
            also="whiteflies",
        )
        self.assertEqual((found.lines, found.left), ((line,), ()))

    def test_what_is_no_header_is_none(self) -> None:
        for line in ("P1;1;Soap;12", "12;4;0", "Pot 3;Soap;12", "", "S1;Water"):
            with self.subTest(line):
                rows = [line.split(";"), ["P2", "1", "Water", "9"]]
                self.assertIsNone(read_pasted(rows, LOOKS, NAMES, TODAY))

    def test_damage_block_and_what_nobody_knows(self) -> None:
        found = table("plant;block;weather;live day 7;leaf damage day 7\nP1;2;sunny;3;1")
        self.assertEqual(
            found.lines, ({"plant": "P1", "block": "2", "value/2": "3", "damage/2": "1"},)
        )
        self.assertEqual(found.left, ("weather",))

    def test_a_line_for_each_number_becomes_a_line_for_each_plant(self) -> None:
        found = table(
            "plant;block;remedy;day;measure;value;of;effort\n"
            "P1;1;Soap;0;live;12;;1\nP1;1;Soap;7;live;2;;1\nP1;1;Soap;7;damage;1;;1\n"
            "P1;1;Soap;7;helpers;3;;1\nP2;1;Water;0;live;9;;1"
        )
        self.assertEqual(
            found.lines,
            (
                {"plant": "P1", "block": "1", "remedy": "Soap", "value/0": "12", "value/2": "2",
                 "damage/2": "1"},
                {"plant": "P2", "block": "1", "remedy": "Water", "value/0": "9"},
            ),
        )  # fmt: skip

    def test_dates_in_names_and_in_a_column_tell_the_looks_and_their_days(self) -> None:
        wide = table("plant;6.4.2026;9.4.2026;13.4.2026\nP1;12;4;0")
        long = table("plant;date;count\nP1;6 Apr;12\nP1;April 9;4\nP1;13 April 2026;0")
        for found in (wide, long):
            self.assertEqual(
                found.lines, ({"plant": "P1", "value/0": "12", "value/1": "4", "value/2": "0"},)
            )
            days = (date(2026, 4, 6), date(2026, 4, 9), date(2026, 4, 13))
            self.assertEqual(found.looks, tuple(enumerate(days)))
            self.assertEqual(found.asked, ())

    def test_a_date_stands_beside_other_words_in_a_name(self) -> None:
        for days in (
            ("live 6.4.2026", "live 9.4.2026", "live 13.4.2026"),
            ("aphids 06/04", "aphids 09/04", "aphids 13/04"),
            ("alive 6 April", "alive Apr 9", "alive on 13 April"),
            ("2026-04-06 count", "2026-04-09 count", "2026-04-13 count"),
        ):
            with self.subTest(days):
                found = table(f"plant;{';'.join(days)}\nP1;12;4;0")
                self.assertEqual((found.left, found.asked), ((), ()))
                self.assertEqual(
                    found.lines, ({"plant": "P1", "value/0": "12", "value/1": "4", "value/2": "0"},)
                )

    def test_dates_that_can_be_two_are_asked_and_then_read_as_said(self) -> None:
        text = "plant;date;count\nP1;4/2/2026;12\nP1;4/5/2026;4"
        asked = table(text).asked
        self.assertEqual(
            [(a.text, a.on, a.other) for a in asked],
            [("4/2/2026", date(2026, 2, 4), date(2026, 4, 2)),
             ("4/5/2026", date(2026, 5, 4), date(2026, 4, 5))],
        )  # fmt: skip
        told = table(text, month_first=True)
        self.assertEqual(told.looks, ((0, date(2026, 4, 2)), (1, date(2026, 4, 5))))
        self.assertEqual(told.asked, ())


class Dates(unittest.TestCase):
    def test_as_people_write_them(self) -> None:
        for text in ("2026-04-06", "2026/4/6", "6.4.2026", "06.04.26", "6. 4.", "6 April",
                     "6th of April", "April 6, 2026", "Apr 6", "6-Apr-2026"):  # fmt: skip
            with self.subTest(text):
                found = read_date(text, TODAY)
                assert found is not None
                self.assertEqual((found.on, found.other), (date(2026, 4, 6), None))
        for text in ("", "soap", "12", "31.2.2026", "3.5", "P1-2", "0/0"):
            with self.subTest(text):
                found = read_date(text, TODAY)
                self.assertTrue(found is None or text == "3.5")

    def test_one_date_tells_the_order_of_all(self) -> None:
        days, asked = read_dates(["4/6/2026", "4/13/2026"], TODAY)
        self.assertEqual((days["4/6/2026"], asked), (date(2026, 4, 6), ()))
        days, asked = read_dates(["6/4/2026", "13/4/2026"], TODAY)
        self.assertEqual((days["6/4/2026"], asked), (date(2026, 4, 6), ()))
        # 4 June is still to come.
        self.assertEqual(read_dates(["4/6/2026"], TODAY)[0]["4/6/2026"], date(2026, 4, 6))

    def test_without_its_year_it_is_the_last_one(self) -> None:
        found = read_date("24.12.", TODAY)
        assert found is not None
        self.assertEqual(found.on, date(2025, 12, 24))


if __name__ == "__main__":
    unittest.main()
