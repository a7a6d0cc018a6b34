"""Reading and writing the tidy table."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from orthocris.core import Observation
from orthocris.formats.tidy_table import TableError, read_table, write_table

FORMULAS = st.sampled_from(["=1+1", "+3", "-2+5", "@SUM(A1)", "'=x", "''y", "'", "'plain"])
NAMES = FORMULAS | st.text(
    st.characters(exclude_categories=("Cs", "Cc")), min_size=1, max_size=12
).filter(lambda s: s == s.strip() and s != "")


class TidyTable(unittest.TestCase):
    @given(
        st.lists(
            st.builds(
                Observation,
                plant=NAMES,
                block=st.none() | NAMES,
                remedy=NAMES,
                day=st.floats(-5, 60),
                measure=st.just("live"),
                value=st.integers(0, 10**6).map(float),
                of=st.none(),
                effort=st.floats(0.1, 100),
                column=st.none() | NAMES,
                group=st.none() | NAMES,
                added=st.integers(0, 2),
            ),
            min_size=1,
            max_size=8,
        )
    )
    @settings(max_examples=80, deadline=None)
    def test_round_trip(self, observations: list[Observation]) -> None:
        self.assertEqual(read_table(write_table(observations))[0], observations)

    def test_no_name_is_a_formula_to_a_spreadsheet(self) -> None:
        seen = [Observation(name, "-b", "@r", 7, "live", 3) for name in ("=1+1", "+x", "'=y")]
        text = write_table(seen).decode()
        for line in text.splitlines()[1:]:
            for cell in line.split(",")[:3]:
                self.assertNotIn(cell[:1], "=+-@")

    def test_what_people_save_is_read(self) -> None:
        text = (
            '\ufeffPlant,Remedy,day,value,note\r\n"S1, left",soap,7,3,x\r\n\r\nS2,control,7,9,\r\n'
        )
        observations, lines = read_table(text.encode())
        self.assertEqual([o.plant for o in observations], ["S1, left", "S2"])
        self.assertEqual(lines, [2, 4])
        self.assertEqual((observations[0].measure, observations[0].effort), ("live", 1.0))

    def test_faults_name_line_and_column(self) -> None:
        head = "plant,remedy,day,value\n"
        cases = {
            b"": (1, None),
            head.encode(): (1, None),
            b"plant,remedy,day\nS1,soap,7\n": (1, "value"),
            b"plant;remedy;day;value\nS1;soap;7;3\n": (1, "plant"),
            f"{head}S1,soap,7,3\nS2,soap,7,many\n".encode(): (3, "value"),
            f"{head}S1,soap,7,1_000\n".encode(): (2, "value"),
            f"{head}S1,soap,,3\n".encode(): (2, "day"),
            f"{head},soap,7,3\n".encode(): (2, "plant"),
            f"{head}S1,soap,7\n".encode(): (2, None),
            head.encode() + b"S\xff,soap,7,3\n": (2, None),
            f'{head}"S1,soap,7,3\n'.encode(): (2, None),
        }
        for content, (line, column) in cases.items():
            with self.subTest(content), self.assertRaises(TableError) as caught:
                read_table(content)
            self.assertEqual((caught.exception.line, caught.exception.column), (line, column))


if __name__ == "__main__":
    unittest.main()
