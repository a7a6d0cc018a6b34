"""A remedy as a programme: the days on which it is given, and how much each time."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from orthocris.core.errors import InputError
from orthocris.core.ranges import check_length
from orthocris.core.trial.ways import way_named

MOST_EVERY = 60  # days between two times
MOST_OWN_DAYS = 30
MOST_STEPS = 3  # that follow the first
LONGEST_AFTER = 30  # days, or rounds before a rule may hold
MOST_LEFT = 1e6


class Rhythm(StrEnum):
    """On which days a remedy is given."""

    ROUNDS = "rounds"  # on the trial's own rounds, as all others
    ONCE = "once"  # hung, laid or released on day 0
    EVERY = "every"  # every so many days from day 0; 1 is daily
    DAYS = "days"  # on days of its own, then perhaps every so many
    WATERING = "watering"  # at each watering, about every so many days


@dataclass(frozen=True, slots=True)
class Programme:
    """When a remedy is given; days count from the first spray.

    `every` is the number of days between two times (0 for none: then only `days`).
    """

    rhythm: Rhythm = Rhythm.ROUNDS
    every: int = 0
    days: tuple[int, ...] = ()

    @property
    def own(self) -> bool:
        """True when it has days of its own."""
        return self.rhythm is not Rhythm.ROUNDS


ON_EACH_ROUND = Programme()


@dataclass(frozen=True, slots=True)
class Step:
    """What follows in a remedy each time it was given: after soap, the next day, neem.

    `after` is the number of days since the first part; `way`, `dose` and `dose_unit` are as in
    `Traits`, of this step alone. With `above` it is a rule in place of a day: after so many rounds,
    where a look finds more than `above` on a plant on average (in the trial's own measure), it is
    given instead of the first part from the next round on.
    """

    after: int
    name: str
    recipe: str = ""
    way: str = "spray"
    dose: float | None = None
    dose_unit: str = ""
    above: float | None = None

    @property
    def wets(self) -> bool:
        """Whether leaves or soil get wet."""
        return way_named(self.way).wets


def by_day(steps: Sequence[Step]) -> tuple[Step, ...]:
    """Return the steps that come on their day, without a rule that waits for a count."""
    return tuple(step for step in steps if step.above is None)


@dataclass(frozen=True, slots=True)
class Given:
    """What the timetable needs of a remedy: its programme and steps, and what it is.

    `control` is True for the control; `wets` tells whether leaves get wet by its first part.
    """

    programme: Programme
    control: bool
    wets: bool
    steps: tuple[Step, ...] = ()

    @property
    def own(self) -> bool:
        """True when it has days of its own."""
        return self.programme.own or bool(self.steps)

    def wets_in(self, step: int) -> bool:
        """Whether a part of it wets: 0 is the first, then its steps in their order."""
        return self.steps[step - 1].wets if step else self.wets


def days_of(programme: Programme, round_days: Sequence[int], last: int) -> tuple[int, ...]:
    """Return the days on which a remedy is given, before the last look.

    Parameters
    ----------
    round_days:
        The trial's own rounds.
    last:
        The day of the last look: a treatment on it or after it belongs to no comparison.

    Examples
    --------
    >>> days_of(Programme(Rhythm.DAYS, every=7, days=(0, 4, 9)), (0,), 30)
    (0, 4, 9, 16, 23)
    """
    if programme.rhythm is Rhythm.ROUNDS:
        return tuple(round_days)
    if programme.rhythm is Rhythm.ONCE:
        return (0,)
    first = programme.days if programme.rhythm is Rhythm.DAYS else (0,)
    found = [day for day in first if day < last]
    while programme.every and found and found[-1] + programme.every < last:
        found.append(found[-1] + programme.every)
    return tuple(found)


def rest_of(days: Sequence[int], usual: int) -> int:
    """Return the least days between two times of a remedy: its own gap where that is shorter."""
    gaps = [later - day for day, later in pairwise(days)]
    return min([usual, *gaps])


def said(programme: Programme) -> str:
    """Say a programme in words."""
    if programme.rhythm is Rhythm.ROUNDS:
        return "on each round"
    if programme.rhythm is Rhythm.ONCE:
        return "once, on day 0"
    often = {1: "daily", 2: "every second day", 3: "every third day", 7: "weekly"}
    every = often.get(programme.every, f"every {programme.every} days")
    if programme.rhythm is Rhythm.WATERING:
        return f"at each watering, about {every}"
    if programme.rhythm is Rhythm.EVERY:
        return every
    days = ", ".join(str(day) for day in programme.days)
    return f"on day {days}, then {every}" if programme.every else f"on day {days}"


def step_said(step: Step) -> str:
    """Say when a step comes: the next day neem; neem after 2 rounds if more than 20 are left."""
    if step.above is not None:
        rounds = "1 round" if step.after == 1 else f"{step.after} rounds"
        return f"{step.name} instead after {rounds}, if more than {step.above:g} are left"
    return f"{'the next day' if step.after == 1 else f'{step.after} days later'} {step.name}"


def check_programme(programme: Programme, field: str) -> None:
    """Refuse days that are no row from day 0 on, and rhythms without a number."""
    days = programme.days
    if programme.rhythm is Rhythm.DAYS and (
        not days
        or days[0] != 0
        or list(days) != sorted(set(days))
        or days[-1] > 365
        or len(days) > MOST_OWN_DAYS
    ):
        raise InputError(
            f"the days {', '.join(map(str, days)) or 'of nothing'} are no rising row from 0",
            code="bad_days",
            field=f"{field}.days",
            fix=f"Give up to {MOST_OWN_DAYS} different whole days, 0 the first.",
        )
    needs = programme.rhythm in (Rhythm.EVERY, Rhythm.WATERING)
    if not (1 if needs else 0) <= programme.every <= MOST_EVERY:
        raise InputError(
            f"every {programme.every} days",
            code="bad_rhythm",
            field=f"{field}.every",
            fix=f"Give 1 (daily) to {MOST_EVERY} days.",
        )


def all_said(name: str, recipe: str, steps: Sequence[Step]) -> str:
    """Return all that is said of a remedy and its steps, to look for substances in."""
    told = [(name, recipe), *((step.name, step.recipe) for step in steps)]
    return " ".join(f"{what}. {how}" for what, how in told)


def check_steps(steps: Sequence[Step], field: str) -> None:
    """Refuse steps without a name, out of their order, or more than are kept apart."""
    if len(steps) > MOST_STEPS:
        raise InputError(
            f"{len(steps)} steps after the first",
            code="too_many_steps",
            field=f"{field}.steps",
            fix=f"Give at most {MOST_STEPS}.",
        )
    after = [step.after for step in by_day(steps)]
    _check_rule(steps, field)
    if after != sorted(set(after)) or not all(1 <= days <= LONGEST_AFTER for days in after):
        raise InputError(
            f"steps {', '.join(map(str, after))} days after the first are no rising row",
            code="bad_steps",
            field=f"{field}.steps",
            fix=f"Give each step a day of its own, 1 to {LONGEST_AFTER} days after the first.",
        )
    for index, step in enumerate(steps):
        where = f"{field}.steps.{index}"
        if not step.name.strip():
            raise InputError(
                "a step has no name", code="empty", field=f"{where}.name", fix="Name it."
            )
        check_length(step.name, 40, "the name", f"{where}.name")
        check_length(step.recipe, 2000, "the recipe", f"{where}.recipe")


def _check_rule(steps: Sequence[Step], field: str) -> None:
    """One rule at most, behind the steps that have a day."""
    rules = [k for k, step in enumerate(steps) if step.above is not None]
    if rules not in ([], [len(steps) - 1]):
        raise InputError(
            "a rule stands before another step",
            code="bad_rule",
            field=f"{field}.steps",
            fix="Give one rule at most, as the last step.",
        )
    for step in (steps[k] for k in rules):
        if not 0 <= (step.above or 0) <= MOST_LEFT or not 1 <= step.after <= LONGEST_AFTER:
            raise InputError(
                f"more than {step.above:g} after {step.after} rounds",
                code="bad_rule",
                field=f"{field}.steps",
                fix=f"Give 1 to {LONGEST_AFTER} rounds, and a number from 0 up to be above.",
            )


def meeting(given: Given, round_days: Sequence[int], last: int) -> int | None:
    """Return the first day on which two parts of one remedy would meet, or None."""
    days = days_of(given.programme, round_days, last)
    found = [day + after for day in days for after in (0, *(s.after for s in given.steps))]
    return min((day for day in found if day < last and found.count(day) > 1), default=None)


def timetable(
    own: Sequence[Given], round_days: Sequence[int], last: int
) -> dict[int, dict[int, int]] | None:
    """Return for each day which remedies are given, by their place, and which part of each.

    None when all share the trial's rounds. Parts count from 0, the first. A control that is
    wetted is wetted whenever another remedy wets; one that is left alone is handled on the
    trial's own rounds, and on day 0. A step on the day of the last look or after is left out.
    """
    if not any(given.own for given in own):
        return None
    found: dict[int, dict[int, int]] = {}
    for place, given in enumerate(own):
        if given.control:
            continue
        for day in days_of(given.programme, round_days, last):
            for part, after in enumerate((0, *(step.after for step in given.steps))):
                if not part or day + after < last:
                    found.setdefault(day + after, {})[place] = part
    for place, given in enumerate(own):
        if given.control:
            for day in _control_days(own, found, wets=given.wets):
                found.setdefault(day, {})[place] = 0
    return {day: found[day] for day in sorted(found)}


def _control_days(
    own: Sequence[Given], found: Mapping[int, Mapping[int, int]], *, wets: bool
) -> Iterable[int]:
    def like(place: int, part: int) -> bool:
        shared = not own[place].programme.own and not part
        return own[place].wets_in(part) if wets else shared

    days = {d for d, parts in found.items() if any(like(*part) for part in parts.items())}
    return sorted(days | {0})
