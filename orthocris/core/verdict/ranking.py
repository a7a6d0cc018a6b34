"""The remedies in rank order, each with all that the trial says of it."""

from __future__ import annotations

import math

from orthocris.core.trial.measures import MEASURES
from orthocris.core.verdict.amounts import rate
from orthocris.core.verdict.case import Case, Gone
from orthocris.core.verdict.classic import classic_for, group_means
from orthocris.core.verdict.evenness import failures
from orthocris.core.verdict.evidence import BEST_ERROR, MOST_LOG, Effect
from orthocris.core.verdict.gathering import Gathered
from orthocris.core.verdict.result import RemedyResult


def ratio_of(log_ratio: float) -> float:
    """Return the ratio of a difference of log levels, kept finite beyond any number of pests.

    A few plants that disagree wholly have an interval without end; exp of it has none either.
    """
    return math.exp(min(log_ratio, MOST_LOG))


def _helpers(gathered: Gathered) -> dict[str, float]:
    """Mean helpers seen on a plant at a look after the first spray, for remedies where any were."""
    seen: dict[str, list[float]] = {}
    for plant, by_day in gathered.of("helpers").items():
        after = [rate(MEASURES["helpers"], sample) for day, sample in by_day.items() if day > 0]
        if after:
            own = seen.setdefault(gathered.homes[plant].remedy, [])
            own.append(sum(after) / len(after))
    return {name: sum(found) / len(found) for name, found in seen.items()}


def remedy_results(case: Case) -> tuple[RemedyResult, ...]:
    """Return every remedy of the trial, those that leave least first, those without plants last."""
    said = Said(case)
    evidence, any_left = case.evidence, case.gone is not Gone.EVERYWHERE
    sound = [name for name in said.remedies if not case.harm[name].vetoed]
    best = evidence.chance_of_best(sound) if any_left else {}
    could = {name for name, chance in best.items() if chance >= BEST_ERROR}
    # A remedy that harms cannot be best, so it takes no chance from the others either.
    chances = dict.fromkeys(said.remedies, 0.0) | best if any_left else {}
    return tuple(
        said.of(name, could_be_best=name in could, chance=chances.get(name)) for name in said.rank
    )


class Said:
    """What is the same for all remedies of one trial."""

    def __init__(self, case: Case) -> None:
        self.data, self.evidence = case.data, case.evidence
        self.threshold, self.gone, self.harm = case.threshold, case.gone, case.harm
        gathered, data, table, evidence = case.gathered, case.data, case.table, case.evidence
        compared = evidence.remedies
        self.remedies = [name for name in compared if name != data.control]
        self.rank = sorted(
            gathered.remedies,
            key=lambda name: evidence.level(name) if name in compared else math.inf,
        )
        self.helpers = _helpers(gathered)
        self.means = {name: group_means(name, data, gathered) for name in gathered.remedies}
        self.ratios = {name: self._ratio(name) for name in self.rank}
        removed = {
            name: 1 - ratio
            for name, ratio in self.ratios.items()
            if ratio is not None and name in evidence.effects
        }
        self.failed = failures(table, evidence, removed, data.control)
        self.missed = [table.lines[k] for k in evidence.posterior.missed()]

    def of(self, name: str, *, could_be_best: bool, chance: float | None) -> RemedyResult:
        """Return one remedy's result."""
        data, harm = self.data, self.harm[name]
        role = "control" if name == data.control else "remedy"
        ratio, effect = self.ratios[name], self.evidence.effects.get(name)
        shown = effect if self.gone is Gone.NOWHERE else None
        plants = sum(line.remedy == name for line in data.lines)
        efficacy = None if data.control is None or role == "control" or ratio is None else 1 - ratio
        classic = classic_for(self.means[name], self.means.get(data.control or ""), role)
        return RemedyResult(
            name=name,
            role=role,
            plants=plants,
            mean_before=self._mean(name, before=True),
            mean_after=self._mean(name, before=False),
            efficacy=efficacy,
            efficacy_low=None if shown is None else 1 - ratio_of(shown.high),
            efficacy_high=None if shown is None else 1 - ratio_of(shown.low),
            rate_ratio=ratio,
            p_adjusted=None if shown is None else min(shown.better, shown.worse),
            beats_control=shown is not None and shown.beats and plants > 1,
            prob_best=chance if role == "remedy" else None,
            prob_worth_it=self._worth(name, shown),
            could_be_best=could_be_best and self._alive(effect, data.control),
            damage_beyond_control=harm.damage if role == "remedy" else None,
            vetoed=role == "remedy" and harm.vetoed,
            classic=classic.values,
            classic_notes=classic.notes,
            worse_than_control=shown is not None and shown.is_worse,
            failed_on=None if role == "control" else self.failed.get(name),
            missed=tuple(line.plant for line in self.missed if line.remedy == name),
            lost=harm.lost,
            died=harm.died,
            kills=harm.kills,
            damage_low=harm.low if role == "remedy" else None,
            damage_high=harm.high if role == "remedy" else None,
            damage_plants=harm.scored,
            helpers=self.helpers.get(name),
        )

    def _alive(self, effect: Effect | None, control: str | None) -> bool:
        """With a control only what was compared with it, and is not worse, may be the best."""
        return control is None or (effect is not None and not effect.is_worse)

    def _worth(self, name: str, shown: Effect | None) -> float | None:
        control = self.data.control
        if shown is None or control is None:
            return None
        return self.evidence.chance_of(name, control, self.threshold)

    def _ratio(self, name: str) -> float | None:
        """Return the ratio to the control, or to the first in rank where there is none."""
        control = self.data.control
        reference = self.rank[0] if control is None else control
        compared = self.evidence.remedies
        if name not in compared or reference not in compared:
            return None
        if control is not None and self.gone is not Gone.NOWHERE:
            return None  # nothing left on the control: no ratio exists
        if name == reference:
            return 1.0
        effect = self.evidence.effects.get(name)
        if effect is not None:
            return ratio_of(effect.middle)
        return ratio_of(self.evidence.level(name) - self.evidence.level(reference))

    def _mean(self, remedy: str, *, before: bool) -> float | None:
        samples = [
            line.before if before else line.after
            for line in self.data.lines
            if line.remedy == remedy
        ]
        rates = [rate(self.data.measure, sample) for sample in samples if sample is not None]
        return sum(rates) / len(rates) if rates else None
