"""Rows of a batch with all that they have for themselves, in place of their heights."""

from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.alter_column("batch_line", "heights", new_column_name="own")
    op.execute(
        "UPDATE batch_line SET own = "
        "CASE own WHEN '{}' THEN own ELSE jsonb_build_object('heights', own) END"
    )


def downgrade() -> None:
    op.execute("UPDATE batch_line SET own = coalesce(own->'heights', '{}')")
    op.alter_column("batch_line", "own", new_column_name="heights")
