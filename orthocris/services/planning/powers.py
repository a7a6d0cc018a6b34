"""How many plants: simulations that run beside the requests, with progress and cancel."""

from __future__ import annotations

import itertools
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace

from orthocris.core.errors import ConflictError, InputError, NotFoundError, OrthocrisError
from orthocris.core.planning.benches import Assumptions
from orthocris.core.planning.power import (
    PowerPoint,
    answer,
    fewest_blocks,
    power_at,
    sizes_around,
    usual_assumptions,
)
from orthocris.core.planning.waves import power_in_two_waves
from orthocris.core.trial.plants import LEAST_BLOCKS
from orthocris.core.trial.setup import DesignKind, can_wave
from orthocris.core.trial.trial import Trial
from orthocris.core.words import many
from orthocris.services.context import Context
from orthocris.services.receipts import check_same
from orthocris.storage.trial import reading

KEPT = 8  # finished simulations that are remembered
AT_ONCE = 2  # sizes simulated beside one another


@dataclass(slots=True)
class PowerJob:
    """A simulation under way or done. `progress` runs from 0 to 1.

    `waves` is the plan's own size in two waves, where a trial can have them.
    """

    id: int
    trial_id: int
    assumptions: Assumptions
    sizes: tuple[int, ...]
    at_hand: int
    doubled: int = 0
    key: str | None = None
    points: list[PowerPoint] = field(default_factory=list)
    progress: float = 0.0
    waves: PowerPoint | None = None
    state: str = "running"
    answer: str = ""
    stop: threading.Event = field(default_factory=threading.Event)


class PowerJobs:
    """The simulations of this program; safe to use from several threads."""

    def __init__(self, start: Callable[[Callable[[], None]], None] | None = None) -> None:
        self._jobs: dict[int, PowerJob] = {}
        self._numbers = itertools.count(1)
        self._lock = threading.Lock()
        self._start = start or _in_thread

    def begin(
        self,
        context: Context,
        trial_id: int,
        efficacies: tuple[float, ...] | None,
        growth: float,
        dispersion: float,
        key: str | None = None,
    ) -> PowerJob:
        """Begin to simulate a trial's design; one that still runs for it is stopped.

        Sent again with the same `key`, it answers with the simulation that this key began.

        Raises
        ------
        InputError
            When the assumptions do not fit the trial's remedies.
        ConflictError
            When there are too few plants for any block, or the key began another simulation.
        """
        with context.database.reading() as connection:
            trial = reading.load(connection, trial_id)
        assumptions = assumptions_of(trial, efficacies)
        assumptions = replace(assumptions, growth=growth, dispersion=dispersion)
        blocks = _blocks(trial)
        fixed = trial.setup.design is DesignKind.LATIN
        with self._lock:
            for job in self._jobs.values():
                if key is not None and job.key == key:
                    check_same((job.trial_id, job.assumptions), (trial_id, assumptions))
                    return job
            for job in self._jobs.values():
                if job.trial_id == trial_id:
                    job.stop.set()
            job = PowerJob(
                id=next(self._numbers),
                trial_id=trial_id,
                assumptions=assumptions,
                sizes=(blocks,) if fixed else _sizes(trial, blocks),
                at_hand=blocks,
                doubled=_doubled(trial, blocks),
                key=key,
            )
            self._jobs[job.id] = job
            for old in list(self._jobs)[:-KEPT]:
                del self._jobs[old]
        self._start(lambda: _run(job, trial))
        return job

    def find(self, number: int) -> PowerJob:
        """Return a simulation by its number, or raise NotFoundError."""
        with self._lock:
            if number in self._jobs:
                return self._jobs[number]
        raise NotFoundError(
            f"there is no simulation {number}",
            code="no_such_job",
            fix="Begin it again; they are forgotten when the program ends.",
        )

    def cancel(self, number: int) -> PowerJob:
        """Stop a simulation; what it has found so far stays."""
        job = self.find(number)
        job.stop.set()
        return job


def _in_thread(work: Callable[[], None]) -> None:
    threading.Thread(target=work, daemon=True).start()


def assumptions_of(trial: Trial, efficacies: tuple[float, ...] | None) -> Assumptions:
    remedies = len(trial.remedies)
    starts = [p.match_count for p in trial.active_plants if p.match_count is not None]
    usual = usual_assumptions(
        trial.threshold, remedies, starts, measure=trial.measure, kind=trial.setup.kind
    )
    if efficacies is None:
        return usual
    if len(efficacies) != remedies - 1:
        raise InputError(
            f"{len(efficacies)} efficacies for {remedies - 1} remedies",
            code="bad_efficacy",
            field="efficacies",
            fix="Give one for each remedy beside the control.",
        )
    return replace(usual, efficacies=efficacies)


def _blocks(trial: Trial) -> int:
    remedies = len(trial.remedies)
    size = remedies
    if trial.setup.design is DesignKind.INCOMPLETE and trial.setup.block_size:
        size = trial.setup.block_size
    blocks = len(trial.active_plants) // size
    if len(trial.active_plants) < 2 * remedies:
        raise ConflictError(
            f"{many(len(trial.active_plants), 'plant')} for {remedies} remedies, control included",
            code="too_few_plants",
            field="plants",
            fix=f"List at least {2 * remedies} plants first.",
        )
    return blocks


def _sizes(trial: Trial, blocks: int) -> tuple[int, ...]:
    """Sizes around the one at hand, none so small that remedies cannot be compared in it."""
    fewest = fewest_blocks(trial.setup, len(trial.remedies))
    return tuple(n for n in sizes_around(blocks) if n >= fewest) or (blocks,)


def _doubled(trial: Trial, blocks: int) -> int:
    """Complete blocks in which a plant left over stands."""
    if trial.setup.design is not DesignKind.COMPLETE:
        return 0
    return min(len(trial.active_plants) - blocks * len(trial.remedies), blocks)


def _run(job: PowerJob, trial: Trial) -> None:
    """Simulate the plan's own size first, for that is what is waited for, then the others."""
    shares, guard = dict.fromkeys(job.sizes, 0.0), threading.Lock()

    def simulated(blocks: int) -> PowerPoint | None:
        def proceed(share: float) -> bool:
            shares[blocks] = share
            job.progress = sum(shares.values()) / len(shares)
            return not job.stop.is_set()

        point = power_at(
            trial.setup,
            job.assumptions,
            blocks,
            seed=trial.id,
            doubled=job.doubled if blocks == job.at_hand else 0,
            proceed=proceed,
        )
        if point is not None:
            with guard:
                job.points = sorted([*job.points, point], key=lambda p: p.blocks)
        return point

    waves = can_wave(trial.setup) and job.at_hand >= 2 * LEAST_BLOCKS
    try:
        own = simulated(job.at_hand)
        if own is not None:
            job.answer = answer(own, job.assumptions)
            # Two at a time: what takes the time is done outside the interpreter's lock.
            with ThreadPoolExecutor(AT_ONCE) as pool:
                list(pool.map(simulated, sorted({*job.sizes} - {job.at_hand}, reverse=True)))
            if waves and not job.stop.is_set():
                job.waves = power_in_two_waves(job.assumptions, job.at_hand, seed=trial.id)
                if trial.setup.two_waves:
                    job.answer = answer(job.waves, job.assumptions)
        job.state = "cancelled" if job.stop.is_set() else "done"
    except OrthocrisError as error:
        job.state, job.answer = "failed", f"{error.message}. {error.fix}"
    finally:
        if job.state == "running":  # a mistake of the program: never wait for it for ever
            job.state = "failed"
            job.answer = "The simulation stopped by a mistake of the program. Try other numbers."
