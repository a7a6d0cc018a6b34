"""What the program knows of pests and dangers: data files, and the loader that checks them."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from orthocris.core.cautions import Caution
from orthocris.core.measures import measure_named


@dataclass(frozen=True, slots=True)
class Pest:
    """A pest or disease: how it is counted, and the usual days for looks and rounds."""

    key: str
    name: str
    kind: str
    measure: str
    count_what: str
    where: str
    dead_or_alive: str
    look_days: tuple[int, ...]
    round_days: tuple[int, ...]


@cache
def pests() -> tuple[Pest, ...]:
    """Return the pests and diseases shipped, checked."""
    found = tuple(
        Pest(
            **{
                **entry,
                "look_days": tuple(entry["look_days"]),
                "round_days": tuple(entry["round_days"]),
            }
        )
        for entry in _read("pests.json")
    )
    for pest in found:
        measure_named(pest.measure)
    return found


def pest_named(key: str) -> Pest | None:
    """Return a pest by its key, or None for one of the gardener's own."""
    return next((pest for pest in pests() if pest.key == key), None)


@cache
def cautions() -> tuple[Caution, ...]:
    """Return the cautions shipped."""
    return tuple(
        Caution(entry["key"], tuple(entry["words"]), tuple(entry["texts"]))
        for entry in _read("cautions.json")
    )


def _read(name: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = json.loads(
        files("orthocris.knowledge").joinpath(name).read_text("utf-8")
    )
    return found
