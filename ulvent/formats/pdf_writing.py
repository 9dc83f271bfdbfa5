"""PDF at true size: each track in its colour, what each pass is, and a bar to check by."""

from __future__ import annotations

from io import BytesIO

from reportlab.pdfgen.canvas import Canvas

from ulvent.core.base.errors import wrong_field
from ulvent.core.runs import Run
from ulvent.core.runs.few_moves import once_each, thinned

_MARGIN, _BAR, _ROW = 10.0, 100.0, 3.5
"""mm round what is drawn, the length of the bar, and how far rows of words are apart."""
_LINE = 0.1
_LARGEST = 5080.0
"""mm: 14,400 points, the largest page, by Annex C of ISO 32000-1, from memory."""
_OFF = 0.001
_FONT, _TYPE = "Helvetica", 8.0
_POINTS_A_MM = 72.0 / 25.4


def write_pdf(run: Run) -> bytes:
    """A run on one page as large as it needs, always the same bytes for the same run."""
    x0, y0, x1, y1 = run.frame
    width = max(x1 - x0, _BAR) + 2.0 * _MARGIN
    height = y1 - y0 + 3.0 * _MARGIN + _ROW * len(run.passes)
    if max(width, height) > _LARGEST:
        reason = f"makes a page of {max(width, height):.0f} mm; a PDF has at most {_LARGEST:.0f} mm"
        raise wrong_field("run", reason)
    target = BytesIO()
    page = Canvas(
        target, pagesize=(width * _POINTS_A_MM, height * _POINTS_A_MM), invariant=1,
        pageCompression=1,
    )  # fmt: skip
    page.setTitle("Run")
    page.setCreator("Ulvent")
    page.scale(_POINTS_A_MM, _POINTS_A_MM)
    page.saveState()
    page.translate(_MARGIN - x0, 2.0 * _MARGIN + _ROW * len(run.passes) - y0)
    page.setLineWidth(_LINE)
    page.setLineJoin(1)
    few = once_each(lambda points: thinned(points, _OFF).tolist())
    for one in run.passes:
        page.setStrokeColor(one.colour)
        for track in one.tracks:
            path = page.beginPath()
            first, *rest = few(track.points)
            path.moveTo(*first)
            for point in rest:
                path.lineTo(*point)
            page.drawPath(path)
    page.restoreState()
    _bar(page)
    # Lines stay whole, since some machines take them from here; so passes are told by words too.
    for row, one in enumerate(run.passes):
        page.setFillColor(one.colour)
        words = f"{one.tool.letter}{one.number}  {one.title}, {one.tool.title.lower()}"
        page.drawString(_MARGIN + 2.0, _MARGIN + 1.5 + _ROW * (len(run.passes) - 1 - row), words)
    page.showPage()
    page.save()
    return target.getvalue()


def _bar(page: Canvas) -> None:
    """A bar that must measure 100 mm on paper."""
    page.setStrokeColorRGB(0.0, 0.0, 0.0)
    page.setLineWidth(0.2)
    y = _MARGIN
    page.line(_MARGIN, y, _MARGIN + _BAR, y)
    for x in (_MARGIN, _MARGIN + _BAR):
        page.line(x, y - 2.0, x, y + 2.0)
    page.setFont(_FONT, _TYPE / _POINTS_A_MM)
    page.drawString(_MARGIN + 2.0, y - 4.0, "100 mm: measure it before you cut")
