"""Tables as CSV: whatever was kept comes back as it was, and no spreadsheet runs any of it."""

from __future__ import annotations

import csv
import io
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from orthocris.core.shapes import Column, Row, Shape
from orthocris.formats.garden_package import described, lines_of, written
from orthocris.formats.tidy_table import FORMULA_SIGNS

SHAPE = Shape(
    "note",
    (
        Column("id", "INTEGER", required=True),
        Column("trial_id", "INTEGER", required=False),
        Column("value", "REAL", required=False),
        Column("said", "TEXT", required=True),
        Column("reason", "TEXT", required=False),
    ),
    ("id",),
    {"trial_id": "trial"},
)
IDS = st.integers(1, 10**12)
WORDS = st.text(st.characters(exclude_categories=["Cs"]), max_size=12) | st.sampled_from(
    ["", "'", "''", "=1+1", "'=1", "-3", "@x", "\t", "\r", "\r\n", '"', ",", "\\N", "NULL", " "]
)
ROWS = st.lists(
    st.tuples(
        IDS,
        st.none() | IDS,
        st.none() | st.floats(allow_nan=False, allow_infinity=False),
        WORDS,
        st.none() | WORDS,
    ),
    max_size=6,
)


class Cells(unittest.TestCase):
    @given(rows=ROWS)
    @settings(max_examples=400, deadline=None)
    def test_whatever_was_kept_comes_back(self, rows: list[Row]) -> None:
        content = written(SHAPE, rows)
        back = [row for _, row in lines_of(SHAPE, content)]
        self.assertEqual(back, rows)
        self.assertEqual([list(map(type, row)) for row in back], [list(map(type, r)) for r in rows])
        table = csv.reader(io.StringIO(content.decode(), newline=""))
        for row in list(table)[1:]:
            for cell in row[3:]:
                self.assertFalse(cell.startswith(FORMULA_SIGNS), cell)

    def test_columns_may_stand_in_any_order_and_lines_are_counted_as_they_stand(self) -> None:
        told = b'said,id,reason,value,trial_id\r\n"two\r\nlines",1,,,\r\nx,2,\',-0.5,7\r\n'
        self.assertEqual(
            list(lines_of(SHAPE, told)),
            [(2, (1, None, None, "two\r\nlines", None)), (4, (2, 7, -0.5, "x", ""))],
        )

    def test_the_description_names_types_key_and_references(self) -> None:
        plain = described(SHAPE)["schema"]
        self.assertEqual(
            [f["type"] for f in plain["fields"]][:4], ["integer"] * 2 + ["number", "string"]
        )
        self.assertEqual(plain["primaryKey"], ["id"])
        self.assertEqual(plain["foreignKeys"][0]["reference"]["resource"], "trial")
