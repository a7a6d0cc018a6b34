"""A garden and a trial go from one copy of the program to another, whole, or not at all."""

from __future__ import annotations

import io
import json
import random
import sqlite3
import tempfile
import zipfile
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from unittest.mock import patch

from orthocris.core.counting.leaf.scene import LeafPlan
from orthocris.core.counting.notebook import NoteEntry
from orthocris.core.errors import InputError, OrthocrisError
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import Programme, Rhythm, Step
from orthocris.core.trial.question import RemedyDraft
from orthocris.demo.build import build_demo
from orthocris.devices.simulated_leaf_camera import SimulatedLeafCamera
from orthocris.services.context import Context
from orthocris.services.counting import notebook
from orthocris.services.counting.bundle import bundle_of
from orthocris.services.moving import bring_in, garden_bundle, look_through
from orthocris.services.pantry.own_remedies import own_remedies
from orthocris.services.planning import critiques
from orthocris.services.trial import questions
from orthocris.services.trial.overviews import overview, today
from orthocris.services.verdict.judging import record_verdict, verdict_of
from orthocris.storage.database import Database
from orthocris.storage.soundness import DatabaseError, check_whole
from orthocris.storage.trial import trials
from tests.services.world import QUESTION, ServiceCase

DAMAGED = 120


