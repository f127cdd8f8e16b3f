"""What each address needs, in a shop that several people share. A new address that changes something needs a builder.

The addresses are the router's own, so that a test can walk through all of them.
"""

from __future__ import annotations

from pulltide.services.accounts import Role

#: Open to everybody: signing in, what a link leads to, and whether the program runs.
OPEN = frozenset({"/sign-in", "/welcome/{secret}", "/guest/{secret}", "/healthz", "/favicon.ico"})
#: What a guest's link shows of its machine. Lists, revisions and files go with the page.
FOR_GUESTS = "/machines/{machine_id}"
#: What of a machine is not for guests: who works here, and what they did.
NOT_FOR_GUESTS = frozenset({"/machines/{machine_id}/history", "/machines/{machine_id}/events"})
#: Changing addresses that keep nothing of the shop, or only what is the reader's own.
FOR_READERS = frozenset(
    {
        "/preferences",
        "/sign-out",
        "/machines/{machine_id}/here",
        "/tour/leave",
        "/practice",
        "/practice/forget",
        "/api/v1/solve",
        "/api/v1/calc/{method}",
        "/api/v1/machines/{machine_id}/search",
        "/api/v1/loose/{part}.{kind}",
    }
)
#: What is a person's own: password, sessions, tokens.
OWN = "/me"
#: Who may come in, and what is kept of the whole shop.
FOR_OWNERS = ("/people", "/keeping/backup", "/keeping/read-in")
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})


def least_role(method: str, address: str) -> Role | None:
    """The least role that an address of the router needs; None where everybody may.

    >>> least_role("POST", "/machines/{machine_id}/edit"), least_role("GET", "/machines/{machine_id}/{place}")
    (<Role.BUILDER: 'builder'>, <Role.GUEST: 'guest'>)
    >>> least_role("GET", "/people"), least_role("POST", "/a/new/one"), least_role("GET", "/sign-in")
    (<Role.OWNER: 'owner'>, <Role.BUILDER: 'builder'>, None)
    """
    if address in OPEN:
        return None
    if address.startswith(FOR_OWNERS):
        return Role.OWNER
    if address in FOR_READERS or address == OWN or address.startswith(f"{OWN}/"):
        return Role.READER
    if method not in SAFE:
        return Role.BUILDER
    if address in NOT_FOR_GUESTS:
        return Role.READER
    return Role.GUEST if address == FOR_GUESTS or address.startswith(f"{FOR_GUESTS}/") else Role.READER
