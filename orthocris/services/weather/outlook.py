"""The weather ahead, read once, and the best hours for whatever bench asks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta

import numpy as np
from numpy.typing import NDArray

from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.trial.care import Spot
from orthocris.core.trial.plan import Remedy, Role, Round, TrialPlan
from orthocris.core.weather.hours import Weather
from orthocris.core.weather.sunlight import light_enough
from orthocris.core.weather.window_words import why_closed
from orthocris.core.weather.windows import WindowTable, best_hour, local_hour, together, windows
from orthocris.core.weather.yard import Yard
from orthocris.services.pantry.remedy_cards import rules_of
from orthocris.services.weather.stations import clock_of, weather_at
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection

DAYS_AHEAD = 6  # today and the next five
HISTORY_HOURS = 24  # so that leaves wet from last night are known to be
ANY_TIME = SprayRules(wets=False, wind=100.0)


@dataclass(frozen=True, slots=True)
class DayView:
    """A day's best hour, None with the commonest reason why there is none."""

    day: date
    best: datetime | None
    open_hours: int
    why: str


class Outlook:
    """The yard's weather from yesterday on, and the best hours under any rules.

    Benches that stand alike and are sprayed under the same rules share one computation.
    """

    def __init__(
        self, place: Yard, now: datetime, weather: Weather, station: str, days: int
    ) -> None:
        self.place = place
        self.now = now
        self.weather = weather
        self.station = station
        self.days = days
        self.light: NDArray[np.bool_] = light_enough(
            clock_of(place, now), weather.start, weather.hours
        )
        self._best: dict[tuple[Spot, SprayRules], dict[date, DayView]] = {}

    def table(self, plan: TrialPlan, rules: Sequence[SprayRules]) -> WindowTable:
        """Return the windows of a bench hour by hour, one row for each of the rules."""
        return windows(self.weather, self.light, _spot(plan), rules)

    def best(self, plan: TrialPlan, round_: Round | None = None) -> dict[date, DayView]:
        """Return each day's best hour for a round, or (None) for spraying the whole of a bench."""
        key = _spot(plan), rules_together(plan, round_)
        if key not in self._best:
            table = windows(self.weather, self.light, key[0], [key[1]])
            views = [self.day(table, 0, ahead) for ahead in range(self.days)]
            self._best[key] = {view.day: view for view in views}
        return self._best[key]

    def best_on(self, plan: TrialPlan, day: date) -> datetime | None:
        """Return the best hour of a day for a bench; None without one, or out of reach."""
        view = self.best(plan).get(day)
        return None if view is None else view.best

    def day(self, table: WindowTable, row: int, ahead: int) -> DayView:
        """Return one day's best hour by one row of a table."""
        first = HISTORY_HOURS + 24 * ahead
        start = max(first, table.weather.index_of(local_hour(self.now))) if ahead == 0 else first
        best = best_hour(table, row, start, first + 24)
        return DayView(
            day=self.now.date() + timedelta(days=ahead),
            best=None if best is None else self.time_of(best),
            open_hours=int(table.open()[row, start : first + 24].sum()),
            why="" if best is not None else why_closed(table, row, range(start, first + 24)),
        )

    def time_of(self, hour: int) -> datetime:
        """Return an hour by its index as a time on the gardener's clock."""
        return self.weather.time_of(hour).replace(tzinfo=self.now.tzinfo)


def outlook_of(connection: Connection, now: datetime, days: int = DAYS_AHEAD) -> Outlook:
    """Read the yard's weather from yesterday's midnight over some days."""
    place = yard.load(connection)
    start = datetime.combine(now.date(), time()) - timedelta(hours=HISTORY_HOURS)
    weather, station = weather_at(connection, place, start, HISTORY_HOURS + (days + 1) * 24, now)
    return Outlook(place, now, weather, station, days)


def rules_by_remedy(
    plan: TrialPlan, round_: Round | None = None
) -> list[tuple[Remedy, SprayRules]]:
    """Return the rules of each remedy that minds the weather, of a round or of the whole trial."""
    every = (part for remedy in plan.remedies for part in remedy.parts)
    given = every if round_ is None else plan.given_in(round_)
    return [(r, rules) for r in given if (rules := rules_of(r, plan.care)) is not None]


def minds_weather(plan: TrialPlan, round_: Round) -> bool:
    """True when some remedy given in a round minds the weather; no window closes the others."""
    return any(r.role is Role.REMEDY for r, _ in rules_by_remedy(plan, round_))


def rules_together(plan: TrialPlan, round_: Round | None = None) -> SprayRules:
    """Return the rules under which a whole round is sprayed."""
    own = [rules for _, rules in rules_by_remedy(plan, round_)]
    return together(own) if own else ANY_TIME


def _spot(plan: TrialPlan) -> Spot:
    """Where the bench stands; in bloom, bees visit it."""
    spot = plan.care.spot
    if plan.setup.in_bloom and spot.outdoors and not spot.bees:
        return replace(spot, bees=True)
    return spot
