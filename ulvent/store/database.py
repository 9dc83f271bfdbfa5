"""Reaching a database and bringing its tables up to date."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, text

_MIGRATIONS = Path(__file__).resolve().parent / "migrations"


def open_engine(url: str) -> Engine:
    """An engine for a PostgreSQL URL; a lost connection is noticed before it is used."""
    return create_engine(driver_url(url), pool_pre_ping=True, pool_size=5, max_overflow=10)


def driver_url(url: str) -> str:
    """`postgres://…` and `postgresql://…` as SQLAlchemy names them for psycopg."""
    for prefix in ("postgres://", "postgresql://"):
        if url.startswith(prefix):
            return "postgresql+psycopg://" + url.removeprefix(prefix)
    return url


def migrate(engine: Engine) -> None:
    """Bring the tables up to date. Two at once do so one after the other."""
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    with engine.begin() as connection:
        connection.execute(text("SELECT pg_advisory_xact_lock(8481)"))
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def answers(engine: Engine) -> bool:
    """Whether the database answers a question."""
    with engine.connect() as connection:
        return bool(connection.scalar(text("SELECT 1")) == 1)
