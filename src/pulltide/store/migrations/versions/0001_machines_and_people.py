"""Machines with their history, people with their units, settings of the shop."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0001"
down_revision = None


def upgrade() -> None:
    now = sa.func.now()
    op.create_table(
        "machine",
        sa.Column("id", sa.String(36), primary_key=True),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("cursor", sa.Integer, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("removed_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "machine_state",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.String(36), sa.ForeignKey("machine.id", ondelete="CASCADE"), nullable=False),
        sa.Column("place", sa.Integer, nullable=False),
        sa.Column("label", sa.String(120), nullable=False),
        sa.Column("document", JSONB, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
    )
    op.create_index("machine_state_place", "machine_state", ["machine_id", "place"], unique=True)
    op.create_table(
        "person",
        sa.Column("cookie_hash", sa.String(64), primary_key=True),
        sa.Column("units", JSONB, nullable=False),
        sa.Column("theme", sa.String(8), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
    )
    op.create_table(
        "setting",
        sa.Column("name", sa.String(40), primary_key=True),
        sa.Column("value", sa.String(200), nullable=False),
    )


def downgrade() -> None:
    for name in ("setting", "person", "machine_state", "machine"):
        op.drop_table(name)
