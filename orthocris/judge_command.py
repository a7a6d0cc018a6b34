"""The command `judge`: a verdict from a tidy table or a trial's bundle, without the application."""

from __future__ import annotations

import argparse
import json
import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from orthocris.core.errors import InputError, ObservationError, OrthocrisError

if TYPE_CHECKING:
    from orthocris.core.verdict.shared import Shared


def add_judge(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("file", type=Path, help="tidy table (see README.md), or a trial's bundle")
    parser.add_argument("--control", help="name of the control, or none; default: control")
    parser.add_argument("--measure", help="what to judge; default: the first there is")
    parser.add_argument("--look", help="last, auc or a day; default: last")
    parser.add_argument("--threshold", help="fraction removed that is worth it; default: 0.6")
    parser.add_argument("--planned", default="", help="days of the planned looks, as 3,7,14")
    parser.add_argument("--decisive", help="day of the look that decides; default: the last")
    parser.add_argument(
        "--two-waves", action="store_true", help="plants added once were planned as a second wave"
    )
    parser.add_argument(
        "--two-looks", action="store_true", help="the last two planned looks are judged together"
    )
    parser.add_argument(
        "--usual", action="store_true", help="the control is what is done anyway, not nothing"
    )
    parser.add_argument("--seed", default="0", help="seed of the draws")
    parser.add_argument("--json", action="store_true", help="print the whole verdict as JSON")


def run_judge(options: argparse.Namespace) -> int:
    """Judge a table or a bundle and print the verdict; return the exit status."""
    from orthocris.core import judge
    from orthocris.core.verdict.case import Terms
    from orthocris.formats.tidy_table import TableError, read_table

    lines: list[int] = []
    try:
        content = options.file.read_bytes()
        shared, content = _unpacked(content)
        _fill_in(options, shared)
        threshold = _option_number(options.threshold, "--threshold")
        seed = _option_seed(options.seed)
        decisive = options.decisive and _option_number(options.decisive, "--decisive")
        days = [day for day in options.planned.replace(";", ",").split(",") if day.strip()]
        planned = tuple(_option_number(day, "--planned") for day in days)
        usual = options.control if options.usual and options.control != "none" else ""
        terms = Terms(
            planned=planned,
            decisive=decisive,
            two_waves=options.two_waves,
            two_looks=options.two_looks,
            usual=usual,
        )
        observations, lines = read_table(content)
        verdict = judge(
            observations,
            control=None if options.control == "none" else options.control,
            measure=options.measure,
            look=options.look,
            threshold=threshold,
            seed=seed,
            terms=terms,
        )
    except OSError as error:
        return _refuse(f"{options.file}: cannot be read ({error.strerror})")
    except TableError as error:
        return _refuse(_place(options.file, error.line, error.column), error)
    except ObservationError as error:
        return _refuse(_place(options.file, lines[error.index], error.field), error)
    except InputError as error:
        return _refuse(f"{options.file}: {error.field or 'input'}", error)
    if options.json:
        told = json.dumps(verdict.to_dict(), ensure_ascii=False, indent=2, allow_nan=False)
    else:
        from orthocris.formats.verdict_text import verdict_text

        told = verdict_text(verdict)
    try:
        print(told, flush=True)
    except BrokenPipeError:  # whoever reads has read enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def _unpacked(content: bytes) -> tuple[Shared | None, bytes]:
    """What a bundle tells of its trial, and its table; a table is told nothing of."""
    from orthocris.core.verdict.shared import shared_from
    from orthocris.formats.bundle_reading import is_bundle, read_bundle

    if not is_bundle(content):
        return None, content
    plain, table = read_bundle(content)
    return (None if plain is None else shared_from(plain)), table


def _fill_in(options: argparse.Namespace, shared: Shared | None) -> None:
    """What was not said is as the bundle tells it, else as usual."""
    told = {"control": "control", "measure": None, "look": "last", "threshold": "0.6"}
    if shared is not None:
        told = {
            "control": shared.control or "none",
            "measure": shared.measure,
            "look": f"{shared.look:g}",
            "threshold": f"{shared.threshold}",
        }
        if not options.planned:
            options.planned = ",".join(f"{day:g}" for day in shared.planned)
        if options.decisive is None and shared.decisive is not None:
            options.decisive = f"{shared.decisive:g}"
        options.two_waves = options.two_waves or shared.two_waves
        options.two_looks = options.two_looks or shared.two_looks
        options.usual = options.usual or bool(shared.usual)
    for name, value in told.items():
        if getattr(options, name) is None:
            setattr(options, name, value)


def _option_number(text: str, name: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise InputError(
            f"{text!r} is not a number", field=name, fix="Give a plain number."
        ) from None


def _option_seed(text: str) -> int:
    if not text.isascii() or not text.isdigit() or len(text) > 18:
        raise InputError(
            f"{text!r} is not a seed", field="--seed", fix="Give a whole number, 0 or larger."
        )
    return int(text)


def _place(file: Path, line: int, column: str | None) -> str:
    return f"{file}: line {line}" + (f", column {column}" if column else "")


def _refuse(where: str, error: OrthocrisError | None = None) -> int:
    said = where if error is None else f"{where}: {error.message}. {error.fix}"
    print(" ".join(said.split()), file=sys.stderr)
    return 2
