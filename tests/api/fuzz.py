"""A stateful fuzz over the API's own schema: python -m tests.api.fuzz [REQUESTS] [SEED].

Requests are made from the schema, sound ones and broken ones, against ids that exist and ids
that do not, while the clock goes on. Every answer must be one that the schema tells of.
"""

from __future__ import annotations

import json
import random
import sys
import unittest
from collections import Counter
from typing import Any

from jsonschema import Draft202012Validator
from starlette.testclient import TestClient

from orthocris.api.app import create_app
from tests.api.trial.test_routes import QUESTION
from tests.services.world import ServiceCase

HOSTILE: list[Any] = [
    None, True, -1, 0, 1, 2**31, 2**63, 10**40, 0.5, -0.0, 1e308, "", " ", "\0", "=1+1", "\u202e",
    "x" * 5000, "'; DROP TABLE trial; --", "<script>", "2026-02-30", "💧" * 50, [], {}, [[]],
    {"a": None}, [None] * 50,
]  # fmt: skip
WORDS = ["aphids", "soap", "10 ml soap in 1 litre", "live", "damage", "S1", "a4", "gradient"]
PATHS = ["0", "-1", "abc", "2147483648", "%00", "1e3", "९", "x" * 300]


class Fuzzer:
    """Makes requests from a schema and checks the answers against it."""

    def __init__(self, client: TestClient, chance: random.Random) -> None:
        self.client = client
        self.chance = chance
        self.schema: dict[str, Any] = client.get("/api/openapi.json").json()
        self.pools: dict[str, set[int]] = {"trial_id": {1}}
        self.statuses: Counter[int] = Counter()
        self.operations = [
            (path, method, operation)
            for path, methods in self.schema["paths"].items()
            for method, operation in methods.items()
        ]

    def step(self) -> str | None:
        """Send one request; return what is wrong with its answer, None when nothing is."""
        path, method, operation = self.chance.choice(self.operations)
        content, headers = self._body(path, operation)
        address = self._address(path, operation)
        answer = self.client.request(
            self.chance.choice([method] * 20 + ["head", "patch"]),
            address,
            content=content,
            headers=headers,
        )
        self.statuses[answer.status_code] += 1
        self._learn(path, answer)
        sent = f"{method} {address} {content[:300]!r}: {answer.status_code} {answer.text[:300]}"
        if answer.status_code >= 500:
            return sent
        if str(answer.request.method).lower() != method:
            return None if answer.status_code in (200, 404, 405, 409, 412, 422) else sent
        told = operation["responses"].get(str(answer.status_code))
        if told is None:
            return f"not in the schema: {sent}"
        shape = told.get("content", {}).get("application/json", {}).get("schema")
        if shape is None or not answer.headers.get("content-type", "").startswith("application/j"):
            return None
        whole = {**shape, "components": self.schema["components"]}
        fault = next(Draft202012Validator(whole).iter_errors(answer.json()), None)
        return f"{fault.message} in {sent}" if fault else None

    def _address(self, path: str, operation: dict[str, Any]) -> str:
        query = []
        for parameter in operation.get("parameters", []):
            name, shape = parameter["name"], parameter["schema"]
            if parameter["in"] == "path":
                path = path.replace(f"{{{name}}}", self._id(name))
            elif parameter["in"] == "query" and self.chance.random() < 0.6:
                value = self._value(shape) if self.chance.random() < 0.7 else "%00"
                several = value if isinstance(value, list) else [value]
                query += [f"{name}={_quoted(one)}" for one in several]
        return path + ("?" + "&".join(query) if query else "")

    def _id(self, name: str) -> str:
        if self.chance.random() < 0.1:
            return self.chance.choice(PATHS)
        if name == "code":
            return self.chance.choice(["gradient", "too_few_blocks", "no_control", "unmatched"])
        if name == "number":
            return str(self.chance.randint(0, 3))
        return str(self.chance.choice(sorted(self.pools.get(name, {1, 2}))))

    def _body(self, path: str, operation: dict[str, Any]) -> tuple[bytes, dict[str, str]]:
        headers: dict[str, str] = {}
        if self.chance.random() < 0.1:
            headers["If-Match"] = self.chance.choice(['"0"', "", "W/x"])
        if self.chance.random() < 0.2:
            headers["Idempotency-Key"] = f"a-key-{self.chance.randint(0, 9)}"
        body = operation.get("requestBody")
        if body is None:
            return b"", headers
        kind, told = next(iter(body["content"].items()))
        headers["Content-Type"] = kind
        if kind != "application/json":
            lines = ["time,temperature,rain", "2026-05-01T00:00,12,0", "2026-05-01T00:15,x,1"]
            self.chance.shuffle(lines)
            return self.chance.choice(["\n", "\r", "\0"]).join(lines).encode(), headers
        if path == "/api/trials" and self.chance.random() < 0.6:
            value: Any = {**QUESTION, self.chance.choice(sorted(QUESTION)): None}
            value = QUESTION if self.chance.random() < 0.5 else value
        else:
            value = self._value(told["schema"])
        text = json.dumps(value)
        if self.chance.random() < 0.03:
            text = self.chance.choice(["null", "[]", "{", "[" * 3000, "NaN", text[:-2]])
        return text.encode("utf-8", "surrogatepass"), headers

    def _value(self, shape: dict[str, Any], depth: int = 0) -> Any:  # noqa: PLR0911
        """A value of a shape, often sound, now and then of another kind."""
        if self.chance.random() < 0.04:
            return self.chance.choice(HOSTILE)
        if "$ref" in shape:
            name = shape["$ref"].rsplit("/", 1)[1]
            return self._value(self.schema["components"]["schemas"][name], depth)
        if "anyOf" in shape:
            return self._value(self.chance.choice(shape["anyOf"]), depth)
        if "enum" in shape:
            return self.chance.choice(shape["enum"])
        kind = shape.get("type")
        if kind == "object":
            return self._object(shape, depth)
        if kind == "array":
            inner = shape.get("items", {})
            return [self._value(inner, depth + 1) for _ in range(self.chance.randint(0, 3))]
        if kind == "integer":
            if self.chance.random() < 0.5:
                return self.chance.randint(0, 12)
            return self.chance.choice([shape.get("minimum", -5), shape.get("maximum", 99)])
        if kind == "number":
            return self.chance.choice([0, 1, 0.5, 2.25, 40, 1e6, -3, shape.get("maximum", 7)])
        return self._plain(shape, kind)

    def _plain(self, shape: dict[str, Any], kind: str | None) -> Any:
        if kind == "boolean":
            return self.chance.random() < 0.5
        if kind == "null":
            return None
        if shape.get("format") == "date":
            return self.chance.choice(["2026-05-10", "2026-05-14", "2024-02-29", "9999-12-31"])
        return self.chance.choice([*WORDS, "y" * min(shape.get("maxLength", 40), 4000)])

    def _object(self, shape: dict[str, Any], depth: int) -> dict[str, Any]:
        if depth > 5:
            return {}
        needed = set(shape.get("required", ()))
        found = {
            name: self._known(name) or self._value(inner, depth + 1)
            for name, inner in shape.get("properties", {}).items()
            if (name in needed and self.chance.random() < 0.97) or self.chance.random() < 0.6
        }
        if "additionalProperties" in shape and isinstance(shape["additionalProperties"], dict):
            for _ in range(self.chance.randint(0, 2)):
                key = self.chance.choice(["1", "2", "window_closed", "x"])
                found[key] = self._value(shape["additionalProperties"], depth + 1)
        if self.chance.random() < 0.01:
            found["surplus"] = 1
        return found

    def _known(self, name: str) -> int | None:
        """An id that exists, where a field asks for one."""
        pool = self.pools.get(name)
        if not pool or self.chance.random() < 0.2:
            return None
        return self.chance.choice(sorted(pool))

    def _learn(self, path: str, answer: Any) -> None:
        """Remember the ids of what there is."""
        if answer.status_code >= 300 or "json" not in answer.headers.get("content-type", ""):
            return
        if not answer.content:
            return
        found = answer.json()
        if not isinstance(found, dict):
            return
        if "plants" in found and "remedies" in found:
            for name, key in (("plant_id", "plants"), ("remedy_id", "remedies")):
                self.pools[name] = {thing["id"] for thing in found[key]} or {1}
            self.pools["batch_id"] = {b["id"] for b in found["batches"]} or {1}
        if path == "/api/trials" and "id" in found:
            self.pools["trial_id"].add(found["id"])
        if path.endswith("/power"):
            self.pools["job_id"] = {found["id"]}
        for cell in found.get("cells", ()):
            self.pools.setdefault("patch_id", {1}).update(t["id"] for t in cell["tests"])


