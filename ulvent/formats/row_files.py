"""What is written of the rows of a list: a file each, or sheets on which they lie nested.

A row is written the same from a shell, from the page and by a worker: here.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

from ulvent.core.base.arrays import Floats, Matrices
from ulvent.core.base.errors import wrong_field
from ulvent.core.series.matched import title_of
from ulvent.core.series.nested_sheets import Sheet
from ulvent.core.series.row_making import MadeRow, Series, file_name, made_row
from ulvent.core.shapes import Region, area_within
from ulvent.core.solids import Mesh
from ulvent.core.stitches.together import together
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.formats.every_format import ending_of, every_file, every_format
from ulvent.formats.sheet_writing import SheetPart, sheet_svg
from ulvent.formats.thread_out import THREAD_FORMATS

Rings = tuple[Floats, ...]
_ROUGH = 0.01
"""mm by which outlines may be off that are nested."""
UNTITLED = "Parts"
STITCHES = ("dst", "exp", "pes", "jef", "vp3")
SHEET_FORMATS = ("svg", "3mf", *STITCHES)
"""In which sheets are written: as lines, as plates of parts, or as what is sewn in one hoop."""
_ROUND = ("side", "band", "signet")


@dataclass(frozen=True)
class Wanted:
    """What is wanted of the rows of a list.

    format
        of each file, by its ending, or by what it is of as well, as `every_file` has it
    name
        of each file; {number} and {words} stand for a row's own
    anyway
        whether rows with faults are written too
    sheet
        on which parts are nested, in place of a file each
    """

    format: str = "svg"
    name: str = "{number}-{words}"
    anyway: bool = False
    sheet: Sheet | None = None

    @property
    def sheets_are(self) -> str:
        """What parts are nested on, in a word of the trade."""
        found = "plate" if self.format == "3mf" else "sheet"
        return "hoop" if self.format in STITCHES else found

    def sheet_name(self, number: int) -> str:
        """The name of a sheet's file, counted from 0."""
        return f"{self.sheets_are}-{number + 1:03d}.{self.format}"

    def file(self, number: int, title: str, rows: int) -> str:
        """The name of the file of a row, of so many."""
        return f"{file_name(self.name, number, title, rows)}.{ending_of(self.format)}"


def named_alike(wanted: Wanted, rows: Sequence[tuple[int, Sequence[str]]]) -> str:
    """Why rows cannot have a file each, in words; empty where each has a name of its own."""
    had: dict[str, int] = {}
    for number, cells in rows:
        name = wanted.file(number, title_of(cells), len(rows))
        other = had.setdefault(name.casefold(), number)
        if other != number:
            return f"rows {other} and {number} would both be “{name}”; put {{number}} into it"
    return ""


class RowFile(NamedTuple):
    """What came of a row's words: nothing of it depends on where they stand in the list.

    data
        its file; empty where it is not written
    outline
        what is nested of it, where sheets are wanted
    """

    row: MadeRow
    data: bytes
    outline: Rings | None


def row_file(
    series: Series, workshop: Workshop, wanted: Wanted, number: int, cells: Sequence[str]
) -> RowFile:
    """A row made, and its file written; for sheets, its outline instead."""
    made, work = made_row(series, workshop, number, cells)
    if work is None or not (made.fits or wanted.anyway):
        return RowFile(made, b"", None)
    if wanted.sheet is not None:
        return RowFile(made, b"", _outline(work))
    write = every_format().get(wanted.format) or every_file()[wanted.format]
    return RowFile(made, write(work), None)


def _outline(work: Workpiece) -> Rings:
    area = area_within(work.layout.blank)
    outline = area if not area.is_empty else Region.box(work.layout.bounds())
    return outline.simplified(_ROUGH).rings


def sheet_file(
    workshop: Workshop,
    wanted: Wanted,
    size: tuple[float, float],
    lie: Iterable[tuple[Series, Sequence[str], Matrices]],
) -> bytes:
    """A sheet written: its rows, each where it lies, are laid out and made once more.

    size
        its width and height, mm
    """
    lying = list(lie)
    works = [(workshop.in_passing(one.piece(cells)), matrix) for one, cells, matrix in lying]
    pattern = lying[0][0].pattern.piece
    if wanted.format == "3mf":
        from ulvent.formats.threemf_writing import PlatePart, threemf

        plate = [PlatePart(_named(work), matrix) for work, matrix in works]
        return threemf(pattern.title or UNTITLED, plate)
    if wanted.format in STITCHES:
        sewn = together([(work.embroidery, matrix) for work, matrix in works])
        return THREAD_FORMATS[wanted.format].write(sewn)
    parts = [SheetPart(work.piece.title, work.groups, matrix) for work, matrix in works]
    return sheet_svg(pattern.title or UNTITLED, size, parts, pattern)


def _named(work: Workpiece) -> list[Mesh]:
    """The meshes of a flat part, under its own words."""
    if work.piece.blank is not None and work.piece.blank.kind in _ROUND:
        raise wrong_field("blank", "is round: only flat parts lie on a plate")
    title = work.piece.title
    return [replace(mesh, name=f"{title} {mesh.name}") for mesh in work.solid.meshes]
