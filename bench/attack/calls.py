"""Fuzzed calls over forms, the JSON interface and imports: no 5xx, none slow; and files that are none."""

from __future__ import annotations

import io
import json
import os
import random
import re
import tempfile
import threading
import time
import zipfile
from collections import Counter
from copy import deepcopy
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlencode

from shop import Shop

#: So many slow calls of a client are kept whole.
MAX_KEPT = 12
#: An answer that takes longer is a fault; the short version in the tests times nothing.
SLOW_SECONDS = 2.0
PLACES = ("need", "duty", "source", "train", "ways", "compare", "fit", "sheet", "runup", "log", "nowhere")
ODD: tuple[Any, ...] = (
    None, True, -1, 0, 5, 1e308, -1e-308, "", "x", "\u0000", "\ud800", "\u202e", "1/0", "9" * 400, "12 furlongs",
    "=1+1", "<script>", "../..", [], {}, [[]], [None], {"kind": "v_belt"}, {"kind": 5}, "NaN", "1e400", "½ in",
)  # fmt: skip
OPERATIONS = ("", "add_link", "remove_link", "move_link", "swap_link", "copy_link", "add_step", "add_shaft",
              "duplicate_plan", "remove_plan", "choose_worksheet", "choose_end", "choose_source", "add_segment",
              "refresh_link", "fill_typical", "take_as_own", "pick_plan", "add_plan", "add_visit", "remove_visit",
              "add_reading", "remove_reading", "toggle_noticed", "upkeep_done", "upkeep_undone", "\u0000")  # fmt: skip
FURTHER = ("/new?q=", "/stock?list=", "/stock?find=", "/stock/list.csv?list=", "/methods?q=", "/keeping?x=")


