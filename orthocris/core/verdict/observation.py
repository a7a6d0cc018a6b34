"""One number counted on one plant: what the judge is given."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from operator import itemgetter
from typing import NamedTuple

from orthocris.core.errors import InputError, ObservationError
from orthocris.core.trial.measures import LOST, check_effort, check_value, measure_named

MOST_ADDITIONS = 2  # what is kept of the error is spent then: see `rerandomise.spending`
MOST_PLANTS, MOST_BLOCKS, MOST_REMEDIES = 4000, 1000, 60


class Observation(NamedTuple):  # made by the ten thousand for one verdict
    """One number counted or scored on one plant on one day.

    Attributes
    ----------
    plant:
        Name of the experimental unit (a plant, leaf, pot, cluster or trap).
    block:
        Name of its block, or None in a completely randomised trial.
    remedy:
        What the plant got; the control is one of the remedies.
    day:
        Days after the first spray; zero or below is *before*.
    measure:
        ``live``, ``dead``, ``hatched``, ``cover``, ``rating``, ``catch``, ``damage``, ``helpers``;
        ``lost`` with the value 1 on the day on which the plant died or was lost.
    value:
        The number, in the measure's unit.
    of:
        Out of how many, for ``dead`` and ``hatched``.
    effort:
        Leaves, or traps × days, searched for this number.
    column:
        A second grouping across the blocks (the columns of a Latin square), or None.
    group:
        The plant that a leaf, half or cluster is on, when several units share one, or None.
    added:
        0 for the plants that the trial began with, 1 for those added after a verdict that settled
        nothing, 2 for those added after the next. Their days count from their own first spray.
    """

    plant: str
    block: str | None
    remedy: str
    day: float
    measure: str
    value: float
    of: float | None = None
    effort: float = 1.0
    column: str | None = None
    group: str | None = None
    added: int = 0


def check_observations(observations: Sequence[Observation]) -> None:
    """Check every observation, alone and against the others of its plant.

    Raises
    ------
    InputError
        When there is none.
    ObservationError
        For the first observation that breaks a rule, with its index.
    """
    if not observations:
        raise InputError(
            "there are no observations",
            code="empty",
            field="observations",
            fix="Give at least one line for each plant.",
        )
    homes = set(map(_home, observations))
    _check_size(homes)
    # Plants and numbers repeat; each is looked at once. Only where one is wrong, all are, in turn.
    numbers = {_number(o): o for o in observations}
    try:
        for one in numbers.values():
            _check_one(0, one)
        clear = len(homes) == len({plant for plant, *_ in homes})
        clear = clear and all(plant.strip() and remedy.strip() for plant, remedy, *_ in homes)
    except ObservationError:
        clear = False
    if not clear:
        _check_in_turn(observations)


_number = itemgetter(3, 4, 5, 6, 7, 10)
_home = itemgetter(0, 2, 1, 8, 9, 10)  # the plant, then where it belongs


def _check_in_turn(observations: Sequence[Observation]) -> None:
    homes: dict[str, tuple[str | int | None, ...]] = {}
    for index, observation in enumerate(observations):
        _check_one(index, observation)
        plant, *home = _home(observation)
        if homes.setdefault(plant, tuple(home)) != tuple(home):
            _refuse_two_homes(index, plant, tuple(home), homes[plant])


def _check_size(homes: Iterable[tuple[str | int | None, ...]]) -> None:
    """Refuse more than one garden can hold: the arithmetic would take minutes."""
    plants, remedies, blocks = (set(column) for column in list(zip(*homes, strict=True))[:3])
    for field, most, found in (
        ("plant", MOST_PLANTS, plants),
        ("block", MOST_BLOCKS, blocks),
        ("remedy", MOST_REMEDIES, remedies),
    ):
        if len(found) > most:
            raise InputError(
                f"there are {len(found)} different names in the column {field}",
                code="too_many",
                field=field,
                fix=f"A trial has at most {most}; check that the right column is used, or judge "
                "parts of it one by one.",
            )


def _check_one(index: int, observation: Observation) -> None:
    for field, name in (("plant", observation.plant), ("remedy", observation.remedy)):
        if not name.strip():
            raise ObservationError(
                f"{field} is empty",
                index=index,
                code="empty",
                field=field,
                fix=f"Name the {field}.",
            )
    if not math.isfinite(observation.day) or abs(observation.day) > 3660:
        raise ObservationError(
            f"day is {observation.day}",
            index=index,
            code="bad_day",
            field="day",
            fix="Give days after the first spray, within ten years of it; 0 or below is before.",
        )
    if observation.added not in range(MOST_ADDITIONS + 1):
        raise ObservationError(
            f"added is {observation.added}",
            index=index,
            code="bad_addition",
            field="added",
            fix="Give 0 for the plants of the beginning, 1 for those added after the first "
            "verdict, 2 after the second. Then the answer is final: no error is left for more.",
        )
    try:
        if observation.measure == LOST:
            _check_lost(observation)
            return
        check_value(measure_named(observation.measure), observation.value, observation.of)
        check_effort(observation.effort)
    except InputError as error:
        raise ObservationError(
            error.message,
            index=index,
            code=error.code,
            field=error.field or "value",
            fix=error.fix,
        ) from None


def _check_lost(observation: Observation) -> None:
    if observation.value not in (0, 1) or observation.of is not None:
        raise InputError(
            f"lost is {observation.value:g}",
            code="not_a_mark",
            field="value" if observation.of is None else "of",
            fix="Give 1 on the day on which the plant died or was lost, 0 otherwise, and no total.",
        )


def _refuse_two_homes(
    index: int,
    plant: str,
    came: tuple[str | int | None, ...],
    first: tuple[str | int | None, ...],
) -> None:
    at = next(k for k, value in enumerate(came) if value != first[k])
    field = ("remedy", "block", "column", "group", "added")[at]
    raise ObservationError(
        f"plant {plant!r} has {field} {came[at]!r} here and {first[at]!r} further up",
        index=index,
        code="two_homes",
        field=field,
        fix="A plant has one remedy, one block, one column, one group and one addition; give a "
        "second plant a name of its own.",
    )
