"""If not gone, then: a rule of a remedy that was fixed beforehand, and whether it holds now."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Rule:
    """After so many rounds (`after`), above so much on a plant: part `part` of a remedy follows."""

    remedy_id: int
    part: int
    after: int
    above: float


@dataclass(frozen=True, slots=True)
class RemedyRound:
    """A round on which a remedy is given: its day, the part, whether it was begun, and is fixed.

    What was begun is fixed, but for rounds that are entered from paper, with the counts.
    """

    id: int
    day: int
    part: int
    begun: bool
    fixed: bool


@dataclass(frozen=True, slots=True)
class Looked:
    """A look: its day, and what was found on each of the remedy's plants (None: not counted)."""

    day: float
    found: tuple[float | None, ...]

    @property
    def mean(self) -> float | None:
        """The mean of the plants once all are counted."""
        numbers = [value for value in self.found if value is not None]
        if not numbers or len(numbers) < len(self.found):
            return None
        return sum(numbers) / len(numbers)


def parts_by_rule(
    rule: Rule, rounds: Sequence[RemedyRound], looks: Sequence[Looked]
) -> Mapping[int, int]:
    """Return which part those rounds should give that the rule changes, by round.

    For each round the newest look before it decides (or on its day) at which all plants of the
    remedy were counted, if `after` rounds were given before that look. Once the rule holds it
    holds to the end. Rounds that are fixed, and those of another step, stay as they are.
    """
    found: dict[int, int] = {}
    holds = False
    for this in sorted(rounds, key=lambda one: one.day):
        counted = [look for look in looks if look.day <= this.day and look.mean is not None]
        if counted and not holds:
            newest = max(counted, key=lambda look: look.day)
            given = sum(r.begun and r.day < newest.day for r in rounds)
            holds = given >= rule.after and (newest.mean or 0) > rule.above
        holds |= this.fixed and this.part == rule.part
        wanted = rule.part if holds else 0
        if not this.fixed and this.part in (0, rule.part) and this.part != wanted:
            found[this.id] = wanted
    return found
