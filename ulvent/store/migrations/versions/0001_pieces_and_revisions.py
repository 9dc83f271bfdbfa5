"""Pieces, their revisions, and notes."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    now = sa.func.now()
    op.create_table(
        "note",
        sa.Column("name", sa.String(64), primary_key=True),
        sa.Column("value", sa.String(1024), nullable=False),
    )
    op.create_table(
        "piece",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("current_id", sa.BigInteger()),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "revision",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=True), primary_key=True),
        sa.Column(
            "piece_id",
            sa.Uuid(),
            sa.ForeignKey("piece.id", name="revision_piece_fk"),
            nullable=False,
        ),
        sa.Column(
            "parent_id", sa.BigInteger(), sa.ForeignKey("revision.id", name="revision_parent_fk")
        ),
        sa.Column("document", JSONB(), nullable=False),
        sa.Column("refused", sa.Boolean(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
    )
    op.create_index("ix_revision_piece_id", "revision", ["piece_id"])
    op.create_index("revision_children", "revision", ["parent_id", "id"])
    op.create_foreign_key("piece_current_fk", "piece", "revision", ["current_id"], ["id"])


def downgrade() -> None:
    op.drop_constraint("piece_current_fk", "piece")
    op.drop_table("revision")
    op.drop_table("piece")
    op.drop_table("note")
