"""Plays the stories of the demo world through the services, day by day."""

from __future__ import annotations

import hashlib
import shutil
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np

from orthocris.core.counting.tally import TallyEntry
from orthocris.core.errors import OrthocrisError
from orthocris.core.field.rounds import Checks
from orthocris.core.trial.patches import Harm
from orthocris.core.trial.plan import Look, Round
from orthocris.core.trial.sprays import SprayEntry
from orthocris.core.trial.trial import Plant, Trial
from orthocris.demo.seasons import journal_on
from orthocris.demo.simulate import Bench, on_leaves
from orthocris.demo.world import PRICES, REASONS, STORIES, Story, yard_on
from orthocris.services.context import Context
from orthocris.services.counting import keeping as fieldwork
from orthocris.services.field import batches, patches, rounds
from orthocris.services.field.batches import BatchDraft
from orthocris.services.field.patches import PatchDraft
from orthocris.services.planning import layouts
from orthocris.services.seasons.writing import write_entry
from orthocris.services.trial import benches, overviews, questions
from orthocris.services.verdict import judging
from orthocris.services.weather import ribbons, yards
from orthocris.storage.database import Database


class _Clock:
    """A clock that the builder sets."""

    def __init__(self, now: datetime) -> None:
        self.now = now

    def __call__(self) -> datetime:
        """Return the time it was set to."""
        return self.now


def fresh_copy(file: Path, now: datetime, cache: Path) -> None:
    """Put the demo world as it stands at `now` into a new file.

    It is built once a day and version, kept in the folder `cache`, and copied from there.
    """
    kept = cache / f"demo-{_version(now)}.sqlite"
    if kept.exists():
        shutil.copyfile(kept, file)
        try:
            if not Database(file).migrate():
                return
        except OrthocrisError:
            pass
        # The kept copy was cut off, emptied or damaged: it is built again.
        for part in (file, kept, *file.parent.glob(f"{file.name}-*")):
            part.unlink(missing_ok=True)
    _build_anew(file, kept, now)


def _build_anew(file: Path, kept: Path, now: datetime) -> None:
    cache = kept.parent
    for old in cache.glob("demo-*.sqlite*"):
        old.unlink()
    database = Database(file, durable=False)
    database.migrate()
    build_demo(database, now)
    cache.mkdir(parents=True, exist_ok=True)
    fresh = kept.with_suffix(".new")
    fresh.unlink(missing_ok=True)
    database.copy_to(fresh)
    fresh.replace(kept)


def _version(now: datetime) -> str:
    digest = hashlib.sha256(now.date().isoformat().encode())
    package = Path(__file__).resolve().parent.parent
    for path in sorted(p for p in package.rglob("*") if p.suffix in (".py", ".sql", ".json")):
        digest.update(path.read_bytes())
    return digest.hexdigest()[:16]


def build_demo(database: Database, now: datetime) -> None:
    """Fill empty, migrated data with the demo world as it stands at `now`."""
    set_up = Context(database, lambda: now)
    yards.change_yard(set_up, yard_on(now.date()))
    yards.change_prices(set_up, PRICES)
    for line in journal_on(now.date()):
        write_entry(set_up, line)
    for story in STORIES:
        _Play(database, story, now).run()


