"""The tables of the shop. A machine is one document; its history is one row per change."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import Boolean, DateTime, Float, ForeignKey, Index, Integer, LargeBinary, String, false, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Root of the mapped tables."""


class MachineRow(Base):
    """A machine on the shop floor: which state of its history is the current one, and its optimistic version."""

    __tablename__ = "machine"

    id: Mapped[str] = mapped_column(String(36), primary_key=True)
    version: Mapped[int] = mapped_column(Integer)
    cursor: Mapped[int] = mapped_column(Integer)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    updated_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    removed_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class MachineStateRow(Base):
    """One state of a machine and what led to it."""

    __tablename__ = "machine_state"
    __table_args__ = (Index("machine_state_place", "machine_id", "place", unique=True),)

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    machine_id: Mapped[str] = mapped_column(ForeignKey("machine.id", ondelete="CASCADE"))
    place: Mapped[int] = mapped_column(Integer)
    label: Mapped[str] = mapped_column(String(120))
    author: Mapped[str | None] = mapped_column(String(60))
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class PresenceRow(Base):
    """A window that is open on a machine, and the field that is being filled in; not kept over a crash."""

    __tablename__ = "presence"
    __table_args__ = ({"prefixes": ["UNLOGGED"]},)

    window: Mapped[str] = mapped_column(String(20), primary_key=True)
    machine_id: Mapped[str] = mapped_column(String(36), index=True)
    name: Mapped[str] = mapped_column(String(60))
    field: Mapped[str] = mapped_column(String(120))
    seen_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class AnswerRow(Base):
    """What a call of a program with a key was answered; ``status`` is missing while it is being worked out."""

    __tablename__ = "api_answer"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    call: Mapped[str] = mapped_column(String(64))
    status: Mapped[int | None] = mapped_column(Integer)
    media_type: Mapped[str] = mapped_column(String(80))
    body: Mapped[bytes] = mapped_column(LargeBinary)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class StarterRow(Base):
    """A machine, plan or stage to begin others from, as a machine that holds just that."""

    __tablename__ = "starter"

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)
    part: Mapped[str] = mapped_column(String(10))
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    kept_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class PhotoRow(Base):
    """A photo of a machine as JPEG, and what is written below it; one taken away is kept out of sight."""

    __tablename__ = "photo"

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    machine_id: Mapped[str] = mapped_column(ForeignKey("machine.id", ondelete="CASCADE"), index=True)
    content: Mapped[bytes] = mapped_column(LargeBinary)
    caption: Mapped[str] = mapped_column(String(200))
    author: Mapped[str] = mapped_column(String(60))
    removed: Mapped[bool] = mapped_column(Boolean, default=False, server_default=false())
    kept_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class PersonRow(Base):
    """A person's browser: units, theme, whether at the bench; found by a hash of the cookie, or of the account."""

    __tablename__ = "person"

    cookie_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    units: Mapped[dict[str, Any]] = mapped_column(JSONB)
    theme: Mapped[str] = mapped_column(String(8), default="auto")
    at_bench: Mapped[bool] = mapped_column(Boolean, default=False, server_default=false())
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class SettingRow(Base):
    """Facts of this shop by name, such as whether the demo was loaded."""

    __tablename__ = "setting"

    name: Mapped[str] = mapped_column(String(40), primary_key=True)
    value: Mapped[str] = mapped_column(String(400))


class HoldingRow(Base):
    """A part on one of the shop's lists. Kind, name and condition tell parts of a list apart."""

    __tablename__ = "holding"
    __table_args__ = (Index("holding_identity", "list_name", "family", "designation", "condition", unique=True),)

    id: Mapped[str] = mapped_column(String(36), primary_key=True)
    list_name: Mapped[str] = mapped_column(String(60))
    family: Mapped[str] = mapped_column(String(20))
    designation: Mapped[str] = mapped_column(String(60))
    condition: Mapped[str] = mapped_column(String(12))
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    updated_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class UploadRow(Base):
    """A list that was sent and is looked at before anything of it is kept."""

    __tablename__ = "upload"

    id: Mapped[str] = mapped_column(String(36), primary_key=True)
    name: Mapped[str] = mapped_column(String(200))
    list_name: Mapped[str] = mapped_column(String(60))
    content: Mapped[bytes] = mapped_column(LargeBinary)
    state: Mapped[dict[str, Any]] = mapped_column(JSONB)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class ColumnMatchRow(Base):
    """What a person said of the headers of a list, remembered for the next time."""

    __tablename__ = "column_match"

    list_name: Mapped[str] = mapped_column(String(60), primary_key=True)
    said: Mapped[dict[str, Any]] = mapped_column(JSONB)


class QuoteRow(Base):
    """The last quote of a part."""

    __tablename__ = "quote"

    name: Mapped[str] = mapped_column(String(60), primary_key=True)
    price: Mapped[float] = mapped_column(Float)
    lead_days: Mapped[int] = mapped_column(Integer)
    fetched_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class RevisionRow(Base):
    """A sheet that was given out: which machine and plan, its number, and the document as it was."""

    __tablename__ = "revision"
    __table_args__ = (Index("revision_number", "machine_id", "number", unique=True),)

    id: Mapped[int] = mapped_column(Integer, primary_key=True)
    machine_id: Mapped[str] = mapped_column(ForeignKey("machine.id", ondelete="CASCADE"))
    number: Mapped[int] = mapped_column(Integer)
    plan_name: Mapped[str] = mapped_column(String(60))
    note: Mapped[str] = mapped_column(String(200))
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    issued_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class ShelfItemRow(Base):
    """A part the shop owns, as the document a plan would hold."""

    __tablename__ = "shelf_item"
    __table_args__ = (Index("shelf_item_name", "family", "name", unique=True),)

    id: Mapped[str] = mapped_column(String(36), primary_key=True)
    family: Mapped[str] = mapped_column(String(20))
    name: Mapped[str] = mapped_column(String(60))
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
