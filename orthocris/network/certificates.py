"""A certificate authority of this home, and the certificate of this machine."""

from __future__ import annotations

import hashlib
import os
import ssl
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path

import trustme

VALID = timedelta(days=800)  # phones take none that hold longer than 825 days
RENEWED = timedelta(days=60)  # before the end


class Authority:
    """The authority kept in a folder: made at the first use, readable by its owner alone.

    Parameters
    ----------
    folder:
        Where its certificate and key lie, beside the certificate of this machine.
    """

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._certificate = folder / "authority.pem"
        self._key = folder / "authority-key.pem"

    def certificate(self) -> bytes:
        """Return the authority's certificate (PEM), which devices may come to trust."""
        self._load()
        return self._certificate.read_bytes()

    def fingerprint(self) -> str:
        """Return the SHA-256 of the certificate in pairs, as phones show it."""
        der = ssl.PEM_cert_to_DER_cert(self.certificate().decode())
        digest = hashlib.sha256(der).hexdigest().upper()
        return ":".join(digest[k : k + 2] for k in range(0, len(digest), 2))

    def issue(self, names: Sequence[str], now: datetime) -> tuple[Path, Path]:
        """Return certificate and key files for this machine under some names."""
        chain, key, said = (
            self._folder / name for name in ("machine.pem", "machine-key.pem", "machine.names")
        )
        wanted = " ".join(sorted(names))
        if not self._holds(chain, key, said, wanted, now):
            made = self._load().issue_cert(
                *names,
                common_name="Orthocris",
                not_before=_plain(now - timedelta(days=1)),
                not_after=_plain(now + VALID),
            )
            _write(key, made.private_key_pem.bytes())
            _write(chain, b"".join(blob.bytes() for blob in made.cert_chain_pems))
            until = (now + VALID - RENEWED).astimezone(UTC).isoformat()
            _write(said, f"{until} {wanted}".encode())
        return chain, key

    def _holds(self, chain: Path, key: Path, said: Path, wanted: str, now: datetime) -> bool:
        if not (chain.is_file() and key.is_file() and said.is_file()):
            return False
        until, _, names = said.read_text("utf-8").partition(" ")
        return names == wanted and datetime.fromisoformat(until) > now

    def _load(self) -> trustme.CA:
        self._folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        if self._certificate.is_file() and self._key.is_file():
            return trustme.CA.from_pem(self._certificate.read_bytes(), self._key.read_bytes())
        made = trustme.CA(organization_name="Orthocris", organization_unit_name="this home")
        _write(self._key, made.private_key_pem.bytes())
        _write(self._certificate, made.cert_pem.bytes())
        return made


def _plain(at: datetime) -> datetime:
    """A time of the world without its zone, as certificates have it."""
    return at.astimezone(UTC).replace(tzinfo=None)


def _write(path: Path, content: bytes) -> None:
    """Write a file that only its owner reads, whole or not at all."""
    fresh = path.with_suffix(".new")
    fresh.unlink(missing_ok=True)
    with os.fdopen(os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as file:
        file.write(content)
    fresh.replace(path)
