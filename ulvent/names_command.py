"""`ulvent names`: a list made from a shell, on all cores, without a database.

Each row is made in a worker process, which writes its file; what comes back is what there is to
say of it. Rows are handed out a few at a time, so that a list of any length takes the same memory.
"""

from __future__ import annotations

import multiprocessing
import os
import sys
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Executor, Future, ProcessPoolExecutor, wait
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, TypeVar

from cachetools import LRUCache
from rich.console import Console
from rich.progress import BarColumn, MofNCompleteColumn, Progress, TextColumn, TimeRemainingColumn

from ulvent.core.recipe import parse_piece
from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.series import Pattern, one_height
from ulvent.core.series.matched import Matched
from ulvent.core.series.nested_sheets import Sheet
from ulvent.core.series.results import least_heights
from ulvent.core.series.row_making import MadeRow, Series
from ulvent.core.shapes import Region
from ulvent.core.workshop import Workshop
from ulvent.formats.packed import packed
from ulvent.formats.row_files import (
    UNTITLED,
    LyingRow,
    Rings,
    RowFile,
    Wanted,
    nested_rows,
    row_file,
    sheet_file,
)
from ulvent.formats.sheet_writing import ListedSheet, cutting_list
from ulvent.formats.whole_file import write_whole
from ulvent.shipped_faces import face_named, shipped_faces

_AHEAD = 4
"""Rows that wait for each worker."""
_FEW = 8
"""Rows that are made sooner than processes are there."""
Row = tuple[int, tuple[str, ...]]
Heights = tuple[tuple[str, float], ...]
"""Letterings that have one height in all rows, mm."""
R = TypeVar("R")


@dataclass(frozen=True)
class Order:
    """What is asked for.

    document
        the pattern's, as plain data
    beside
        the folder in which faces lie beside the piece
    """

    document: dict[str, Any]
    list: Matched
    beside: Path
    out: Path
    wanted: Wanted = field(default_factory=Wanted)

    def file(self, made: MadeRow) -> Path:
        """The file of a row."""
        return self.out / self.wanted.file(made.number, made.title, len(self.list.rows))


def make(order: Order, say: Callable[[str], None], height: bool = False, zipped: bool = False,
         processes: int | None = None) -> int:  # fmt: skip
    """Make all rows; how many have faults.

    height
        whether letterings whose height is fitted have one in all rows
    zipped
        whether the files go into one ZIP
    """
    rows, sheet = order.list.rows, order.wanted.sheet
    cores = processes or len(os.sched_getaffinity(0))
    made: list[MadeRow] = []
    outlines: dict[int, Rings] = {}
    written: list[Path] = []
    with _pool(order, cores, len(rows) <= _FEW and processes is None) as pool, _bar() as bar:
        making = _Making(order, pool, bar, cores * _AHEAD)
        heights = _least(making) if height else ()
        for one, outline, file in making.spread("rows", _row, rows, heights):
            made.append(one)
            if outline is not None:
                outlines[one.number] = outline
            if file is not None:
                written.append(file)
        made.sort(key=lambda one: one.number)
        if sheet is not None:
            written += _sheets(making, sheet, made, outlines, heights, say)
    if zipped:
        _pack(order, sorted(written))
    for name, least in heights:
        say(f"{name}: one height, {least:g} mm")
    _sum_up(order, made, sheet, say)
    return sum(not one.fits for one in made)


class _Here(Executor):
    """Does in this process what is asked, at once."""

    def submit(self, fn: Callable[..., R], /, *args: Any, **named: Any) -> Future[R]:
        found: Future[R] = Future()
        found.set_result(fn(*args, **named))
        return found


def _pool(order: Order, cores: int, few: bool) -> Executor:
    """Processes that have an order; for a few rows this one, which is there already."""
    if few:
        _begin(order)
        return _Here()
    context = multiprocessing.get_context("forkserver")
    return ProcessPoolExecutor(cores, context, _begin, (order,))


def _bar() -> Progress:
    shown = Console(stderr=True)
    return Progress(
        TextColumn("{task.description}"), BarColumn(), MofNCompleteColumn(), TimeRemainingColumn(),
        console=shown, disable=not sys.stderr.isatty(),
    )  # fmt: skip


@dataclass(frozen=True, eq=False)
class _Making:
    """An order in the making: by whom, and how many rows wait for them at the most."""

    order: Order
    pool: Executor
    bar: Progress
    most: int

    def spread(
        self, what: str, do: Callable[..., R], rows: Sequence[Any], *more: Any
    ) -> Iterator[R]:
        """What comes of each row, as it is done."""
        task = self.bar.add_task(what, total=len(rows))
        waiting: set[Future[R]] = set()
        for row in rows:
            if len(waiting) >= self.most:
                done, waiting = wait(waiting, return_when=FIRST_COMPLETED)
                for one in done:
                    yield one.result()
                    self.bar.advance(task)
            waiting.add(self.pool.submit(do, row, *more))
        for one in wait(waiting).done:
            yield one.result()
            self.bar.advance(task)


# ------------------------------------------------------------------ in a worker


