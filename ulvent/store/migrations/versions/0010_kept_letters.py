"""Letters in thread, kept for whoever sews them next."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kept_letter",
        sa.Column("name", sa.String(64), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column(
            "made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
    )


def downgrade() -> None:
    op.drop_table("kept_letter")
