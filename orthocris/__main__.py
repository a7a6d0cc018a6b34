"""The command line: `judge` a table, `serve` the application, keep its data, print the schema."""

from __future__ import annotations

import argparse
import gc
import json
import logging
import os
import signal
import socket
import sys
import tempfile
import threading
from collections.abc import Sequence
from contextlib import ExitStack
from pathlib import Path
from types import FrameType
from typing import TYPE_CHECKING

from platformdirs import user_cache_path, user_data_path

from orthocris import judge_command, keeping_commands
from orthocris.core.errors import OrthocrisError
from orthocris.demo.beside import WITH_PARENT, DemoBeside, end_with_parent
from orthocris.knowledge.checks import KnowledgeError, check_knowledge

if TYPE_CHECKING:
    from orthocris.services.context import Context
    from orthocris.services.door.network import Network
    from orthocris.storage.database import Database

HOST = "127.0.0.1"
ROOT = Path(__file__).resolve().parent.parent
PACKED = Path(__file__).resolve().parent / "front_end"  # where a wheel has it
FRONT_END = PACKED if PACKED.is_dir() else ROOT / "web" / "dist"
CACHE = user_cache_path("orthocris") if PACKED.is_dir() else ROOT / ".run"
_TOLD = threading.Event()  # to end


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command and return the exit status."""
    # Matrices here are small: threads would wait for one another longer than they compute, most of
    # all where others use the machine. Read when numpy is loaded, which is later.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    parser = argparse.ArgumentParser(prog="orthocris", description="Trials of home remedies.")
    commands = parser.add_subparsers(dest="command", required=True)
    judge_command.add_judge(
        commands.add_parser("judge", help="judge a trial from a tidy table (CSV)")
    )
    _add_serve(commands.add_parser("serve", help="serve the application on this machine"))
    demo = commands.add_parser("demo", help="serve a fresh copy of the demo world")
    _add_serve(demo)
    demo.set_defaults(demo=True)
    commands.add_parser("openapi", help="print the schema of the API")
    commands.add_parser("tags", help="print the outlines of tags by their notches (JSON)")
    commands.add_parser("tables", help="print the tables of the data as a diagram (Markdown)")
    keeping_commands.add_commands(commands)
    options = parser.parse_args(arguments)
    if options.command in keeping_commands.NAMES:
        return keeping_commands.run_command(options, options.data or user_data_folder())
    if options.command == "judge":
        return judge_command.run_judge(options)
    if options.command == "openapi":
        return _openapi()
    if options.command == "tags":
        return _tags()
    if options.command == "tables":
        return _tables()
    return _serve(options)


def _add_serve(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--port", type=_port, default=8747)
    parser.add_argument("--data", type=Path, help="folder of the data")
    parser.add_argument("--demo", action="store_true", help="serve a fresh copy of the demo world")
    parser.add_argument(WITH_PARENT, action="store_true", help=argparse.SUPPRESS)
    parser.add_argument("--keep", action="store_true", help="keep the demo copy at the end")
    parser.add_argument(
        "--lan", action="store_true", help="let other devices of the home network in, this time"
    )
    parser.add_argument(
        "--lan-port", type=_port, default=8748, help="port for the home network, 0 for any"
    )
    parser.add_argument("--lan-host", help="name or address by which others reach this machine")


def _port(text: str) -> int:
    if not (text.isascii() and text.isdigit() and len(text) <= 5 and int(text) <= 65_535):
        raise argparse.ArgumentTypeError(
            f"{text!r} is no port: give a whole number from 1 to 65535, or 0 for any free one"
        )
    return int(text)


def user_data_folder() -> Path:
    """Return the folder for the gardener's own data, by the custom of the system."""
    name = "orthocris" if sys.platform.startswith("linux") else "Orthocris"
    return user_data_path(name, appauthor=False)


