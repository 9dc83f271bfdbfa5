"""A PostgreSQL for the tests: started once a run, thrown away at its end."""

from __future__ import annotations

import atexit
import shutil
import tempfile
from functools import cache
from pathlib import Path

from sqlalchemy import Engine, text

from ulvent.store.database import migrate, open_engine
from ulvent.store.private_server import PrivateServer


@cache
def database_url() -> str:
    """The address of the run's own server."""
    folder = Path(tempfile.mkdtemp(prefix="ulvent-test-"))
    folder.chmod(0o755)
    server = PrivateServer(folder, durable=False)
    server.start()

    def throw_away() -> None:
        server.stop()
        shutil.rmtree(folder)

    atexit.register(throw_away)
    return server.url


@cache
def _migrated() -> Engine:
    engine = open_engine(database_url())
    atexit.register(engine.dispose)
    migrate(engine)
    return engine


def empty_engine() -> Engine:
    """An engine on the migrated database, with all its rows gone."""
    engine = _migrated()
    with engine.begin() as connection:
        connection.execute(
            text(
                "TRUNCATE note, piece, revision, drawer_guide, face, machine, job, job_event, "
                "batch, batch_line, batch_sheet, kept_row, kept_letter, "
                "queue.procrastinate_jobs CASCADE"
            )
        )
    return engine
