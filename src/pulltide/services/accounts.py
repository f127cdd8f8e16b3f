"""Who may do what in a shop that several people share: accounts, signing in, tokens and links that end.

Storage is behind a port. Of a password only its argon2id hash is kept, of a session, token or link only its SHA-256.
"""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from hashlib import sha256
from typing import Protocol

from zxcvbn import zxcvbn

from pulltide.core.errors import InputError, InputErrors, PulltideError
from pulltide.services.texts import MAX_NAME
from pulltide.words import say


class Role(StrEnum):
    """What a person may do; each may do what those before it may."""

    GUEST = "guest"
    READER = "reader"
    BUILDER = "builder"
    OWNER = "owner"

    @property
    def rank(self) -> int:
        """Greater for who may do more."""
        return list(Role).index(self)

    def may(self, least: Role) -> bool:
        """Whether this role is enough where ``least`` is."""
        return self.rank >= least.rank


#: Roles that an account may have; a guest has a link and no account.
ROLES = (Role.READER, Role.BUILDER, Role.OWNER)
#: Characters of a password. NIST SP 800-63B, 5.1.1 and OWASP ASVS 4.0.3, 2.1.1 and 2.1.2.
MIN_PASSWORD, MAX_PASSWORD = 12, 128
#: Of so many characters it is weighed how many guesses a password takes; 3 of 4 is over 10^8 with the 30,000 most used
#: passwords, names and words tried first. More of one that is all digits and signs would take seconds to weigh.
MAX_WEIGHED, MIN_SCORE = 40, 3
#: A session ends after so long without a request, and after so long at all.
IDLE, LONGEST = timedelta(hours=12), timedelta(days=14)
#: An invitation or a new beginning after a lost password.
WELCOME_LASTS = timedelta(hours=24)
#: The longest that a token of a program or a guest's link may last [days].
MAX_DAYS = 365
#: Failed attempts are counted this far back.
COUNTED = timedelta(minutes=15)
#: So many may fail under one name from one address, under one name, and from one address.
MAX_HERE, MAX_UNDER_NAME, MAX_FROM_ADDRESS = 5, 50, 30


class SignInRefused(PulltideError):
    """Name, password and code do not go together; it is not said which of them is wrong."""


class TooManyAttempts(PulltideError):
    """Wait before the next attempt, whether name and password are right or not."""

    def __init__(self, minutes: int) -> None:
        self.minutes = minutes
        super().__init__(
            say(
                "Too many attempts. Try again in {minutes} minutes, or have the shop owner send you a new link.",
                minutes=minutes,
            )
        )


class NoSuchAccount(PulltideError, LookupError):
    """No person has this number or link, or it has ended."""


@dataclass(frozen=True, slots=True)
class Account:
    """A person of the shop."""

    id: str
    name: str
    role: Role
    has_password: bool
    ended: bool
    seen_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class Session:
    """One place where a person is signed in."""

    id: int
    device: str
    created_at: datetime
    seen_at: datetime


@dataclass(frozen=True, slots=True)
class Token:
    """What lets a program in as a person: ``changes`` or reads only, until it ends."""

    id: int
    name: str
    changes: bool
    ends_at: datetime
    used_at: datetime | None


@dataclass(frozen=True, slots=True)
class Bearer:
    """Whom a session, token or link stands for, and what it lets do."""

    account: Account | None
    role: Role
    name: str
    machine_id: str = ""


@dataclass(frozen=True, slots=True)
class Shown:
    """What somebody shows to be let in; the code where the person has set up a second step."""

    name: str
    password: str
    code: str = ""


class PasswordHasher(Protocol):
    """Hashes passwords; slow on purpose."""

    def hash(self, password: str) -> str:
        """A salted hash with its own parameters."""

    def fits(self, hashed: str, password: str) -> bool:
        """Whether a password made this hash."""


class Codes(Protocol):
    """Codes of a second step, each for a step of time."""

    def new_key(self) -> str:
        """A key to make codes out of."""

    def seal(self, key: str) -> str:
        """The key as it is kept."""

    def address(self, key: str, name: str) -> str:
        """What an app reads from a picture of the key."""

    def step(self, sealed: str, code: str, now: datetime) -> int:
        """Which step of time a code is of; 0 where it is of none that is near."""


class AccountStore(Protocol):
    """Keeps accounts and what lets people in. Every method is one transaction."""

    def all(self) -> Sequence[Account]:
        """Everyone, by name, those who have left too."""

    def get(self, account_id: str) -> Account:
        """One person. Raises NoSuchAccount."""

    def add(self, name: str, role: Role, hashed: str | None) -> Account:
        """A new person. Raises InputErrors where the name is taken."""

    def password_of(self, name: str) -> tuple[Account, str] | None:
        """The person of a name, in any case, who has a password and has not left, with its hash."""

    def set_password(self, account_id: str, hashed: str) -> None:
        """Another password; every session of the person ends, and every link to begin with."""

    def set_second(self, account_id: str, sealed: str | None) -> None:
        """The sealed key of a second step, or none any more."""

    def second_of(self, account_id: str) -> str | None:
        """The sealed key of a person's second step; None where there is none."""

    def use_code(self, account_id: str, step: int) -> bool:
        """Use up the code of a step of time; whether it was not used yet, nor a later one."""

    def set_role(self, account_id: str, role: Role) -> None:
        """Another role. Raises InputErrors where no owner would be left."""

    def set_ended(self, account_id: str, ended: bool) -> None:
        """Leave or come back; who leaves has no session, token or link any more. The last owner stays."""

    def attempt(self, name: str, address: str, now: datetime) -> tuple[int, int, int]:
        """Count an attempt; how many there were before it under both, the name, and the address."""

    def forgive(self, name: str, address: str) -> None:
        """Forget the attempts under a name from an address."""

    def open_session(self, account_id: str, hashed: str, device: str, now: datetime) -> None:
        """Remember a session."""

    def welcome(self, account_id: str, hashed: str, ends_at: datetime) -> None:
        """A link with which a person sets a password; a former one ends."""

    def welcomed(self, hashed: str, now: datetime) -> Account:
        """Whose link it is. Raises NoSuchAccount."""


