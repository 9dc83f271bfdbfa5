"""PDF at true size: each track in its colour, what each pass is, and a bar to check by.

On one page as large as it needs, or on tiles of paper that overlap, with marks to lay them by.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from io import BytesIO
from typing import NamedTuple

from reportlab.pdfgen.canvas import Canvas

from ulvent.core.base.errors import wrong_field
from ulvent.core.base.figures import MM_IN
from ulvent.core.recipe.run_sheet import PAPERS
from ulvent.core.runs import Run
from ulvent.core.runs.few_moves import once_each, thinned

MARGIN, BAR = 10.0, 100.0
OVERLAP = 10.0
"""mm that tiles have in common."""
_ROW = 3.5
"""mm that rows of words are apart."""
LINE = 0.1
LARGEST = 5080.0
"""mm: 14,400 points, the largest page, by Annex C of ISO 32000-1, from memory."""
MOST_TILES = 200
_OFF = 0.001
_FONT, _TYPE = "Helvetica", 8.0
_POINTS_A_MM = 72.0 / MM_IN["in"]
_CROSS = 3.0


class _Tile(NamedTuple):
    """One page of several: what of the run it shows, mm, and what it is called."""

    x: float
    y: float
    width: float
    height: float
    title: str


def write_pdf(run: Run) -> bytes:
    """A run as PDF, always the same bytes for the same run."""
    target = BytesIO()
    page = Canvas(target, invariant=1, pageCompression=1)
    page.setTitle("Run")
    page.setCreator("Ulvent")
    if run.sheet.paper == "one":
        _one_page(page, run)
    else:
        _tiles(page, run)
    page.save()
    return target.getvalue()


def _one_page(page: Canvas, run: Run) -> None:
    x0, y0, x1, y1 = run.frame
    width = max(x1 - x0, BAR) + 2.0 * MARGIN
    height = y1 - y0 + 3.0 * MARGIN + _ROW * len(run.passes)
    if max(width, height) > LARGEST:
        reason = (
            f"makes a page of {max(width, height):.0f} mm; a PDF has at most {LARGEST:.0f} mm: "
            "tiles would do"
        )
        raise wrong_field("run.paper", reason)
    begin_page(page, width, height)
    page.saveState()
    page.translate(MARGIN - x0, 2.0 * MARGIN + _ROW * len(run.passes) - y0)
    _draw(page, run)
    page.restoreState()
    check_bar(page, MARGIN)
    # Lines stay whole, since some machines take them from here; so passes are told by words too.
    for row, one in enumerate(run.passes):
        page.setFillColor(one.colour)
        words = f"{one.tool.letter}{one.number}  {one.title}, {one.tool.title.lower()}"
        page.drawString(MARGIN + 2.0, MARGIN + 1.5 + _ROW * (len(run.passes) - 1 - row), words)
    page.showPage()


def _tiles(page: Canvas, run: Run) -> None:
    width, height = PAPERS[run.sheet.paper]
    for tile in _tiles_of(run, width - 2.0 * MARGIN, height - 2.0 * MARGIN):
        begin_page(page, width, height)
        page.saveState()
        page.translate(MARGIN - tile.x, MARGIN - tile.y)
        path = page.beginPath()
        path.rect(tile.x, tile.y, tile.width, tile.height)
        page.saveState()
        page.clipPath(path, stroke=0)
        _draw(page, run)
        page.restoreState()
        _marks(page, tile)
        page.restoreState()
        check_bar(page, MARGIN - 3.0)
        page.drawRightString(width - MARGIN, MARGIN - 7.0, tile.title)
        page.showPage()


def _tiles_of(run: Run, width: float, height: float) -> Iterator[_Tile]:
    x0, y0, x1, y1 = run.frame
    columns = max(1, math.ceil((x1 - x0 - OVERLAP) / (width - OVERLAP)))
    rows = max(1, math.ceil((y1 - y0 - OVERLAP) / (height - OVERLAP)))
    if columns * rows > MOST_TILES:
        raise wrong_field("run.paper", f"makes {columns * rows} pages; at most {MOST_TILES}")
    for row in range(rows):
        for column in range(columns):
            title = f"row {row + 1} of {rows} from below, column {column + 1} of {columns}"
            x, y = x0 + column * (width - OVERLAP), y0 + row * (height - OVERLAP)
            yield _Tile(x, y, width, height, title)


def _marks(page: Canvas, tile: _Tile) -> None:
    """Crosses in the middle of what tiles have in common: those of neighbours lie on each other."""
    page.setStrokeColorRGB(0.0, 0.0, 0.0)
    page.setLineWidth(LINE)
    half = OVERLAP / 2.0
    for x in (tile.x + half, tile.x + tile.width - half):
        for y in (tile.y + half, tile.y + tile.height - half):
            page.line(x - _CROSS, y, x + _CROSS, y)
            page.line(x, y - _CROSS, x, y + _CROSS)


def begin_page(page: Canvas, width: float, height: float) -> None:
    page.setPageSize((width * _POINTS_A_MM, height * _POINTS_A_MM))
    page.scale(_POINTS_A_MM, _POINTS_A_MM)


def _draw(page: Canvas, run: Run) -> None:
    page.setLineWidth(LINE)
    page.setLineJoin(1)
    few = once_each(lambda points: thinned(points, _OFF).tolist())
    for one in run.passes:
        page.setStrokeColor(one.colour)
        for track in one.tracks:
            draw_line(page, few(track.points))


def draw_line(page: Canvas, points: Sequence[Sequence[float]]) -> None:
    """A line through points."""
    path = page.beginPath()
    first, *rest = points
    path.moveTo(*first)
    for point in rest:
        path.lineTo(*point)
    page.drawPath(path)


def check_bar(page: Canvas, y: float, before: str = "you cut") -> None:
    """A bar that must measure 100 mm on paper, before something is done."""
    page.setStrokeColorRGB(0.0, 0.0, 0.0)
    page.setFillColorRGB(0.0, 0.0, 0.0)
    page.setLineWidth(0.2)
    page.line(MARGIN, y, MARGIN + BAR, y)
    for x in (MARGIN, MARGIN + BAR):
        page.line(x, y - 2.0, x, y + 2.0)
    page.setFont(_FONT, _TYPE / _POINTS_A_MM)
    page.drawString(MARGIN + 2.0, y - 4.0, f"100 mm: measure it before {before}")
