"""The commands that keep a garden: `backup`, `restore`, `check` and `repair`."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from orthocris.core.errors import OrthocrisError
from orthocris.services import backups
from orthocris.services.context import Context
from orthocris.storage.database import Database
from orthocris.storage.folder import claimed
from orthocris.storage.soundness import BROKEN, DatabaseError, damage_of

NAMES = ("backup", "restore", "check", "repair")


def add_commands(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add the four to the command line."""
    made = {
        "backup": "copy the garden as it is now",
        "restore": "put a copy in the place of the data",
        "check": "look through the data and its copies",
        "repair": "save what can be read of damaged data",
    }
    for name, words in made.items():
        parser = commands.add_parser(name, help=words)
        parser.add_argument("--data", type=Path, help="folder of the data")
        if name == "backup":
            parser.add_argument(
                "--to", type=Path, help="another folder, such as one on a stick; with pictures"
            )
        if name == "restore":
            parser.add_argument("copy", help="name of a copy that `check` lists, or a file")


def run_command(options: argparse.Namespace, folder: Path) -> int:
    """Run one of them: 0 when all is well, 1 when the data is damaged, 2 when it cannot be done."""
    acts = {"backup": _backup, "restore": _restore, "check": _check, "repair": _repair}
    file = folder / "orthocris.sqlite"
    try:
        with closing(Database(file)) as database:
            return acts[options.command](Context(database), options)
    except OrthocrisError as error:
        print(f"{error.message}. {error.fix}", file=sys.stderr)
    except (OSError, *BROKEN) as error:
        print(f"{folder} cannot be used: {error}.", file=sys.stderr)
    return 2


def _backup(context: Context, options: argparse.Namespace) -> int:
    _need(context.database.path)
    if options.to:
        print(f"The garden was copied to {backups.copy_elsewhere(context, options.to)}.")
    else:
        made = backups.make_backup(context)
        print(f"The garden was copied to {backups.folder_of(context) / made.name}.")
    return 0


def _check(context: Context, _: argparse.Namespace) -> int:
    file = context.database.path
    damage = damage_of(file)
    if damage is None:
        _need(file)
    print(f"{damage.message}. {damage.fix}" if damage else f"{file} is whole.")
    missing = 0 if damage else backups.pictures_missing(context)
    if missing:
        print(f"Pictures of notes that are not there: {missing}.")
    bad = damage is not None
    for one in backups.backups_of(context):
        found = damage_of(backups.folder_of(context) / one.name)
        bad = bad or found is not None
        print(f"{one.name}  {one.size / 1e6:.1f} MB  {'DAMAGED' if found else 'whole'}")
    return int(bad)


def _restore(context: Context, options: argparse.Namespace) -> int:
    named = any(one.name == options.copy for one in backups.backups_of(context))
    source = backups.folder_of(context) / options.copy if named else Path(options.copy)
    if source.is_dir():
        source /= context.database.path.name
    _need(source)
    with _held(context):
        _tell(backups.restore(context, source))
    return 0


def _repair(context: Context, _: argparse.Namespace) -> int:
    _need(context.database.path)
    with _held(context):
        if context.database.damage is None:
            print(f"{context.database.path} is whole: there is nothing to repair.")
            return 0
        restored, found = backups.repair(context)
    _tell(restored)
    for one in found:
        if not one.whole:
            print(f"  {one.table}: {one.rows} rows could be read, others are lost")
    newest = next(iter(backups.backups_of(context)), None)
    if newest:
        print(f"The newest copy is {newest.name}: restore puts it back, if more is in that.")
    return 0


def _tell(restored: backups.Restored) -> None:
    print("It is in place.")
    if restored.kept:
        print(f"What was there before is kept as {restored.kept.name}.")
    if restored.set_aside:
        print(f"The damaged data is kept as {restored.set_aside}.")
    if restored.pictures_missing:
        print(f"Pictures of notes that are not there: {restored.pictures_missing}.")
    print("Other devices come in by a new passcode, made in the Yard.")


def _need(file: Path) -> None:
    if not file.is_file():
        raise DatabaseError(f"{file} is not there", fix="Name the folder with --data.")


@contextmanager
def _held(context: Context) -> Iterator[None]:
    """Hold the folder, so that no server has it open; know whether the data is damaged."""
    with claimed(context.database.path.parent, "a command"):
        damage = damage_of(context.database.path)
        if damage is not None:
            context.database.refuse(damage)
        yield