class Caller:
    """One client with its own connection, cookie and token."""

    def __init__(self, shop: Shop, seed: int, slow_s: float) -> None:
        self.shop, self.chance, self.slow_s = shop, random.Random(seed), slow_s
        self.machines = [shop.call(f"/api/v1/machines/{item['id']}") for item in shop.call("/api/v1/machines")]
        self.connection = HTTPConnection("127.0.0.1", shop.port, timeout=60)
        self.cookie, self.token = "", ""
        self.counts: Counter[int] = Counter()
        self.slowest, self.faults = 0.0, []
        self.methods: list[str] = []
        self.schemas: dict[str, Any] = {}
        page = self.send("GET", "/").decode()
        self.token = re.search(r'name="form-token" content="([^"]+)"', page)[1]

    def send(self, method: str, path: str, body: bytes = b"", kind: str = "") -> bytes:
        """One call, counted and timed; a 5xx is a fault."""
        headers = {"cookie": self.cookie} | ({"content-type": kind} if kind else {})
        began = time.monotonic()
        try:
            self.connection.request(method, path, body or None, headers)
            answer = self.connection.getresponse()
            content = answer.read()
        except (HTTPException, OSError) as error:
            self.connection.close()
            self.faults.append(f"{method} {path[:80]}: {error!r}")
            return b""
        taken = time.monotonic() - began
        if "set-cookie" in answer.headers:
            self.cookie = answer.headers["set-cookie"].split(";")[0]
        self.counts[answer.status] += 1
        self.slowest = max(self.slowest, taken)
        if answer.status >= 500 or taken > self.slow_s:
            self.faults.append(f"{method} {path[:80]} {answer.status} {taken:.2f} s: {body[:300]!r}")
            self.keep(answer.status, body)
        return content

    def keep(self, status: int, body: bytes) -> None:
        """What made a fault, whole, to be sent again: errors, and what was as slow as anything before."""
        if status >= 500 or len(self.faults) <= MAX_KEPT:
            kept = Path(tempfile.gettempdir()) / f"attack-fault-{os.getpid()}-{len(self.faults)}.txt"
            kept.write_bytes(body)
            self.faults[-1] += f" (whole in {kept})"

    def form(self, path: str, fields: dict[str, str]) -> None:
        encoded = urlencode({"form_token": self.token, **fields}, errors="surrogatepass").encode()
        self.send("POST", path, encoded, "application/x-www-form-urlencoded")

    def file(self, path: str, name: str, content: bytes) -> None:
        """A file as a form sends it."""
        mark = b"----------------mark"
        token = b'content-disposition: form-data; name="form_token"\r\n\r\n' + self.token.encode()
        head = f'content-disposition: form-data; name="file"; filename="{name}"'.encode()
        head += b"\r\ncontent-type: application/octet-stream\r\n\r\n"
        body = (
            b"--" + mark + b"\r\n" + token + b"\r\n--" + mark + b"\r\n" + head + content + b"\r\n--" + mark + b"--\r\n"
        )
        self.send("POST", path, body, f"multipart/form-data; boundary={mark.decode()}")

    def mutated(self, document: Any) -> Any:
        """A document with a few of its values, names or branches made odd."""
        made = json.loads(json.dumps(document))
        for _ in range(self.chance.randint(1, 3)):
            self._strike(made)
        return made

    def _strike(self, at: Any) -> None:
        while True:
            keys = list(at) if isinstance(at, dict) else list(range(len(at)))
            if not keys:
                return
            key = self.chance.choice(keys)
            if isinstance(at[key], (dict, list)) and self.chance.random() < 0.85:
                at = at[key]
                continue
            if isinstance(at[key], (int, float)) and self.chance.random() < 0.6:
                at[key] = at[key] * self.chance.choice((-1, 0.001, 0.5, 1.1, 3, 1000))
            elif isinstance(at, dict) and self.chance.random() < 0.2:
                at[str(self.chance.choice(ODD))] = at.pop(key)
            else:
                at[key] = deepcopy(self.chance.choice(ODD))
            return

    def one(self) -> None:
        """One call of any kind."""
        kinds = (self._edit, self._edit, self._api, self._api, self._calc, self._read, self._read, self._import)
        self.chance.choice(kinds)()

    def _edit(self) -> None:
        machine = self.chance.choice(self.machines)
        path = self.chance.choice([*_paths(machine["machine"]), "plans.9", "x", ""])
        value = self.chance.choice(ODD)
        verb = self.chance.choice(("set", "json", "was", "odd"))
        text = value if isinstance(value, str) else json.dumps(value)
        if self.chance.random() < 0.3:
            machine.update(self.shop.call(f"/api/v1/machines/{machine['id']}"))
        version = str(machine["version"] if self.chance.random() < 0.9 else self.chance.choice((0, "x")))
        operation = self.chance.choice(OPERATIONS)
        fields = {"version": version, f"{verb}:{path}": text, "operation": operation, "index": text[:9], "kind": text}
        self.form(f"/machines/{machine['id']}/edit", fields)

    def _api(self) -> None:
        machine = self.chance.choice(self.machines)
        body = self.mutated(machine["machine"])
        if self.chance.random() < 0.5:
            self.send("POST", "/api/v1/solve", json.dumps(body).encode(), "application/json")
        else:
            sent = {"version": self.chance.choice((machine["version"], -1, "x")), "machine": body}
            self.send("PUT", f"/api/v1/machines/{machine['id']}", json.dumps(sent).encode(), "application/json")

    def _calc(self) -> None:
        self.methods = self.methods or [item["name"] for item in self.shop.call("/api/v1/calc")]
        method = self.chance.choice(self.methods)
        if method not in self.schemas:
            self.schemas[method] = self.shop.call(f"/api/v1/calc/{method}/schema")
        example = self.schemas[method].get("examples")
        names = list(self.schemas[method].get("properties", {})) or ["x"]
        odd = {name: self.chance.choice((*ODD, 1.0, 20, 0.5, 1440)) for name in names}
        body = self.mutated(example[0]) if example and self.chance.random() < 0.7 else odd
        self.send("POST", f"/api/v1/calc/{method}", json.dumps(body).encode(), "application/json")

    def _read(self) -> None:
        machine = self.chance.choice(self.machines)
        odd = quote(str(self.chance.choice(ODD)).encode("utf-8", "replace"))
        place = self.chance.choice(PLACES)
        query = f"?plan={odd}&at={self.chance.choice(('link-2', odd))}&show={odd}"
        held = f"/machines/{machine['id']}"
        files = (f"{held}/parts.csv?plan={odd}", f"{held}/parts.xlsx", f"{held}/file", f"{held}/{odd}")
        paths = (f"{held}/{place}{query}", f"/machines/{odd}/{place}", f"/find?q={odd}", f"/{odd}", *files)
        paths += (f"{held}/{place}{query}", self.chance.choice(FURTHER) + odd)
        self.send("GET", self.chance.choice(paths))

    def _import(self) -> None:
        machine = self.chance.choice(self.machines)
        content = json.dumps(self.mutated(machine["machine"])).encode()
        self.file("/machines/import", "machine.json", self.spoilt(content))

    def spoilt(self, content: bytes) -> bytes:
        """A file cut, doubled, in another coding, nested too deep, or no file of its kind at all."""
        kind = self.chance.randrange(9)
        cut = self.chance.randrange(len(content) + 1)
        if kind == 0:
            return content[:cut]
        if kind == 1:
            return content.decode().encode("utf-16")
        if kind == 2:
            return b"[" * 20_000
        if kind == 3:
            return self.chance.randbytes(300)
        if kind == 4:
            return content[:cut] + self.chance.randbytes(3) + content[cut:]
        if kind == 5:
            return zipped({"a.json": content, "b/../c.json": content[:cut], "d": b"0" * 500_000})
        if kind == 6:
            return zipped({f"{k}.json": content for k in range(30)})[: -cut or None]
        return content


def zipped(files: dict[str, bytes]) -> bytes:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return made.getvalue()


def _paths(value: Any, at: str = "") -> Any:
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        path = f"{at}.{key}" if at else str(key)
        yield path
        yield from _paths(inner, path)


def attack(
    shop: Shop, calls: int, seed: int, hostile_files: bool = False, slow_s: float = SLOW_SECONDS, callers: int = 2
) -> list[str]:
    """Run; gives what went wrong and prints what it measured."""
    shop.ready()
    clients = [Caller(shop, seed + k, slow_s) for k in range(callers)]

    def run(caller: Caller) -> None:
        for number in range(calls // callers):
            if hostile_files:
                content = caller.spoilt(json.dumps(caller.mutated(caller.machines[0]["machine"])).encode())
                door = ("/machines/import", "/keeping/read-in")[number % 2]
                caller.file(door, caller.chance.choice(("a.json", "a.zip", "=cmd", "..", "a\u202eb")), content)
            else:
                caller.one()

    began = time.monotonic()
    threads = [threading.Thread(target=run, args=(caller,)) for caller in clients]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    counts = sum((caller.counts for caller in clients), Counter())
    found = [fault for caller in clients for fault in caller.faults]
    answers = ", ".join(f"{count} x {status}" for status, count in sorted(counts.items()))
    taken, slowest = time.monotonic() - began, max(caller.slowest for caller in clients)
    print(f"  {calls} calls in {taken:.0f} s: {answers}; slowest {slowest:.2f} s; {len(found)} faults")
    return found
