"""Sheets that were given out, with the machine as it was."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.String(36), sa.ForeignKey("machine.id", ondelete="CASCADE"), nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("plan_name", sa.String(60), nullable=False),
        sa.Column("note", sa.String(200), nullable=False),
        sa.Column("document", postgresql.JSONB, nullable=False),
        sa.Column("issued_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("revision_number", "revision", ["machine_id", "number"], unique=True)


def downgrade() -> None:
    op.drop_table("revision")
