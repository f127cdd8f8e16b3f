"""Parts on the shop's lists and shelf, lists that are looked at, and how their columns were matched."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "holding",
        sa.Column("id", sa.String(36), primary_key=True),
        sa.Column("list_name", sa.String(60), nullable=False),
        sa.Column("family", sa.String(20), nullable=False),
        sa.Column("designation", sa.String(60), nullable=False),
        sa.Column("condition", sa.String(12), nullable=False),
        sa.Column("document", JSONB, nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("holding_identity", "holding", ["list_name", "family", "designation", "condition"], unique=True)
    op.create_table(
        "upload",
        sa.Column("id", sa.String(36), primary_key=True),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("list_name", sa.String(60), nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("state", JSONB, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "column_match",
        sa.Column("list_name", sa.String(60), primary_key=True),
        sa.Column("said", JSONB, nullable=False),
    )


def downgrade() -> None:
    op.drop_table("column_match")
    op.drop_table("upload")
    op.drop_table("holding")
