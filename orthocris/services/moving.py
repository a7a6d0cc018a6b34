"""The whole garden, or a trial, taken along as a data package and brought in elsewhere."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping, Sequence
from contextlib import ExitStack, closing, contextmanager, suppress
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from tempfile import TemporaryDirectory

from orthocris.core.errors import NotFoundError, OrthocrisError, bad_package
from orthocris.core.words import many
from orthocris.formats import garden_package as package
from orthocris.formats.bundle import Tables, data_package
from orthocris.formats.bundle_reading import Opened, opened
from orthocris.formats.picture_reading import is_kept
from orthocris.services.context import Context
from orthocris.services.counting import notebook as notes
from orthocris.services.counting.practice import progress
from orthocris.services.counting.sheets import count_sheet
from orthocris.services.field.calendars import calendar_of
from orthocris.services.field.schedule import schedule_of
from orthocris.services.finding import inspections
from orthocris.services.pantry.own_remedies import own_remedies
from orthocris.services.receipts import made_before, once
from orthocris.services.seasons.years import garden_year
from orthocris.services.trial.overviews import overview, today
from orthocris.services.trial.own_pests import own_pests
from orthocris.services.verdict.judging import verdict_of
from orthocris.services.verdict.known import known_pests
from orthocris.services.verdict.neighbours import all_kept as all_neighbours
from orthocris.services.weather.yards import changes_of_yard, yard_of
from orthocris.storage import minds, packing, verdicts
from orthocris.storage.counting import notebook
from orthocris.storage.database import Connection, Database
from orthocris.storage.soundness import DatabaseError
from orthocris.storage.trial import reading, trials

FIRST_STEP = 27  # of the schema, as the first packages had it
LONGEST_PICTURE = 12_000_000
MOVED = "tables of the garden"  # what the description says they are, beside the step
BESIDE = {
    "journal": "journal line",
    "inspection": "inspection",
    "own_remedy": "own remedy",
    "own_pest": "own pest",
    "neighbour": "neighbour's trial",
    "practice": "practice session",
}
README = """A garden: all trials with their counts and rounds, journal, yard, weather, own pests
and remedies, verdicts on record.

tables/           every table, with all that was ever kept in it
pictures/         the photos
datapackage.json  what the columns are and what they refer to (Data Package)

An empty cell is nothing. A quote stands before a text that a spreadsheet would take for a formula,
before one that begins with a quote, and alone for an empty text. Who opens the tables of a trial
that is still counted blind sees which plant got what. Passcodes and devices are not in it.

