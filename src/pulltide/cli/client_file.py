"""Writes a client for Python out of the OpenAPI document: one module, the standard library alone."""

from __future__ import annotations

import keyword
from collections.abc import Mapping
from typing import Any

from pulltide.cli.operations import Operation, operations

TYPES = {"integer": "int", "number": "float", "boolean": "bool"}
HEAD = '''"""Calls a Pulltide Gear shop. Written by ``pulltide client`` from the shop's own description.

>>> shop = Shop("https://shop.example:8420", token="…", certificate="certificate.pem")  # doctest: +SKIP
>>> shop.list_machines()  # doctest: +SKIP
"""

from __future__ import annotations

import json
import ssl
from typing import Any, Callable
from urllib.error import HTTPError
from urllib.parse import quote, urlencode
from urllib.request import Request, urlopen

Send = Callable[[str, str, "bytes | None", "dict[str, str]"], "tuple[int, str, bytes]"]


class Refused(Exception):
    """What the shop said, with the status of HTTP and every fault."""

    def __init__(self, status: int, said: str, faults: list[dict[str, Any]]) -> None:
        self.status, self.faults = status, faults
        super().__init__(f"{status}: {said}")


class Shop:
    """A shop at an address. ``send`` calls in another way than over HTTP."""

    def __init__(
        self, address: str, *, token: str = "", certificate: str | None = None, send: Send | None = None
    ) -> None:
        self._address, self._token = address.rstrip("/"), token
        self._context = ssl.create_default_context(cafile=certificate)
        self._send = send or self._over_http

    def _over_http(self, method: str, path: str, body: bytes | None, headers: dict[str, str]) -> tuple[int, str, bytes]:
        if self._token:
            headers = {**headers, "authorization": f"Bearer {self._token}"}
        request = Request(self._address + path, body, headers, method=method)
        context = self._context if self._address.startswith("https:") else None
        try:
            with urlopen(request, timeout=60, context=context) as answer:
                return answer.status, answer.headers.get("content-type", ""), answer.read()
        except HTTPError as refused:
            return refused.code, refused.headers.get("content-type", ""), refused.read()

    def _call(
        self, method: str, path: str, query: dict[str, Any], body: Any = None, kind: str = "", key: str = ""
    ) -> Any:
        said = {name: value for name, value in query.items() if value is not None}
        headers = {"content-type": kind} if kind else {}
        if key:
            headers["idempotency-key"] = key
        content = body if isinstance(body, bytes) else json.dumps(body).encode() if kind else None
        address = f"{path}?{urlencode(said)}" if said else path
        status, told, answer = self._send(method, address, content, headers)
        if status >= 400:
            try:
                found = json.loads(answer)
            except ValueError:
                found = {}
            raise Refused(status, found.get("error", answer[:200].decode("utf-8", "replace")), found.get("faults", []))
        return json.loads(answer) if "json" in told and answer else answer
'''


def client_file(schema: Mapping[str, Any]) -> str:
    """The module."""
    return HEAD + "".join(_method(one) for one in operations(schema).values())


def _method(one: Operation) -> str:
    """One operation as a method: what is in the path first, the body, then what may be left out."""
    path = [f"{_name(p.name)}: {TYPES.get(p.kind, 'str')}" for p in one.parameters if p.in_path]
    body = ["body: Any"] if one.takes_body else []
    query = [f"{_name(p.name)}: {TYPES.get(p.kind, 'str')} | None = None" for p in one.parameters if not p.in_path]
    key = ['idempotency_key: str = ""'] if one.method != "GET" else []
    further = ["*", *query, *key] if query or key else []
    said = ", ".join(f'"{p.name}": {_name(p.name)}' for p in one.parameters if not p.in_path)
    address = one.path
    for parameter in one.parameters:
        if parameter.in_path:
            address = address.replace(f"{{{parameter.name}}}", f"{{quote(str({_name(parameter.name)}), safe='')}}")
    given = [f'"{one.method}"', f'f"{address}"' if "{" in address else f'"{address}"', f"{{{said}}}"]
    given += ["body", f'"{one.body_type}"'] if one.takes_body else []
    given += ["key=idempotency_key"] if key else []
    return (
        f"\n    def {_name(one.name)}({', '.join(['self', *path, *body, *further])}) -> Any:\n"
        f'        """{one.summary.rstrip(".")}."""\n'
        f"        return self._call({', '.join(given)})\n"
    )


def _name(name: str) -> str:
    return f"{name}_" if keyword.iskeyword(name) else name
