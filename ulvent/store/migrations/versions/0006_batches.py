"""Lists that are made by workers, and the queue that they are handed out by.

The queue's tables come from its own package, in a schema of their own.
"""

from typing import Any

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects.postgresql import JSONB

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    now = sa.func.now()
    op.create_table(
        "batch",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("piece_id", sa.Uuid(), nullable=False, index=True),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("document", JSONB(), nullable=False),
        sa.Column("columns", JSONB(), nullable=False),
        sa.Column("wanted", JSONB(), nullable=False),
        sa.Column("stage", sa.String(16), nullable=False),
        sa.Column("state", sa.String(16), nullable=False),
        sa.Column("reason", sa.String(1024), nullable=False),
        sa.Column("heights", JSONB(), nullable=False),
        sa.Column("said", JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "kept_row",
        sa.Column("key", sa.String(64), primary_key=True),
        sa.Column("made", JSONB(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
    )
    batch = sa.ForeignKey("batch.id", name="batch_line_fk", ondelete="CASCADE")
    kept = sa.ForeignKey("kept_row.key", name="batch_line_kept_fk")
    op.create_table(
        "batch_line",
        sa.Column("batch_id", sa.Uuid(), batch, primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("cells", JSONB(), nullable=False),
        sa.Column("heights", JSONB(), nullable=False),
        sa.Column("times", sa.Integer(), nullable=False),
        sa.Column("state", sa.String(16), nullable=False),
        sa.Column("attempts", sa.Integer(), nullable=False),
        sa.Column("least", JSONB(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("fits", sa.Boolean()),
        sa.Column("reason", sa.String(), nullable=False),
        sa.Column("key", sa.String(64), kept, index=True),
    )
    op.create_index("batch_line_state", "batch_line", ["batch_id", "state"])
    batch = sa.ForeignKey("batch.id", name="batch_sheet_fk", ondelete="CASCADE")
    op.create_table(
        "batch_sheet",
        sa.Column("batch_id", sa.Uuid(), batch, primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("lie", JSONB(), nullable=False),
        sa.Column("data", sa.LargeBinary()),
    )
    _make_queue()


def _make_queue() -> None:
    driver: Any = op.get_bind().connection.dbapi_connection
    path = driver.execute("SHOW search_path").fetchone()[0]
    driver.execute("CREATE SCHEMA queue")
    driver.execute("SET LOCAL search_path TO queue, public")
    driver.execute(SchemaManager.get_schema())
    driver.execute(f"SET LOCAL search_path TO {path}")


def downgrade() -> None:
    op.execute("DROP SCHEMA queue CASCADE")
    for table in ("batch_sheet", "batch_line", "kept_row", "batch"):
        op.drop_table(table)
