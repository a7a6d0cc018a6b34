"""A trial in one file: a data package (tables as CSV, described in JSON) with its pictures."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Mapping, Sequence

from orthocris.core.counting.notebook import Note
from orthocris.formats.tidy_table import guarded

NOTES = ("note", "plant", "look", "leaf", "noted_at", "said", "seen", "picture")
MARKS = ("note", "x", "y", "stage")
TYPES = {"note": "integer", "look": "integer", "leaf": "integer", "x": "number", "y": "number"}
MOMENT = (1980, 1, 1, 0, 0, 0)  # the same trial makes the same file


def bundle(
    name: str,
    table: bytes | None,
    notes: Sequence[Note],
    plants: Mapping[int, str],
    pictures: Mapping[str, bytes],
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

    Notes
    -----
    ``datapackage.json`` follows the Data Package standard (Frictionless): each table is a
    resource with the names and types of its fields.
    """
    shown = {n.id: f"pictures/{n.id}.jpg" for n in notes if n.picture is not None}
    files: dict[str, bytes] = {} if table is None else {"table.csv": table}
    files["notes.csv"] = _csv(
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
    files["marks.csv"] = _csv(
        MARKS,
        [
            (n.id, f"{mark.x:.4f}", f"{mark.y:.4f}", mark.stage)
            for n in notes
            if n.picture is not None
            for mark in n.picture.marks
        ],
    )
    files |= {
        shown[n.id]: pictures[n.picture.file]
        for n in notes
        if n.picture is not None and n.picture.file in pictures
    }
    files["datapackage.json"] = _description(name, files)
    return _zipped(files)


def _csv(header: Sequence[str], rows: Sequence[Sequence[object]]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(header)
    for row in rows:
        writer.writerow([guarded(cell) if isinstance(cell, str) else cell for cell in row])
    return out.getvalue().encode()


def _description(name: str, files: Mapping[str, bytes]) -> bytes:
    resources = [
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
        if path in ("notes.csv", "marks.csv")
    ]
    if "table.csv" in files:
        resources.insert(0, {"name": "table", "path": "table.csv", "format": "csv"})
    described = {"name": "trial", "title": name, "resources": resources}
    return json.dumps(described, ensure_ascii=False, indent=2).encode()


def _zipped(files: Mapping[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for path, content in files.items():
            packed = zipfile.ZIP_STORED if path.endswith(".jpg") else zipfile.ZIP_DEFLATED
            archive.writestr(zipfile.ZipInfo(path, MOMENT), content, packed)
    return out.getvalue()