def _serve(options: argparse.Namespace) -> int:
    """Serve until it is told to end; Ctrl-C and SIGTERM both end it in good order."""
    signal.signal(signal.SIGTERM, _end)
    # Begun in the background it is ignored at first; while it serves it is heeded, so always.
    if signal.getsignal(signal.SIGINT) in (signal.default_int_handler, signal.SIG_IGN):
        signal.signal(signal.SIGINT, _end)
    try:
        return _serve_until_told(options)
    except KeyboardInterrupt:
        return 130


def _end(number: int, _: FrameType | None) -> None:
    """Leave by the ordinary way, so that a demo's folder is removed.

    What is raised here is swallowed if it falls into a finalizer; so it is noted, too, and the
    server ends as soon as it has started.
    """
    _TOLD.set()
    raise KeyboardInterrupt if number == signal.SIGINT else SystemExit(0)


def _serve_until_told(options: argparse.Namespace) -> int:
    try:
        check_knowledge()
    except KnowledgeError as error:
        print(f"The shipped knowledge cannot be used: {error}.", file=sys.stderr)
        return 2
    try:
        listener = _listen(options.port)
    except OSError as error:
        print(
            f"Port {options.port} cannot be used ({error.strerror}). Another program, perhaps "
            f"Orthocris itself, has it: stop that one, or add --port {options.port + 1}.",
            file=sys.stderr,
        )
        return 2
    if options.with_parent:
        end_with_parent()
    if not options.demo:
        return _run(listener, options.data or user_data_folder(), options)
    if options.keep:
        folder = Path(tempfile.mkdtemp(prefix="orthocris-demo-"))
        print(f"The demo copy stays in {folder}", flush=True)
        return _run(listener, folder, options)
    with tempfile.TemporaryDirectory(prefix="orthocris-demo-") as name:
        return _run(listener, Path(name), options)


def _listen(port: int) -> socket.socket:
    # With its protocol named, asyncio sends small answers at once (TCP_NODELAY).
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((HOST, port))
        listener.listen(128)
    except BaseException:
        listener.close()
        raise
    return listener


def _run(listener: socket.socket, folder: Path, options: argparse.Namespace) -> int:
    import uvicorn

    from orthocris.api.app import create_app
    from orthocris.api.door.gate import Gate
    from orthocris.network.second_server import HomeNetwork
    from orthocris.services.backups import make_daily
    from orthocris.services.context import Context
    from orthocris.services.counting.notebook import sweep_pictures
    from orthocris.services.door import admission
    from orthocris.services.planning.layouts import draw_all_due
    from orthocris.services.watch import Watch
    from orthocris.services.weather.weathering import log_weather

    logging.basicConfig(level=logging.INFO, format="%(levelname)s %(name)s: %(message)s")
    held = ExitStack()
    try:
        database = _opened(listener, folder, held, demo=options.demo)
    except (OSError, OrthocrisError) as error:
        held.close()
        fix = error.fix if isinstance(error, OrthocrisError) else "Name another with --data."
        print(f"The data folder cannot be used: {error}. {fix}", file=sys.stderr)
        return 2
    front_end = FRONT_END if (FRONT_END / "index.html").is_file() else None
    if front_end is None:
        print("The front end is not built: python3 run.py demo builds it.", file=sys.stderr)
    context = Context(database)
    app = create_app(context, front_end)
    home: HomeNetwork

    def names() -> frozenset[str]:
        return home.opened.names if home.opened else frozenset()

    home = HomeNetwork(
        Gate(app, context, names), folder / "door", options.lan_port, context.now, options.lan_host
    )
    app.state.network = home
    app.state.demo = demo = DemoBeside()
    print(f"Orthocris is ready at http://{HOST}:{listener.getsockname()[1]}", flush=True)

    class Server(uvicorn.Server):
        async def startup(self, sockets: list[socket.socket] | None = None) -> None:
            self.should_exit = self.should_exit or _TOLD.is_set()
            await super().startup(sockets)

    server = Server(
        uvicorn.Config(app, log_level="warning", server_header=False, proxy_headers=False)
    )
    watches = (
        Watch("the weather", 600.0, lambda: log_weather(context)),
        Watch("keeping the file whole", 5.0, database.checkpoint),
        Watch("the check of the file", None, database.check),
        Watch("layouts that are due", None, lambda: draw_all_due(context)),
        Watch("the copy of the day", 3600.0, lambda: make_daily(context)),
        Watch("pictures nobody has", 6 * 3600.0, lambda: sweep_pictures(context)),
    )
    # What is loaded by now stays: it need not be looked through for garbage again and again.
    gc.freeze()
    gc.set_threshold(60_000)  # one answer makes as many small records, which end with it
    # Whoever reads much gives way to whoever counts after a tenth of a millisecond.
    sys.setswitchinterval(0.0001)
    try:  # told to end even now, it ends them before the demo's folder is removed
        for watch in watches:
            watch.start()
        if database.damage is None and (options.lan or admission.is_kept_open(context)):
            _open_door(context, home)
        server.run(sockets=[listener])
    finally:
        home.shut()
        demo.shut()
        for watch in watches:
            watch.end()
        database.close()
        held.close()
    return 0


