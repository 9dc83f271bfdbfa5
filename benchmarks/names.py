"""Rows a second of a list: in a plain loop, with one process and two, by one worker and two.

`python -m benchmarks.names [ROWS]`: a tag with an even name of about twelve letters and a border.
"""

from __future__ import annotations

import sys
import tempfile
import time
from contextlib import ExitStack
from itertools import islice, product
from pathlib import Path
from uuid import uuid4

from tests.batches.kills import Place
from tests.makings import document
from ulvent.batches.row_tasks import plain_wanted
from ulvent.core.recipe import parse_piece
from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.series import Matched, Pattern, matched
from ulvent.core.series.nested_sheets import Sheet, nested
from ulvent.core.series.row_making import Series, made_row
from ulvent.core.shapes import Region
from ulvent.core.workshop import Workshop
from ulvent.formats.every_format import every_format
from ulvent.formats.row_files import Wanted
from ulvent.names_command import Order, make
from ulvent.shipped_faces import shipped_face, shipped_faces
from ulvent.store import batch_records
from ulvent.store.batch_records import Batches, Line, lines_text

FIRST = ("Ashmead", "Bramley", "Pitmaston", "Worcester", "Egremont", "Ribston", "Laxton", "Kidd")
SECOND = ("Kernel", "Russet", "Pippin", "Orange", "Pearmain", "Spice", "Seedling", "Beauty")
TAG = document(
    blank={"kind": "tag", "width": 120, "height": 40, "radius": 6, "hole": 5, "hole_inset": 8},
    guides=[{"id": "g", "kind": "line", "length": 96, "centre": [6, -3]}], edge="cut",
    letterings=[{"id": "w", "guide": "g", "text": "{name}", "face": "lato-bold", "height": 8,
                 "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even",
                 "prepare": {"borders": [{"distance": 1.5}]}}],
)  # fmt: skip


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 128
    names = [
        f"{one} {two} {k}" for k, one, two in islice(product("abcdefgh", FIRST, SECOND), count)
    ]
    pattern = Pattern(parse_piece(TAG))
    rows = matched([[name] for name in names], pattern.fields)
    plain = _plain(Series(pattern, rows.columns), rows.rows)
    print(f"plain loop      {count / plain:6.1f} rows/s")
    for processes in (1, 2):
        with tempfile.TemporaryDirectory() as folder:
            order = Order(pattern.piece.model_dump(mode="json"), rows, Path(folder), Path(folder))
            begun = time.perf_counter()
            make(order, lambda _: None, processes=processes)
            taken = time.perf_counter() - begun
        rate, of_loop = count / taken, plain / taken
        print(f"{processes} process(es)   {rate:6.1f} rows/s, {of_loop:.2f} of the loop")
    for workers in (1, 2):
        first, again = _by_workers(pattern, rows, workers)
        print(
            f"{workers} worker(s)    {count / first:6.1f} rows/s, {plain / first:.2f} of the loop; "
            f"again, from what is kept: {count / again:.0f} rows/s"
        )
    tags = [Region.box((0.0, 0.0, 90.0, 40.0))] * 1000
    begun = time.perf_counter()
    found = nested(tags, Sheet(600, 400))
    seconds = time.perf_counter() - begun
    print(f"a thousand tags on {len(found.sizes)} sheets, no fewer than {found.least},")
    print(f"{100 * found.filled:.0f} % of them used: {seconds:.2f} s")


def _by_workers(pattern: Pattern, rows: Matched, workers: int) -> tuple[float, float]:
    """Seconds of a batch through the queue, and of the same once more."""
    lines = [Line(number, cells, OwnOfRow()) for number, cells in rows.rows]
    document, wanted = pattern.piece.model_dump(mode="json"), plain_wanted(Wanted())
    with ExitStack() as stack:
        place = Place.made(stack, workers)
        batches = Batches(place.engine)

        def made(some: list[Line]) -> float:
            begun = time.perf_counter()
            order = batch_records.Order(
                "T", document, rows.columns, wanted, lines_text(some), False
            )
            batch = batches.begin(uuid4(), order)
            while batches.get(batch).state == "running":
                time.sleep(0.02)
            return time.perf_counter() - begun

        # Until the workers are there, a row is waited for that is not in the list.
        made([Line(1, ("Quince",), OwnOfRow())])
        return made(lines), made(lines)


def _plain(series: Series, rows: tuple[tuple[int, tuple[str, ...]], ...]) -> float:
    workshop = Workshop(shipped_face, shipped_faces)
    begun = time.perf_counter()
    for number, cells in rows:
        _, work = made_row(series, workshop, number, cells)
        assert work is not None
        every_format()["svg"](work)
    return time.perf_counter() - begun


if __name__ == "__main__":
    main()
