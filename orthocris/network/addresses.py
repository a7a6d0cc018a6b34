"""Under which addresses other devices of the home network reach this machine."""

from __future__ import annotations

import ipaddress
import socket

# A documentation address (RFC 5737): asking for the way there sends nothing.
_FAR = ("192.0.2.1", 9)


def home_addresses() -> tuple[str, ...]:
    """Return the addresses of this machine, the one that others most likely reach first.

    A machine that is on no network has none but its own.
    """
    found = [_way_out(), *_by_name()]
    own = [a for a in dict.fromkeys(found) if a and not ipaddress.ip_address(a).is_loopback]
    return tuple(own) or ("127.0.0.1",)


def home_name() -> str | None:
    """Return the name by which this machine may be found, such as shed.local."""
    name = socket.gethostname().split(".")[0].lower()
    plain = name.replace("-", "")
    return f"{name}.local" if plain.isascii() and plain.isalnum() else None


def _way_out() -> str | None:
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        try:
            asked.connect(_FAR)
        except OSError:
            return None
        return str(asked.getsockname()[0])


def _by_name() -> list[str]:
    try:
        found = socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)
    except OSError:
        return []
    return [str(entry[4][0]) for entry in found]
