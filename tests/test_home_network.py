"""`serve --lan`: another device comes in by https and passcode, and by nothing else."""

from __future__ import annotations

import http.client
import json
import re
import ssl
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from typing import Any

from tests.api.trial.test_routes import QUESTION

ROOT = Path(__file__).resolve().parent.parent


class HomeNetworkCase(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.start("--lan")

    def start(self, *more: str) -> None:
        """Start the program, and read where it is found."""
        command = [sys.executable, "-m", "orthocris", "serve", "--data", str(self.folder)]
        ports = ["--port", "0", "--lan-port", "0", "--lan-host", "localhost"]
        self.process = subprocess.Popen(
            [*command, *ports, *more], cwd=ROOT, stdout=subprocess.PIPE, text=True
        )
        self.addCleanup(self.end)
        assert self.process.stdout is not None
        first, second = self.process.stdout.readline(), self.process.stdout.readline()
        self.inside = int(re.findall(r":(\d+)$", first.strip())[0])
        self.outside = int(re.findall(r"https://localhost:(\d+)", second)[0])
        self.said = second

    def end(self) -> None:
        """End it in good order."""
        self.process.terminate()
        self.process.wait(timeout=20)
        if self.process.stdout is not None:
            self.process.stdout.close()

    def ask(
        self, method: str, path: str, body: Any = None, **headers: str
    ) -> tuple[int, dict[str, str], bytes]:
        """A request of another device, which trusts the authority of this home."""
        trusted = ssl.create_default_context(cafile=str(self.folder / "door" / "authority.pem"))
        connection = http.client.HTTPSConnection(
            "localhost", self.outside, timeout=20, context=trusted
        )
        sent = {"Content-Type": "application/json", **headers}
        connection.request(method, path, None if body is None else json.dumps(body), sent)
        answer = connection.getresponse()
        found = answer.status, dict(answer.getheaders()), answer.read()
        connection.close()
        return found

    def here(self, method: str, path: str, body: Any = None) -> Any:
        """A request on the machine itself."""
        connection = http.client.HTTPConnection("127.0.0.1", self.inside, timeout=20)
        connection.request(
            method,
            path,
            None if body is None else json.dumps(body),
            {"Content-Type": "application/json"},
        )
        found = json.loads(connection.getresponse().read())
        connection.close()
        return found

    def come_in(self, code: str) -> str:
        """Give the passcode; what the device carries from then on."""
        status, headers, _ = self.ask("POST", "/api/door/enter", {"passcode": code})
        self.assertEqual(status, 204)
        kept = headers["set-cookie"]
        for part in ("__Host-orthocris=", "HttpOnly", "Secure", "SameSite=strict", "Path=/"):
            self.assertIn(part, kept)
        return kept.split(";")[0]

    def test_in_by_the_passcode_alone(self) -> None:
        for method, path in (
            ("GET", "/api/today"),
            ("GET", "/api/trials/1"),
            ("POST", "/api/taps"),
            ("GET", "/api/door"),
            ("GET", "/api/openapi.json"),
            ("GET", "/api/nothing"),
        ):
            with self.subTest(path):
                self.assertEqual(self.ask(method, path, None)[0], 401)
        self.assertEqual(self.ask("GET", "/api/health")[0], 200)
        status, _, said = self.ask("POST", "/api/door/enter", {"passcode": "0000-0000"})
        self.assertEqual((status, json.loads(said)["error"]["code"]), (401, "wrong_passcode"))
        code = re.findall(r"passcode (\S+),", self.said)[0]
        cookie = self.come_in(code)
        self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie)[0], 200)
        self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie + "x")[0], 401)
        # The door itself is looked after on the machine alone.
        self.assertEqual(self.ask("GET", "/api/door", Cookie=cookie)[0], 403)
        self.assertEqual(
            self.ask("POST", "/api/door/passcode", {"passcode": None}, Cookie=cookie)[0], 403
        )
        # Foreign names and foreign pages stay out, also with a session.
        for headers in ({"Host": "evil.example"}, {"Origin": "https://evil.example"}):
            with self.subTest(headers):
                self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie, **headers)[0], 403)
        (session,) = self.here("GET", "/api/door")["sessions"]
        self.here("DELETE", f"/api/door/sessions/{session['id']}")
        self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie)[0], 401)

    def test_shut_and_opened_again_in_the_yard_and_at_the_next_start(self) -> None:
        self.assertTrue(self.here("GET", "/api/door")["open"])
        self.assertFalse(self.here("PUT", "/api/door", {"open": False})["open"])
        with self.assertRaises(OSError):
            self.ask("GET", "/api/health")
        found = self.here("PUT", "/api/door", {"open": True})
        self.assertIsNone(found["passcode"])
        self.outside = int(found["address"].rsplit(":", 1)[1])
        self.assertEqual(self.ask("GET", "/api/health")[0], 200)
        made = self.here("POST", "/api/door/passcode", {"passcode": None})["passcode"]
        cookie = self.come_in(made)
        self.end()
        self.start()  # it was left open: no flag is needed
        self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie)[0], 200)

    def test_prints_lead_where_a_phone_finds_it(self) -> None:
        trial = self.here("POST", "/api/trials", QUESTION)["id"]
        plants = {"prefix": "S", "rows": 1, "per_row": 8}
        self.here("POST", f"/api/trials/{trial}/plants", plants)
        self.here("POST", f"/api/trials/{trial}/layout", {})
        self.assertTrue(self.here("GET", f"/api/trials/{trial}/prints")["phones_can_open"])
        self.here("PUT", "/api/door", {"open": False})
        self.assertFalse(self.here("GET", f"/api/trials/{trial}/prints")["phones_can_open"])


if __name__ == "__main__":
    unittest.main()
