"""What is counted of a garden's verdicts: was each promise kept?"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bench.calibration.classical import classical_beats
from bench.calibration.gardens import LETTERS, Drawn, Garden, draw, observations
from orthocris.core import judge
from orthocris.core.planning.many_trials import Judged, judge_many

NAME_WIDTH = 46
HERE = "  by what was removed from the plants on trial"
THRESHOLD = 0.6
CHUNK = 250
# As many draws as decide a chance of 2.5% to within 0.25%, and layouts p of 4% to within 0.4%.
DRAWS, LAYOUTS = 4096, 2500


@dataclass(frozen=True)
class Said:
    """What the verdicts of many trials say, (trials, remedies but the control).

    `one` is the only remedy that could be best and beats the control, counted from 1, else 0.
    """

    low: np.ndarray
    high: np.ndarray
    beats: np.ndarray
    worse: np.ndarray
    chance: np.ndarray
    worth: np.ndarray
    one: np.ndarray

    @classmethod
    def together(cls, found: Judged) -> Said:
        """Those judged at once."""
        return cls(
            found.low,
            found.high,
            found.beats,
            found.is_worse,
            found.chance,
            found.worth,
            found.winner,
        )

    @classmethod
    def one_by_one(cls, garden: Garden, drawn: Drawn, rng: np.random.Generator) -> Said:
        """Those that are no regular tables."""
        k = garden.count - 1
        rows = []
        for t in range(len(drawn.left)):
            verdict = judge(list(observations(garden, drawn, t, rng)))
            by_name = {r.name: r for r in verdict.remedies}
            found = [by_name.get(LETTERS[j]) for j in range(k)]
            alone = [j + 1 for j, r in enumerate(found) if r is not None and r.could_be_best]
            wins = len(alone) == 1 and verdict.outcome.value == "winner"
            rows.append(
                [
                    [
                        np.nan if r is None or r.efficacy_low is None else r.efficacy_low
                        for r in found
                    ],
                    [
                        np.nan if r is None or r.efficacy_high is None else r.efficacy_high
                        for r in found
                    ],
                    [r is not None and r.beats_control for r in found],
                    [r is not None and r.worse_than_control for r in found],
                    [np.nan if r is None or r.prob_best is None else r.prob_best for r in found],
                    [
                        np.nan if r is None or r.prob_worth_it is None else r.prob_worth_it
                        for r in found
                    ],
                    [alone[0] if wins else 0],
                ]
            )
        low, high, beats, worse, chance, worth, one = (
            np.array([row[i] for row in rows]) for i in range(7)
        )
        return cls(low, high, beats, worse, chance, worth, one[:, 0])


@dataclass(frozen=True)
class Kept:
    """Shares of one garden's trials; `chances` are (what, chance said, was it so).

    `here` are the shares judged by what the remedies did on the plants of each trial, where that
    differs from what they do in the long run.
    """

    garden: Garden
    shares: dict[str, float]
    chances: dict[str, np.ndarray]
    here: dict[str, float] | None = None

    def row(self) -> str:
        """One line of the table, or two."""
        line = self._line(self.garden.name, self.shares)
        return line if self.here is None else f"{line}\n{self._line(HERE, self.here)}"

    @staticmethod
    def _line(name: str, shares: dict[str, float]) -> str:
        s = {k: "  –  " if np.isnan(v) else f"{v:.3f}" for k, v in shares.items()}
        return (
            f"{name:{NAME_WIDTH}s} {s['least']} {s['most']}  {s['false']} "
            f"({s['usual false']})  {s['wrong winner']}  {s['wrong none']}  {s['power']} "
            f"({s['usual power']})  {s['named']}  {s['recommended']} ({s['below']})  {s['worse']}"
        )


def title() -> str:
    """The head of the table."""
    return (
        f"{'garden':{NAME_WIDTH}s} holds min max  false beats (Dunnett)  wrong winner  wrong none  "
        "power (Dunnett)  best named  recommended (truly below)  some said worse"
    )


def tenths(every: Sequence[Kept]) -> Iterator[str]:
    """How often what was said came true, by tenths of the chance said, in gardens of any truth.

    Those of truths even from nothing to all, those of truths even in logs, and all of them.
    """
    worlds = {"": (False,), ", truths in logs": (True,), ", both": (False, True)}
    for what in ("best", "worth"):
        for name, logs in worlds.items():
            found = [k for k in every if k.garden.survival is None and k.garden.logs in logs]
            if not found:
                continue
            pairs = np.concatenate([k.chances[what] for k in found])
            place = np.minimum((pairs[:, 0] * 10).astype(int), 9)
            said = [
                f"{pairs[place == k, 0].mean():.2f}→{pairs[place == k, 1].mean():.2f}"
                for k in range(10)
                if (place == k).sum() > 50
            ]
            yield f"chance of {what}{name}: {'  '.join(said)}"


def check(garden: Garden, trials: int, seed: int) -> Kept:
    """Judge many trials of a garden."""
    rng = np.random.default_rng(seed)
    drawn, said, usual = [], [], []
    for start in range(0, trials, CHUNK):
        part = draw(garden, min(CHUNK, trials - start), rng)
        drawn.append(part)
        if garden.lost or garden.leaves:
            said.append(Said.one_by_one(garden, part, rng))
        else:
            found = judge_many(
                part.layout,
                part.tables,
                threshold=THRESHOLD,
                seed=seed,
                draws=DRAWS,
                layouts=LAYOUTS,
            )
            said.append(Said.together(found))
        usual.append(classical_beats(part.layout, part.tables))
    names = ("low", "high", "beats", "worse", "chance", "worth", "one")
    whole = Said(*(np.concatenate([getattr(s, n) for s in said]) for n in names))
    left = np.concatenate([d.left[:, 1:] for d in drawn])
    beats = np.concatenate(usual)
    kept = _kept(garden, whole, 1 - left, beats)
    here = [d.here[:, 1:] for d in drawn if d.here is not None]
    if not here:
        return kept
    return replace(kept, here=_kept(garden, whole, 1 - np.concatenate(here), beats).shares)


def _kept(garden: Garden, said: Said, truth: np.ndarray, usual: np.ndarray) -> Kept:
    rows = np.arange(len(truth))
    known = np.isfinite(said.low)
    holds = np.nanmean(np.where(known, (said.low <= truth) & (truth <= said.high), np.nan), axis=0)
    useless, useful = truth <= 1e-9, truth > 1e-9
    order = np.sort(truth, axis=1)
    alone = np.ones(len(truth), bool) if truth.shape[1] == 1 else order[:, -1] > order[:, -2]
    right = (said.one > 0) & (truth[rows, said.one - 1] == order[:, -1]) & alone
    none = ~said.beats.any(axis=1) & np.all(np.where(known, said.high < THRESHOLD, True), axis=1)
    worth = said.beats & (said.worth >= 0.5)
    best = np.where(worth, (said.low + said.high) / 2, -np.inf).argmax(axis=1)
    shares = {
        "least": float(holds.min()),
        "most": float(holds.max()),
        "false": float((said.beats & useless).any(axis=1).mean()),
        "usual false": float((usual & useless).any(axis=1).mean()),
        "wrong winner": float(((said.one > 0) & ~right).mean()),
        "wrong none": float((none & (truth >= THRESHOLD).any(axis=1)).mean()),
        "power": float(said.beats[useful].mean()) if useful.any() else np.nan,
        "usual power": float(usual[useful].mean()) if useful.any() else np.nan,
        "named": float(right.mean()),
        "recommended": float(worth.any(axis=1).mean()),
        "below": float((worth.any(axis=1) & (truth[rows, best] < THRESHOLD)).mean()),
        "worse": float(said.worse.any(axis=1).mean()),
    }
    chances = {
        "best": np.column_stack(
            [said.chance.ravel(), (truth == order[:, -1:]).astype(float).ravel()]
        ),
        "worth": np.column_stack([said.worth.ravel(), (truth >= THRESHOLD).astype(float).ravel()]),
    }
    return Kept(garden, shares, chances)
