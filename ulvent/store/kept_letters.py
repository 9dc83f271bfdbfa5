"""Letters in thread that were made once: kept in the database for every process and every piece.

Nothing depends on them: while the database is away, or where one was forgotten, it is made again.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from functools import cached_property

import structlog
from sqlalchemy import Engine, select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import SQLAlchemyError

from ulvent.store.tables import KeptLetterRow

log = structlog.get_logger()

KEPT_BYTES = 300_000_000
_TRIMMED_EVERY = 200
"""After so many that one process has kept, those that are too many are forgotten."""
_TRIM = text(
    "DELETE FROM kept_letter WHERE name IN (SELECT name FROM (SELECT name,"
    " sum(length(data)) OVER (ORDER BY made_at DESC, name) AS bytes FROM kept_letter) AS kept"
    " WHERE bytes > :most)"
)


class KeptLetters:
    """The kept letters of one database.

    program
        names the program that makes them: another one may make them otherwise
    """

    def __init__(self, engine: Engine, program: Callable[[], str]) -> None:
        self._engine, self._asked = engine, program
        self._put = 0

    @cached_property
    def _program(self) -> str:
        return self._asked()

    def get(self, name: bytes) -> bytes | None:
        query = select(KeptLetterRow.data).where(KeptLetterRow.name == self._full(name))
        try:
            with self._engine.connect() as connection:
                return connection.scalar(query)
        except SQLAlchemyError as error:
            log.warning("a kept letter cannot be had", error=type(error).__name__)
            return None

    def put(self, name: bytes, data: bytes) -> None:
        new = insert(KeptLetterRow).values(name=self._full(name), data=data)
        try:
            with self._engine.begin() as connection:
                connection.execute(new.on_conflict_do_nothing())
                self._put += 1
                if self._put % _TRIMMED_EVERY == 0:
                    connection.execute(_TRIM, {"most": KEPT_BYTES})
        except SQLAlchemyError as error:
            log.warning("a letter cannot be kept", error=type(error).__name__)

    def _full(self, name: bytes) -> str:
        """Under which it is kept: by another program it is another one."""
        return hashlib.sha256(self._program.encode() + b" " + name).hexdigest()
