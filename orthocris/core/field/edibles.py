"""Plants that are eaten: what to pick before, and when to eat again."""

from __future__ import annotations

import math
from collections.abc import Iterable
from datetime import timedelta

from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.trial.plan import Remedy, Role
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.trial import Trial

BY_LABEL = "For eating: its label gives the days to wait; without one, not on what is eaten."


def longest_wait(cards: Iterable[RecipeCard]) -> RecipeCard:
    """Return the card of a remedy's parts after which one waits longest; a label's rule first."""
    return max(cards, key=_wait)


def _wait(card: RecipeCard) -> float:
    return math.inf if card.eat_after_days is None else card.eat_after_days


def eat_after(trial: Trial, remedy: Remedy, card: RecipeCard) -> str:
    """Say from which day edible parts may be eaten; empty on plants nobody eats.

    The day counts from when this remedy was last given, late rounds too, or else from its last
    planned day.
    """
    if trial.setup.harvest_days is None or remedy.role is Role.CONTROL:
        return ""
    if card.eat_after_days is None:
        return BY_LABEL
    if not card.eat_after_days:
        return ""
    given = {p.id for p in trial.plants if p.remedy_id == remedy.id}
    done = [
        s.sprayed_at.date()
        for s in trial.sprays
        if s.plant_id in given and s.kind is not SprayKind.SKIPPED
    ]
    last = max(done) if done else trial.date_of(max(trial.days_of(remedy), default=0))
    on = last + timedelta(days=card.eat_after_days)
    wait = "1 day" if card.eat_after_days == 1 else f"{card.eat_after_days} days"
    return (
        f"For eating: pick what is ripe before the spray; then nothing before {on:%a %d %b %Y}, "
        f"{wait} after the last spray, and washed."
    )
