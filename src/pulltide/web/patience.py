"""How long a request may take to arrive: one sent by halves, or never ended, holds no connection for ever."""

from __future__ import annotations

import asyncio
import socket

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

#: A request has so long to arrive whole, from the first byte, or from the connection where none comes.
ARRIVAL_SECONDS = 15.0
ON_THE_WAY = (h11.IDLE, h11.SEND_BODY)


class PatientProtocol(H11Protocol):
    """Speaks HTTP as uvicorn does, and ends a connection whose request does not arrive whole in time."""

    _arrival: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """A connection without a request counts as one that has begun."""
        super().connection_made(transport)
        self._send_at_once(transport)
        self._watch()

    @staticmethod
    def _send_at_once(transport: asyncio.Transport) -> None:
        """Head and body of an answer are two packets: without this the second waits 40 ms for word of the first.

        asyncio does it by itself only for sockets made with the protocol's number, which the parent's are not.
        """
        sock = transport.get_extra_info("socket")
        if sock is not None and sock.family in (socket.AF_INET, socket.AF_INET6):
            sock.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)

    def data_received(self, data: bytes) -> None:
        """Take what came; the clock of a request runs from its first byte to its last."""
        super().data_received(data)
        if self.conn.their_state in ON_THE_WAY:
            self._watch()
        else:
            self._rest()

    def connection_lost(self, exc: Exception | None) -> None:
        """Nothing is left to wait for."""
        self._rest()
        super().connection_lost(exc)

    def _watch(self) -> None:
        if self._arrival is None:
            self._arrival = self.loop.call_later(ARRIVAL_SECONDS, self._give_up)

    def _rest(self) -> None:
        if self._arrival is not None:
            self._arrival.cancel()
            self._arrival = None

    def _give_up(self) -> None:
        self._arrival = None
        if self.conn.our_state is h11.IDLE:
            self.transport.write(b"HTTP/1.1 408 Request Timeout\r\nconnection: close\r\ncontent-length: 0\r\n\r\n")
        self.transport.close()
