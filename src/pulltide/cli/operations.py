"""What the JSON interface of a running shop can do, read out of its OpenAPI document, and calls of it."""

from __future__ import annotations

import json
import ssl
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from urllib.parse import quote, urlencode
from urllib.request import Request, urlopen

#: How long an answer is waited for [s].
PATIENCE_S = 60
SCHEMA = "/api/v1/openapi.json"
METHODS = ("get", "post", "put", "delete")
#: Sends method, address, body and headers; gives status, type of the content and content.
Send = Callable[[str, str, bytes | None, Mapping[str, str]], tuple[int, str, bytes]]


class CallFailed(Exception):
    """A call that was refused or not answered; the message is a plain sentence."""


@dataclass(frozen=True, slots=True)
class Parameter:
    """A value that goes into the address: in its path, where it is always given, or behind it."""

    name: str
    in_path: bool
    kind: str
    says: str


@dataclass(frozen=True, slots=True)
class Operation:
    """One thing that can be done."""

    name: str
    method: str
    path: str
    summary: str
    parameters: tuple[Parameter, ...]
    takes_body: bool
    body_type: str


def operations(schema: Mapping[str, Any]) -> dict[str, Operation]:
    """Every operation of an OpenAPI document, by its name."""
    found = {}
    for path, methods in schema["paths"].items():
        for method in METHODS:
            if method in methods:
                one = _operation(path, method, methods[method])
                found[one.name] = one
    return dict(sorted(found.items()))


def _operation(path: str, method: str, raw: Mapping[str, Any]) -> Operation:
    parameters = tuple(
        Parameter(
            one["name"],
            one["in"] == "path",
            str(one.get("schema", {}).get("type", "string")),
            str(one.get("description", "")),
        )
        for one in raw.get("parameters", ())
        if one["in"] in ("path", "query")
    )
    content = raw.get("requestBody", {}).get("content", {})
    body_type = next(iter(content), "")
    says = str(raw.get("description") or raw.get("summary") or "").split("\n")[0]
    return Operation(raw["operationId"], method.upper(), path, says, parameters, bool(content), body_type)


def address(operation: Operation, values: Mapping[str, str]) -> str:
    """The address of a call. Raises CallFailed for a value that is missing or not known."""
    known = {one.name: one for one in operation.parameters}
    unknown = sorted(set(values) - set(known))
    missing = [one.name for one in operation.parameters if one.in_path and not values.get(one.name)]
    if unknown or missing:
        what = f"{unknown[0]} is not known" if unknown else f"{missing[0]} is missing"
        raise CallFailed(f"{operation.name}: {what}. It takes {', '.join(known) or 'no values'}.")
    path = operation.path
    for name, value in values.items():
        path = path.replace(f"{{{name}}}", quote(value, safe=""))
    query = urlencode({name: value for name, value in values.items() if not known[name].in_path})
    return f"{path}?{query}" if query else path


def sender(at: str, token: str = "", certificate: Path | None = None) -> Send:
    """Calls a shop at an address, with a token where it is shared, trusting its certificate."""
    context = ssl.create_default_context(cafile=str(certificate) if certificate else None)

    def send(method: str, path: str, body: bytes | None, headers: Mapping[str, str]) -> tuple[int, str, bytes]:
        known = {"authorization": f"Bearer {token}"} if token else {}
        request = Request(at.rstrip("/") + path, body, {**known, **headers}, method=method)
        secure = context if at.startswith("https:") else None
        try:
            with urlopen(request, timeout=PATIENCE_S, context=secure) as answer:
                return answer.status, answer.headers.get("content-type", ""), answer.read()
        except HTTPError as refused:
            return refused.code, refused.headers.get("content-type", ""), refused.read()
        except (URLError, OSError, ValueError) as error:
            raise CallFailed(f"No answer from {at}: {getattr(error, 'reason', error)}.") from error

    return send


def called(send: Send, operation: Operation, values: Mapping[str, str], body: bytes | None = None) -> tuple[str, bytes]:
    """The answer to a call and its type. Raises CallFailed with what the shop said."""
    if operation.takes_body and body is None:
        raise CallFailed(f"{operation.name} takes a body: name a file with --body, or - for standard input.")
    headers = {"content-type": operation.body_type or "application/json"} if body is not None else {}
    status, kind, content = send(operation.method, address(operation, values), body, headers)
    if status >= 400:
        raise CallFailed(_sentence(status, content))
    return kind, content


def _sentence(status: int, content: bytes) -> str:
    try:
        said = json.loads(content)["error"]
    except (ValueError, KeyError, TypeError):
        said = content.decode("utf-8", "replace")[:200]
    return f"{status}: {said}"


def schema_of(send: Send) -> Mapping[str, Any]:
    """The OpenAPI document of a shop. Raises CallFailed."""
    status, _, content = send("GET", SCHEMA, None, {})
    try:
        found: Mapping[str, Any] = json.loads(content)
    except ValueError:
        found = {}
    if status != 200 or "paths" not in found:
        raise CallFailed(_sentence(status, content) if status >= 400 else "There is no Pulltide Gear at this address.")
    return found
