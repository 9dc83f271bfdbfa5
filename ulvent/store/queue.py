"""The queue in the database by which work is handed out to workers, on any number of machines.

Its tables are in a schema of their own. Work is put in within the transaction that needs it done:
both are there, or neither.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any
from uuid import UUID

from procrastinate import App, SyncPsycopgConnector
from procrastinate.exceptions import ConnectorException
from sqlalchemy import text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

QUEUE = "batches"
SEARCH_PATH = "queue, public"

_APP = App(connector=SyncPsycopgConnector())


def hand_out(
    session: Session, task: str, batch: UUID, steps: Sequence[Sequence[int]], priority: int
) -> None:
    """Put a task into the queue once for each list of numbers, when the transaction is kept.

    Raises
    ------
    OperationalError
        When the database cannot be reached.
    """
    driver = session.connection().connection.dbapi_connection
    later = _APP.configure_task(task, queue=QUEUE, connection=driver, priority=priority)
    plain: list[Any] = [{"batch": str(batch), "numbers": list(one)} for one in steps]
    with _in_the_queue(session):
        try:
            later.batch_defer(*plain)
        except ConnectorException as error:
            raise OperationalError("handing out", {}, error.__cause__ or error) from error


def withdraw(session: Session, batch: UUID) -> None:
    """Take the tasks of a batch out of the queue, but for those that are being done."""
    query = text(
        "SELECT procrastinate_cancel_job_v1(id, false, true)"
        " FROM procrastinate_jobs WHERE args ->> 'batch' = :batch AND status = 'todo'"
    )
    with _in_the_queue(session):
        session.execute(query, {"batch": str(batch)})


@contextmanager
def _in_the_queue(session: Session) -> Iterator[None]:
    """The queue's own statements say its tables without their schema."""
    session.execute(text(f"SET LOCAL search_path TO {SEARCH_PATH}"))
    yield
    session.execute(text("SET LOCAL search_path TO DEFAULT"))


def outstanding(session: Session, batch: UUID) -> int:
    """How many tasks of a batch wait or are being done."""
    query = text(
        "SELECT count(*) FROM queue.procrastinate_jobs "
        "WHERE args ->> 'batch' = :batch AND status IN ('todo', 'doing')"
    )
    return session.scalar(query, {"batch": str(batch)}) or 0
