"""What a process owes its parent."""

from __future__ import annotations

import ctypes
import signal

PR_SET_PDEATHSIG = 1


def end_with_parent() -> None:
    """Be ended when the parent dies, even by kill -9. SIGINT is the fast stop of PostgreSQL and of the web server."""
    ctypes.CDLL(None, use_errno=True).prctl(PR_SET_PDEATHSIG, signal.SIGINT)
