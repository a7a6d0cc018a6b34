"""Plants that are eaten: what to pick before, and when to eat again."""

from __future__ import annotations

from datetime import timedelta

from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.trial.plan import Remedy, Role
from orthocris.core.trial.trial import Trial

BY_LABEL = "For eating: its label gives the days to wait; without one, not on what is eaten."


def eat_after(trial: Trial, remedy: Remedy, card: RecipeCard) -> str:
    """Say from which day edible parts may be eaten; empty on plants nobody eats.

    The day counts from the last spray of this remedy that was done, or else is planned.
    """
    if trial.setup.harvest_days is None or remedy.role is Role.CONTROL:
        return ""
    if card.eat_after_days is None:
        return BY_LABEL
    if not card.eat_after_days:
        return ""
    given = {p.id for p in trial.plants if p.remedy_id == remedy.id}
    days = [r.day for r in trial.rounds if given & set(trial.sprayed_in(r))]
    last = trial.date_of(max(days or trial.days_of(remedy) or [0]))
    on = last + timedelta(days=card.eat_after_days)
    wait = "1 day" if card.eat_after_days == 1 else f"{card.eat_after_days} days"
    return (
        f"For eating: pick what is ripe before the spray; then nothing before {on:%a %d %b %Y}, "
        f"{wait} after the last spray, and washed."
    )
