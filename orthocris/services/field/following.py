"""Rules of remedies: what follows where a look finds too many."""

from __future__ import annotations

from collections.abc import Collection

from orthocris.core.field.following import Looked, RemedyRound, Rule, parts_by_rule
from orthocris.core.trial.plan import Remedy
from orthocris.storage.counting import counts
from orthocris.storage.database import Connection
from orthocris.storage.trial import following as kept
from orthocris.storage.trial import reading


def rule_of(remedy: Remedy) -> Rule | None:
    """Return the rule of a remedy, or None."""
    for part, step in enumerate(remedy.traits.steps, 1):
        if step.above is not None:
            return Rule(remedy.id, part, step.after, step.above)
    return None


def settle(connection: Connection, trial_id: int, paper: Collection[int] = ()) -> None:
    """Let the counts of a trial decide what its coming rounds give, where a remedy has a rule.

    Rounds that came from `paper` (their numbers) are taken to have kept the rule.
    """
    if not kept.has_rules(connection, trial_id):
        return
    trial = reading.load(connection, trial_id)
    found = {(p, look): v for p, look, v in counts.values(connection, trial_id, trial.measure)}
    begun = {start.round_id for start in trial.starts} | {spray.round_id for spray in trial.sprays}
    for rule in filter(None, map(rule_of, trial.remedies)):
        plants = [
            p.id for p in trial.trial_plants if p.remedy_id == rule.remedy_id and p.died_on is None
        ]
        looks = [
            Looked(look.moment, tuple(found.get((p, look.number)) for p in plants))
            for look in trial.looks
            if look.number
        ]
        rounds = [
            RemedyRound(
                r.id,
                r.day,
                r.step_of(rule.remedy_id),
                r.id in begun,
                r.id in begun and r.number not in paper,
            )
            for r in trial.rounds
            if r.gives(rule.remedy_id)
        ]
        for round_id, part in parts_by_rule(rule, rounds, looks).items():
            kept.give_part(connection, round_id, rule.remedy_id, part)
