"""Pictures as they are kept: small, upright, and without what a phone writes into them."""

from __future__ import annotations

import io
import resource
import struct
import time
import unittest
import zlib
from concurrent.futures import ThreadPoolExecutor

import numpy as np
from PIL import Image

from orthocris.core.errors import InputError
from orthocris.formats.picture_reading import as_kept
from orthocris.formats.pictures import overlay, pixels


def photo(width: int = 2400, height: int = 1800) -> bytes:
    """A photo on its side that tells where it was made."""
    image = Image.new("RGB", (width, height), (60, 120, 40))
    image.paste((250, 250, 250), (0, 0, width // 2, height // 2))
    told = Image.Exif()
    told[0x0112] = 6  # to be turned by a quarter
    told.get_ifd(0x8825)[2] = (52.0, 30.0, 0.0)  # latitude
    out = io.BytesIO()
    image.save(out, "JPEG", exif=told, comment=b"roof of Quillon Yard")
    return out.getvalue()


class Kept(unittest.TestCase):
    def test_it_is_upright_smaller_and_tells_nothing_of_place_or_device(self) -> None:
        content = photo()
        self.assertIn(b"Quillon", content)
        kept = as_kept(content)
        self.assertEqual((kept.width, kept.height), (1200, 1600))
        with Image.open(io.BytesIO(kept.content)) as image:
            self.assertEqual((dict(image.getexif()), "comment" in image.info), ({}, False))
        self.assertNotIn(b"Quillon", kept.content)
        # Turned: what was white at the upper left is now at the upper right.
        self.assertGreater(pixels(kept.content)[100, 1100].min(), 0.9)

    def test_other_kinds_are_taken_and_clear_parts_are_no_fault(self) -> None:
        for kind, mode in (("PNG", "RGBA"), ("WEBP", "RGB"), ("PNG", "P"), ("PNG", "I;16")):
            out = io.BytesIO()
            Image.new(mode, (40, 30)).save(out, kind)
            with self.subTest(kind=kind, mode=mode):
                self.assertEqual(as_kept(out.getvalue()).width, 40)

    def test_what_is_no_picture_is_refused_in_words(self) -> None:
        whole = photo(400, 300)
        claims = struct.pack(">IIBBBBB", 100_000, 100_000, 8, 2, 0, 0, 0)
        header = b"IHDR" + claims
        bomb = b"\x89PNG\r\n\x1a\n" + struct.pack(">I", 13) + header
        bomb += struct.pack(">I", zlib.crc32(header)) + b"\0\0\0\0IEND\xaeB`\x82"
        gif = io.BytesIO()
        Image.new("RGB", (4, 4)).save(gif, "GIF")
        for content in (b"", b"plant", whole[: len(whole) // 3], bomb, gif.getvalue()):
            with self.subTest(content=content[:12]), self.assertRaises(InputError) as caught:
                as_kept(content)
            self.assertEqual(caught.exception.field, "picture")

    def test_what_asks_for_too_much_is_refused_soon_and_takes_nothing_of_the_program(self) -> None:
        """A page of scans over many pixels, and pixels by the gigabyte out of few bytes."""
        many = io.BytesIO()
        Image.new("L", (7_000, 7_000)).save(many, "JPEG", progressive=True)
        content = many.getvalue()
        last = content.rindex(b"\xff\xda")
        scans = content[:-2] + content[last:-2] * 200 + b"\xff\xd9"
        wide = io.BytesIO()
        Image.new("RGBA", (9_000, 9_000)).save(wide, "PNG", compress_level=9)
        before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        for name, sent in (("scans", scans), ("pixels", wide.getvalue())):
            began = time.monotonic()
            with self.subTest(name), self.assertRaises(InputError) as caught:
                as_kept(sent)
            self.assertEqual(caught.exception.code, "too_large")
            self.assertLess(time.monotonic() - began, 20)
        largest = io.BytesIO()
        Image.new("RGBA", (7_700, 7_700)).save(largest, "PNG")
        with ThreadPoolExecutor(8) as crowd:
            for kept in crowd.map(as_kept, [largest.getvalue()] * 4):
                self.assertEqual(kept.width, 1600)
        after = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        self.assertLess(after - before, 100_000)  # kB, where one alone decodes to 240,000

    def test_a_mask_is_laid_over_as_a_clear_picture(self) -> None:
        mask = np.zeros((30, 40), np.bool_)
        mask[:10] = True
        with Image.open(io.BytesIO(overlay(mask))) as image:
            alpha = np.asarray(image.convert("RGBA"))[..., 3]
        self.assertTrue((alpha[:10] > 100).all() and (alpha[10:] == 0).all())
