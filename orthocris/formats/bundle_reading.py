"""A bundle that came from elsewhere, read with nothing of it believed."""

from __future__ import annotations

import io
import json
import stat
import struct
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from typing import Any, NoReturn

from orthocris.core.errors import InputError

MOST_BYTES, MOST_FILES, MOST_UNPACKED = 200_000_000, 20_000, 400_000_000
LONGEST_TABLE, LONGEST_TEXT = 12_000_000, 1_000_000
TABLE, DESCRIPTION = "table.csv", "datapackage.json"
# All that a wrong archive makes the library raise.
_FAULTS = (
    zipfile.BadZipFile,
    zipfile.LargeZipFile,
    NotImplementedError,
    RuntimeError,
    zlib.error,
    struct.error,
    EOFError,
    OSError,
    ValueError,
    KeyError,
    IndexError,
    OverflowError,
)


def read_bundle(content: bytes) -> tuple[object, bytes]:
    """Return what a bundle says of its trial, and its table (see `opened`)."""
    with opened(content) as found:
        return found.description.get("trial"), found.read(TABLE, LONGEST_TABLE)


@dataclass(frozen=True, slots=True)
class Opened:
    """A bundle whose outside is sound: its description and the names of its files."""

    archive: zipfile.ZipFile
    description: dict[str, Any]
    names: frozenset[str]

    def read(self, name: str, longest: int) -> bytes:
        """Return a file of it, or raise InputError where it is not there or longer."""
        with _told_of():
            return _part(self.archive, name, longest)


@contextmanager
def opened(content: bytes) -> Iterator[Opened]:
    """Yield a bundle; nothing is unpacked to a folder.

    Raises
    ------
    InputError
        When it is no archive, too large (packed or unpacked), encrypted, names files outside
        itself, holds one twice or links, or lacks its description or a file asked for.
    """
    if len(content) > MOST_BYTES:
        _refuse(f"it has more than {MOST_BYTES // 1_000_000} megabytes", "too_large")
    with ExitStack() as held:
        with _told_of():
            archive = held.enter_context(zipfile.ZipFile(io.BytesIO(content)))
            _check_names(archive.infolist())
            description = _description(_part(archive, DESCRIPTION, LONGEST_TEXT))
        yield Opened(archive, description, frozenset(archive.namelist()))


@contextmanager
def _told_of() -> Iterator[None]:
    """Say of all that a wrong archive makes the library raise that it is one."""
    try:
        yield
    except InputError:
        raise
    except _FAULTS as error:
        _refuse(f"it is no whole ZIP file ({type(error).__name__})", "bad_bundle")


def _description(content: bytes) -> dict[str, Any]:
    try:
        plain = json.loads(content.decode("utf-8"), parse_constant=_no_constant)
    except (ValueError, RecursionError) as error:
        _refuse(f"{DESCRIPTION} cannot be read ({type(error).__name__})", "bad_bundle")
    if not isinstance(plain, dict):
        _refuse(f"{DESCRIPTION} is no description", "bad_bundle")
    return plain


def is_bundle(content: bytes) -> bool:
    """Tell a bundle from a table by its first signs."""
    return content[:4] in (b"PK\x03\x04", b"PK\x05\x06")


def _check_names(files: list[zipfile.ZipInfo]) -> None:
    if len(files) > MOST_FILES:
        _refuse(f"it holds more than {MOST_FILES} files", "too_large")
    if sum(one.file_size for one in files) > MOST_UNPACKED:
        _refuse(f"unpacked it has more than {MOST_UNPACKED // 1_000_000} megabytes", "too_large")
    names = [one.filename for one in files]
    if len(set(names)) != len(names):
        _refuse("it holds a file twice", "bad_bundle")
    for one in files:
        parts = one.filename.replace("\\", "/").split("/")
        if one.filename.startswith(("/", "\\")) or ".." in parts or ":" in one.filename:
            _refuse(f"it names a file outside itself ({one.filename[:60]!r})", "bad_bundle")
        if stat.S_ISLNK(one.external_attr >> 16):
            _refuse(f"it holds a link ({one.filename[:60]!r})", "bad_bundle")
        if one.flag_bits & 1:
            _refuse("it is encrypted", "bad_bundle")


def _part(archive: zipfile.ZipFile, name: str, longest: int) -> bytes:
    if name not in archive.namelist():
        _refuse(f"it has no {name}", "bad_bundle")
    with archive.open(name) as file:
        found = file.read(longest + 1)
    if len(found) > longest:
        _refuse(f"{name} has more than {longest // 1_000_000} megabytes", "too_large")
    return found


def _no_constant(text: str) -> NoReturn:
    raise ValueError(text)


def _refuse(what: str, code: str) -> NoReturn:
    raise InputError(
        what,
        code=code,
        field="file",
        fix="Choose a bundle that a trial's verdict page saved; if it is one, ask for it anew.",
    )
