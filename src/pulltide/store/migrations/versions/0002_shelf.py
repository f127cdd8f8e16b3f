"""What the shop owns: parts on the shelf."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "shelf_item",
        sa.Column("id", sa.String(36), primary_key=True),
        sa.Column("family", sa.String(20), nullable=False),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("document", JSONB, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("shelf_item_name", "shelf_item", ["family", "name"], unique=True)


def downgrade() -> None:
    op.drop_table("shelf_item")