def files_of(content: bytes) -> dict[str, bytes]:
    """The files of a package, by their names."""
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def packed(files: dict[str, bytes]) -> bytes:
    """A package of these files."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return out.getvalue()


def tables(context: Context) -> dict[str, list[str]]:
    """All that is kept, table by table, but for when its own file was made."""
    with closing(sqlite3.connect(context.database.path)) as connection:
        names = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'").fetchall()
        return {
            name: sorted(map(repr, connection.execute(f"SELECT * FROM {name}")))
            for (name,) in names
            if name not in ("migration", "layout_set", "layout_due", "receipt")
        }


class Moving(ServiceCase):
    def garden(self) -> Context:
        """An empty garden."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = Database(Path(folder.name) / "other.sqlite", durable=False)
        self.addCleanup(database.close)
        database.migrate()
        return Context(database, lambda: self.now, lambda: 5)

    def demo(self) -> Context:
        """The demo's garden."""
        made = self.garden()
        self.now = datetime(2026, 5, 20, 9, tzinfo=UTC)
        build_demo(made.database, self.now)
        return made

    def finish(self) -> None:
        """A trial that is counted to its end, with a photo and its verdict on record."""
        self.plant_and_draw(16)
        self.count_all(0, 40, 42)
        self.spray_all()
        entry = NoteEntry("note-0001", self.trial.plants[0].id, 0, "=1+1, 'odd'", self.now)
        note = notebook.keep_note(self.context, self.trial_id, 0, entry)
        lens = SimulatedLeafCamera(5, LeafPlan("spider_mites", 6, 4, 3, 2), 900)
        notebook.keep_picture(self.context, note.id, lens.take())
        for look in (1, 2):
            self.later(3 if look == 1 else 4)
            self.count_all(look, 5, 44)
        record_verdict(self.context, self.trial_id)

    def refused(self, context: Context, content: bytes) -> str:
        """Why it is not brought in; nothing of it is kept."""
        before = tables(context)
        with self.assertRaises(InputError) as caught:
            bring_in(context, content)
        self.assertEqual(tables(context), before)
        self.assertTrue(caught.exception.fix)
        return caught.exception.message

    def test_an_empty_garden_becomes_the_same(self) -> None:
        demo, other = self.demo(), self.garden()
        taken = garden_bundle(demo)
        coming = look_through(other, taken)
        self.assertEqual([one.name for one in coming.trials], [one.called for one in coming.trials])
        self.assertEqual(tables(other)["trial"], [])  # only looked at
        bring_in(other, taken)
        self.assertEqual(tables(other), tables(demo))
        self.assertEqual(garden_bundle(other), taken)

    def test_beside_what_is_there_both_are_whole(self) -> None:
        self.finish()
        demo = self.demo()
        own = [(number, verdict_of(demo, number).verdict) for number in (1, 2, 5)]
        there = {row.plan.id: row for row in today(demo).trials}
        for times in (1, 2):
            first = bring_in(demo, garden_bundle(self.context))
            self.assertEqual(verdict_of(demo, first).verdict, verdict_of(self.context, 1).verdict)
            self.assertTrue(verdict_of(demo, first).record)
            (note,) = notebook.notes_of(demo, first)
            self.assertEqual(note.said, "=1+1, 'odd'")
            self.assertEqual(notebook.picture_content(demo, note.id)[:2], b"\xff\xd8")
            name = overview(demo, first).trial.name
            self.assertEqual(name, "Gutters" if times == 1 else "Gutters (brought in)")
        self.assertEqual([(n, verdict_of(demo, n).verdict) for n, _ in own], own)
        now = {row.plan.id: row for row in today(demo).trials}
        self.assertEqual({number: now[number] for number in there}, there)
        with demo.database.reading() as connection:
            check_whole(connection, demo.database.path)

    def test_rows_that_lists_name_go_with_them(self) -> None:
        """Rounds of some remedies, their steps, the bottles of a start, and a mend to take back."""
        neem = Step(1, "neem", "5 ml neem oil and 2 ml soap per litre")
        soap = replace(QUESTION.remedies[1], traits=Traits(steps=(neem,)))
        every = Traits(programme=Programme(Rhythm.EVERY, every=4))
        oil = RemedyDraft("Oil", Role.REMEDY, "10 ml oil, 2 ml soap in 1 litre", traits=every)
        asked = replace(QUESTION, remedies=(QUESTION.remedies[0], soap, oil), threshold=0.97)
        self.trial_id = questions.create_trial(self.context, asked, self.now.date())
        finding = next(
            f for f in critiques.review(self.context, self.trial_id).findings if f.mend is not None
        )
        critiques.mend(self.context, self.trial_id, finding.code)
        demo = self.demo()
        with demo.database.reading() as connection:
            last = trials.all_names(connection)[-1][0]
        bring_in(demo, garden_bundle(self.context))
        critiques.take_back_mend(demo, last + 2)
        critiques.take_back_mend(self.context, self.trial_id)
        for context, number in ((self.context, self.trial_id), (demo, last + 2)):
            trial = overview(context, number).trial
            names = {r.id: r.name for r in trial.remedies}
            told = [
                (
                    round_.day,
                    sorted(names[r] for r in round_.remedies or ()),
                    [(names[r], step) for r, step in round_.steps],
                )
                for round_ in trial.rounds
            ]
            if number == self.trial_id:
                here = told
        self.assertEqual(told, here)
        self.assertTrue(any(steps for _, _, steps in told))

    def test_what_there_is_one_of_stays_as_it_is_here(self) -> None:
        demo, other = self.demo(), self.demo()
        for context, price in ((demo, 4.0), (other, 7.0)):
            with context.database.atomic() as connection:
                connection.execute("UPDATE price SET price = :price", {"price": price})
                connection.execute(
                    "INSERT INTO own_remedy (name, recipe, traits, made_at) VALUES"
                    " (:name, '1 l', '{}', '2026-05-01T08:00:00+00:00')",
                    {"name": "Éclair tea" if price == 4 else "éCLAIR TEA".replace("éC", "ÉC")},
                )
        bring_in(other, garden_bundle(demo))
        self.assertEqual({row.split(", ")[-1] for row in tables(other)["price"]}, {"7.0)"})
        self.assertEqual([one.name for one in own_remedies(other)], ["ÉCLAIR TEA"])

    def test_a_trial_goes_with_its_parts_and_nothing_else(self) -> None:
        self.finish()
        other = self.demo()
        first = bring_in(other, bundle_of(self.context, self.trial_id))
        with other.database.reading() as connection:
            self.assertEqual(trials.all_names(connection)[-1], (first, "Gutters"))
        self.assertEqual(verdict_of(other, first).verdict, verdict_of(self.context, 1).verdict)
        bare = bundle_of(self.context, self.trial_id, without_names=True)
        self.assertIn("no tables", self.refused(other, bare))

    def test_while_it_is_counted_blind_a_trial_tells_no_key(self) -> None:
        self.plant_and_draw(16)
        names = files_of(bundle_of(self.context, self.trial_id))
        self.assertFalse([name for name in names if name.startswith("tables/")])

    def test_sent_twice_it_comes_once(self) -> None:
        self.finish()
        taken, other = garden_bundle(self.context), self.garden()
        self.assertEqual(bring_in(other, taken, "key-12345"), bring_in(other, taken, "key-12345"))
        self.assertEqual(len(tables(other)["trial"]), 1)

    def test_what_cannot_be_is_refused_with_the_place_and_the_reason(self) -> None:
        self.finish()
        good, other = files_of(garden_bundle(self.context)), self.demo()

        def changed(name: str, change: Callable[[bytes], bytes]) -> bytes:
            return packed(good | {name: change(good[name])})

        def of_step(step: object) -> bytes:
            plain = json.loads(good["datapackage.json"]) | {"tables of the garden": step}
            return packed(good | {"datapackage.json": json.dumps(plain).encode()})

        tally, plant = "tables/tally.csv", "tables/plant.csv"
        second = good[tally].split(b"\r\n")[2]
        for content, said in (
            (b"no zip", "no whole ZIP"),
            (of_step(999), "newer Orthocris"),
            (of_step(3), "no tables"),
            (of_step(True), "no tables"),
            (of_step([]), "no tables"),
            (packed(good | {"tables/door.csv": b"id\r\n1\r\n"}), "tables/door.csv"),
            (packed(good | {"tables/../door.csv": b""}), "outside itself"),
            (changed(tally, lambda t: t.replace(b",live,", b",lies,", 1)), "line 2: a count of"),
            (changed(tally, lambda t: t + second), "is there twice"),
            (changed(tally, lambda t: t.replace(b"look_id", b"look", 1)), "other columns"),
            (changed(tally, lambda t: t.replace(second, b"9,9,9")), "line 3: 3 cells"),
            (changed(plant, lambda t: t.replace(b"\r\n1,", b"\r\n1.5,", 1)), "line 2, id: '1.5'"),
            (changed(plant, lambda t: t.replace(b"\r\n1,", b"\r\n-1,", 1)), "line 2, id: '-1'"),
            (
                changed("tables/verdict_record.csv", lambda t: t.replace(b"\r\n1,1", b"\r\n1,7")),
                "refers to what is not there",
            ),
            (changed(plant, lambda _: b"\xff\xfe"), "UTF-8"),
            (changed(plant, lambda t: t + b'"open'), "line"),
            (changed("tables/trial.csv", lambda t: t.replace(b'"{', b'"[', 1)), ""),
            (
                changed("tables/spray.csv", lambda t: t.replace(b"2026-", b"2096-", 1)),
                "still to come",
            ),
            (
                changed("tables/verdict_record.csv", lambda t: t.replace(b"T08:00", b"T99", 1)),
                "verdict_record.csv: made_at",
            ),
            (changed("tables/trial.csv", lambda t: t.replace(b"2026-05-10", b"yesterday")), ""),
            (
                packed({k: v if k[:3] != "pic" else v + b"x" for k, v in good.items()}),
                "no picture that was kept",
            ),
        ):
            with self.subTest(said=said):
                self.assertIn(said, self.refused(other, content))

    def test_a_full_disk_is_not_said_to_be_a_fault_of_the_file(self) -> None:
        self.finish()
        taken, other = garden_bundle(self.context), self.garden()
        full = sqlite3.OperationalError("database or disk is full")
        for step in ("lay_in", "add_up", "put_beside"):
            with (
                patch(f"orthocris.services.moving.packing.{step}", side_effect=full),
                self.assertRaisesRegex(sqlite3.OperationalError, "disk is full"),
            ):
                bring_in(other, taken)
        with (
            patch("orthocris.services.moving.TemporaryDirectory", side_effect=OSError(28, "full")),
            self.assertRaisesRegex(DatabaseError, "no room"),
        ):
            bring_in(other, taken)
        self.assertEqual(tables(other)["trial"], [])

    def test_damaged_ones_are_refused_or_harmless(self) -> None:
        self.finish()
        good, other = files_of(garden_bundle(self.context)), self.garden()
        full = [n for n in good if n.startswith("tables/") and good[n].count(b"\r\n") > 1]
        rng = random.Random(8)
        came = 0
        for number in range(DAMAGED):
            files = dict(good)
            for _ in range(rng.randint(1, 3)):
                name = rng.choice(full)
                files[name] = damaged(files[name], rng)
            with self.subTest(number=number):
                try:
                    first = bring_in(other, packed(files))
                except InputError:
                    continue
                came += 1
                for show in (overview, verdict_of, bundle_of):
                    try:
                        show(other, first)
                    except OrthocrisError as error:
                        self.assertTrue(error.message)
        self.assertGreater(came, DAMAGED // 20)  # else only the door was tried
        with other.database.reading() as connection:
            check_whole(connection, other.database.path)


def damaged(table: bytes, rng: random.Random) -> bytes:
    """A table in which something is otherwise."""
    lines = table.split(b"\r\n")
    at = rng.randrange(len(lines))
    cells = lines[at].split(b",")
    which = rng.randrange(len(cells))
    match rng.randrange(6):
        case 0:
            cells[which] = rng.choice(
                (b"", b"0", b"-1", b"1e308", b"99999", b"nan", b"x", b"'", b"[]", b"{}", b"null")
            )
        case 1:
            cells[which] = rng.choice(lines[rng.randrange(len(lines))].split(b","))
        case 2:
            del lines[at]
            return b"\r\n".join(lines)
        case 3:
            lines.insert(at, rng.choice(lines))
            return b"\r\n".join(lines)
        case 4:
            place = rng.randrange(len(table))
            return table[:place] + bytes([rng.randrange(256)]) + table[place + 1 :]
        case 5:
            cells[which] = cells[which].replace(b"1", b"2").replace(b"true", b"7")
    lines[at] = b",".join(cells)
    return b"\r\n".join(lines)
