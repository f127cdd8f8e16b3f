"""Who is let in: by session, token or guest link, and what their role may do. Without sharing nobody is asked."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import UTC, datetime
from threading import Lock
from time import monotonic

import anyio
from fastapi import Request

from pulltide.services.accounts import Bearer, Role, SignIn
from pulltide.store.accounts import PostgresAccounts
from pulltide.web.rights import least_role
from pulltide.words import say

#: Prefixed so that a browser takes them only from this host, over TLS, for every path (RFC 6265bis, 4.1.3.2).
SESSION_COOKIE, GUEST_COOKIE = "__Host-pulltide_session", "__Host-pulltide_guest"
#: Calls a second and calls at once: of somebody let in, and of an address that is not.
INSIDE, OUTSIDE = (40.0, 400.0), (5.0, 60.0)
#: So many callers are remembered.
MAX_CALLERS = 2000


class NotSignedIn(Exception):
    """Sign in first."""


class NotAllowed(Exception):
    """Signed in, and this is for others; the message says for whom."""


class TooFast(Exception):
    """More calls than one person makes."""


@dataclass(slots=True)
class Allowance:
    """How many calls everybody still has: so many a second, and as many at once as were saved up."""

    left: dict[str, tuple[float, float]] = field(default_factory=dict)
    lock: Lock = field(default_factory=Lock)

    def take(self, who: str, rate: tuple[float, float], now: float) -> bool:
        """Whether one more call is within the rate.

        >>> allowance = Allowance()
        >>> [allowance.take("a", (1.0, 2.0), 0.0) for _ in range(3)], allowance.take("a", (1.0, 2.0), 1.5)
        ([True, True, False], True)
        """
        a_second, at_once = rate
        with self.lock:
            left, since = self.left.pop(who, (at_once, now))
            left = min(left + (now - since) * a_second, at_once)
            self.left[who] = (max(left - 1.0, 0.0) if left >= 1.0 else left, now)
            while len(self.left) > MAX_CALLERS:
                del self.left[next(iter(self.left))]
        return left >= 1.0


@dataclass(slots=True)
class Sharing:
    """What a shared shop needs: people, how they sign in, and the names the server goes by with its certificate."""

    accounts: PostgresAccounts
    sign_in: SignIn
    fingerprint: str = ""
    address: str = ""
    allowance: Allowance = field(default_factory=Allowance)


def now() -> datetime:
    """The moment, for all that ends."""
    return datetime.now(UTC)


def sharing_of(request: Request) -> Sharing | None:
    """How this shop is shared; None where it is not."""
    sharing: Sharing | None = request.app.state.sharing
    return sharing


def caller_address(request: Request) -> str:
    """The address a call comes from."""
    return request.client.host[:60] if request.client is not None else ""


def bearer_of(request: Request, sharing: Sharing) -> Bearer | None:
    """Whom a request stands for."""
    scheme, _, token = request.headers.get("authorization", "").partition(" ")
    if token:
        is_api = scheme.lower() == "bearer" and request.url.path.startswith("/api/")
        return sharing.accounts.of_token(token.strip()[:200], now()) if is_api else None
    session = request.cookies.get(SESSION_COOKIE, "")
    if session:
        found = sharing.accounts.signed_in(session[:200], now())
        if found is not None:
            return found
    guest = request.cookies.get(GUEST_COOKIE, "")
    return sharing.accounts.of_guest_link(guest[:200], now()) if guest else None


async def admitted(request: Request) -> None:
    """Stand before every route: find who asks, and refuse what their role may not.

    Raises NotSignedIn, NotAllowed or TooFast.
    """
    request.state.bearer = None
    sharing = sharing_of(request)
    if sharing is not None:
        await anyio.to_thread.run_sync(_let_in, request, sharing)


def _let_in(request: Request, sharing: Sharing) -> None:
    least = least_role(request.method, request.scope["route"].path)
    bearer = request.state.bearer = bearer_of(request, sharing)
    who = caller_address(request) if bearer is None else _key(bearer)
    if not sharing.allowance.take(who, OUTSIDE if bearer is None else INSIDE, monotonic()):
        raise TooFast
    if least is None:
        return
    if bearer is None:
        raise NotSignedIn
    if bearer.role is Role.GUEST and request.path_params.get("machine_id") != bearer.machine_id:
        raise NotAllowed(say("This link only shows one machine."))
    if not bearer.role.may(least):
        raise NotAllowed(
            say(
                "Only a {least} can do this; you are signed in as a {role}. The shop owner can change that.",
                least=least,
                role=bearer.role,
            )
        )


def _key(bearer: Bearer) -> str:
    return bearer.account.id if bearer.account is not None else f"guest {bearer.machine_id}"


def bearer_in(request: Request) -> Bearer | None:
    """Who was let in with a request; None where the shop is not shared."""
    found: Bearer | None = getattr(request.state, "bearer", None)
    return found
