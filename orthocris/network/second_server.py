"""The second way to the application: https on the home network, in a thread of its own."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import socket
import threading
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

import uvicorn
from starlette.types import ASGIApp, Receive, Scope, Send

from orthocris.core.errors import NetworkError
from orthocris.network.addresses import home_addresses, home_name
from orthocris.network.certificates import Authority
from orthocris.network.crowd import Crowd, Protocol
from orthocris.services.door.network import Opened

STARTS_WITHIN = 20.0  # seconds


class HomeNetwork:
    """Opens and shuts the second server.

    Parameters
    ----------
    app:
        The application behind its gate, an ASGI callable.
    folder:
        Where the certificates lie.
    port:
        The port it listens on; 0 for any.
    host:
        The name or address to tell others; None: what this machine finds out by itself.
    """

    def __init__(
        self,
        app: ASGIApp,
        folder: Path,
        port: int,
        now: Callable[[], datetime],
        host: str | None = None,
    ) -> None:
        self._app = app
        self._authority = Authority(folder)
        self._port = port
        self._now = now
        self._host = host
        self._turn = threading.Lock()
        self._server: uvicorn.Server | None = None
        self._thread: threading.Thread | None = None
        self._opened: Opened | None = None
        self._crowd: Crowd | None = None

    @property
    def opened(self) -> Opened | None:
        """Where it is open, None while it is shut."""
        return self._opened

    def authority(self) -> bytes:
        """Return the certificate (PEM) by which devices trust this one, or raise NetworkError."""
        return self._authority.certificate()

    def open(self) -> Opened:
        """Open it, or raise NetworkError; nothing where it is open already."""
        with self._turn:
            if self._opened is None:
                self._opened = self._begin()
            return self._opened

    def shut(self) -> None:
        """Shut it; nothing where it is shut."""
        with self._turn:
            if self._server is not None and self._thread is not None:
                self._server.should_exit = True
                self._thread.join(timeout=STARTS_WITHIN)
            self._server = self._thread = self._opened = None

    def _begin(self) -> Opened:
        own = [a for a in (self._host, *home_addresses(), home_name()) if a]
        names = list(dict.fromkeys([*own, "localhost", "127.0.0.1"]))
        listener = self._listen()
        port = listener.getsockname()[1]
        try:
            chain, key = self._authority.issue(names, self._now())
            config = uvicorn.Config(
                self._heard,
                http=Protocol,
                interface="asgi3",
                proxy_headers=False,  # nobody says for another where he comes from
                log_level="warning",
                server_header=False,
                lifespan="off",
                ssl_certfile=str(chain),
                ssl_keyfile=str(key),
                timeout_graceful_shutdown=2,
            )
            config.load()
        except (OSError, ValueError) as error:
            listener.close()
            raise NetworkError(
                f"the certificate cannot be made or read ({error})",
                fix="Look after the folder `door` beside the data, or remove it: it is made anew.",
            ) from error
        server = self._server = uvicorn.Server(config)
        self._thread = threading.Thread(
            target=lambda: asyncio.run(self._serve(config, server, listener)),
            name="the home network",
            daemon=True,
        )
        self._thread.start()
        addresses = [f"https://{name}:{port}" for name in own]
        return Opened(
            addresses[0], tuple(addresses[1:]), frozenset(names), self._authority.fingerprint()
        )

    def _listen(self) -> socket.socket:
        listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listener.bind(("0.0.0.0", self._port))  # noqa: S104 - the home network is what it is for
            listener.listen(128)
        except OSError as error:
            listener.close()
            raise NetworkError(
                f"port {self._port} cannot be used ({error.strerror})",
                code="port_taken",
                fix="Stop the other program that has it, or start with another --lan-port.",
            ) from error
        return listener

    async def _heard(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Hand a request on; its connection has said something."""
        if self._crowd is not None and scope.get("client"):
            self._crowd.heard(scope["client"])
        await self._app(scope, receive, send)

    async def _serve(
        self, config: uvicorn.Config, server: uvicorn.Server, listener: socket.socket
    ) -> None:
        """Serve whom the crowd lets stand, until the server is told to end."""
        assert config.ssl is not None  # noqa: S101 - loaded with its certificate above
        self._crowd = Crowd(
            listener,
            config.ssl,
            lambda: Protocol(config, server.server_state, {}),
        )
        taking = asyncio.create_task(self._crowd.run())
        try:
            await server.serve(sockets=[])
        finally:
            taking.cancel()
            with contextlib.suppress(asyncio.CancelledError):
                await taking
            listener.close()


def _worth_a_line(record: logging.LogRecord) -> bool:
    """What strangers send is not the gardener's to mend, and they could fill the disk with it."""
    return record.msg != "Invalid HTTP request received."


logging.getLogger("uvicorn.error").addFilter(_worth_a_line)
