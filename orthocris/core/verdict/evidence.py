"""What a trial says of each remedy: effect, interval, chances, and the claims that hold."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from orthocris.core.verdict.layouts import LayoutSet, layouts_possible, reference_set
from orthocris.core.verdict.lot import Lot
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.laplace import Posterior, fit
from orthocris.core.verdict.model.likelihood import FloatArray, Likelihood, Shares
from orthocris.core.verdict.model.reading import chance_of_first, draw_log_harm
from orthocris.core.verdict.rerandomise import ENOUGH_LAYOUTS, FAMILY_ERROR, Claims, claims
from orthocris.core.verdict.spread import Spreads, own_spreads
from orthocris.core.verdict.table import Table

DRAWS = 2**14
# The model's own chance that a remedy does something, without which the lot's word is not enough.
# Shares near all or nothing vary less than others, which the lot's shuffled residuals do not know:
# there more is asked of the model.
AGREES, AGREES_SHARES = 0.9, 0.96
AGREES_WORSE = 0.975  # to say that a remedy makes it worse, whatever is counted
# Each remedy is struck off the list of possible bests below this chance of being the best, so
# that a tie of two is falsely settled in at most 5% of trials (either way round).
BEST_ERROR = 0.025
TILT, LARGEST_TILTED = 0.4, 6.0
# A ratio of e^50 is beyond any number of pests: counts and efforts allow less than 1e16.
MOST_LOG = 50.0
EVEN = 0.5


@dataclass(frozen=True, slots=True)
class Effect:
    """One remedy against the reference: log of the ratio of harm, and what is sure of it.

    `middle` is the posterior median, `low` and `high` bound 95%. `better` and `worse` are
    family-wise p, `helps` the model's chance that it does something, of which `asked` is asked;
    `beats` and `is_worse` hold when the lot and the model agree. `spreads_differ` where its plants
    spread otherwise than the control's: then a claim must hold for the plain means too.
    """

    middle: float
    low: float
    high: float
    better: float
    worse: float
    helps: float
    asked: float
    beats: bool
    is_worse: bool
    spreads_differ: bool = False


@dataclass(frozen=True, slots=True)
class Evidence:
    """All that the counts of one look say.

    Attributes
    ----------
    remedies:
        Remedies compared, in the order of the draws.
    log_harm:
        Joint posterior draws of the log of expected harm under each, (draws, remedies).
    effects:
        Against the control, by remedy; empty where there is none, or no spread to judge by.
    exact:
        False when the lot had too few layouts to speak at 5%, so that the model alone decided.
    posterior:
        What the draws came from.
    as_shares:
        True when its levels are logits of shares, False when they are logs.
    spent:
        How much of the 5% may be spent up to this look; 0 where nothing was tested.
    """

    remedies: tuple[str, ...]
    log_harm: FloatArray
    effects: dict[str, Effect]
    exact: bool
    posterior: Posterior
    as_shares: bool
    spent: float = 0.0

    def level(self, remedy: str) -> float:
        """Return the median log of expected harm under a remedy."""
        return float(np.median(self.log_harm[:, self.remedies.index(remedy)]))

    def chance_of_best(self, candidates: Sequence[str]) -> dict[str, float]:
        """Return for each candidate the chance that it leaves the least of all of them."""
        index = [self.remedies.index(name) for name in candidates]
        if not index:
            return {}
        lowest = np.argmin(self.log_harm[:, index], axis=1)
        share = np.bincount(lowest, minlength=len(index)) / len(lowest)
        return {name: float(share[k]) for k, name in enumerate(candidates)}

    def chance_of(self, remedy: str, control: str, efficacy: float) -> float:
        """Return the chance that a remedy removes at least so large a fraction."""
        return float(chance_of_worth(self._log_ratio(remedy, control), efficacy))

    def chance_within(self, remedy: str, best: str, control: str, margin: float) -> float:
        """Return the chance that a remedy removes no less than the best one but for a margin."""
        own = np.exp(np.minimum(self._log_ratio(remedy, control), MOST_LOG))
        other = np.exp(np.minimum(self._log_ratio(best, control), MOST_LOG))
        return float(np.mean(own - other <= margin))

    def _log_ratio(self, remedy: str, control: str) -> FloatArray:
        column = self.remedies.index
        return self.log_harm[:, column(remedy)] - self.log_harm[:, column(control)]


def chance_of_worth(log_ratio: FloatArray, efficacy: float) -> FloatArray:
    """Return the chance of removing at least so large a fraction, from draws along the first axis.

    Draws come from a posterior for which halving what is left is as likely beforehand from
    anywhere. If remedies were as likely to remove any fraction, those that remove little would be
    met more often. Draws weigh as a power of their ratio that makes the chance come true within 5
    points in that world (bench/calibration); where strong remedies are as common as weak ones it
    is too low, never too high.
    """
    weight = np.exp(TILT * np.clip(log_ratio, -LARGEST_TILTED, 0.0))
    reaches = log_ratio <= np.log1p(-efficacy)
    return np.asarray(np.sum(weight * reaches, axis=0) / np.sum(weight, axis=0))


def weigh(
    table: Table,
    responses: list[FloatArray],
    *,
    control: str | None,
    seed: int,
    early: int = 0,
    layouts: LayoutSet | None = None,
) -> Evidence:
    """Fit the model, ask the lot, and say what holds.

    Parameters
    ----------
    table:
        The plants compared.
    responses:
        Log harm at each look up to this one (see `Table.responses`).
    control:
        The control among them, or None: then there are no effects.
    seed:
        Seed of the draws.
    early:
        How many of the looks come before the decisive one.
    layouts:
        The layouts that the lot could have drawn where a rule restricted it; None for any within
        the blocks.
    """
    likelihoods = table.likelihoods()
    x = None if table.x is None else table.x[None, :]
    there = control is not None and control in table.remedies
    index = table.remedies.index(control) if there else None
    views = [(one, fit(table.layout, one, x, index)) for one in likelihoods]
    log_harm = draw_log_harm(views, DRAWS, seed)[0]
    likelihood, posterior = likelier(views)
    as_shares = isinstance(likelihood, Shares)
    found = Evidence(table.remedies, log_harm, {}, True, posterior, as_shares)
    if control is None or control not in table.remedies or len(table.remedies) < 2:
        return found
    if len(table.lines) <= len(table.remedies):
        return found
    index = table.remedies.index(control)
    said, exact = said_by_the_lot(
        table, responses, control=control, seed=seed, early=early, layouts=layouts
    )
    spreads = own_spreads(table.layout, likelihood, posterior, x, index)
    effects = {
        name: _own(
            _effect(log_harm, (r, index), said if exact else None, agreement(likelihood)),
            spreads,
            r,
        )
        for r, name in enumerate(table.remedies)
        if r != index
    }
    return Evidence(table.remedies, log_harm, effects, exact, posterior, as_shares, said.spent)


def said_by_the_lot(
    table: Table,
    responses: list[FloatArray],
    *,
    control: str,
    seed: int,
    early: int = 0,
    layouts: LayoutSet | None = None,
) -> tuple[Claims, bool]:
    """Return what the lot says of each remedy, and whether it had layouts enough to say it at 5%.

    Parameters are those of `weigh`; responses are logs of whatever was counted or measured.
    """
    plants = [line.plant for line in table.lines]
    kept = None if layouts is None else layouts.of(plants, table.remedies)
    drawn = (
        reference_set(table.layout, seed)
        if kept is None
        else np.concatenate([table.layout.remedy[None, :], kept])
    )
    x = None if table.x is None else table.x[None, :]
    lot = Lot(table.layout, drawn, x, table.remedies.index(control))
    said = claims(
        lot,
        [response[None, :] for response in responses],
        exact=layouts_possible(table.layout) >= ENOUGH_LAYOUTS,
        early=early,
        layouts=min(_layouts_at_first(table), len(drawn)),
    )
    return said, said.least < FAMILY_ERROR and lot.df > 0


def _own(effect: Effect, spreads: Spreads | None, remedy: int) -> Effect:
    """Ask more where a remedy's plants spread otherwise than the control's."""
    if spreads is None:
        return effect
    worse, beats = (
        bool(spreads.allow(remedy, claimed, worse=side)[0])
        for claimed, side in ((effect.is_worse, True), (effect.beats, False))
    )
    if not spreads.differ[0, remedy]:
        return replace(effect, is_worse=worse, beats=beats)
    return replace(
        effect,
        low=min(effect.low, float(spreads.low[0, remedy])),
        high=max(effect.high, float(spreads.high[0, remedy])),
        beats=beats,
        is_worse=worse,
        spreads_differ=True,
    )


def _layouts_at_first(table: Table) -> int:
    """How many layouts the lot had before plants were added."""
    first = np.array([not line.added for line in table.lines])
    if first.all() or not first.any():
        return layouts_possible(table.layout)
    parts = (table.layout.remedy, table.layout.block)
    remedy, block = (None if part is None else part[first] for part in parts)
    return layouts_possible(Layout(np.asarray(remedy), block))


def likelier(views: Sequence[tuple[Likelihood, Posterior]]) -> tuple[Likelihood, Posterior]:
    """Return the view of one trial's numbers that is likelier."""
    return views[0] if len(views) == 1 or chance_of_first(views)[0] >= EVEN else views[1]


def agreement(likelihood: Likelihood) -> float:
    """Return the model's chance that is asked for beside the lot's word."""
    return AGREES_SHARES if isinstance(likelihood, Shares) else AGREES


def _effect(
    log_harm: FloatArray, pair: tuple[int, int], said: Claims | None, agrees: float
) -> Effect:
    remedy, control = pair
    ratio = log_harm[:, remedy] - log_harm[:, control]
    low, middle, high = (float(q) for q in np.quantile(ratio, [0.025, 0.5, 0.975]))
    helps = float(np.mean(ratio < 0))
    if said is None:
        # Too few layouts: the model's two-sided p, by Bonferroni over the remedies.
        others = log_harm.shape[1] - 1
        better, worse = (min(1.0, 2 * others * p) for p in (1 - helps, helps))
    else:
        better, worse = float(said.better[0, remedy]), float(said.worse[0, remedy])
    return Effect(
        middle=middle,
        low=low,
        high=high,
        better=better,
        worse=worse,
        helps=helps,
        asked=agrees,
        beats=better < FAMILY_ERROR and helps >= agrees,
        is_worse=worse < FAMILY_ERROR and 1 - helps >= AGREES_WORSE,
    )
