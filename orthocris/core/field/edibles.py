"""Plants that are eaten: from which day on, by what was and what will still be given."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from orthocris.core.field.progress import is_over
from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.trial.plan import Remedy
from orthocris.core.trial.standing import Standing
from orthocris.core.words import listing, weekday_and_day

BY_LABEL = (
    "For eating: by its label; without one that names this plant and the days to wait, nothing of "
    "these plants is eaten this season."
)
CardOf = Callable[[Remedy], RecipeCard]


@dataclass(frozen=True, slots=True)
class Eating:
    """What holds for eating after one remedy: `on` the first day, None by its label."""

    remedy: Remedy
    on: date | None
    days: int = 0


def eating(standing: Standing, card_of: CardOf, today: date) -> tuple[Eating, ...]:
    """Return what holds for eating after each remedy that leaves something; none uneaten.

    The day counts from the last time a remedy was or will still be given: a round that is
    overdue and still waited for is given today at the soonest.
    """
    plan = standing.plan
    if not plan.setup.eaten:
        return ()
    found = []
    for remedy in plan.remedies:
        last = _last_day(standing, remedy, today)
        if last is None:
            continue
        waits = [card_of(part).eat_after_days for part in _given(standing, remedy)]
        if None in waits:
            found.append(Eating(remedy, None))
        elif days := max(wait for wait in waits if wait is not None):
            found.append(Eating(remedy, last + timedelta(days=days), days))
    return tuple(found)


def _given(standing: Standing, remedy: Remedy) -> Iterator[Remedy]:
    """Each part of a remedy by its recipe, and by those that were mixed instead."""
    for number, part in enumerate(remedy.parts):
        yield part
        bottle = standing.bottles.get((remedy.id, number))
        for recipe in sorted(bottle.recipes if bottle else ()):
            yield replace(part, recipe=recipe)


def _last_day(standing: Standing, remedy: Remedy, today: date) -> date | None:
    """The last day a remedy was or will be given; None where it never was and will not be."""
    days = [standing.given[remedy.id]] if remedy.id in standing.given else []
    for found in standing.rounds:
        waited = found.done < standing.due_in(found.round) or not standing.laid_out
        if found.round.gives(remedy.id) and waited and not _gone(standing, found.round.id, today):
            days.append(max(standing.plan.date_of(found.round.day), today))
    return max(days, default=None)


def _gone(standing: Standing, round_id: int, today: date) -> bool:
    """True for a round that nobody will give any more; before the first spray none is."""
    found = next(r for r in standing.rounds if r.round.id == round_id)
    if found.left_out:
        return True
    return standing.plan.sprayed_on is not None and is_over(standing, found, today)


def eat_after(found: Eating, *, sealed: bool) -> str:
    """Say from which day edible parts may be eaten after one remedy.

    While the key is sealed the day of its own last spray would tell its plants: only the wait is
    told, and `eat_trial` tells the day.
    """
    if found.on is None:
        return BY_LABEL
    wait = "1 day" if found.days == 1 else f"{found.days} days"
    on = "" if sealed else f"before {weekday_and_day(found.on)}, "
    return (
        f"For eating: pick what is ripe before the spray; then nothing {on}{'within ' * sealed}"
        f"{wait} {'of' if sealed else 'after'} the last spray, and washed."
    )


def last_of(found: Iterable[Eating]) -> date | None:
    """Return the first day on which nothing waits by a number of days any more; None for none."""
    return max((one.on for one in found if one.on is not None), default=None)


def eat_trial(found: Sequence[Eating], *, sealed: bool) -> str:
    """Say what holds for eating from any plant of a trial; empty where nothing has to be said.

    While the key is sealed nothing tells which plants wait for a label, so all of them do.
    """
    labelled = [one.remedy.name for one in found if one.on is None]
    on = last_of(found)
    said = ""
    if on is not None:
        day = weekday_and_day(on)
        said = f"Nothing of these plants is eaten before {day}, and then washed. "
    if labelled and sealed:
        said += (
            "Some of them wait for a label, or for next season; while the key is sealed nobody "
            "knows which, so nothing of any of them is eaten."
        )
    elif labelled:
        said += (
            f"After {listing(labelled)} by the label only, else nothing of those plants is "
            "eaten this season."
        )
    return said.strip()
