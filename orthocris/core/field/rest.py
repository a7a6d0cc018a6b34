"""The rest of the garden: what comes after a verdict, act by act, until its rule ends it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from itertools import takewhile

from orthocris.core.errors import InputError
from orthocris.core.field.lifecycle import HARDLY_ANY
from orthocris.core.ranges import check_length
from orthocris.core.trial.plan import Traits
from orthocris.core.trial.programme import Rhythm
from orthocris.core.trial.stages import RoundRhythm
from orthocris.core.words import day_words

MOST_LOOKS = 4  # after the first spray; whatever is not gone by then wants something else
LOOK_AGAIN = 7  # days after a look that found hardly any, for eggs and survivors
APART = 4  # days between the looks that say it is gone
MOST_PLANTS, MOST_KINDS = 5000, 6


class Which(StrEnum):
    """Which plants are treated; each has its followers."""

    SICK = "sick"
    PLACE = "place"
    NEAR = "near"
    ALL = "all"


WHICH_REASONS = {
    Which.SICK: "Least work, and helpers on the others live; look at the others each time, too.",
    Which.PLACE: "What walks or flies is next door before it is seen there.",
    Which.NEAR: "Whatever it lives on within reach, sick or not: it comes back from what is left.",
    Which.ALL: "One plant that was missed begins it anew; it costs most, helpers too.",
}


class Act(StrEnum):
    """What is done with the rest."""

    PATCH = "patch"  # put on a few leaves of kinds that were never tested
    PATCH_LOOK = "patch_look"
    COUNT = "count"
    SPRAY = "spray"


@dataclass(frozen=True, slots=True)
class RestDraft:
    """What is to be treated outside the trial, and how.

    `place` says where the plants stand; `kinds` are the kinds of leaf among them on which the
    remedy was never tested; `ml_each` is None where nothing is told in ml; `eaten` says that some
    of them are eaten.
    """

    remedy_id: int
    which: Which
    place: str
    plants: int
    start_on: date
    ml_each: float | None = None
    kinds: tuple[str, ...] = ()
    eaten: bool = False
    rhythm: RoundRhythm = RoundRhythm.EGG_CYCLE


@dataclass(frozen=True, slots=True)
class Done:
    """An act that was done.

    `pests` a plant were found on `looked_at` plants at a count; `harmed` tells of marks on leaves
    that were not there before; `reason` why it was done against advice.
    """

    act: Act
    on: date
    pests: float | None = None
    looked_at: int | None = None
    harmed: bool = False
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Treatment:
    """The treatment of the rest by a remedy of a trial; `ended_on` when the gardener ended it."""

    id: int
    trial_id: int
    draft: RestDraft
    done: tuple[Done, ...] = ()
    ended_on: date | None = None


@dataclass(frozen=True, slots=True)
class Promise:
    """What the trial showed of the remedy: the fraction removed, and its 95% limits."""

    removes: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Pace:
    """What the remedy and its pest ask for.

    `patch_days` are waited after the patch test (0: none is asked for), `look_days` until an effect
    can be seen; `every` is the remedy's own number of days between two times (0: after a look),
    `once` that it is hung or released a single time.
    """

    patch_days: int
    look_days: int
    every: int = 0
    once: bool = False

    @classmethod
    def of(cls, traits: Traits, patch_days: int) -> Pace:
        """Return the pace of a remedy."""
        own = traits.programme
        return cls(
            patch_days,
            max(traits.first_look_days, 1),
            own.every if own.own else 0,
            own.rhythm is Rhythm.ONCE,
        )


@dataclass(frozen=True, slots=True)
class Due:
    """The next act, its day, and why."""

    act: Act
    on: date
    why: str


@dataclass(frozen=True, slots=True)
class RestStanding:
    """How far it has come: what is due, or how it `ended`; `left` after each look, as shares."""

    due: Due | None
    ended: str
    left: tuple[float, ...]
    said: str


ProposeSpray = Callable[[date, float | None], tuple[date | None, str]]


def check_rest(draft: RestDraft) -> None:
    """Check what is to be treated, or raise InputError naming the field."""
    place = draft.place.strip()
    check_length(place, 80, "where they stand", "place")
    if not place:
        raise InputError(
            "nothing is said of where they stand",
            code="empty",
            field="place",
            fix="Name the place, such as: the bed by the wall.",
        )
    if not 1 <= draft.plants <= MOST_PLANTS:
        raise InputError(
            f"{draft.plants} plants",
            code="bad_plants",
            field="plants",
            fix=f"Give how many plants are treated, 1 to {MOST_PLANTS}.",
        )
    if draft.ml_each is not None and not 0.5 <= draft.ml_each <= 20_000:
        raise InputError(
            f"{draft.ml_each:g} ml for a plant",
            code="bad_volume",
            field="ml_each",
            fix="Give the millilitres that wet one plant, 0.5 to 20 000.",
        )
    if len(draft.kinds) > MOST_KINDS or any(not kind.strip() for kind in draft.kinds):
        raise InputError(
            f"{len(draft.kinds)} kinds of leaf",
            code="bad_kinds",
            field="kinds",
            fix=f"Name each kind of plant once, {MOST_KINDS} at most.",
        )
    for kind in draft.kinds:
        check_length(kind.strip(), 60, "a kind of leaf", "kinds")


def check_done(done: Done, standing: RestStanding, before: Sequence[Done], today: date) -> None:
    """Check that an act can be kept now, or raise InputError naming the field."""
    if standing.due is None:
        raise InputError(
            "this treatment is over",
            code="over",
            field="act",
            fix="Begin a new one from the verdict, or take the last act back.",
        )
    counted = any(one.act is Act.COUNT for one in before)
    sprayed = any(one.act is Act.SPRAY for one in before)
    patch_open = standing.due.act in (Act.PATCH, Act.PATCH_LOOK)
    # A count is welcome at any time, a spray once those before it are done.
    allowed = done.act is standing.due.act or (done.act is Act.COUNT and not patch_open)
    allowed = allowed or (done.act is Act.SPRAY and counted and not patch_open)
    if not allowed or (done.act is Act.PATCH and sprayed):
        raise InputError(
            f"{done.act.value} is not what comes next",
            code="not_yet",
            field="act",
            fix=f"First: {ACT_WORDS[standing.due.act]}.",
        )
    if done.on > today or (before and done.on < before[-1].on):
        raise InputError(
            f"it was done on {day_words(done.on)}",
            code="bad_day",
            field="on",
            fix="Give the day on which it was done: none before the last act, and none to come.",
        )
    if done.act is Act.COUNT:
        _check_count(done)


def _check_count(done: Done) -> None:
    if done.pests is None or not (math.isfinite(done.pests) and 0 <= done.pests <= 1e6):
        raise InputError(
            "no number is given",
            code="bad_count",
            field="pests",
            fix="Give how many there are on a plant, on average; 0 where there are none.",
        )
    if done.looked_at is None or not 1 <= done.looked_at <= MOST_PLANTS:
        raise InputError(
            "nothing is said of how many plants were looked at",
            code="bad_plants",
            field="looked_at",
            fix="Give on how many plants you counted, 1 or more.",
        )


ACT_WORDS = {
    Act.PATCH: "put the mix on two or three leaves of each kind that was never tested",
    Act.PATCH_LOOK: "look at the leaves with the mix on, beside others",
    Act.COUNT: "count on a few plants",
    Act.SPRAY: "treat them",
}


def expected_left(removes: float) -> tuple[float, ...]:
    """Return what is left after each time, as shares, until hardly any are: four times at most.

    Each time removes the same share of what it meets; what hatches or flies in is not foreseen.
    """
    left: list[float] = []
    while len(left) < MOST_LOOKS and (not left or left[-1] > HARDLY_ANY):
        left.append((left[-1] if left else 1.0) * (1 - min(max(removes, 0.0), 1.0)))
    return tuple(left)


def rest_standing(
    treatment: Treatment, pace: Pace, promise: Promise, propose: ProposeSpray
) -> RestStanding:
    """Return how a treatment stands and what comes next.

    Parameters
    ----------
    pace, promise:
        Of the remedy.
    propose:
        The day of the next spray and why, from the day of the last one and the share that is left.

    Notes
    -----
    Kinds of leaf that were never tested come first; then a count on a few plants, a spray, and a
    count when the effect can be seen; counted again on one day, the later number holds. It ends
    when two looks, days apart, find 5% or less of what was there; when leaves are marked; when two
    looks find less than half removed of what the trial showed; after four looks in any case.
    """
    draft, done = treatment.draft, treatment.done
    counts = _counts(done)
    left = _left(counts)
    said = _said(counts, promise)
    if treatment.ended_on is not None:
        return RestStanding(None, f"You ended it on {day_words(treatment.ended_on)}.", left, said)
    if draft.kinds and pace.patch_days and (due := _patch_due(draft, done, pace)) is not None:
        return RestStanding(due, "", left, said)
    ended = _ended(counts, left, promise)
    if ended:
        return RestStanding(None, ended, left, said)
    return RestStanding(_next(draft, done, counts, pace, propose), "", left, said)


def _patch_due(draft: RestDraft, done: Sequence[Done], pace: Pace) -> Due | None:
    """The patch test of kinds never tested, put on early enough; None once it passed."""
    tests = [one for one in done if one.act in (Act.PATCH, Act.PATCH_LOOK)]
    before = draft.start_on - timedelta(days=pace.patch_days)
    if not tests:
        return Due(Act.PATCH, before, "These kinds of leaf never had this remedy.")
    last = tests[-1]
    if last.act is Act.PATCH:
        on = last.on + timedelta(days=pace.patch_days)
        return Due(Act.PATCH_LOOK, on, "By then it shows what the mix does to them.")
    if not last.harmed:
        return None
    return Due(
        Act.PATCH,
        last.on,
        "The last test marked leaves: test a weaker mix, or end this and begin again without that "
        "kind.",
    )


def _counts(done: Sequence[Done]) -> list[Done]:
    """The count before the first spray, the last one made, and then one of each day."""
    at = [k for k, one in enumerate(done) if one.act is Act.SPRAY]
    first = at[0] if at else len(done)
    before = [one for one in done[:first] if one.act is Act.COUNT][-1:]
    after = {one.on: one for one in done[first:] if one.act is Act.COUNT}
    return [*before, *after.values()]


def _left(counts: Sequence[Done]) -> tuple[float, ...]:
    """What each look after the first found, as a share of the first."""
    before = counts[0].pests if counts else None
    if not before:
        return ()
    return tuple((one.pests or 0.0) / before for one in counts[1:])


def _ended(counts: Sequence[Done], left: Sequence[float], promise: Promise) -> str:
    """Why it is over by its rule; empty while it is not."""
    if counts and not counts[0].pests:
        return "Nothing was found before the first spray, so there is nothing to treat."
    if any(one.harmed for one in counts[1:]):
        return "Leaves were marked that were not before: no more of it on these plants."
    newest = zip(counts[:0:-1], left[::-1], strict=True)
    clean = list(takewhile(lambda one: one[1] <= HARDLY_ANY, newest))
    if clean and (clean[0][0].on - clean[-1][0].on).days >= APART:
        return "Two looks found hardly any: as good as gone. Look again as you would anyway."
    if len(left) > 1 and 1 - left[-1] < promise.removes / 2:
        return (
            "Two looks found less than half removed of what the trial showed: here it does not do "
            "it. Something differs: the strength, how well it was wetted, the plants, the weather."
        )
    if len(left) >= MOST_LOOKS:
        return f"Not gone after {MOST_LOOKS} looks: something else is needed. Try it in a trial."
    return ""


def _next(
    draft: RestDraft,
    done: Sequence[Done],
    counts: Sequence[Done],
    pace: Pace,
    propose: ProposeSpray,
) -> Due:
    left = _left(counts)
    sprays = [one for one in done if one.act is Act.SPRAY]
    if not counts:
        return Due(Act.COUNT, draft.start_on, "Without a count before, nobody sees what it did.")
    if not sprays:
        return Due(Act.SPRAY, draft.start_on, "The first time.")
    last = sprays[-1].on
    seen = counts[-1].on if left else None
    since = max(seen or sprays[0].on, sprays[0].on) if pace.every else last
    look = Due(
        Act.COUNT,
        since + timedelta(days=pace.look_days),
        "By then its effect can be seen; count on the same plants.",
    )
    if left and left[-1] <= HARDLY_ANY and (seen or last) >= last:
        again = counts[-1].on + timedelta(days=LOOK_AGAIN)
        return Due(Act.COUNT, again, "Hardly any were left; eggs and survivors show by then.")
    if pace.every:
        spray = Due(Act.SPRAY, last + timedelta(days=pace.every), "Its own days.")
        return min(look, spray, key=lambda due: (due.on, due.act is Act.SPRAY))
    if done[-1].act is Act.SPRAY or seen is None or seen < last:
        return look
    if pace.once:
        return Due(Act.COUNT, seen + timedelta(days=LOOK_AGAIN), "It works on by itself.")
    on, why = propose(last, left[-1])
    return Due(Act.SPRAY, max(on or seen, seen), why)


def _said(counts: Sequence[Done], promise: Promise) -> str:
    """What was found here beside what the trial showed; empty before the first look after."""
    left = _left(counts)
    if not left:
        return ""
    first, last = counts[0], counts[-1]
    fewer = f"{_percent(abs(1 - left[-1]))} {'fewer' if left[-1] <= 1 else 'more'}"
    plants = "1 plant" if last.looked_at == 1 else f"{last.looked_at} plants"
    span = f"{_percent(max(promise.low, 0))} to {_percent(promise.high)}"
    return (
        f"Here {fewer} than before ({first.pests:.3g}, then {last.pests:.3g} a plant, counted on "
        f"{plants}); in the trial it removed about {_percent(promise.removes)} ({span}). "
        "That proves nothing: nobody knows what these plants would have without it."
    )


def _percent(share: float) -> str:
    """All is said only of all: 99.8% is told as 99%."""
    return f"{share:.0%}" if share >= 1 else f"{min(share, 0.99):.0%}"
