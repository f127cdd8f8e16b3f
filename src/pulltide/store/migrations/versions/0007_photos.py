"""Photos of machines."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.create_table(
        "photo",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.String(36), sa.ForeignKey("machine.id", ondelete="CASCADE"), nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("caption", sa.String(200), nullable=False),
        sa.Column("author", sa.String(60), nullable=False),
        sa.Column("removed", sa.Boolean, nullable=False, server_default=sa.false()),
        sa.Column("kept_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("ix_photo_machine_id", "photo", ["machine_id"])


def downgrade() -> None:
    op.drop_table("photo")
