"""The authority of a home: kept, private, and renewed with the names of the machine."""

from __future__ import annotations

import ssl
import stat
import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path

from orthocris.network.addresses import home_addresses
from orthocris.network.certificates import Authority

NOW = datetime(2026, 5, 10, 8, tzinfo=UTC)


class Certificates(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "door"
        self.authority = Authority(self.folder)

    def test_it_is_made_once_and_its_keys_are_the_owner_s_alone(self) -> None:
        before = self.authority.fingerprint()
        self.authority.issue(["192.0.2.7"], NOW)
        self.assertEqual(Authority(self.folder).fingerprint(), before)
        for file in self.folder.iterdir():
            self.assertEqual(stat.S_IMODE(file.stat().st_mode), 0o600, file.name)

    def test_a_phone_that_trusts_the_authority_trusts_the_machine(self) -> None:
        chain, key = self.authority.issue(["192.0.2.7", "shed.local"], NOW)
        server = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        server.load_cert_chain(chain, key)
        phone = ssl.create_default_context(cadata=self.authority.certificate().decode())
        self.assertEqual(len(phone.get_ca_certs()), 1)
        decoded = ssl._ssl._test_decode_cert(str(chain))  # type: ignore[attr-defined]
        names = {value for _, value in decoded["subjectAltName"]}
        self.assertEqual(names, {"192.0.2.7", "shed.local"})
        until = datetime.fromtimestamp(ssl.cert_time_to_seconds(decoded["notAfter"]), UTC)
        self.assertLess(until - NOW, timedelta(days=825))

    def test_the_certificate_holds_until_names_or_time_change(self) -> None:
        def made(names: list[str], at: datetime) -> bytes:
            return self.authority.issue(names, at)[0].read_bytes()

        first = made(["192.0.2.7"], NOW)
        self.assertEqual(made(["192.0.2.7"], NOW + timedelta(days=700)), first)
        self.assertNotEqual(made(["192.0.2.8"], NOW), first)
        second = made(["192.0.2.8"], NOW)
        self.assertNotEqual(made(["192.0.2.8"], NOW + timedelta(days=760)), second)


class Addresses(unittest.TestCase):
    def test_there_is_always_one(self) -> None:
        self.assertGreaterEqual(len(home_addresses()), 1)


if __name__ == "__main__":
    unittest.main()