def _quoted(value: object) -> str:
    """A value as it may stand in a query, with what is hostile left in."""
    return "".join(f"%{b:02x}" for b in str(value)[:200].encode("utf-8", "replace"))


class FuzzCase(ServiceCase):
    """A small trial and a client to be pressed."""

    def fuzz(self, requests: int, seed: int) -> tuple[list[str], Counter[int]]:
        """Send requests; return every fault, and how often each status came."""
        self.plant_and_draw()
        chance = random.Random(seed)
        client = TestClient(
            create_app(self.context, None),
            base_url="http://127.0.0.1:8747",
            raise_server_exceptions=False,
        )
        self.addCleanup(client.close)
        fuzzer = Fuzzer(client, chance)
        fuzzer._learn("", client.get(f"/api/trials/{self.trial_id}"))
        faults = []
        for k in range(requests):
            if k % 40 == 39:
                self.later(chance.choice([0.04, 0.3, 1.0]))
            fault = fuzzer.step()
            if fault is not None:
                faults.append(fault)
        return faults, fuzzer.statuses


class _ByHand(FuzzCase):
    def by_hand(self) -> None:
        """Press it as often as asked."""
        requests = int(sys.argv[1]) if len(sys.argv) > 1 else 5000
        seed = int(sys.argv[2]) if len(sys.argv) > 2 else 1
        faults, statuses = self.fuzz(requests, seed)
        print("\n".join(faults[:20]))
        print(f"{len(faults)} faults in {requests} requests; statuses {dict(statuses)}")
        self.assertEqual(faults, [])


if __name__ == "__main__":
    unittest.TextTestRunner().run(_ByHand("by_hand"))
