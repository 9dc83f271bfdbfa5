"""The steps of a batch as a worker does them: each is short, kept by itself, and may be lost."""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from concurrent.futures import Future
from typing import Any, TypeVar
from uuid import UUID

import structlog
from sqlalchemy import Engine
from sqlalchemy.exc import SQLAlchemyError

from ulvent.batches.row_tasks import Rows, make_row, measure_row, nest, wanted_of, write_sheet
from ulvent.bench import LATER, Hands
from ulvent.core.base.errors import UlventError
from ulvent.crew.worker import StoppedError, WorkerDiedError
from ulvent.store.batch_records import Batch, Batches, Line, MadeLine
from ulvent.store.batch_stages import NoSuchBatchError
from ulvent.store.batch_steps import BatchSteps, Kept

log = structlog.get_logger()

MOST_ATTEMPTS = 12
"""A row that was begun so often, and each time whoever made it was ended, is given up. Rarely is
the row to blame: a step begins again with the row that was hit, and on a slow machine it is hit
again."""
_NEST_SECONDS = _ALONE_SECONDS = 600.0
_WHOSE = "batch"
_ENDED = (StoppedError, WorkerDiedError)
"""What is raised where not the row is to blame, but who ended the process that made it."""
_OUR_ERROR = "could not be made, by an error of Ulvent’s own; it is in its log"
R = TypeVar("R")


class Making:
    """Makes what batches of one database are made of."""

    def __init__(self, engine: Engine, hands: Hands) -> None:
        self.batches = Batches(engine)
        self.steps = BatchSteps(engine)
        self._hands = hands

    def heights(self, batch_id: UUID, numbers: Sequence[int]) -> None:
        """The heights that fit some rows; those that cannot be filled are said when they are
        made."""
        batch = self.batches.get(batch_id)
        rows = self._rows(batch)
        for line in self.steps.left(batch_id, numbers, ("measured", "made")):
            least: dict[str, float] = {}
            if self.steps.attempt(batch_id, line.number) <= MOST_ATTEMPTS:
                try:
                    least = self._done(measure_row, rows, line.cells)
                except UlventError as error:
                    log.info("not measured", batch=str(batch_id), row=line.number, why=str(error))
            self.steps.measured(batch_id, line.number, least)
        self.steps.advance(batch_id)

    def rows(self, batch_id: UUID, numbers: Sequence[int]) -> None:
        """Some rows made; one that was made from the same before is only read."""
        batch = self.batches.get(batch_id)
        rows = self._rows(batch)
        keys: dict[int, str] = {}
        lines = {line.number: line for line in self.steps.left(batch_id, numbers, ("made",))}
        for number, line in lines.items():
            try:
                keys[number] = rows.key(line.cells, line.own)
            except UlventError as error:
                self.steps.line_made(batch_id, _not_made(line, str(error)), None)
        for number in sorted(keys.keys() - self.steps.known(batch_id, keys)):
            # One of these may have been made a moment ago: it says the same as another.
            if not self.steps.known(batch_id, {number: keys[number]}):
                self._row(batch, rows, lines[number], keys[number])
        self.steps.advance(batch_id)

    def _row(self, batch: Batch, rows: Rows, line: Line, key: str) -> None:
        batch_id = batch.id
        if self.steps.attempt(batch_id, line.number) > MOST_ATTEMPTS:
            why = f"was begun {MOST_ATTEMPTS} times, and each time what made it was ended"
            self.steps.line_made(batch_id, _not_made(line, why), None)
            return
        try:
            seconds = _ALONE_SECONDS if batch.alone else LATER
            made = self._done(make_row, rows, line.cells, line.own, seconds=seconds)
        except _ENDED:
            raise
        except UlventError as error:
            self.steps.line_made(batch_id, _not_made(line, str(error)), None)
        except Exception:
            log.exception("a row could not be made", batch=str(batch_id), row=line.number)
            self.steps.line_made(batch_id, _not_made(line, _OUR_ERROR), None)
        else:
            said: dict[str, Any] = {"title": made.title, "fits": made.fits, "reason": made.reason}
            kept = Kept(said, made.data)
            self.steps.line_made(batch_id, MadeLine(line.number, **said), key, kept)

    def nest(self, batch_id: UUID, _numbers: Sequence[int]) -> None:
        """All rows that fit, laid on sheets."""
        sheet = wanted_of(self.batches.get(batch_id).wanted).sheet
        assert sheet is not None
        files = {made.number: data for made, data in self.batches.files(batch_id)}
        lines = self.batches.lines(batch_id, list(files))
        numbers = [number for number in files for _ in range(lines[number].times)]
        outlines = [files[number] for number in numbers]
        lying, said = self._done(nest, sheet, numbers, outlines, seconds=_NEST_SECONDS)
        self.steps.laid(batch_id, lying, said)

    def sheet(self, batch_id: UUID, numbers: Sequence[int]) -> None:
        """Some sheets written, unless they are."""
        rows = self._rows(self.batches.get(batch_id))
        for number in numbers:
            sheet = self.steps.sheet(batch_id, number)
            if sheet is None:
                continue
            lines = self.batches.lines(batch_id, [one for one, _ in sheet.lie])
            plain = {key: (line.cells, line.own) for key, line in lines.items()}
            data = self._done(write_sheet, rows, sheet, plain, seconds=_NEST_SECONDS)
            self.steps.sheet_written(batch_id, number, data)
        self.steps.advance(batch_id)

    def _done(self, task: Callable[..., R], *args: Any, seconds: float = LATER) -> R:
        """What comes of a task of the crew."""
        with self._hands.crew.taken(_WHOSE) as worker:
            found: Future[R] = self._hands.ask(worker, seconds, task, *args)
            return found.result()

    def _rows(self, batch: Batch) -> Rows:
        document = json.dumps(self.batches.document(batch.id))
        return Rows(document, tuple(batch.columns), wanted_of(batch.wanted), batch.heights)


STEPS: dict[str, Callable[[Making, UUID, Sequence[int]], None]] = {
    "heights": Making.heights, "rows": Making.rows, "nest": Making.nest, "sheet": Making.sheet,
}  # fmt: skip
"""What each task of the queue does."""


def step(making: Making, task: str, batch: str, numbers: Sequence[int]) -> None:
    """A step of a batch. One that was taken away has none; one that cannot be done ends it."""
    batch_id = UUID(batch)
    try:
        STEPS[task](making, batch_id, numbers)
    except NoSuchBatchError:
        log.info("a batch has gone", batch=batch)
    except (*_ENDED, SQLAlchemyError):
        raise  # it is begun again
    except UlventError as error:
        making.batches.fail(batch_id, str(error))
    except Exception:
        log.exception("a step could not be done", batch=batch, task=task)
        making.batches.fail(batch_id, _OUR_ERROR)


def _not_made(line: Line, why: str) -> MadeLine:
    return MadeLine(line.number, line.title, False, why)
