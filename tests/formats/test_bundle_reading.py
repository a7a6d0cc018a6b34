"""Bundles of strangers: ten thousand hostile ones, each refused with a reason or harmless."""

from __future__ import annotations

import io
import json
import random
import stat
import unittest
import zipfile
from collections.abc import Mapping
from unittest.mock import patch

from orthocris.core.errors import InputError
from orthocris.core.verdict.shared import check_numbers, shared_from
from orthocris.formats.bundle import bundle
from orthocris.formats.bundle_reading import is_bundle, read_bundle
from orthocris.formats.tidy_table import read_table, write_table
from tests.core.verdict.gardens import trial
from tests.core.verdict.test_shared import GOOD

SEEN = trial({"control": (40, 38, 52, 29), "soap": (4, 3, 5, 2)})
MADE = bundle("Lupins", write_table(SEEN), (), {}, {}, GOOD.to_plain())
HOSTILE = 10_000


def packed(files: Mapping[str, bytes], kind: int = zipfile.ZIP_DEFLATED) -> bytes:
    """A ZIP file of these."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", kind) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return out.getvalue()


def parts() -> dict[str, bytes]:
    """The files of a good bundle."""
    with zipfile.ZipFile(io.BytesIO(MADE)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def take(content: bytes) -> None:
    """Read a bundle as far as the judge."""
    plain, table = read_bundle(content)
    check_numbers(shared_from(plain), read_table(table)[0])


class Reading(unittest.TestCase):
    def refused(self, content: bytes) -> str:
        with self.assertRaises(InputError) as caught:
            take(content)
        self.assertTrue(caught.exception.fix)
        return caught.exception.message

    def test_a_good_one_is_read_to_the_same(self) -> None:
        self.assertTrue(is_bundle(MADE))
        self.assertFalse(is_bundle(write_table(SEEN)))
        plain, table = read_bundle(MADE)
        self.assertEqual(shared_from(plain), GOOD)
        self.assertEqual(read_table(table)[0], SEEN)
        described = json.loads(parts()["datapackage.json"])
        fields = {f["name"]: f["type"] for f in described["resources"][0]["schema"]["fields"]}
        self.assertEqual((fields["plant"], fields["value"]), ("string", "number"))

    def test_bombs_paths_links_and_twins_are_refused(self) -> None:
        big = {**parts(), "table.csv": b"0" * 13_000_000}
        self.assertIn("12 megabytes", self.refused(packed(big)))
        nested = {**parts(), **{f"{k}.bin": b"0" * 50_000_000 for k in range(9)}}
        self.assertIn("400 megabytes", self.refused(packed(nested)))
        many = {**parts(), **{f"{k}": b"" for k in range(20_001)}}
        self.assertIn("20000 files", self.refused(packed(many)))
        for name in ("../../etc/x", "/etc/x", "a/../../x", "C:x", "..\\x", "\\x"):
            self.assertIn("outside itself", self.refused(packed({**parts(), name: b""})))
        link = zipfile.ZipInfo("link")
        link.external_attr = (stat.S_IFLNK | 0o777) << 16
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            archive.writestr(link, "/etc/passwd")
        self.assertIn("a link", self.refused(out.getvalue()))
        twice = io.BytesIO()
        with zipfile.ZipFile(twice, "w") as archive, self.assertWarns(UserWarning):
            archive.writestr("table.csv", "a")
            archive.writestr("table.csv", "b")
        self.assertIn("twice", self.refused(twice.getvalue()))
        with patch("orthocris.formats.bundle_reading.MOST_BYTES", 1_000_000):
            self.assertIn("1 megabytes", self.refused(b"PK\3\4" + bytes(1_000_001)))

    def test_what_is_missing_or_no_description_is_said(self) -> None:
        for name in ("table.csv", "datapackage.json"):
            left = {k: v for k, v in parts().items() if k != name}
            self.assertIn(f"no {name}", self.refused(packed(left)))
        for text in (b"[]", b"{", b"\xff", b'{"trial": NaN}', b"[" * 100_000, b"9" * 5000, b'""'):
            self.refused(packed({**parts(), "datapackage.json": text}))
        self.refused(b"")
        self.refused(b"PK\5\6" + bytes(18))

    def test_ten_thousand_hostile_ones_do_no_harm(self) -> None:
        """Bytes flipped, cut, doubled; values of the description swapped for others."""
        rng = random.Random(20)
        good, through = parts(), 0
        values: list[object] = [
            None,
            True,
            -1,
            1e308,
            10**30,
            "",
            "x" * 5000,
            [],
            {},
            [[]],
            "\0",
            "=1+1",
            -0.0,
        ]
        for number in range(HOSTILE):
            if number % 2:
                content = bytearray(MADE)
                for _ in range(rng.randint(1, 8)):
                    content[rng.randrange(len(content))] = rng.randrange(256)
                hostile = (
                    bytes(content[: rng.randint(0, len(content))]) if number % 3 else bytes(content)
                )
            else:
                plain = json.loads(good["datapackage.json"])
                spot = rng.choice([plain["trial"], *plain["trial"]["remedies"]])
                spot[rng.choice(list(spot))] = rng.choice(values)
                table = good["table.csv"]
                if number % 4:
                    at = rng.randrange(len(table))
                    table = (
                        table[:at] + rng.choice([b",", b"\n", b'"', b"-9", b"x"]) + table[at + 1 :]
                    )
                hostile = packed(
                    {"datapackage.json": json.dumps(plain).encode(), "table.csv": table},
                    zipfile.ZIP_STORED,
                )
            try:
                take(hostile)
                through += 1  # what was changed says nothing, or says something that may be
            except InputError as error:
                self.assertTrue(error.message and error.fix)
        self.assertLess(through, HOSTILE / 4)
