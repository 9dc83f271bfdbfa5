"""Rows of long lists, apart from the revisions of their pieces."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "name_leaf",
        sa.Column("leaf", sa.String(64), primary_key=True),
        sa.Column("rows", sa.String(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("name_leaf")
