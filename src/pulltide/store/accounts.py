"""People of the shop in PostgreSQL, their sessions, tokens and links."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from uuid import uuid4

from sqlalchemy import ColumnElement, Engine, delete, func, select, text, update
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from pulltide.core.errors import InputError, InputErrors
from pulltide.services.accounts import COUNTED, IDLE, LONGEST, Account, Bearer, NoSuchAccount, Role, Token, hash_of
from pulltide.services.accounts import Session as SignedIn
from pulltide.store.account_tables import AccountRow, AttemptRow, GuestLinkRow, SessionRow, TokenRow, WelcomeRow
from pulltide.words import say

#: When a person was seen is written down this often.
SEEN_EVERY = timedelta(minutes=1)
#: Changes of who owns the shop wait for each other under this number.
OWNERS_LOCK = 7_302_117
#: Attempts to sign in are counted one after the other under this one.
ATTEMPTS_LOCK = 7_302_118


class PostgresAccounts:
    """Keeps accounts. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    # -- people ------------------------------------------------------------------------------------------------------

    def all(self) -> Sequence[Account]:
        """Everyone, by name, those who have left too."""
        with Session(self.engine) as session:
            return [_account(row) for row in session.scalars(select(AccountRow).order_by(AccountRow.folded))]

    def has_owner(self) -> bool:
        """Whether somebody can let others in."""
        with Session(self.engine) as session:
            return _owners(session) > 0

    def get(self, account_id: str) -> Account:
        """One person. Raises NoSuchAccount."""
        with Session(self.engine) as session:
            return _account(_row(session, account_id))

    def add(self, name: str, role: Role, hashed: str | None) -> Account:
        """A new person. Raises InputErrors where the name is taken."""
        row = AccountRow(id=str(uuid4()), name=name, folded=name.casefold(), role=role.value, password=hashed)
        try:
            with Session(self.engine) as session, session.begin():
                session.add(row)
                session.flush()
                return _account(row)
        except IntegrityError as error:
            raise InputErrors([InputError("Name", name, "is taken by somebody else")]) from error

    def password_of(self, name: str) -> tuple[Account, str] | None:
        """The person of a name, in any case, who has a password and has not left, with its hash."""
        with Session(self.engine) as session:
            row = session.scalar(select(AccountRow).where(AccountRow.folded == name.casefold()))
            if row is None or row.ended or row.password is None:
                return None
            return _account(row), row.password

    def named(self, name: str) -> Account:
        """The person of a name, in any case. Raises NoSuchAccount."""
        with Session(self.engine) as session:
            row = session.scalar(select(AccountRow).where(AccountRow.folded == name.casefold()))
            if row is None:
                raise NoSuchAccount(f"Nobody of this shop is named “{name}”.")
            return _account(row)

    def set_password(self, account_id: str, hashed: str) -> None:
        """Another password; every session of the person ends, and every link to begin with."""
        with Session(self.engine) as session, session.begin():
            row = _row(session, account_id)
            row.password = hashed
            session.execute(delete(SessionRow).where(SessionRow.account_id == row.id))
            session.execute(delete(WelcomeRow).where(WelcomeRow.account_id == row.id))

    def set_second(self, account_id: str, sealed: str | None) -> None:
        """The sealed key of a second step, or none any more."""
        with Session(self.engine) as session, session.begin():
            row = _row(session, account_id)
            row.second_key, row.second_used = sealed, 0

    def second_of(self, account_id: str) -> str | None:
        """The sealed key of a person's second step; None where there is none."""
        with Session(self.engine) as session:
            return _row(session, account_id).second_key

    def use_code(self, account_id: str, step: int) -> bool:
        """Use up the code of a step of time; whether it was not used yet, nor a later one."""
        with Session(self.engine) as session, session.begin():
            newer = update(AccountRow).where(AccountRow.id == account_id, AccountRow.second_used < step)
            return session.scalar(newer.values(second_used=step).returning(AccountRow.id)) is not None

    def set_role(self, account_id: str, role: Role) -> None:
        """Another role. Raises InputErrors where no owner would be left."""
        with Session(self.engine) as session, session.begin():
            _one_at_a_time(session)
            _row(session, account_id).role = role.value
            session.flush()
            _still_owned(session)

    def set_ended(self, account_id: str, ended: bool) -> None:
        """Leave or come back; who leaves has no session, token or link any more. The last owner stays."""
        with Session(self.engine) as session, session.begin():
            _one_at_a_time(session)
            row = _row(session, account_id)
            row.ended = ended
            if ended:
                for table in (SessionRow, TokenRow, WelcomeRow, GuestLinkRow):
                    session.execute(delete(table).where(table.account_id == row.id))
            session.flush()
            _still_owned(session)

    # -- signing in --------------------------------------------------------------------------------------------------

    def attempt(self, name: str, address: str, now: datetime) -> tuple[int, int, int]:
        """Count an attempt; how many there were before it under both, the name, and the address."""
        under_name, from_address = AttemptRow.name_hash == _folded(name), AttemptRow.address == address
        with Session(self.engine) as session, session.begin():
            _one_at_a_time(session, ATTEMPTS_LOCK)
            session.execute(delete(AttemptRow).where(AttemptRow.tried_at < now - COUNTED))

            def count(*where: ColumnElement[bool]) -> int:
                return session.scalar(select(func.count()).select_from(AttemptRow).where(*where)) or 0

            counted = count(under_name, from_address), count(under_name), count(from_address)
            session.add(AttemptRow(name_hash=_folded(name), address=address, tried_at=now))
        return counted

    def forgive(self, name: str, address: str) -> None:
        """Forget the attempts under a name from an address."""
        where = (AttemptRow.name_hash == _folded(name), AttemptRow.address == address)
        with Session(self.engine) as session, session.begin():
            session.execute(delete(AttemptRow).where(*where))

    def open_session(self, account_id: str, hashed: str, device: str, now: datetime) -> None:
        """Remember a session; those that have ended are forgotten."""
        gone = (SessionRow.seen_at < now - IDLE) | (SessionRow.created_at < now - LONGEST)
        row = {"secret_hash": hashed, "account_id": account_id, "device": device, "seen_at": now, "created_at": now}
        with Session(self.engine) as session, session.begin():
            session.execute(delete(SessionRow).where(gone))
            session.add(SessionRow(**row))
            _row(session, account_id).seen_at = now

    def signed_in(self, secret: str, now: datetime) -> Bearer | None:
        """Whose session it is; None where there is none, or it has ended."""
        query = select(SessionRow, AccountRow).join(AccountRow, AccountRow.id == SessionRow.account_id)
        with Session(self.engine) as session, session.begin():
            found = session.execute(query.where(SessionRow.secret_hash == hash_of(secret))).first()
            if found is None:
                return None
            row, person = found
            if person.ended or row.seen_at < now - IDLE or row.created_at < now - LONGEST:
                return None
            if row.seen_at < now - SEEN_EVERY:
                row.seen_at = person.seen_at = now
            return _bearer(person)

    def sessions(self, account_id: str) -> Sequence[SignedIn]:
        """Where a person is signed in, the latest first."""
        query = select(SessionRow).where(SessionRow.account_id == account_id).order_by(SessionRow.seen_at.desc())
        with Session(self.engine) as session:
            return [SignedIn(row.id, row.device, row.created_at, row.seen_at) for row in session.scalars(query)]

    def close_session(self, secret: str) -> None:
        """Sign out."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(SessionRow).where(SessionRow.secret_hash == hash_of(secret)))

    def close_sessions(self, account_id: str) -> None:
        """Sign a person out everywhere."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(SessionRow).where(SessionRow.account_id == account_id))

    def welcome(self, account_id: str, hashed: str, ends_at: datetime) -> None:
        """A link with which a person sets a password; a former one ends."""
        with Session(self.engine) as session, session.begin():
            if _row(session, account_id).ended:
                raise NoSuchAccount(say("This person has left. Let them come back first."))
            session.merge(WelcomeRow(account_id=account_id, secret_hash=hashed, ends_at=ends_at))

    def welcomed(self, hashed: str, now: datetime) -> Account:
        """Whose link it is. Raises NoSuchAccount."""
        query = select(AccountRow).join(WelcomeRow, WelcomeRow.account_id == AccountRow.id)
        with Session(self.engine) as session:
            row = session.scalar(query.where(WelcomeRow.secret_hash == hashed, WelcomeRow.ends_at > now))
            if row is None or row.ended:
                raise NoSuchAccount(
                    say("This link has been used or has ended. Have the shop owner send you a new one.")
                )
            return _account(row)

    # -- programs and guests -----------------------------------------------------------------------------------------

    def add_token(self, account_id: str, hashed: str, name: str, changes: bool, ends_at: datetime) -> None:
        """A token for a program."""
        row = {"secret_hash": hashed, "account_id": account_id, "name": name, "changes": changes, "ends_at": ends_at}
        with Session(self.engine) as session, session.begin():
            session.add(TokenRow(**row))

    def tokens(self, account_id: str, now: datetime) -> Sequence[Token]:
        """A person's tokens that have not ended, the latest first."""
        mine = select(TokenRow).where(TokenRow.account_id == account_id, TokenRow.ends_at > now)
        with Session(self.engine) as session:
            found = session.scalars(mine.order_by(TokenRow.id.desc()))
            return [Token(row.id, row.name, row.changes, row.ends_at, row.used_at) for row in found]

    def end_token(self, account_id: str, token_id: int) -> None:
        """A person's token is good no longer."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(TokenRow).where(TokenRow.account_id == account_id, TokenRow.id == token_id))

    def of_token(self, secret: str, now: datetime) -> Bearer | None:
        """Whom a token stands for: at most its person, and a reader where it changes nothing."""
        query = select(TokenRow, AccountRow).join(AccountRow, AccountRow.id == TokenRow.account_id)
        with Session(self.engine) as session, session.begin():
            found = session.execute(query.where(TokenRow.secret_hash == hash_of(secret))).first()
            if found is None:
                return None
            row, person = found
            if person.ended or row.ends_at <= now:
                return None
            if row.used_at is None or row.used_at < now - SEEN_EVERY:
                row.used_at = now
            whole = _bearer(person)
            # what a token lets a program do never reaches the people of the shop
            most = Role.BUILDER if row.changes else Role.READER
            return Bearer(whole.account, min(whole.role, most, key=lambda role: role.rank), whole.name)

    def add_guest_link(self, account_id: str, machine_id: str, hashed: str, ends_at: datetime) -> None:
        """A link that shows one machine."""
        row = {"secret_hash": hashed, "account_id": account_id, "machine_id": machine_id, "ends_at": ends_at}
        with Session(self.engine) as session, session.begin():
            session.add(GuestLinkRow(**row))

    def guest_links(self, machine_id: str, now: datetime) -> Sequence[tuple[int, str, datetime]]:
        """The links that show a machine: number, who made it, when it ends."""
        query = select(GuestLinkRow.id, AccountRow.name, GuestLinkRow.ends_at).join(
            AccountRow, AccountRow.id == GuestLinkRow.account_id
        )
        with Session(self.engine) as session:
            found = session.execute(query.where(GuestLinkRow.machine_id == machine_id, GuestLinkRow.ends_at > now))
            return [(number, name, ends_at) for number, name, ends_at in found]

    def end_guest_link(self, machine_id: str, number: int) -> None:
        """A link shows nothing any longer."""
        here = (GuestLinkRow.machine_id == machine_id, GuestLinkRow.id == number)
        with Session(self.engine) as session, session.begin():
            session.execute(delete(GuestLinkRow).where(*here))

    def of_guest_link(self, secret: str, now: datetime) -> Bearer | None:
        """What a link shows."""
        query = select(GuestLinkRow.machine_id).where(GuestLinkRow.secret_hash == hash_of(secret))
        with Session(self.engine) as session:
            machine_id = session.scalar(query.where(GuestLinkRow.ends_at > now))
        return None if machine_id is None else Bearer(None, Role.GUEST, "Guest", machine_id)


def _folded(name: str) -> str:
    """Names that were tried are not kept as they were typed: somebody may have typed a password there."""
    return hash_of(name.casefold())


def _account(row: AccountRow) -> Account:
    return Account(row.id, row.name, Role(row.role), row.password is not None, row.ended, row.seen_at)


def _bearer(row: AccountRow) -> Bearer:
    return Bearer(_account(row), Role(row.role), row.name)


def _row(session: Session, account_id: str) -> AccountRow:
    row = session.get(AccountRow, account_id)
    if row is None:
        raise NoSuchAccount(say("There is no such person in this shop."))
    return row


def _owners(session: Session) -> int:
    able = (AccountRow.role == Role.OWNER.value, AccountRow.ended.is_(False))
    return session.scalar(select(func.count()).select_from(AccountRow).where(*able)) or 0


def _one_at_a_time(session: Session, lock: int = OWNERS_LOCK) -> None:
    """Two owners must not each remove the other, nor many attempts at once pass as one."""
    session.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": lock})


def _still_owned(session: Session) -> None:
    if not _owners(session):
        raise InputErrors([InputError("Role", "", "cannot be taken from the last owner: make somebody else one first")])
