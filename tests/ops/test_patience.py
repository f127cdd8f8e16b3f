"""How the web server's connections are set."""

from __future__ import annotations

import asyncio
import socket

from uvicorn.config import Config
from uvicorn.server import ServerState

from pulltide.web.patience import PatientProtocol


async def app(scope, receive, send) -> None:
    """An application that is never asked."""


async def sends_at_once() -> bool:
    """Whether a connection to a socket made as the web server's parent makes it sends without waiting."""
    sock = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    sock.bind(("127.0.0.1", 0))
    config = Config(app=app)
    config.load()
    accepted: asyncio.Queue[socket.socket] = asyncio.Queue()

    class Noted(PatientProtocol):
        def connection_made(self, transport) -> None:
            super().connection_made(transport)
            accepted.put_nowait(transport.get_extra_info("socket"))

    server = await asyncio.get_running_loop().create_server(lambda: Noted(config, ServerState(), {}), sock=sock)
    async with server:
        _, writer = await asyncio.open_connection(*sock.getsockname())
        option = (await accepted.get()).getsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY)
        writer.close()
    return bool(option)


def test_an_answer_is_sent_at_once():
    """Head and body are two packets: else the second would wait 40 ms for word of the first (Nagle, RFC 896)."""
    assert asyncio.run(sends_at_once())
