"""A spray round: what must be in order before it starts, and what each plant got."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta

from orthocris.core.errors import InputError
from orthocris.core.field.patchtest import Held
from orthocris.core.trial.batches import Batch
from orthocris.core.trial.sprays import SprayEntry, SprayKind
from orthocris.core.weather.hours import RAIN_WASHES_OFF, Weather
from orthocris.core.words import weekday_and_day

AFTER_SPRAY = timedelta(hours=24)


@dataclass(frozen=True, slots=True)
class Checks:
    """What the gardener says before starting; `reasons` overrule by code.

    `weather_looked`: where no weather is known, somebody looked: dry, calm, not too warm, no
    sun on the bench. `done_on`: the round was done on that day already and is entered now.
    """

    shaken: bool = False
    cautions_read: bool = False
    bees_looked: bool = False
    fruit_looked: bool = False
    batches: Mapping[int, int] = field(default_factory=dict)
    reasons: Mapping[str, str] = field(default_factory=dict)
    weather_looked: bool = False
    done_on: date | None = None


@dataclass(frozen=True, slots=True)
class Blocker:
    """Something that holds a round back; some can be overruled with a reason."""

    code: str
    text: str
    fix: str
    overrulable: bool


@dataclass(frozen=True, slots=True)
class BottleNeed:
    """A remedy of the trial that comes out of a bottle, with its strong cautions' keys.

    `tag` is how its bottle may be called, empty while nothing may tell which letter has one;
    `step` is the part of it that the bottle must hold.
    """

    remedy_id: int
    tag: str
    strong: tuple[str, ...]
    step: int = 0


@dataclass(frozen=True, slots=True)
class HourNow:
    """Why this hour is closed for a whole round (empty: open), and whether its weather is known."""

    closed: tuple[str, ...] = ()
    known: bool = True


# What is ticked before a round: what is missing without it, and what to do.
TICKS = {
    "weather": (
        "No weather is known for this hour.",
        "Look: leaves dry, hardly any wind, no sun on the bench, not too warm; then tick.",
    ),
    "shaken": ("The bottles are not shaken.", "Shake each one."),
    "cautions": ("The cautions are not read.", "Read them, then tick."),
    "bees": (
        "Nobody has looked for bees and open flowers.",
        "Look: no spray where bees visit.",
    ),
    "fruit": ("Nobody has looked for ripe fruit.", "Pick what is ripe before spraying."),
}


def blockers(
    needs: Sequence[BottleNeed],
    batches: Sequence[Batch],
    held: Sequence[Held],
    hour: HourNow,
    checks: Checks,
    now: datetime,
    *,
    asked: Collection[str] | None = None,
) -> tuple[Blocker, ...]:
    """Return everything that holds a round back, without what was overruled with a reason.

    Parameters
    ----------
    needs:
        Remedies that need a bottle.
    batches:
        Those of the trial.
    held:
        Patch tests not passed, where they are asked for: before the first round.
    hour:
        The window now. Where nothing is known of its weather, somebody must have looked.
    checks:
        What the gardener said.
    asked:
        Codes of the ticks that this round asks for; None for all.
    """
    found: list[Blocker] = []
    for need in needs:
        found += _bottle_blockers(need, batches, checks, now)
    if held:
        found.append(_untested(held))
    if hour.closed and checks.done_on is None:
        found.append(_closed(hour))
    unsaid = _unsaid(checks, hour, bottles=bool(needs))
    found += [blocker for blocker in unsaid if asked is None or blocker.code in asked]
    # Two bottles that may not be told apart lack one thing once.
    told = dict.fromkeys(found)
    return tuple(b for b in told if not (b.overrulable and checks.reasons.get(b.code, "").strip()))


def best_batch(need: BottleNeed, batches: Sequence[Batch], when: datetime) -> Batch | None:
    """Return the batch a bottle is filled from: the newest that was alive then, else the newest."""
    own = [b for b in batches if (b.remedy_id, b.step) == (need.remedy_id, need.step)]
    own.sort(key=lambda b: (b.mixed_at, b.id))
    alive = [b for b in own if is_alive(b, when)]
    left = alive or [b for b in own if b.discarded_at is None]
    return left[-1] if left else None


def is_alive(batch: Batch, when: datetime) -> bool:
    """True when a batch was neither past its life nor poured away then."""
    poured_away = batch.discarded_at is not None and batch.discarded_at <= when
    return not poured_away and (batch.use_by is None or when <= batch.use_by)


def _untested(held: Sequence[Held]) -> Blocker:
    names = f"{len(held)} patch {'test' if len(held) == 1 else 'tests'} not passed"
    return Blocker(
        "patch_tests",
        f"{names}: {held[0].reason} ({held[0].leaf_kind}).",
        "Wait for them, make the mix weaker or leave that kind out; or say why you go on.",
        True,
    )


def _closed(hour: HourNow) -> Blocker:
    return Blocker(
        "window_closed",
        f"Now is no good hour: {'; '.join(hour.closed)}.",
        "Wait for the next open hour on the ribbon, or say why you go on.",
        True,
    )


def _unsaid(checks: Checks, hour: HourNow, *, bottles: bool) -> list[Blocker]:
    """What nobody has ticked; none of it can be overruled."""
    weather_known = (
        hour.known
        or checks.weather_looked
        or checks.done_on is not None
        or bool(checks.reasons.get("window_closed", "").strip())
    )
    ticks = {
        "weather": weather_known,
        "shaken": checks.shaken or not bottles,
        "cautions": checks.cautions_read,
        "bees": checks.bees_looked,
        "fruit": checks.fruit_looked,
    }
    return [Blocker(code, *TICKS[code], False) for code, ticked in ticks.items() if not ticked]


def _bottle_blockers(
    need: BottleNeed, batches: Sequence[Batch], checks: Checks, now: datetime
) -> list[Blocker]:
    when = done_at(checks.done_on, now)
    bottle = f"Bottle {need.tag}" if need.tag else "One of the bottles"
    chosen = next((b for b in batches if b.id == checks.batches.get(need.remedy_id)), None)
    wrong = chosen is None or (chosen.remedy_id, chosen.step) != (need.remedy_id, need.step)
    gone = chosen is not None and chosen.discarded_at is not None and chosen.discarded_at <= when
    if chosen is None or wrong or gone:
        text = f"{bottle} is not mixed or not chosen."
        return [Blocker("no_batch", text, "Mix it, or choose its batch.", False)]
    found = []
    if chosen.use_by is not None and chosen.use_by < when:
        since = (
            f" since {weekday_and_day(chosen.use_by)}, {chosen.use_by:%H:%M}" if need.tag else ""
        )
        then = "is past its life" if checks.done_on is None else "was past its life that day"
        found.append(
            Blocker(
                "expired",
                f"{bottle} {then}{since}.",
                "Mix a fresh one, or say why you use it.",
                True,
            )
        )
    if any(key not in chosen.acknowledged for key in need.strong):
        found.append(
            Blocker(
                "not_acknowledged",
                f"The strong cautions of {bottle[:1].lower()}{bottle[1:]} were not acknowledged.",
                "Acknowledge them at the mixing bench.",
                False,
            )
        )
    return found


def done_at(done_on: date | None, now: datetime) -> datetime:
    """Return when a round is or was done: now, or at noon of the day that was given."""
    return now if done_on is None else datetime.combine(done_on, time(12), now.tzinfo)


def check_spray_entry(entry: SprayEntry) -> None:
    """Check one plant's record, or raise InputError naming the field."""
    if entry.volume is not None and not 0 < entry.volume <= 20_000:
        raise InputError(
            f"{entry.volume:g} ml on a plant",
            code="bad_volume",
            field="volume",
            fix="Give the millilitres this plant got, above 0.",
        )
    if entry.kind is SprayKind.SKIPPED and not entry.note.strip():
        raise InputError(
            "a plant is skipped without a reason",
            code="empty",
            field="note",
            fix="Say why, such as: a bee on the flowers.",
        )
    if entry.neighbour_id is not None and entry.neighbour_id == entry.plant_id:
        raise InputError(
            "a plant is no neighbour of itself",
            code="bad_neighbour",
            field="neighbour_id",
            fix="Name the other plant that was hit.",
        )


def rain_after(weather: Weather, sprayed_at: datetime) -> tuple[float, bool]:
    """Return mm of rain read in the 24 h after a spray, and whether that counts as wash-off.

    Forecast hours are left out: only what fell is logged. Over about 5 mm is wash-off.
    """
    low = max(weather.index_of(sprayed_at), 0)
    high = min(weather.index_of(sprayed_at + AFTER_SPRAY), weather.forecast_from)
    fallen = [v for v in weather.rain[low:high].tolist() if not math.isnan(v)]
    total = sum(fallen)
    return total, total > RAIN_WASHES_OFF


def heat_after(weather: Weather, sprayed_at: datetime, hours: int, high: float) -> float | None:
    """Return the highest temperature read within some hours after a spray if above `high`."""
    first = max(weather.index_of(sprayed_at), 0)
    last = min(weather.index_of(sprayed_at + timedelta(hours=hours)), weather.forecast_from)
    seen = [v for v in weather.temperature[first:last].tolist() if not math.isnan(v)]
    top = max(seen, default=None)
    return top if top is not None and top > high else None
