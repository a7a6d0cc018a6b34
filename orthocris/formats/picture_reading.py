"""Reading a picture that came from outside, in a process of its own that may do little.

A picture of a few kilobytes can ask for gigabytes or for minutes: whoever reads it is bounded in
memory and time, and what it took is given back when it ends. `python -m` this module reads a
picture from its input and writes the kept one, or why there is none, to its output.
"""

from __future__ import annotations

import contextlib
import io
import os
import subprocess
import sys
import threading
from dataclasses import dataclass
from pathlib import Path

from PIL import Image, ImageOps, UnidentifiedImageError

from orthocris.core.errors import InputError, TooManyError

KINDS = ("JPEG", "PNG", "WEBP")
MOST_PIXELS = 60_000_000  # what a phone of today makes, and some more
MOST_SCANS = 40  # of a progressive JPEG, each a pass over all pixels; cameras make about ten
MOST_MEMORY = 1_500_000_000  # bytes
MOST_SECONDS = 12
LONGEST_SIDE = 1600  # pixels of what is kept
QUALITY = 85
_REFUSED = 3  # the process ends with this where the picture is at fault
_TURN = threading.Lock()  # one at a time: the others count meanwhile
_PATIENCE = 60.0  # seconds to wait for one's turn


@dataclass(frozen=True, slots=True)
class KeptPicture:
    """A picture as it is kept: JPEG, upright, small, with nothing told beside what it shows."""

    content: bytes
    width: int
    height: int


def as_kept(content: bytes) -> KeptPicture:
    """Return a picture as it is kept: turned upright, made smaller, its particulars removed.

    Place, time, device and thumbnail that a phone writes into a picture are gone; only the
    pixels are taken over.

    Raises
    ------
    InputError
        For what is no picture, is damaged, or asks for too much.
    TooManyError
        When so many wait that one's turn does not come.
    """
    if not _TURN.acquire(timeout=_PATIENCE):
        raise TooManyError("other pictures are being read", fix="Send it again in a minute.")
    try:
        done = subprocess.run(  # noqa: S603 - this very module
            [sys.executable, "-m", __name__],
            cwd=Path(__file__).parents[2],
            input=content,
            capture_output=True,
            timeout=2 * MOST_SECONDS,
            check=False,
        )
    except subprocess.TimeoutExpired:
        raise _refused("the picture takes too long to read", "too_large") from None
    finally:
        _TURN.release()
    head, _, rest = done.stdout.partition(b"\n")
    if done.returncode == _REFUSED:
        raise _refused(rest.decode(), head.decode())
    if done.returncode != 0:  # ended by its own limits
        raise _refused("the picture asks for too much time or memory", "too_large")
    width, height = map(int, head.split())
    return KeptPicture(rest, width, height)


def is_kept(content: bytes) -> bool:
    """Tell whether a picture is as `as_kept` makes them; only its first signs are read."""
    try:
        with Image.open(io.BytesIO(content), formats=["JPEG"]) as picture:
            return max(picture.size) <= LONGEST_SIDE
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return False


def _read(content: bytes) -> KeptPicture:
    """Read it here; raises InputError."""
    try:
        with Image.open(io.BytesIO(content), formats=KINDS) as image:
            if image.width * image.height > MOST_PIXELS:
                raise _refused(f"a picture of {image.width} by {image.height} pixels", "too_large")
            # No picture holds this pair of bytes elsewhere: in its pixels a zero follows 255.
            if image.format == "JPEG" and content.count(b"\xff\xda") > MOST_SCANS:
                raise _refused("a picture in too many scans", "too_large")
            image.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))  # quicker where it is far larger
            upright = ImageOps.exif_transpose(image).convert("RGB")
    except UnidentifiedImageError:
        raise _refused("this is no picture in a known form", "no_picture") from None
    except (Image.DecompressionBombError, MemoryError):
        raise _refused("a picture with too many pixels", "too_large") from None
    except (OSError, ValueError, SyntaxError, EOFError):
        raise _refused("the picture is damaged", "damaged_picture") from None
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    out = io.BytesIO()
    plain.save(out, "JPEG", quality=QUALITY)
    return KeptPicture(out.getvalue(), plain.width, plain.height)


def _bound() -> None:
    """Bound this process in memory and time, and let everybody else go first."""
    with contextlib.suppress(ImportError):  # a system without these bounds has the time of `run`
        import resource

        resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
        resource.setrlimit(resource.RLIMIT_CPU, (MOST_SECONDS, MOST_SECONDS))
        resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
        os.nice(5)


def _refused(what: str, code: str) -> InputError:
    return InputError(
        what,
        code=code,
        field="picture",
        fix="Send a JPEG, PNG or WebP picture of at most 60 million pixels; phones that make HEIC "
        "can be set to the most compatible form.",
    )


def _main() -> int:
    _bound()
    out = sys.stdout.buffer
    try:
        kept = _read(sys.stdin.buffer.read())
    except InputError as error:
        out.write(f"{error.code}\n{error.message}".encode())
        return _REFUSED
    out.write(f"{kept.width} {kept.height}\n".encode() + kept.content)
    return 0


if __name__ == "__main__":
    sys.exit(_main())
