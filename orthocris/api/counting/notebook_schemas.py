"""Notes, pictures and marks over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Literal, Self

from pydantic import Field

from orthocris.api.base import Id, In, Instant, Out, Real, Text
from orthocris.api.counting.schemas import Name, Sample
from orthocris.core.counting.leaf.scene import Stage
from orthocris.core.counting.notebook import MOST_MARKS, Mark, Note, NoteEntry, Seen, tallied

if TYPE_CHECKING:
    from orthocris.core.counting.leaf.cover import Cover


class NoteIn(In):
    """A note at a plant (or at leaf `sample`) of a look, under a name its device gave it."""

    key: Name
    plant_id: Id
    sample: Sample = 0
    said: Text = ""
    noted_at: Instant
    seen: Annotated[tuple[Seen, ...], Field(max_length=20)] | None = None

    def to_core(self) -> NoteEntry:
        """Return it as the core takes it."""
        return NoteEntry(self.key, self.plant_id, self.sample, self.said, self.noted_at, self.seen)


class MarkIn(In):
    """A mark: its place as shares of the picture's width, and what it is on."""

    x: Real
    y: Real
    stage: Stage


class MarksIn(In):
    """All marks of a picture; they take the place of those before."""

    marks: Annotated[list[MarkIn], Field(max_length=2 * MOST_MARKS)]

    def to_core(self) -> list[Mark]:
        """Return them as the core takes them."""
        return [Mark(mark.x, mark.y, mark.stage) for mark in self.marks]


class MarkOut(Out):
    """A mark on a picture."""

    x: float
    y: float
    stage: Stage


class PictureOut(Out):
    """A picture: where it can be read, its size in pixels, its marks and what they come to."""

    url: str
    width: int
    height: int
    source: Literal["file", "lens"]
    marks: tuple[MarkOut, ...]
    tallied: dict[str, int]


class NoteOut(Out):
    """What was noted at a plant at a look."""

    id: int
    key: str
    plant_id: int
    look: int
    sample: int
    said: str
    noted_at: datetime
    seen: tuple[Seen, ...] | None
    picture: PictureOut | None

    @classmethod
    def of(cls, note: Note) -> Self:
        """Return what is sent of it."""
        shown = None
        if (picture := note.picture) is not None:
            # Named by its content as well: a browser that kept the one before does not show it.
            shown = PictureOut(
                url=f"/api/notes/{note.id}/picture.jpg?of={picture.file[:12]}",
                width=picture.width,
                height=picture.height,
                source="lens" if picture.source == "lens" else "file",
                marks=tuple(MarkOut.model_validate(mark) for mark in picture.marks),
                tallied=tallied(picture.marks),
            )
        return cls(
            id=note.id,
            key=note.key,
            plant_id=note.plant_id,
            look=note.look_number,
            sample=note.sample,
            said=note.said,
            noted_at=note.noted_at,
            seen=note.seen,
            picture=shown,
        )


class CoverOut(Out):
    """How much of the leaf on a picture is covered, and how much of the picture is leaf."""

    percent: float
    threshold: float
    leaf_percent: float

    @classmethod
    def of(cls, cover: Cover) -> Self:
        """Return what is sent of it."""
        return cls(
            percent=cover.percent, threshold=cover.threshold, leaf_percent=100 * cover.of_leaf
        )
