"""The tables of people and of what lets them in. Of a secret only its hash is kept."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, Boolean, DateTime, ForeignKey, Integer, String, func
from sqlalchemy.orm import Mapped, mapped_column

from pulltide.store.tables import Base


class AccountRow(Base):
    """A person; ``folded`` is the name in one case, ``password`` an argon2id hash.

    ``second_key`` is the sealed key of a second step, ``second_used`` the step of time of the last code.
    """

    __tablename__ = "account"

    id: Mapped[str] = mapped_column(String(36), primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    folded: Mapped[str] = mapped_column(String(120), unique=True)
    role: Mapped[str] = mapped_column(String(10))
    password: Mapped[str | None] = mapped_column(String(200))
    second_key: Mapped[str | None] = mapped_column(String(200))
    second_used: Mapped[int] = mapped_column(BigInteger, default=0)
    ended: Mapped[bool] = mapped_column(Boolean, default=False)
    seen_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class SessionRow(Base):
    """A browser in which a person is signed in."""

    __tablename__ = "session"

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"))
    device: Mapped[str] = mapped_column(String(120))
    seen_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class WelcomeRow(Base):
    """A link with which a person sets a password; one at a time."""

    __tablename__ = "welcome"

    account_id: Mapped[str] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), primary_key=True)
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    ends_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class TokenRow(Base):
    """What lets a program in as a person."""

    __tablename__ = "api_token"

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(60))
    changes: Mapped[bool] = mapped_column(Boolean)
    ends_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    used_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class GuestLinkRow(Base):
    """A link that shows one machine to whoever has it."""

    __tablename__ = "guest_link"

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"))
    machine_id: Mapped[str] = mapped_column(ForeignKey("machine.id", ondelete="CASCADE"))
    ends_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class AttemptRow(Base):
    """An attempt to sign in that did not end well, or has not ended yet."""

    __tablename__ = "sign_in_attempt"

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    name_hash: Mapped[str] = mapped_column(String(64))
    address: Mapped[str] = mapped_column(String(60))
    tried_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), index=True)
