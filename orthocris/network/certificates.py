"""A certificate authority of this home, and the certificate of this machine."""

from __future__ import annotations

import ipaddress
import os
import secrets
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from orthocris.core.errors import NetworkError

AUTHORITY_VALID = timedelta(days=3652)  # ten years
VALID = timedelta(days=800)  # phones take none that hold longer than 825 days
RENEWED = timedelta(days=60)  # before the end
# The authority speaks for addresses that no site of the world can have (RFC 1918, 3927, 1122).
PRIVATE = tuple(
    ipaddress.ip_network(net)
    for net in ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8")
)


class Authority:
    """The authority kept in a folder: made at the first use, readable by its owner alone.

    It can vouch for this home's names and for private addresses and for nothing else (name
    constraints, RFC 5280 4.2.1.10): whoever stole its key could not pretend to be a site of the
    world. One without these bounds, of an earlier version, is made anew.

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
        """Return the authority's certificate (PEM), or raise NetworkError before the first."""
        if not self._certificate.is_file():
            raise NetworkError(
                "there is no certificate yet",
                code="no_certificate",
                fix="Open the door once: it is made then.",
            )
        return self._certificate.read_bytes()

    def fingerprint(self) -> str:
        """Return the SHA-256 of the certificate in pairs, as phones show it."""
        made = x509.load_pem_x509_certificate(self.certificate())
        return made.fingerprint(hashes.SHA256()).hex(":").upper()

    def issue(self, names: Sequence[str], now: datetime) -> tuple[Path, Path]:
        """Return certificate and key files for this machine under some names or addresses."""
        chain, key, said = (
            self._folder / name for name in ("machine.pem", "machine-key.pem", "machine.names")
        )
        authority, signing = self._for(names, now)
        mark = f"{authority.serial_number:x} {' '.join(sorted(names))}"
        if not self._holds(chain, key, said, mark, now):
            own = ec.generate_private_key(ec.SECP256R1())
            made = (
                _begun("Orthocris on this machine", now, VALID)
                .issuer_name(authority.subject)
                .public_key(own.public_key())
                .add_extension(x509.SubjectAlternativeName([_named(n) for n in names]), False)
                .add_extension(x509.BasicConstraints(ca=False, path_length=None), True)
                .add_extension(_usage(signs=False), True)
                .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), False)
                .add_extension(_key_of(signing), False)
                .sign(signing, hashes.SHA256())
            )
            _write(key, _plain_key(own))
            _write(chain, made.public_bytes(serialization.Encoding.PEM) + self.certificate())
            until = (now + VALID - RENEWED).astimezone(UTC).isoformat()
            _write(said, f"{until} {mark}".encode())
        return chain, key

    def _holds(self, chain: Path, key: Path, said: Path, wanted: str, now: datetime) -> bool:
        if not (chain.is_file() and key.is_file() and said.is_file()):
            return False
        until, _, mark = said.read_text("utf-8").partition(" ")
        return mark == wanted and datetime.fromisoformat(until) > now

    def _for(
        self, names: Sequence[str], now: datetime
    ) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
        """Return an authority that may vouch for all these names: the kept one, or a new one."""
        self._folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        if self._certificate.is_file() and self._key.is_file():
            kept = x509.load_pem_x509_certificate(self._certificate.read_bytes())
            key = serialization.load_pem_private_key(self._key.read_bytes(), None)
            lasts = kept.not_valid_after_utc > now + VALID
            if isinstance(key, ec.EllipticCurvePrivateKey) and lasts and _may(kept, names):
                return kept, key
        fresh = ec.generate_private_key(ec.SECP256R1())
        title = f"Orthocris of this home, {secrets.token_hex(4)}"
        made = (
            _begun(title, now, AUTHORITY_VALID)
            .issuer_name(_subject(title))
            .public_key(fresh.public_key())
            .add_extension(x509.BasicConstraints(ca=True, path_length=0), True)
            .add_extension(_usage(signs=True), True)
            .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), False)
            .add_extension(x509.NameConstraints(_bounds(names), None), True)
            .add_extension(x509.SubjectKeyIdentifier.from_public_key(fresh.public_key()), False)
            .sign(fresh, hashes.SHA256())
        )
        _write(self._key, _plain_key(fresh))
        _write(self._certificate, made.public_bytes(serialization.Encoding.PEM))
        return made, fresh


def _begun(title: str, now: datetime, valid: timedelta) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(_subject(title))
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + valid)
    )


def _subject(title: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, title)])


def _address(name: str) -> ipaddress.IPv4Address | None:
    try:
        return ipaddress.IPv4Address(name)
    except ValueError:
        return None


def _named(name: str) -> x509.GeneralName:
    found = _address(name)
    return x509.DNSName(name) if found is None else x509.IPAddress(found)


def _bounds(names: Sequence[str]) -> list[x509.GeneralName]:
    """What an authority may vouch for: this home's names, private addresses, its own others."""
    own = [a for a in map(_address, names) if a is not None]
    others = [ipaddress.ip_network(a) for a in own if not any(a in net for net in PRIVATE)]
    called = [x509.DNSName(n) for n in names if _address(n) is None]
    return [*called, *(x509.IPAddress(net) for net in (*PRIVATE, *others))]


def _may(kept: x509.Certificate, names: Sequence[str]) -> bool:
    """Tell whether an authority is bounded, and its bounds hold all these names."""
    try:
        bounds = kept.extensions.get_extension_for_class(x509.NameConstraints).value
    except x509.ExtensionNotFound:
        return False
    permitted = bounds.permitted_subtrees or []
    called = {p.value for p in permitted if isinstance(p, x509.DNSName)}
    nets = [p.value for p in permitted if isinstance(p, x509.IPAddress)]

    def within(name: str) -> bool:
        found = _address(name)
        if found is None:
            return name in called
        return any(isinstance(n, ipaddress.IPv4Network) and found in n for n in nets)

    return all(map(within, names))


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs,
        key_cert_sign=signs,
        crl_sign=False,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _key_of(key: ec.EllipticCurvePrivateKey) -> x509.AuthorityKeyIdentifier:
    return x509.AuthorityKeyIdentifier.from_issuer_public_key(key.public_key())


def _plain_key(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )


def _write(path: Path, content: bytes) -> None:
    """Write a file that only its owner reads, whole or not at all."""
    fresh = path.with_suffix(".new")
    fresh.unlink(missing_ok=True)
    with os.fdopen(os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as file:
        file.write(content)
    fresh.replace(path)
