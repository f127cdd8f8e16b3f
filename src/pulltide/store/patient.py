"""A connection that does not wait for ever on a server that hangs: its own limits need a server that still runs."""

from __future__ import annotations

from typing import Any, TypeVar

import psycopg
from psycopg.abc import PQGen

#: Longer than any statement may take by the server's own limit [s].
ANSWER_S = 12.0
RV = TypeVar("RV")


class PatientConnection(psycopg.Connection[Any]):
    """Gives up, and closes, when the server says nothing for ``ANSWER_S``."""

    def wait(self, gen: PQGen[RV], interval: float = 0.1, timeout: float | None = None) -> RV:
        """Wait for one exchange with the server. Raises OperationalError where it does not answer in time."""
        try:
            return super().wait(gen, interval, ANSWER_S if timeout is None else timeout)
        except psycopg.errors._WaitTimeout as error:
            self.pgconn.finish()
            raise psycopg.OperationalError("the database server does not answer") from error
