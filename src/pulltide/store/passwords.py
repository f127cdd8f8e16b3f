"""Passwords by argon2id, the winner of the Password Hashing Competition (RFC 9106)."""

from __future__ import annotations

from threading import Semaphore

from argon2 import PasswordHasher as Argon2
from argon2 import profiles
from argon2.exceptions import InvalidHashError, VerificationError
from argon2.profiles import RFC_9106_LOW_MEMORY

#: So many are computed at a time: each takes 64 MB and a core.
AT_ONCE = 2


class Argon2Hasher:
    """Hashes with the parameters for little memory of RFC 9106: 64 MiB, three passes, four lanes."""

    def __init__(self, *, quick: bool = False) -> None:
        self._argon2 = Argon2.from_parameters(profiles.CHEAPEST if quick else RFC_9106_LOW_MEMORY)
        self._room = Semaphore(AT_ONCE)

    def hash(self, password: str) -> str:
        """A salted hash with its own parameters."""
        with self._room:
            return self._argon2.hash(password.encode("utf-8", "replace"))

    def fits(self, hashed: str, password: str) -> bool:
        """Whether a password made this hash."""
        with self._room:
            try:
                return self._argon2.verify(hashed, password.encode("utf-8", "replace"))
            except (VerificationError, InvalidHashError):
                return False