def checked_password(password: str, name: str) -> str:
    """A password long enough and not easily thought of. Raises InputErrors, which do not repeat it."""
    accepted = say("{min_password} to {max_password} characters", min_password=MIN_PASSWORD, max_password=MAX_PASSWORD)
    if not MIN_PASSWORD <= len(password) <= MAX_PASSWORD:
        raise InputErrors(
            [InputError(say("Password"), "", say("has {count} characters", count=len(password)), accepted=accepted)]
        )
    plain = password.casefold()
    if name.casefold() in plain or len(set(plain)) < 5 or "pulltide" in plain:
        easily = say("is easily thought of: it holds the name, or hardly different characters")
        raise InputErrors([InputError(say("Password"), "", easily, accepted=accepted)])
    if zxcvbn(plain[:MAX_WEIGHED], [name.casefold()])["score"] < MIN_SCORE:
        known = say("is much like passwords that are tried first: take four or five words that do not belong together")
        raise InputErrors([InputError(say("Password"), "", known, accepted=accepted)])
    return password


def new_secret() -> str:
    """What nobody can think of: 256 bits."""
    return secrets.token_urlsafe(32)


def hash_of(secret: str) -> str:
    """What is kept of a secret that is long and random itself."""
    return sha256(secret.encode("utf-8", "replace")).hexdigest()


class SignIn:
    """Lets people in, slowly for who does not know the password."""

    def __init__(self, accounts: AccountStore, hasher: PasswordHasher, codes: Codes) -> None:
        self._accounts, self._hasher, self._codes = accounts, hasher, codes
        # a name that nobody has takes as long as one that somebody has
        self._nobody = hasher.hash(new_secret())

    def session(self, shown: Shown, address: str, device: str, now: datetime) -> str:
        """A new session's secret. Raises SignInRefused or TooManyAttempts.

        An attempt counts before it is looked at, so that many at once are not more than one after the other.
        """
        name = " ".join(shown.name.split())[:MAX_NAME]
        here, under_name, from_address = self._accounts.attempt(name, address, now)
        if here >= MAX_HERE or under_name >= MAX_UNDER_NAME or from_address >= MAX_FROM_ADDRESS:
            raise TooManyAttempts(int(COUNTED.total_seconds() // 60))
        found = self._accounts.password_of(name)
        known = self._hasher.fits(found[1] if found else self._nobody, shown.password[:MAX_PASSWORD])
        if found is None or not known or not self._second(found[0], shown.code, now):
            raise SignInRefused(say("Wrong name or password, or a code that is used or out of time."))
        self._accounts.forgive(name, address)
        return self.begun(found[0], device, now)

    def _second(self, account: Account, code: str, now: datetime) -> bool:
        """Whether the second step is made, where a person has one. A code is good once."""
        sealed = self._accounts.second_of(account.id)
        if sealed is None:
            return True
        step = self._codes.step(sealed, code, now)
        return step > 0 and self._accounts.use_code(account.id, step)

    def second_key(self) -> str:
        """A key for a person to put in their app."""
        return self._codes.new_key()

    def second_address(self, key: str, account: Account) -> str:
        """What the app reads from a picture of it."""
        return self._codes.address(key, account.name)

    def set_second(self, account: Account, key: str, shown: Shown, now: datetime) -> None:
        """From now on a code is asked for: once the app has shown that it makes the right ones. Raises InputErrors."""
        self._check_password(account, shown.password)
        sealed = self._codes.seal(key)
        if not self._codes.step(sealed, shown.code, now):
            raise InputErrors(
                [InputError(say("Code"), shown.code[:12], say("is not the one that goes with this key now"))]
            )
        self._accounts.set_second(account.id, sealed)

    def end_second(self, account: Account, password: str) -> None:
        """No code any more. Raises InputErrors where the password is not right."""
        self._check_password(account, password)
        self._accounts.set_second(account.id, None)

    def begun(self, account: Account, device: str, now: datetime) -> str:
        """A session for a person who has shown who they are; its secret."""
        secret = new_secret()
        self._accounts.open_session(account.id, hash_of(secret), device[:120], now)
        return secret

    def change_password(self, account: Account, old: str, new: str) -> None:
        """A person's own new password. Raises InputErrors."""
        self._check_password(account, old)
        self.set_password(account, new)

    def _check_password(self, account: Account, password: str) -> None:
        found = self._accounts.password_of(account.name)
        if found is None or not self._hasher.fits(found[1], password[:MAX_PASSWORD]):
            raise InputErrors([InputError(say("Current password"), "", say("is not right"))])

    def set_password(self, account: Account, new: str) -> None:
        """A password for a person; whoever was signed in as them is not any longer. Raises InputErrors."""
        self._accounts.set_password(account.id, self._hasher.hash(checked_password(new, account.name)))


def welcome_link(accounts: AccountStore, account_id: str, now: datetime) -> str:
    """The secret of a link with which a person sets their own password, once, within a day."""
    secret = new_secret()
    accounts.welcome(account_id, hash_of(secret), now + WELCOME_LASTS)
    return secret
