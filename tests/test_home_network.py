"""`serve --lan`: another device comes in by https and passcode, and by nothing else."""

from __future__ import annotations

import contextlib
import http.client
import json
import re
import resource
import socket
import ssl
import subprocess
import sys
import tempfile
import time
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from tests.api.trial.test_routes import QUESTION

ROOT = Path(__file__).resolve().parent.parent


class HomeNetworkCase(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.errors = self.folder / "said.txt"
        self.start("--lan")

    def start(self, *more: str, door: bool = True) -> None:
        """Start the program, and read where it is found."""
        command = [sys.executable, "-m", "orthocris", "serve", "--data", str(self.folder)]
        ports = ["--port", "0", "--lan-port", "0", "--lan-host", "localhost"]
        with self.errors.open("a") as errors:
            self.process = subprocess.Popen(
                [*command, *ports, *more],
                cwd=ROOT,
                stdout=subprocess.PIPE,
                stderr=errors,
                text=True,
            )
        self.addCleanup(self.end)
        assert self.process.stdout is not None
        first = self.process.stdout.readline()
        self.inside = int(re.findall(r":(\d+)$", first.strip())[0])
        if not door:
            return
        second = self.process.stdout.readline()
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
        answered = connection.getresponse().read()
        found = json.loads(answered) if answered else None
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
        found = self.here("PUT", "/api/door", {"open": True, "kept": True})
        self.assertIsNone(found["passcode"])
        self.outside = int(found["address"].rsplit(":", 1)[1])
        self.assertEqual(self.ask("GET", "/api/health")[0], 200)
        made = self.here("POST", "/api/door/passcode", {"passcode": None})["passcode"]
        cookie = self.come_in(made)
        self.end()
        self.start()  # it was left open: no flag is needed
        self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie)[0], 200)

    def test_a_crowd_of_silent_ones_and_a_burst_of_guesses_hold_nobody_up(self) -> None:
        """2,000 connections that say nothing, 500 guesses, and the owner counting meanwhile."""
        trial = self.here("POST", "/api/trials", QUESTION)["id"]
        code = re.findall(r"passcode (\S+),", self.said)[0]
        cookie = self.come_in(code)
        before = self.memory()
        silent: list[socket.socket] = []
        everybody = self.enterContext(contextlib.ExitStack())
        told: list[int] = []
        waited: list[float] = []

        def stand() -> None:
            for k in range(2_000):
                one = socket.socket()
                silent.append(everybody.enter_context(one))
                with contextlib.suppress(OSError):
                    one.bind((f"127.0.0.{2 + k % 9}", 0))
                    one.settimeout(5)
                    one.connect(("127.0.0.1", self.outside))

        def guess(k: int) -> None:
            with contextlib.suppress(OSError):
                told.append(self.ask("POST", "/api/door/enter", {"passcode": f"{k:08d}"})[0])

        soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
        resource.setrlimit(resource.RLIMIT_NOFILE, (min(hard, 8_192), hard))
        self.addCleanup(resource.setrlimit, resource.RLIMIT_NOFILE, (soft, hard))
        with ThreadPoolExecutor(12) as crowd:
            standing = crowd.submit(stand)
            guesses = [crowd.submit(guess, k) for k in range(500)]
            looked = 0
            while not (standing.done() and all(g.done() for g in guesses)):
                began = time.monotonic()
                self.assertEqual(self.here("GET", f"/api/trials/{trial}")["id"], trial)
                waited.append(time.monotonic() - began)
                if looked < 5:  # and the phone that was let in
                    looked += 1
                    self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie)[0], 200)
                time.sleep(0.05)
        self.assertEqual(len(silent), 2_000)
        self.assertLess(told.count(401), 9)  # 5, and one for each wait that was over meanwhile
        self.assertLessEqual(set(told), {401, 429})
        self.assertGreater(len(told), 400)
        self.assertLess(max(waited), 5)
        silent[-1].settimeout(20)
        with contextlib.suppress(ConnectionError):  # who says nothing is sent off in ten seconds
            self.assertEqual(silent[-1].recv(1), b"")
        self.assertLess(self.memory() - before, 200_000)  # kB
        self.assertLess(self.errors.stat().st_size, 20_000)
        self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie)[0], 200)

    def test_data_that_is_gone_is_told_in_words(self) -> None:
        cookie = self.come_in(re.findall(r"passcode (\S+),", self.said)[0])
        file = self.folder / "orthocris.sqlite"
        file.rename(self.folder / "moved.sqlite")
        status, headers, said = self.ask("GET", "/api/today", Cookie=cookie)
        self.assertEqual((status, json.loads(said)["error"]["code"]), (503, "data_gone"))
        self.assertEqual(headers["x-content-type-options"], "nosniff")
        (self.folder / "moved.sqlite").rename(file)
        self.assertEqual(self.ask("GET", "/api/today", Cookie=cookie)[0], 200)

    def test_one_connection_may_ask_often(self) -> None:
        """More in all than a head may hold, as a phone that counts for a while asks."""
        trusted = ssl.create_default_context(cafile=str(self.folder / "door" / "authority.pem"))
        line = http.client.HTTPSConnection("localhost", self.outside, timeout=20, context=trusted)
        for _ in range(40):
            line.request("GET", "/api/health", headers={"X-Long": "x" * 30_000})
            answer = line.getresponse()
            answer.read()
            self.assertEqual(answer.status, 200)
        line.close()

    def test_an_endless_head_is_cut_off(self) -> None:
        trusted = ssl.create_default_context(cafile=str(self.folder / "door" / "authority.pem"))
        plain = socket.create_connection(("localhost", self.outside), timeout=20)
        with trusted.wrap_socket(plain, server_hostname="localhost") as line:
            line.sendall(b"GET / HTTP/1.1\r\nHost: localhost\r\n")
            with self.assertRaises((ConnectionError, ssl.SSLError)):
                for k in range(20_000):
                    line.sendall(f"X-{k}: {'x' * 1000}\r\n".encode())
        self.assertEqual(self.ask("GET", "/api/health")[0], 200)

    def memory(self) -> int:
        """The most memory the program had so far, in kB."""
        told = Path(f"/proc/{self.process.pid}/status").read_text("utf-8")
        return int(re.findall(r"VmHWM:\s+(\d+)", told)[0])

    def test_opened_for_this_start_alone(self) -> None:
        self.assertFalse(self.here("GET", "/api/door")["kept"])
        self.end()
        self.start(door=False)
        self.assertFalse(self.here("GET", "/api/door")["open"])

    def test_what_the_gate_answers_is_hardened_and_other_sites_change_nothing(self) -> None:
        status, headers, _ = self.ask("GET", "/api/today")
        self.assertEqual((status, headers["x-content-type-options"]), (401, "nosniff"))
        self.assertEqual(headers["cache-control"], "no-store")
        sent = {"Sec-Fetch-Site": "cross-site"}
        self.assertEqual(self.ask("POST", "/api/door/enter", {"passcode": "x"}, **sent)[0], 403)
        self.assertEqual(self.ask("GET", "/", **sent)[0], 200)

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
