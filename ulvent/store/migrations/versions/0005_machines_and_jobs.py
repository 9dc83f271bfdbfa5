"""Machines, and what was sent to them."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    now = sa.func.now()
    op.create_table(
        "machine",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("figures", JSONB(), nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
    )
    op.create_table(
        "job",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("machine", JSONB(), nullable=False),
        sa.Column("machine_id", sa.String(64), nullable=False),
        sa.Column("piece_id", sa.Uuid(), nullable=False, index=True),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("program", JSONB(), nullable=False),
        sa.Column("sequence", JSONB(), nullable=False),
        sa.Column("follows_id", sa.Uuid(), sa.ForeignKey("job.id", name="job_follows_fk")),
        sa.Column("state", sa.String(16), nullable=False),
        sa.Column("reason", sa.String(1024), nullable=False),
        sa.Column("begun", sa.Integer(), nullable=False),
        sa.Column("answered", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), server_default=now, nullable=False),
    )
    op.create_index(
        "job_one_a_machine",
        "job",
        ["machine_id"],
        unique=True,
        postgresql_where=sa.text("state IN ('sending', 'holding', 'asking', 'silent')"),
    )
    op.create_table(
        "job_event",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=True), primary_key=True),
        sa.Column(
            "job_id", sa.Uuid(), sa.ForeignKey("job.id", name="job_event_fk"), nullable=False
        ),
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("what", sa.String(16), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=now, nullable=False),
        sa.UniqueConstraint("job_id", "place", "what", name="job_event_once"),
    )


def downgrade() -> None:
    for table in ("job_event", "job", "machine"):
        op.drop_table(table)
