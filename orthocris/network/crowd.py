"""Who may stand at the second server at once: bounded in number, per address and in time.

Connections are taken one by one, so that no crowd of them uses up what the whole process has
(files, memory, the log): who was let stand without a word makes room for who comes.
"""

from __future__ import annotations

import asyncio
import contextlib
import socket
import ssl
from collections.abc import Callable
from dataclasses import dataclass

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

MOST = 96  # connections at once
MOST_OF_ONE = 24  # of one address: four browsers' worth
HANDSHAKE = 5.0  # seconds to agree on a key
SILENT = 10.0  # seconds to say a whole request
LONGEST = 180.0  # seconds a connection may stand, and as long again for its last answer
MOST_UNASKED = 1_000_000  # bytes of a head, with what of a body comes along with it
PAUSE = 0.005  # seconds between two that come while it is full
Peer = tuple[str, int]


class Protocol(HttpToolsProtocol):
    """Handles one connection as the server does, and tells when it is gone."""

    gone: asyncio.Event
    _unasked = 0  # bytes since the last answer that have not become a request yet

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        self.gone = asyncio.Event()
        super().connection_made(transport)

    def data_received(self, data: bytes) -> None:
        before = self.cycle
        waiting = before is None or before.response_complete
        self._unasked = self._unasked + len(data) if waiting else 0
        if self._unasked > MOST_UNASKED:
            self.transport.abort()
            return
        super().data_received(data)
        if self.cycle is not before:
            self._unasked = 0

    def connection_lost(self, exc: Exception | None) -> None:
        self.gone.set()
        super().connection_lost(exc)


@dataclass(eq=False, slots=True)
class _Guest:
    peer: Peer
    task: asyncio.Task[None] | None = None
    spoke: bool = False


class Crowd:
    """Takes connections from a listener and hands those that agree on a key to a protocol.

    Parameters
    ----------
    listener:
        A listening socket; it is made non-blocking.
    tls:
        How to agree on a key.
    protocol:
        Makes what handles one connection.
    """

    def __init__(
        self, listener: socket.socket, tls: ssl.SSLContext, protocol: Callable[[], Protocol]
    ) -> None:
        listener.setblocking(False)
        self._listener = listener
        self._tls = tls
        self._protocol = protocol
        self._guests: dict[Peer, _Guest] = {}

    def heard(self, peer: Peer) -> None:
        """Note that a connection said a whole request: it is no longer the first to go."""
        guest = self._guests.get(peer)
        if guest is not None:
            guest.spoke = True

    async def run(self) -> None:
        """Take connections until cancelled; then let all go."""
        loop = asyncio.get_running_loop()
        try:
            while True:
                try:
                    taken, address = await loop.sock_accept(self._listener)
                except OSError:  # gone before it was taken, or no files left: wait, and go on
                    await asyncio.sleep(0.1)
                    continue
                await self._take(taken, (str(address[0]), int(address[1])))
        finally:
            for guest in list(self._guests.values()):
                self._send_off(guest)

    async def _take(self, taken: socket.socket, peer: Peer) -> None:
        there = list(self._guests.values())
        of_one = [g for g in there if g.peer[0] == peer[0]]
        crowded = of_one if len(of_one) >= MOST_OF_ONE else there if len(there) >= MOST else None
        if crowded is not None:
            silent = next((g for g in crowded if not g.spoke), None)
            await asyncio.sleep(PAUSE)
            if silent is None:
                taken.close()
                return
            self._send_off(silent)
        guest = _Guest(peer)
        self._guests[peer] = guest
        guest.task = asyncio.create_task(self._stand(guest, taken))

    async def _stand(self, guest: _Guest, taken: socket.socket) -> None:
        """One connection from its key to its end; whatever goes wrong concerns it alone."""
        loop = asyncio.get_running_loop()
        transport: asyncio.Transport | None = None
        try:
            taken.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
            transport, protocol = await loop.connect_accepted_socket(
                self._protocol,
                taken,
                ssl=self._tls,
                ssl_handshake_timeout=HANDSHAKE,
                ssl_shutdown_timeout=1.0,
            )
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(protocol.gone.wait(), SILENT)
            for _ in range(2 if guest.spoke else 0):
                with contextlib.suppress(TimeoutError):
                    await asyncio.wait_for(protocol.gone.wait(), LONGEST)
                if not protocol.gone.is_set():
                    protocol.shutdown()  # after the answer that is on its way
        except (OSError, asyncio.CancelledError):
            pass
        finally:
            if transport is not None:
                transport.abort()
            taken.close()
            if self._guests.get(guest.peer) is guest:
                del self._guests[guest.peer]

    def _send_off(self, guest: _Guest) -> None:
        self._guests.pop(guest.peer, None)
        if guest.task is not None:
            guest.task.cancel()
