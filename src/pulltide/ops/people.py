"""Who comes into a shared shop, seen from the machine it runs on: the first owner, lost passwords, who has left."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from getpass import getpass
from pathlib import Path

from pulltide.core.errors import PulltideError
from pulltide.ops.backup import running
from pulltide.ops.cluster import Cluster, ClusterError, home_for
from pulltide.ops.home import data_folder
from pulltide.services.accounts import ROLES, Role, checked_password, welcome_link
from pulltide.services.texts import checked_name
from pulltide.store.accounts import PostgresAccounts
from pulltide.store.database import connect, migrate
from pulltide.store.passwords import Argon2Hasher
from pulltide.web.admission import now


@contextmanager
def accounts_in(data: Path) -> Iterator[PostgresAccounts]:
    """The people of a data folder, whether its shop runs or not; a shop that is not there yet is made."""
    cluster = running(data)
    started = cluster is None
    if cluster is None:
        data.mkdir(parents=True, exist_ok=True)
        cluster = Cluster(home_for(data, "pg"))
        cluster.start()
    try:
        if started:
            cluster.create_database()
            cluster.hand_over()
        engine = connect(cluster.shop_url())
        try:
            if started:
                migrate(engine)
            yield PostgresAccounts(engine)
        finally:
            engine.dispose()
    finally:
        if started:
            cluster.stop()


def password_for(name: str, from_input: bool) -> str:
    """A password typed twice, or the first line given. Raises InputErrors, or ClusterError where the two differ."""
    if from_input:
        return checked_password(sys.stdin.readline().rstrip("\n"), name)
    first = checked_password(getpass(f"Password for {name} (12 characters or more): "), name)
    if getpass("The same again: ") != first:
        raise ClusterError("The two are not the same. Nothing was changed.")
    return first


def done(options: argparse.Namespace, data: Path, accounts: PostgresAccounts) -> str:
    """Do what was asked; what is said of it."""
    if options.step == "list":
        rows = [f"{one.name}: {one.role}{', has left' if one.ended else ''}" for one in accounts.all()]
        return "\n".join(rows) or "Nobody yet."
    name = checked_name(options.name)
    if options.step == "add":
        hashed = Argon2Hasher().hash(password_for(name, options.password_stdin))
        account = accounts.add(name, Role(options.role), hashed)
        return f"{account.name} comes in as {account.role}."
    account = accounts.named(name)
    if options.step == "password":
        accounts.set_password(account.id, Argon2Hasher().hash(password_for(name, options.password_stdin)))
        return f"{account.name} has a new password, and is signed out everywhere."
    if options.step == "link":
        place = data / "address"
        where = place.read_text().strip() if place.exists() else "/"
        secret = welcome_link(accounts, account.id, now())
        return f"For {account.name}, good once and for 24 hours:\n{where}welcome/{secret}"
    accounts.set_ended(account.id, options.step == "leave")
    return f"{account.name} {'has left' if options.step == 'leave' else 'comes in again'}."


def parser() -> argparse.ArgumentParser:
    """What can be asked."""
    made = argparse.ArgumentParser(prog="script/people", description="Who comes into this shop when it is shared.")
    made.add_argument("--data", type=Path, help=f"folder that holds the data ({data_folder()})")
    steps = made.add_subparsers(dest="step", required=True)
    steps.add_parser("list", help="everyone")
    helps = {
        "add": "let somebody in with a password typed here",
        "password": "set a password that was lost",
        "link": "a link with which somebody sets their own password",
        "leave": "let nobody in as this person any more",
        "come-back": "let a person who left in again",
    }
    for step, words in helps.items():
        one = steps.add_parser(step, help=words)
        one.add_argument("name")
        if step == "add":
            one.add_argument("--role", choices=[role.value for role in ROLES], default=Role.BUILDER.value)
        if step in ("add", "password"):
            one.add_argument("--password-stdin", action="store_true", help="read the password from the input")
    return made


def main() -> int:
    """Entry of ``./script/people``."""
    from pulltide.ops.start import StartError, settled

    options = parser().parse_args()
    try:
        data = options.data.resolve() if options.data else settled(print)
        with accounts_in(data) as accounts:
            print(done(options, data, accounts))
    except (ClusterError, StartError, PulltideError) as error:
        print(error, file=sys.stderr)
        return 1
    except OSError as error:
        print(f"Could not be done: {error.strerror or error}.", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
