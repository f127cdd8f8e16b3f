"""Everything that the JSON interface of a running shop does, from the command line."""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import Annotated

import typer

from pulltide.cli.client_file import client_file
from pulltide.cli.operations import CallFailed, Send, called, operations, schema_of, sender

#: Where a shop is that is started without options.
AT = "http://127.0.0.1:8420"
At = Annotated[str, typer.Option(help="Address of the shop.", envvar="PULLTIDE_AT")]
TokenFile = Annotated[Path | None, typer.Option(help="File that holds a token; else PULLTIDE_TOKEN is taken.")]
Certificate = Annotated[Path | None, typer.Option(help="Certificate of a shared shop, to be trusted.")]


def _send(at: str, token_file: Path | None, certificate: Path | None) -> Send:
    """How the shop is called; a token never stands on a command line, which others can list."""
    try:
        token = token_file.read_text().strip() if token_file else os.environ.get("PULLTIDE_TOKEN", "")
        return sender(at, token, certificate)
    except OSError as error:
        raise CallFailed(f"{error.filename or 'A file'} cannot be read: {error.strerror}.") from error


def call(
    operation: Annotated[str, typer.Argument(help="What to do; all are listed without it.")] = "",
    values: Annotated[list[str] | None, typer.Argument(help="Its values, as name=value.")] = None,
    body: Annotated[str, typer.Option(help="File to send, or - for standard input.")] = "",
    at: At = AT,
    token_file: TokenFile = None,
    certificate: Certificate = None,
) -> None:
    """Call a running shop: anything its JSON interface does. The answer goes to standard output as it is."""
    try:
        send = _send(at, token_file, certificate)
        known = operations(schema_of(send))
        if not operation:
            width = max(map(len, known))
            for one in known.values():
                taken = " ".join(p.name if p.in_path else f"[{p.name}]" for p in one.parameters)
                typer.echo(f"{one.name:{width}}  {one.summary}" + (f"  ({taken})" if taken else ""))
            return
        if operation not in known:
            raise CallFailed(f"{operation} is nothing that this shop does. “pulltide call” lists what it does.")
        said = dict(_pair(one) for one in values or [])
        content = None if not body else sys.stdin.buffer.read() if body == "-" else Path(body).read_bytes()
        _, answer = called(send, known[operation], said, content)
    except (CallFailed, OSError) as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(2) from error
    sys.stdout.buffer.write(answer)
    sys.stdout.buffer.flush()


def _pair(written: str) -> tuple[str, str]:
    name, mark, value = written.partition("=")
    if not mark:
        raise CallFailed(f"“{written}” is not of the form name=value.")
    return name, value


def client(at: At = AT, token_file: TokenFile = None, certificate: Certificate = None) -> None:
    """Print a client for Python, one module without dependencies, written from the shop's own description."""
    try:
        typer.echo(client_file(schema_of(_send(at, token_file, certificate))), nl=False)
    except CallFailed as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(2) from error