class _Worker:
    """What a process has of an order, once: its pattern, its faces, and rows that were made."""

    def __init__(self, order: Order) -> None:
        self.order = order
        self._pattern = Pattern(parse_piece(order.document))
        self.workshop = Workshop(lambda name: face_named(name, beside=order.beside), shipped_faces)
        # Names come again: the rows that were made last, by their words.
        self.made: LRUCache[tuple[str, ...], RowFile] = LRUCache(256)

    def series(self, heights: Heights = ()) -> Series:
        return Series(self._pattern, self.order.list.columns, OwnOfRow(heights=dict(heights)))


_WORKER: list[_Worker] = []


def _begin(order: Order) -> None:
    """Take an order: rows come by themselves after it."""
    _WORKER[:] = [_Worker(order)]


def _row(row: Row, heights: Heights) -> tuple[MadeRow, Rings | None, Path | None]:
    """A row made, and the file that was written of it; for sheets, its outline instead."""
    (worker,) = _WORKER
    number, cells = row
    if cells not in worker.made:
        worker.made[cells] = row_file(
            worker.series(heights), worker.workshop, worker.order.wanted, number, cells
        )
    found = worker.made[cells]
    made = replace(found.row, number=number)
    file = worker.order.file(made) if found.data else None
    if file is not None:
        write_whole(file, found.data)
    return made, found.outline, file


def _height_of(row: Row) -> dict[str, float]:
    (worker,) = _WORKER
    series, workshop = worker.series(), worker.workshop
    piece = series.piece(row[1])
    return one_height(series.pattern.piece, [piece], lambda one: workshop.in_passing(one).solved)


def _sheet(lying: tuple[int, tuple[float, float], list[tuple[Row, Any]]], heights: Heights) -> Path:
    """The file of a sheet, written: its rows are laid out and made once more."""
    (worker,) = _WORKER
    sheet, size, rows = lying
    order, series = worker.order, worker.series(heights)
    lie = (LyingRow(series, number, cells, matrix) for (number, cells), matrix in rows)
    data = sheet_file(worker.workshop, order.wanted, size, lie)
    file = order.out / order.wanted.sheet_name(sheet)
    write_whole(file, data)
    return file


# --------------------------------------------------------------------- around it


def _least(making: _Making) -> Heights:
    """The least height of all rows, by lettering."""
    found = making.spread("one height", _height_of, making.order.list.rows)
    return tuple(sorted(least_heights(found).items()))


def _sheets(
    making: _Making, sheet: Sheet, made: Iterable[MadeRow], outlines: dict[int, Rings],
    heights: Heights, say: Callable[[str], None],
) -> list[Path]:  # fmt: skip
    """Sheets and their cutting list, written."""
    order = making.order
    laid = [one for one in made if one.number in outlines]
    parts = [Region.of_rings(outlines[one.number]) for one in laid]
    found = nested_rows(parts, [one.number for one in laid], sheet)
    cells = dict(order.list.rows)
    on: list[list[tuple[Row, Any]]] = [[] for _ in found.sizes]
    names: list[list[str]] = [[] for _ in found.sizes]
    for one, placed in zip(laid, found.placed, strict=True):
        on[placed.sheet].append(((one.number, cells[one.number]), placed.matrix))
        names[placed.sheet].append(f"{one.number}  {one.title}")
    title = order.document.get("title") or UNTITLED
    numbered = [*zip(range(len(on)), found.sizes, on, strict=True)]
    written = [*making.spread("sheets", _sheet, numbered, heights)]
    listed = order.out / "cutting-list.pdf"
    write_whole(listed, cutting_list(title, [*map(ListedSheet, found.sizes, names)]))
    whole = len(found.sizes) - found.offcuts
    offcuts = f"{found.offcuts} {_plural('off-cut', found.offcuts)} and " if found.offcuts else ""
    say(
        f"{len(laid)} parts on {offcuts}{whole} {_plural('sheet', whole)}, "
        f"{100.0 * found.filled:.0f} % of them used; no way takes fewer than {found.least}"
    )
    return [*written, listed]


def _pack(order: Order, files: Sequence[Path]) -> None:
    """All files that were written now into one ZIP; they are taken away by themselves."""
    write_whole(order.out / "names.zip", packed((one.name, one.read_bytes()) for one in files))
    for one in files:
        one.unlink()


def _sum_up(
    order: Order, made: Sequence[MadeRow], sheet: Sheet | None, say: Callable[[str], None]
) -> None:
    """What there is to say at the end: what was made, and what does not fit, by its reason."""
    fit = sum(one.fits for one in made)
    done = "laid on sheets" if sheet is not None else "written"
    written = len(made) if order.wanted.anyway else fit
    rows = _plural("row", len(made))
    say(f"{written} of {len(made)} {rows} {done}, {len(made) - fit} not fitting")
    if order.list.empty:
        say(f"{len(order.list.empty)} empty: {_numbers(order.list.empty)}")
    if order.list.twice:
        say(f"{len(order.list.twice)} twice: {_numbers(order.list.twice)}")
    reasons = Counter(one.reason for one in made if not one.fits)
    for reason, _ in reasons.most_common():
        alike = [f"{one.number} “{one.title}”" for one in made if one.reason == reason]
        say(f"does not fit, {reason}: {'; '.join(alike[:20])}{' …' if len(alike) > 20 else ''}")


def _plural(word: str, count: int) -> str:
    return word if count == 1 else f"{word}s"


def _numbers(rows: Sequence[int]) -> str:
    return ", ".join(map(str, rows[:20])) + (" …" if len(rows) > 20 else "")
