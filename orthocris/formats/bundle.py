"""A trial in one file: a data package (tables as CSV, described in JSON) with its pictures."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from orthocris.core.counting.notebook import Note
from orthocris.formats.tidy_table import guarded_table

NOTES = ("note", "plant", "look", "leaf", "noted_at", "said", "seen", "picture")
MARKS = ("note", "x", "y", "stage")
TYPES = {
    **dict.fromkeys(("note", "look", "leaf", "added"), "integer"),
    **dict.fromkeys(("x", "y", "day", "value", "of", "effort"), "number"),
}
README = """A trial of home remedies, with everything that was counted in it.

table.csv         every number: plant, block, remedy, day after the first spray, measure, value
notes.csv         what was noted at plants; marks.csv: marks on their photos; pictures/: the photos
tables/           all that was kept of the trial, to bring it into a garden whole
verdict.json      the verdict as it was read, with the version and seed it was made by
datapackage.json  what the columns are (Data Package), and under "trial" what was asked and compared

Texts that a spreadsheet would take for formulas have a quote before them. Another garden takes the
trial in from this very file and judges its numbers anew.
"""
MOMENT = (1980, 1, 1, 0, 0, 0)  # the same trial makes the same file


def bundle(
    name: str,
    table: bytes | None,
    notes: Sequence[Note],
    plants: Mapping[int, str],
    pictures: Mapping[str, bytes],
    told: Mapping[str, object] | None = None,
    whole: Whole | None = None,
) -> bytes:
    """Return a trial as a ZIP file.

    Parameters
    ----------
    name:
        What the trial is called.
    table:
        Its tidy table, None while the key of the tags is sealed.
    notes, plants:
        The notes, and the names of the plants by id.
    pictures:
        The pictures by the names of their files.
    told:
        What `core.verdict.shared` tells of the trial, by which another garden judges its table.
    whole:
        All that was kept of it, where it may be brought into another garden.

    Notes
    -----
    ``datapackage.json`` follows the Data Package standard (Frictionless): each table is a
    resource with the names and types of its fields.
    """
    shown = {n.id: f"pictures/{n.picture.file}.jpg" for n in notes if n.picture is not None}
    files: dict[str, bytes] = {} if table is None else {"table.csv": table}
    files["notes.csv"] = guarded_table(
        NOTES,
        [
            (
                n.id,
                plants.get(n.plant_id, ""),
                n.look_number,
                n.sample or "",
                n.noted_at.isoformat(),
                n.said,
                " ".join(n.seen or ()),
                shown.get(n.id, ""),
            )
            for n in notes
        ],
    )
    files["marks.csv"] = guarded_table(
        MARKS,
        [
            (n.id, f"{mark.x:.4f}", f"{mark.y:.4f}", mark.stage)
            for n in notes
            if n.picture is not None
            for mark in n.picture.marks
        ],
    )
    if whole is not None and whole.verdict is not None:
        files["verdict.json"] = _json(whole.verdict)
    files["README.txt"] = README.encode()
    resources = _resources(files)
    extra: dict[str, object] = {} if told is None else {"trial": told}
    if whole is not None:
        files |= whole.tables.files
        resources += whole.tables.resources
        extra |= whole.tables.told
    return data_package("trial", name, files, resources, extra, pictures)


@dataclass(frozen=True, slots=True)
class Tables:
    """Tables of a garden as files, as they are described, and what is told of them together."""

    files: Mapping[str, bytes]
    resources: Sequence[Mapping[str, Any]]
    told: Mapping[str, object]


@dataclass(frozen=True, slots=True)
class Whole:
    """All that was kept of a trial, and the verdict on record with its version and seed."""

    tables: Tables
    verdict: Mapping[str, object] | None


def data_package(
    name: str,
    title: str,
    files: Mapping[str, bytes],
    resources: Sequence[Mapping[str, Any]],
    extra: Mapping[str, object],
    pictures: Mapping[str, bytes],
) -> bytes:
    """Return files and pictures as a ZIP with their description; the same make the same bytes."""
    described = {"name": name, "title": title, "resources": list(resources), **extra}
    shown = {f"pictures/{one}.jpg": content for one, content in pictures.items()}
    return _zipped({**files, **shown, "datapackage.json": _json(described)})


def _resources(files: Mapping[str, bytes]) -> list[Mapping[str, Any]]:
    return [
        {
            "name": path.removesuffix(".csv"),
            "path": path,
            "format": "csv",
            "encoding": "utf-8",
            "schema": {
                "fields": [
                    {"name": field, "type": TYPES.get(field, "string")}
                    for field in content.split(b"\n", 1)[0].decode().split(",")
                ]
            },
        }
        for path, content in files.items()
        if path.endswith(".csv")
    ]


def _json(value: object) -> bytes:
    return json.dumps(value, ensure_ascii=False, indent=2).encode()


def _zipped(files: Mapping[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for path, content in files.items():
            packed = zipfile.ZIP_STORED if path.endswith(".jpg") else zipfile.ZIP_DEFLATED
            archive.writestr(zipfile.ZipInfo(path, MOMENT), content, packed)
    return out.getvalue()
