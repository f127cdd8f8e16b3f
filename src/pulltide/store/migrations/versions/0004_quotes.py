"""Quotes of a price service, with the date they are of."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.create_table(
        "quote",
        sa.Column("name", sa.String(60), primary_key=True),
        sa.Column("price", sa.Float, nullable=False),
        sa.Column("lead_days", sa.Integer, nullable=False),
        sa.Column("fetched_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("quote")
