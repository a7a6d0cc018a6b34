"""What is written or photographed at a plant, and the marks a picture is counted by."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from orthocris.core.counting.leaf.scene import STAGES, Stage
from orthocris.core.errors import InputError

HALF_WAY = 0.5  # the usual threshold of cover: from healthy green to no green at all
LONGEST = 2000  # letters of a note
# What else people judge a plant by, beside counts: kinds of leaf damage, then how it fares.
Seen = Literal[
    "spots",
    "edge_burn",
    "yellowing",
    "drop",
    "bloom_lost",
    "wilting",
    "new_growth",
    "flowers",
    "fruit",
    "sticky",
    "ants",
    "eggs_dropped",
    "eggs_eaten",
    "eggs_destroyed",
]
DAMAGE_KINDS: dict[Seen, str] = {
    "spots": "spots",
    "edge_burn": "burnt edges",
    "yellowing": "yellowing",
    "drop": "leaves dropped",
    "bloom_lost": "bloom lost",
    "wilting": "wilting",
}
OUTCOMES: dict[Seen, str] = {
    "new_growth": "new growth",
    "flowers": "in flower",
    "fruit": "fruit set",
    "sticky": "sticky",
    "ants": "ants",
}
FATES: dict[Seen, str] = {  # of eggs that are no longer there
    "eggs_dropped": "eggs dropped",
    "eggs_eaten": "eggs eaten or emptied",
    "eggs_destroyed": "eggs removed and destroyed",
}
SEEN: dict[Seen, str] = {**DAMAGE_KINDS, **OUTCOMES, **FATES}
MOST_MARKS = 500


@dataclass(frozen=True, slots=True)
class Mark:
    """Something marked on a picture: its place as shares of the picture's width, its stage.

    `live` are adults; the young are marked apart and are live ones, too.
    """

    x: float
    y: float
    stage: Stage


@dataclass(frozen=True, slots=True)
class Picture:
    """A kept picture: the name of its file, its size in pixels, where it is from, its marks."""

    file: str
    width: int
    height: int
    source: str
    marks: tuple[Mark, ...] = ()


@dataclass(frozen=True, slots=True)
class NoteEntry:
    """Something to note at a plant (`sample` 0) or one of its leaves, under its own name.

    `seen` are words of `SEEN`; none of them says that they were looked for, None that nobody did.
    """

    key: str
    plant_id: int
    sample: int
    said: str
    noted_at: datetime
    seen: tuple[Seen, ...] | None = None


@dataclass(frozen=True, slots=True)
class Note:
    """What was noted at a plant at a look; `removed_at` where somebody took it away again."""

    id: int
    key: str
    trial_id: int
    plant_id: int
    look_number: int
    sample: int
    said: str
    noted_at: datetime
    removed_at: datetime | None
    picture: Picture | None
    seen: tuple[Seen, ...] | None = None


@dataclass(frozen=True, slots=True)
class SeenCount:
    """On how many of a remedy's plants something was seen, out of those it was looked for on."""

    what: Seen
    remedy: str
    plants: int
    of: int


def check_note(entry: NoteEntry) -> None:
    """Refuse a note that is too long, or raise InputError."""
    said = entry.said
    if len(said) > LONGEST:
        raise InputError(
            f"a note of {len(said)} letters",
            code="too_long",
            field="said",
            fix=f"Write at most {LONGEST}; a second note can say the rest.",
        )


def check_marks(marks: Sequence[Mark], picture: Picture) -> None:
    """Refuse marks beside the picture, or more than anybody can check; raises InputError."""
    lowest = picture.height / picture.width
    for mark in marks:
        beside = not (0 <= mark.x <= 1 and 0 <= mark.y <= lowest)
        if not math.isfinite(mark.x + mark.y) or beside:
            raise InputError(
                f"a mark at {mark.x:g}, {mark.y:g}",
                code="bad_mark",
                field="marks",
                fix=f"Both are shares of the width: 0 to 1, and 0 to {lowest:.2f}.",
            )
    if len(marks) > MOST_MARKS:
        raise InputError(
            f"{len(marks)} marks on one picture",
            code="too_many_marks",
            field="marks",
            fix=f"At most {MOST_MARKS}: count a part of the leaf and say so.",
        )


def seen_now(notes: Sequence[Note]) -> dict[int, tuple[Seen, ...]]:
    """Return what was seen last on each plant, by its id; plants nobody said of are left out."""
    found: dict[int, tuple[Seen, ...]] = {}
    for note in sorted(notes, key=lambda n: (n.noted_at, n.id)):
        if note.seen is not None and note.removed_at is None:
            found[note.plant_id] = note.seen
    return found


def seen_by_remedy(
    notes: Sequence[Note], remedies: Mapping[int, str], order: Sequence[str]
) -> tuple[SeenCount, ...]:
    """Return on how many plants of each remedy each thing was seen.

    Parameters
    ----------
    notes:
        Those of one look.
    remedies:
        What each plant got, by the plant's id.
    order:
        The remedies as they are told. Only what was seen on any plant is told of.
    """
    seen = {plant: words for plant, words in seen_now(notes).items() if plant in remedies}
    told = [what for what in SEEN if any(what in words for words in seen.values())]
    return tuple(
        SeenCount(
            what,
            remedy,
            sum(what in words for plant, words in seen.items() if remedies[plant] == remedy),
            sum(remedies[plant] == remedy for plant in seen),
        )
        for what in told
        for remedy in order
    )


def tallied(marks: Sequence[Mark]) -> dict[str, int]:
    """Return what the marks come to: live ones (the young among them), young, eggs, dead."""
    numbers: dict[str, int] = {
        stage: sum(mark.stage == stage for mark in marks) for stage in STAGES
    }
    return {**numbers, "live": numbers["live"] + numbers["young"]}
