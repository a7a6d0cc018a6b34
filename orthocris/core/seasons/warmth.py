"""The warmth of a year: degree-days day by day, compared with the years before."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from orthocris.core.field.lifecycle import CEILING

Days = NDArray[np.float64]
WHOLE_DAY = 18  # hours known of a day that is known
KNOWN_SHARE = 0.9  # of the days so far, for a sum that may be compared
USUAL_T0 = 5.0  # °C for what has no life cycle of its own


def season_start(day: date, latitude: float) -> date:
    """Return the day on which a garden's year begins: midwinter, in either half of the earth."""
    if latitude >= 0:
        return date(day.year, 1, 1)
    return date(day.year - (day.month < 7), 7, 1)


def season_name(start: date) -> str:
    """Return how a year is called: 2026, or 2026/27 where it spans two."""
    return f"{start.year}" if start.month == 1 else f"{start.year}/{(start.year + 1) % 100:02}"


def daily(temperature: Days, t0: float) -> Days:
    """Return the degree-days of each whole day, from hours of °C; NaN where too few are known.

    Each hour gives max(min(T, 33) - T0, 0) / 24, as for rounds (`field.lifecycle`).
    """
    hours = temperature[: len(temperature) // 24 * 24].reshape(-1, 24)
    known = ~np.isnan(hours)
    warmth = np.maximum(np.minimum(hours, CEILING) - t0, 0.0)
    count = known.sum(axis=1)
    sums = np.where(known, warmth, 0.0).sum(axis=1)
    return np.where(count >= WHOLE_DAY, sums / np.maximum(count, 1), np.nan)


@dataclass(frozen=True, slots=True)
class Season:
    """One year of warmth: what each day gave, from `start` on; NaN where it is not known."""

    start: date
    days: Days

    @property
    def end(self) -> date:
        """The first day of the next year."""
        return self.start.replace(year=self.start.year + 1)

    def sum_until(self, day: date) -> float | None:
        """Return the degree-days gathered by the end of a day, None where too little is known.

        A day that is not known is taken as the mean of those that are.
        """
        count = (day - self.start).days + 1
        if not 0 < count <= len(self.days):
            return None
        known = self.days[:count][~np.isnan(self.days[:count])]
        if len(known) < KNOWN_SHARE * count:
            return None
        return float(known.mean() * count)

    def day_of(self, total: float) -> date | None:
        """Return the first day by whose end so much was gathered; None if it was not reached."""
        filled = np.where(np.isnan(self.days), np.nan_to_num(np.nanmean(self.days)), self.days)
        reached = np.flatnonzero(np.cumsum(filled) >= total - 1e-9)
        return self.start + timedelta(days=int(reached[0])) if len(reached) else None


def prolonged(this: Season, before: Sequence[Season]) -> Season:
    """Return this year with its days to come as warm as those of the years before were.

    Days of which no earlier year knows anything get what the last known days of this year gave.
    """
    done = len(this.days)
    mean = this.days[-28:]
    usual = float(np.nanmean(mean)) if len(mean) and not np.isnan(mean).all() else 0.0
    ahead = [
        float(np.mean(known))
        if (known := [s.days[k] for s in before if k < len(s.days) and not np.isnan(s.days[k])])
        else usual
        for k in range(done, (this.end - this.start).days)
    ]
    return Season(this.start, np.concatenate([this.days, np.array(ahead, dtype=float)]))
