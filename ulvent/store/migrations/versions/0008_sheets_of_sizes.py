"""Sheets of a batch that are not all of one size."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batch_sheet", sa.Column("size", JSONB()))
    op.execute(
        "UPDATE batch_sheet SET size = jsonb_build_array("
        "batch.wanted->'sheet'->'width', batch.wanted->'sheet'->'height') "
        "FROM batch WHERE batch.id = batch_sheet.batch_id"
    )
    op.alter_column("batch_sheet", "size", nullable=False)


def downgrade() -> None:
    op.drop_column("batch_sheet", "size")