Orthocris brings it in, in the Yard, beside what is there.
"""


@dataclass(frozen=True, slots=True)
class ComingTrial:
    """A trial that would come in; `called` is its name here, another one where one has it."""

    name: str
    called: str
    start_on: date
    plants: int
    numbers: int


@dataclass(frozen=True, slots=True)
class Coming:
    """What a package would bring in: its trials, what else in words, and its photos.

    `pictures_missing` are named in it and not there.
    """

    title: str
    trials: tuple[ComingTrial, ...]
    beside: tuple[str, ...]
    pictures: int
    pictures_missing: int


def garden_bundle(context: Context) -> bytes:
    """Return all there is as a data package (ZIP): every table, and the photos."""
    with context.database.reading() as connection:
        tables = tables_of(connection)
        named = sorted(notebook.files_named(connection))
    files = {"README.txt": README.encode(), **tables.files}
    pictures = kept_pictures(context, named)
    return data_package("garden", "Garden", files, tables.resources, tables.told, pictures)


def tables_of(connection: Connection, trials_: Sequence[int] | None = None) -> Tables:
    """Return all that was kept, or all of some trials, as files of a package."""
    found = packing.read_out(connection, trials_)
    return Tables(
        {
            package.path_of(shape.name): package.written(shape, rows)
            for shape, rows in found.items()
        },
        [package.described(shape) for shape in found],
        {MOVED: packing.step_of(connection)},
    )


def kept_pictures(context: Context, names: Sequence[str]) -> dict[str, bytes]:
    """Return pictures by their names, without those whose file is gone."""
    found: dict[str, bytes] = {}
    for name in names:
        with suppress(NotFoundError):
            found[name] = notebook.file_content(context.database.path, name)
    return found


def look_through(context: Context, content: bytes) -> Coming:
    """Return what a package would bring in; nothing is kept.

    Raises
    ------
    InputError
        When it cannot be read, or holds what cannot be, with the place and the reason.
    """
    with _laid_in(context, content) as (bundle, beside):
        with beside.database.reading() as source:
            named = notebook.files_named(source)
            lines = packing.lines_in(source)
            found = [reading.load(source, number) for number, _ in trials.all_names(source)]
            numbers = packing.numbers_in(source)
        called = _names(context, {trial.id: trial.name for trial in found})
        there = {name for name in named if _place(name) in bundle.names}
        return Coming(
            str(bundle.description.get("title", "")),
            tuple(
                ComingTrial(
                    trial.name,
                    called.get(trial.id, trial.name),
                    trial.sprayed_on or trial.start_on,
                    len(trial.plants),
                    numbers.get(trial.id, 0),
                )
                for trial in found
            ),
            tuple(many(lines[table], what) for table, what in BESIDE.items() if table in lines),
            len(there),
            len(named - there),
        )


def bring_in(context: Context, content: bytes, key: str | None = None) -> int:
    """Bring in all that a package holds, or nothing; return the id of its first trial, 0 for none.

    Raises
    ------
    InputError
        As `look_through`.
    """
    digest = hashlib.sha256(content).hexdigest()
    scope = "a garden brought in"
    with context.database.reading() as connection:
        before = made_before(connection, key, scope, digest)
    if before is not None:
        return before
    with _laid_in(context, content) as (bundle, beside), beside.database.reading() as source:
        _keep_pictures(context, bundle, sorted(notebook.files_named(source)))
        names = dict(trials.all_names(source))
        with context.database.atomic() as garden:

            def make() -> int:
                called = _names_in(garden, names)
                return min(packing.put_beside(source, garden, called).values(), default=0)

            return once(garden, key, scope, digest, context.now(), make)


@contextmanager
def _laid_in(context: Context, content: bytes) -> Iterator[tuple[Opened, Context]]:
    """Lay a package into a file of its own, as its version had it, and bring that up to date.

    It is read as the screens would read it: what they could not show is refused.
    """
    with opened(content) as bundle, _folder() as folder:
        step = bundle.description.get(MOVED)
        if not isinstance(step, int) or isinstance(step, bool) or step < FIRST_STEP:
            raise bad_package("it holds no tables of a garden")
        with closing(Database(folder / "garden.sqlite", durable=False)) as database:
            database.migrate(until=step)
            with database.atomic() as connection:
                if step > packing.step_of(connection):
                    raise bad_package(
                        "it is of a newer Orthocris", "Bring it in with that version."
                    )
                _fill(connection, bundle)
                packing.check_times(connection, context.now())
            database.migrate()
            beside = Context(database, context.now, context.new_seed)
            try:
                _read_through(beside)
            except OrthocrisError as error:
                raise bad_package(error.message) from error
            except (ValueError, TypeError, LookupError, AttributeError, ArithmeticError) as error:
                raise bad_package(f"it holds what cannot be ({error})") from error
            yield bundle, beside


@contextmanager
def _folder() -> Iterator[Path]:
    with ExitStack() as held:
        try:
            name = held.enter_context(TemporaryDirectory(prefix="orthocris-"))
        except OSError as error:
            raise DatabaseError(
                f"there is no room to look the file through ({error.strerror})",
                code="no_room",
                fix="Make room in the folder for temporary files.",
            ) from error
        yield Path(name)


def _fill(connection: Connection, bundle: Opened) -> None:
    known = {package.path_of(shape.name): shape for shape in packing.shapes(connection)}
    strange = {n for n in bundle.names if n.startswith("tables/")} - set(known)
    if strange:
        raise bad_package(f"it holds {min(strange)[:60]!r}, which no garden has")
    for path, shape in known.items():
        if path in bundle.names:
            table = bundle.read(path, package.LONGEST_TABLE)
            packing.lay_in(connection, shape, package.lines_of(shape, table))
    packing.add_up(connection)


def _read_through(beside: Context) -> None:
    """Read all of a garden as its screens do."""
    today(beside)
    calendar_of(beside)
    garden_year(beside)
    known_pests(beside)
    progress(beside)
    changes_of_yard(beside)
    yard_of(beside)
    own_pests(beside)
    own_remedies(beside)
    all_neighbours(beside)
    inspections(beside)
    with beside.database.reading() as connection:
        minds.load(connection)
        numbers = [number for number, _ in trials.all_names(connection)]
    for number in numbers:
        found = overview(beside, number)
        schedule_of(beside, number)
        notes.notes_of(beside, number)
        with suppress(OrthocrisError):  # it may be too early
            verdict_of(beside, number)
        for look in found.trial.looks:
            with suppress(OrthocrisError):
                count_sheet(beside, number, look.number)
            with beside.database.reading() as connection:
                verdicts.kept_verdict(connection, number, look.number)


def _names(context: Context, names: Mapping[int, str]) -> dict[int, str]:
    with context.database.reading() as connection:
        return _names_in(connection, names)


def _names_in(garden: Connection, names: Mapping[int, str]) -> dict[int, str]:
    """Return other names for trials whose name is here already, by their ids."""
    here = {name for _, name in trials.all_names(garden)}
    found: dict[int, str] = {}
    for number, name in names.items():
        if name in here:
            found[number] = f"{name} (brought in)"
            times = 2
            while found[number] in here:
                found[number], times = f"{name} (brought in {times})", times + 1
        here.add(found.get(number, name))
    return found


def _keep_pictures(context: Context, bundle: Opened, names: Sequence[str]) -> None:
    """Keep the photos beside the data; those that nothing names in the end are swept later."""
    for name in names:
        if _place(name) not in bundle.names:
            continue
        content = bundle.read(_place(name), LONGEST_PICTURE)
        if hashlib.sha256(content).hexdigest() != name or not is_kept(content):
            raise bad_package(f"{_place(name)} is no picture that was kept under this name")
        notebook.keep_file(context.database.path, content)


def _place(name: str) -> str:
    return f"pictures/{name}.jpg"
