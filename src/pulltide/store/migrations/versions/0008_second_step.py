"""A second step when signing in, for who sets one up."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.add_column("account", sa.Column("second_key", sa.String(200)))
    op.add_column("account", sa.Column("second_used", sa.BigInteger, nullable=False, server_default="0"))


def downgrade() -> None:
    op.drop_column("account", "second_used")
    op.drop_column("account", "second_key")