def _opened(listener: socket.socket, folder: Path, held: ExitStack, *, demo: bool) -> Database:
    """Make the folder ready and return its data; what is held of it is let go with `held`."""
    from orthocris.services.context import local_now
    from orthocris.storage.database import Database
    from orthocris.storage.folder import claimed, keep_private

    os.umask(0o077)  # what is written here is the gardener's alone
    folder.mkdir(parents=True, exist_ok=True)
    held.enter_context(claimed(folder, f"http://{HOST}:{listener.getsockname()[1]}"))
    file = folder / "orthocris.sqlite"
    database = Database(file)
    if demo:
        from orthocris.demo.build import fresh_copy

        fresh_copy(file, local_now(), CACHE)
    else:
        _bring_up_to_date(database)
    keep_private(folder)
    return database


def _bring_up_to_date(database: Database) -> None:
    """Open the data, of an older version after a copy; of damaged data serve what is whole.

    Where there are copies the pages open, so that one can be put back.
    """
    from orthocris.services.context import local_now
    from orthocris.storage import backups
    from orthocris.storage.soundness import MENDED, DatabaseError

    def copy() -> None:
        backups.make(database.path, backups.Reason.UPGRADE, local_now())

    try:
        database.migrate(before_upgrade=copy)
    except DatabaseError as error:
        if error.code not in MENDED or not backups.backups_of(database.path):
            raise
        print(f"{error.message}. {error.fix}", file=sys.stderr, flush=True)
        database.refuse(error)


def _open_door(context: Context, home: Network) -> None:
    """Open the door for other devices; the first time with a passcode that is told once."""
    from orthocris.services.door import admission

    told = None if admission.has_passcode(context) else admission.set_passcode(context, None)
    try:
        opened = home.open()
    except OrthocrisError as error:
        print(f"Other devices cannot come in: {error}. {error.fix}", file=sys.stderr)
        return
    said = f"the passcode {told}, shown this once" if told else "the passcode that was set"
    print(f"Other devices of the home network come in at {opened.address} with {said}", flush=True)


def _openapi() -> int:
    from orthocris.api.app import create_app
    from orthocris.services.context import Context
    from orthocris.storage.database import Database

    app = create_app(Context(Database(Path("unused.sqlite"))), None)
    print(json.dumps(app.openapi(), indent=2, sort_keys=True))
    return 0


def _tags() -> int:
    from orthocris.core.planning.tags import MOST_NOTCHES, tag_outline

    rows = (
        [[round(x, 4), round(y, 4)] for x, y in tag_outline(n)] for n in range(MOST_NOTCHES + 1)
    )
    print("[\n" + ",\n".join(json.dumps(row) for row in rows) + "\n]")
    return 0


def _tables() -> int:
    from orthocris.storage.database import Database
    from orthocris.storage.drawing import tables_drawn

    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "empty.sqlite", durable=False)
        database.migrate()
        with database.reading() as connection:
            drawn = tables_drawn(connection)
    print(
        "# The tables\n\nDrawn from the schema by `python -m orthocris tables`; a line from one "
        "table to another is a column that refers to it.\n\n"
        f"```mermaid\n{drawn}\n```"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
