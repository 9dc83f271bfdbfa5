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
from ulvent.core.series.nested_sheets import Nested, Sheet, nested
from ulvent.core.series.part_marks import mark_lies, mark_piece, with_room
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
_LEAST_MARK = 0.5
UNTITLED = "Parts"
MOST_PARTS, MOST_ON_ROLL = 20_000, 2000
"""That are nested at once; that one file holds."""
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


def refuse_unmakeable(
    wanted: Wanted, rows: Sequence[tuple[int, Sequence[str]]], parts: int
) -> None:
    """Refuse what cannot be made of rows, by their numbers and cells, that come to so many parts.

    Raises
    ------
    PieceError
        At the field of what is wanted.
    """
    if wanted.sheet is None:
        alike = _named_alike(wanted, rows)
        if alike:
            raise wrong_field("name", alike)
        return
    if wanted.format not in SHEET_FORMATS:
        raise wrong_field("format", f"sheets are written as {' or '.join(SHEET_FORMATS)}")
    if 0.0 < wanted.sheet.mark < _LEAST_MARK:
        raise wrong_field("mark", f"must be {_LEAST_MARK} mm or more to be read; 0 leaves it out")
    if wanted.sheet.mark and wanted.format != "svg":
        raise wrong_field("mark", "parts are numbered on sheets of SVG; 0 leaves it out")
    most = MOST_ON_ROLL if wanted.sheet.roll else MOST_PARTS
    if parts > most:
        where = "one file holds" if wanted.sheet.roll else "there can be nested"
        raise wrong_field("sheets", f"the rows come to {parts} parts; {where} {most} at most")


def _named_alike(wanted: Wanted, rows: Sequence[tuple[int, Sequence[str]]]) -> str:
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


class LyingRow(NamedTuple):
    """A row on a sheet: what it is made with, its number and cells, and where it lies."""

    series: Series
    number: int
    cells: Sequence[str]
    matrix: Matrices


def nested_rows(outlines: Sequence[Region], numbers: Sequence[int], sheet: Sheet) -> Nested:
    """Rows laid on sheets, with room for their numbers where these are wanted."""
    digits = len(str(max(numbers, default=0)))
    return nested([with_room(one, sheet.mark, digits) for one in outlines], sheet)


def sheet_file(
    workshop: Workshop,
    wanted: Wanted,
    size: tuple[float, float],
    lie: Iterable[LyingRow],
) -> bytes:
    """A sheet written: its rows, each where it lies, are laid out and made once more.

    size
        its width and height, mm
    """
    lying = list(lie)
    pattern = lying[0].series.pattern.piece
    works = ((workshop.in_passing(one.series.piece(one.cells)), one) for one in lying)
    if wanted.format == "3mf":
        from ulvent.formats.threemf_writing import PlatePart, threemf

        plate = [PlatePart(_named(work), one.matrix) for work, one in works]
        return threemf(pattern.title or UNTITLED, plate)
    if wanted.format in STITCHES:
        sewn = together([(work.embroidery, one.matrix) for work, one in works])
        return THREAD_FORMATS[wanted.format].write(sewn)
    parts: list[SheetPart] = []
    marks: list[SheetPart] = []
    for work, one in works:
        parts.append(SheetPart(work.piece.title, work.groups, one.matrix))
        if wanted.sheet is not None and wanted.sheet.mark:
            mark = workshop.in_passing(mark_piece(one.number, wanted.sheet.mark))
            lies = mark_lies(Region.of_rings(_outline(work)), one.matrix)
            marks.append(SheetPart(f"number {one.number}", mark.groups, lies))
    return sheet_svg(pattern.title or UNTITLED, size, [*parts, *marks], pattern)


def _named(work: Workpiece) -> list[Mesh]:
    """The meshes of a flat part, under its own words."""
    if work.piece.blank is not None and work.piece.blank.kind in _ROUND:
        raise wrong_field("blank", "is round: only flat parts lie on a plate")
    title = work.piece.title
    return [replace(mesh, name=f"{title} {mesh.name}") for mesh in work.solid.meshes]