class _Play:
    """One story being played: the services on one side, the simulated bench on the other."""

    def __init__(self, database: Database, story: Story, now: datetime) -> None:
        self.story = story
        self.now = now
        self.day_zero = (now - timedelta(days=story.begun)).replace(hour=7, minute=30, second=0)
        # Up to five days of planning before the first spray, but never in the future.
        self.clock = _Clock(min(now, self.day_zero) - timedelta(days=5))
        self.context = Context(database, self.clock, lambda: story.seed)
        self.rng = np.random.default_rng(story.seed)
        self.leaf_rng = np.random.default_rng(story.seed + 1)
        self.trial_id = 0
        self.steps = 0

    def run(self) -> None:
        """Play it from the question to where it stands."""
        story = self.story
        self.trial_id = questions.create_trial(self.context, story.question, self.day_zero.date())
        benches.add_plants(
            self.context, self.trial_id, prefix=story.prefix, rows=story.rows, per_row=story.per_row
        )
        plants = self.trial.plants
        bench = Bench(story.outbreak, [p.place / story.per_row for p in plants], self.rng)
        index = {plant.id: k for k, plant in enumerate(plants)}
        for plant in plants:
            aside = story.aside[1] if story.aside and story.aside[0] == plant.name else None
            count = None if aside else self._observe(bench, index[plant.id])
            benches.change_plant(
                self.context, self.trial_id, replace(plant, match_count=count, set_aside=aside)
            )
        patches.change_care(self.context, self.trial_id, story.care)
        if story.looks_done < 0:
            self._patch_tests(self.now - timedelta(hours=26), looks=1)
            return
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        layouts.draw_others(self.context, self.trial_id)
        self._patch_tests(self.day_zero - timedelta(days=3), looks=2)
        self._season(bench, index)
        if story.read:
            judging.record_verdict(self.context, self.trial_id)

    @property
    def trial(self) -> Trial:
        """The trial as it is kept now."""
        return overviews.overview(self.context, self.trial_id).trial

    def _season(self, bench: Bench, index: dict[int, int]) -> None:
        trial = self.trial
        looks = trial.looks[: self.story.looks_done + 1]
        rounds = trial.rounds[: self.story.rounds_done]
        events: list[tuple[int, int, Look | Round]] = [
            *((look.day, 0, look) for look in looks),
            *((round_.day, 1, round_) for round_ in rounds),
        ]
        day = 0
        for when, _, event in sorted(events, key=lambda e: e[:2]):
            if when > day:
                bench.grow(when - day)
                day = when
            self.clock.now = self.day_zero + timedelta(days=day)
            if isinstance(event, Look):
                for plant in trial.trial_plants:
                    self._count(event, plant, bench, index[plant.id])
            else:
                self._spray(event, trial, bench, index)

    def _count(self, look: Look, plant: Plant, bench: Bench, k: int) -> None:
        found = self._observe(bench, k)
        samples = self.story.question.setup.samples
        if samples:
            for leaf, live in enumerate(on_leaves(self.leaf_rng, found, samples), start=1):
                young = int(self.leaf_rng.binomial(live, 0.4))
                eggs = int(self.leaf_rng.poisson(1.5 * live))
                self._keep(look, plant, self.story.question.measure, live, leaf)
                self._keep(look, plant, "young", young, leaf)
                self._keep(look, plant, "eggs", eggs, leaf)
        else:
            self._keep(look, plant, self.story.question.measure, found)
        self._keep(look, plant, "damage", bench.damage(k))

    def _keep(self, look: Look, plant: Plant, measure: str, value: float, sample: int = 0) -> None:
        self.steps += 1
        self.clock.now += timedelta(seconds=20 if sample == 0 else 4)
        entry = TallyEntry(
            plant_id=plant.id,
            measure=measure,
            session=f"demo-{self.trial_id}-{self.steps:05d}",
            step=1,
            value=value,
            of=None,
            effort=1.0,
            finished=True,
            sample=sample,
        )
        fieldwork.keep_tally(self.context, self.trial_id, look.number, entry)

    def _patch_tests(self, when: datetime, looks: int) -> None:
        """Put every remedy on a few leaves, and look after each day."""
        self.clock.now = when
        cells = patches.patch_plan(self.context, self.trial_id).cells
        put = [
            (
                cell,
                patches.put_on(
                    self.context, self.trial_id, PatchDraft(cell.remedy.id, cell.leaf_kind)
                ),
            )
            for cell in cells
        ]
        for k in range(looks):
            self.clock.now = when + timedelta(hours=24 * (k + 1), minutes=20)
            for cell, patch_id in put:
                burns = self.story.truth[cell.remedy.name].burn > 1
                patches.look_at(
                    self.context,
                    self.trial_id,
                    patch_id,
                    hours=24 * (k + 1),
                    treated=int(burns),
                    beside=0,
                    harm=Harm.EDGE_BURN if burns else Harm.NONE,
                )

    def _start(self, round_: Round) -> None:
        """Mix the bottles and start a round at the day's best hour, or say why at another."""
        best = ribbons.ribbon_of(self.context, self.trial_id).days[0].best
        self.clock.now = max(best or self.clock.now, self.clock.now)
        chosen: dict[int, int] = {}
        for bottle in batches.bottles_of(self.context, self.trial_id, helper=True).bottles:
            draft = BatchDraft(acknowledged=tuple(c.key for c in bottle.strong), mixed_by="Bram")
            chosen[bottle.remedy.id] = batches.record_batch(
                self.context, self.trial_id, bottle.remedy.id, draft
            )
        checks = Checks(
            shaken=True, cautions_read=True, bees_looked=True, fruit_looked=True, batches=chosen
        )
        held = rounds.what_blocks(self.context, self.trial_id, round_.number, checks)
        reasons = {blocker.code: REASONS[blocker.code] for blocker in held}
        rounds.start_round(
            self.context, self.trial_id, round_.number, replace(checks, reasons=reasons)
        )

    def _spray(self, round_: Round, trial: Trial, bench: Bench, index: dict[int, int]) -> None:
        names = {remedy.id: remedy.name for remedy in trial.remedies}
        self._start(round_)
        for plant in trial.trial_plants:
            self.clock.now += timedelta(seconds=40)
            rounds.record_spray(self.context, self.trial_id, round_.number, SprayEntry(plant.id))
            effect = self.story.truth[names[plant.remedy_id or 0]]
            bench.spray(index[plant.id], effect, first=round_.number == 1)

    def _observe(self, bench: Bench, k: int) -> float:
        return bench.cover(k) if self.story.question.measure == "cover" else bench.count(k)
