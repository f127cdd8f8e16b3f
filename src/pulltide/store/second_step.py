"""Codes of six digits from an app on a phone, by the time (RFC 6238), out of a key that only both sides know."""

from __future__ import annotations

from base64 import urlsafe_b64encode
from datetime import datetime
from hashlib import sha256
from hmac import compare_digest

import pyotp
from cryptography.fernet import Fernet, InvalidToken

#: A clock may be off by so many steps of 30 s, either way.
STEPS_OFF = 1


class TimedCodes:
    """Keys are kept sealed with the secret of the shop: a copy of the database alone makes no codes."""

    def __init__(self, secret: str) -> None:
        self._box = Fernet(urlsafe_b64encode(sha256(f"second step {secret}".encode()).digest()))

    def new_key(self) -> str:
        """A key of 160 bits, as apps take it."""
        return pyotp.random_base32()

    def seal(self, key: str) -> str:
        """The key as it is kept."""
        return self._box.encrypt(key.encode()).decode()

    def address(self, key: str, name: str) -> str:
        """What an app reads from a picture of the key."""
        return pyotp.TOTP(key).provisioning_uri(name=name, issuer_name="Pulltide Gear")

    def step(self, sealed: str, code: str, now: datetime) -> int:
        """Which step of time a code is of; 0 where it is of none that is near, or the key was sealed elsewhere."""
        try:
            timed = pyotp.TOTP(self._box.decrypt(sealed.encode()).decode())
        except InvalidToken:
            return 0
        written = "".join(code.split())[:12].encode("utf-8", "replace")
        present = timed.timecode(now)
        near = range(present - STEPS_OFF, present + STEPS_OFF + 1)
        return max((one for one in near if compare_digest(timed.generate_otp(one).encode(), written)), default=0)
