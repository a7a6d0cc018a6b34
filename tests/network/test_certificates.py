"""The authority of a home: kept, private, and renewed with the names of the machine."""

from __future__ import annotations

import ssl
import stat
import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.x509.oid import ExtendedKeyUsageOID

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
        self.authority.issue(["192.0.2.7"], NOW)
        before = self.authority.fingerprint()
        Authority(self.folder).issue(["192.0.2.7"], NOW)
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

    def test_it_vouches_for_this_home_and_for_nothing_else(self) -> None:
        self.authority.issue(["192.168.1.7", "shed.local"], NOW)
        made = x509.load_pem_x509_certificate(self.authority.certificate())
        self.assertEqual(made.not_valid_after_utc.year, 2036)
        usage = made.extensions.get_extension_for_class(x509.ExtendedKeyUsage).value
        self.assertEqual(list(usage), [ExtendedKeyUsageOID.SERVER_AUTH])
        bounds = made.extensions.get_extension_for_class(x509.NameConstraints)
        self.assertTrue(bounds.critical)
        permitted = [str(p.value) for p in bounds.value.permitted_subtrees or ()]
        self.assertIn("shed.local", permitted)
        self.assertIn("192.168.0.0/16", permitted)
        self.assertEqual(len(permitted), 6)

    def test_one_without_bounds_or_of_another_name_is_made_anew(self) -> None:
        self.authority.issue(["192.168.1.7"], NOW)
        first = self.authority.fingerprint()
        self.authority.issue(["10.0.0.3"], NOW)  # another address at home: the phones go on
        self.assertEqual(self.authority.fingerprint(), first)
        chain, _ = self.authority.issue(["shed.local"], NOW)
        self.assertNotEqual(self.authority.fingerprint(), first)
        leaf = x509.load_pem_x509_certificates(chain.read_bytes())[0]
        made = x509.load_pem_x509_certificate(self.authority.certificate())
        leaf.verify_directly_issued_by(made)

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
