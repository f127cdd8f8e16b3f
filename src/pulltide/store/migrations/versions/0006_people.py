"""People of a shared shop and what lets them in, who changed a machine, who is here, kept answers, starters."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"


def _now() -> sa.Column[Any]:
    return sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False)


def _account() -> sa.Column[Any]:
    return sa.Column("account_id", sa.String(36), sa.ForeignKey("account.id", ondelete="CASCADE"), nullable=False)


def upgrade() -> None:
    op.create_table(
        "account",
        sa.Column("id", sa.String(36), primary_key=True),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("folded", sa.String(120), nullable=False, unique=True),
        sa.Column("role", sa.String(10), nullable=False),
        sa.Column("password", sa.String(200)),
        sa.Column("ended", sa.Boolean, nullable=False, server_default=sa.false()),
        sa.Column("seen_at", sa.DateTime(timezone=True)),
        _now(),
    )
    op.create_table(
        "session",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        _account(),
        sa.Column("device", sa.String(120), nullable=False),
        sa.Column("seen_at", sa.DateTime(timezone=True), nullable=False),
        _now(),
    )
    op.create_table(
        "welcome",
        sa.Column("account_id", sa.String(36), sa.ForeignKey("account.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("ends_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "api_token",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        _account(),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("changes", sa.Boolean, nullable=False),
        sa.Column("ends_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True)),
        _now(),
    )
    op.create_table(
        "guest_link",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        _account(),
        sa.Column("machine_id", sa.String(36), sa.ForeignKey("machine.id", ondelete="CASCADE"), nullable=False),
        sa.Column("ends_at", sa.DateTime(timezone=True), nullable=False),
        _now(),
    )
    op.create_table(
        "sign_in_attempt",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name_hash", sa.String(64), nullable=False),
        sa.Column("address", sa.String(60), nullable=False),
        sa.Column("tried_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_index("ix_sign_in_attempt_tried_at", "sign_in_attempt", ["tried_at"])
    op.create_table(
        "presence",
        sa.Column("window", sa.String(20), primary_key=True),
        sa.Column("machine_id", sa.String(36), nullable=False, index=True),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("field", sa.String(120), nullable=False),
        sa.Column("seen_at", sa.DateTime(timezone=True), nullable=False),
        prefixes=["UNLOGGED"],
    )
    op.create_table(
        "api_answer",
        sa.Column("key", sa.String(64), primary_key=True),
        sa.Column("call", sa.String(64), nullable=False),
        sa.Column("status", sa.Integer),
        sa.Column("media_type", sa.String(80), nullable=False),
        sa.Column("body", sa.LargeBinary, nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "starter",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(60), nullable=False, unique=True),
        sa.Column("part", sa.String(10), nullable=False),
        sa.Column("document", postgresql.JSONB, nullable=False),
        sa.Column("kept_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.alter_column("setting", "value", type_=sa.String(400), existing_type=sa.String(200))
    op.add_column("person", sa.Column("at_bench", sa.Boolean, nullable=False, server_default=sa.false()))
    op.add_column("machine_state", sa.Column("author", sa.String(60)))


def downgrade() -> None:
    op.drop_column("machine_state", "author")
    op.drop_column("person", "at_bench")
    op.alter_column("setting", "value", type_=sa.String(200), existing_type=sa.String(400))
    for table in ("starter", "api_answer", "presence", "sign_in_attempt", "guest_link", "api_token", "welcome", "session", "account"):
        op.drop_table(table)
