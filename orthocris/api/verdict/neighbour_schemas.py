"""Shapes of trials that came from other gardens."""

from __future__ import annotations

from datetime import date

from orthocris.api.base import Out
from orthocris.services.verdict.neighbours import Looked
from orthocris.storage.neighbours import Neighbour


class LookedOut(Out):
    """What a bundle would bring in, and what is found in its numbers here."""

    name: str
    pest: str
    pest_name: str
    crop: str
    on: date
    remedies: tuple[str, ...]
    plants: int
    numbers: int
    sentence: str
    warnings: tuple[str, ...]
    here: bool
    own: str

    @classmethod
    def of(cls, found: Looked) -> LookedOut:
        """Return the shape of a bundle that was looked at."""
        trial = found.trial
        return cls(
            name=trial.name,
            pest=trial.pest,
            pest_name=trial.pest_name,
            crop=trial.crop,
            on=trial.on,
            remedies=tuple(r.name for r in trial.remedies),
            plants=found.plants,
            numbers=len(found.seen),
            sentence=found.verdict.sentence,
            warnings=tuple(w.text for w in found.verdict.warnings),
            here=found.here is not None,
            own=found.own,
        )


class NeighbourOut(Out):
    """A trial of another garden that is kept here."""

    id: int
    garden: str
    name: str
    pest: str
    pest_name: str
    on: date
    sentence: str

    @classmethod
    def of(cls, one: Neighbour) -> NeighbourOut:
        """Return the shape of a kept trial."""
        return cls(
            id=one.id,
            garden=one.garden,
            name=one.trial.name,
            pest=one.trial.pest,
            pest_name=one.trial.pest_name,
            on=one.trial.on,
            sentence=str(one.verdict["sentence"]),
        )
