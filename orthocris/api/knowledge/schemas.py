"""What the program knows, over HTTP."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from orthocris.api.base import Out


class MeasureOut(Out):
    """What can be counted."""

    key: str
    label: str
    noun: str
    scale: str
    upper: float
    judged: bool


class PestOut(Out):
    """A pest or disease and how it is counted."""

    key: str
    name: str
    kind: str
    measure: str
    count_what: str
    where: str
    dead_or_alive: str
    look_days: tuple[int, ...]
    round_days: tuple[int, ...]
    signs: dict[str, int]
    tell_tale: str
    look_alikes: tuple[str, ...]
    sample_unit: str
    stages: tuple[str, ...]
    measures: tuple[str, ...]
    tolerance_share: float
    tolerance: str
    helpers: tuple[str, ...]
    generation_days: int
    first_aid: str
    synonyms: tuple[str, ...]
    cannot_work: dict[str, str]


class SignOut(Out):
    """Something that can be seen."""

    key: str
    text: str
    part: str
    drawing: str | None


class Knowledge(BaseModel):
    """What the program knows beforehand."""

    pests: tuple[PestOut, ...]
    measures: tuple[MeasureOut, ...]
    signs: tuple[SignOut, ...]


class Health(BaseModel):
    """Whether the application is ready."""

    status: Literal["ok"]
    version: str
