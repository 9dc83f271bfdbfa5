"""The run sheet as a printed page: what to set at the machine, pass by pass, and what it takes."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape
from io import BytesIO
from typing import Any

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from ulvent.core.runs import PassRun, Run

_TITLE = ParagraphStyle("title", fontName="Helvetica-Bold", fontSize=15, leading=20)
_WORDS = ParagraphStyle("words", fontName="Helvetica", fontSize=9, leading=12)
_HEADS = ("", "Pass", "Tool", "Speed", "Power, depth", "Lines", "Tool down", "Up", "Takes")
_WIDTHS = (11, 37, 25, 18, 24, 15, 19, 17, 20)
_LINE = HexColor("#8d8570")


def write_run_sheet(run: Run) -> bytes:
    """A run sheet on A4, always the same bytes for the same run."""
    target = BytesIO()
    page = SimpleDocTemplate(
        target, pagesize=A4, leftMargin=12 * mm, rightMargin=12 * mm, topMargin=14 * mm,
        bottomMargin=14 * mm, title="Run sheet", creator="Ulvent", invariant=1,
    )  # fmt: skip
    page.build([Paragraph("Run sheet", _TITLE), *_lying(run), _table(run), *_notes(run)])
    return target.getvalue()


def _lying(run: Run) -> Iterator[Flowable]:
    """How it lies, and whether it is anything else than a plain run."""
    sheet, (width, height) = run.sheet, run.takes
    corner = sheet.zero.replace("-", " ") + ("" if sheet.zero == "centre" else " corner")
    yield _said(
        f"{width:.1f} × {height:.1f} mm of sheet. The run begins at the piece's {corner}, which "
        f"lies {sheet.at[0]:g} mm across and {sheet.at[1]:g} mm up from the machine's zero."
    )
    if sheet.mirrored:
        yield _said("Mirrored: it is cut from the back.")
    if sheet.rehearsal != "off":
        yield _said("A rehearsal: the tool stays up.")
    yield Spacer(1, 5 * mm)


def _table(run: Run) -> Table:
    rows: list[list[Any]] = [list(_HEADS), *(_row(one) for one in run.passes)]
    table = Table(rows, colWidths=[width * mm for width in _WIDTHS], repeatRows=1)
    table.setStyle(
        TableStyle(
            [
                ("FONT", (0, 0), (-1, 0), "Helvetica-Bold", 8),
                ("FONT", (0, 1), (-1, -1), "Helvetica", 8.5),
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, _LINE),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ]
        )
    )
    return table


def _notes(run: Run) -> Iterator[Flowable]:
    """All of it together, what is asked for, and what waits."""
    yield Spacer(1, 4 * mm)
    down = sum(one.drawn for one in run.passes) / 1000.0
    up = sum(one.idle for one in run.passes) / 1000.0
    yield _said(f"In all {_time(run.seconds)}: {down:.2f} m down, {up:.2f} m up.")
    for one in run.passes:
        if one.recipe.pause:
            yield _said(f"Before pass {one.number}: {one.recipe.pause}")
    held = [recipe.name or recipe.id for recipe in run.sheet.passes if recipe.held]
    if held:
        yield _said(f"Held back for another time: {', '.join(held)}")


def _row(one: PassRun) -> list[Any]:
    recipe = one.recipe
    figures = []
    if one.tool.way == "power":
        figures.append(f"{one.power:g} %")
    if one.tool.way == "depth":
        step = f", {recipe.step:g} a round" if recipe.step else ""
        figures.append(f"{one.depth:g} mm{step}")
    if recipe.repeats > 1:
        figures.append(f"{recipe.repeats} times")
    return [
        f"{one.tool.letter}{one.number}",
        _said(one.title),
        _said(one.tool.title),
        f"{one.speed:g} mm/s",
        _said(", ".join(figures)),
        str(len(one.names)),
        f"{one.drawn / 1000:.2f} m",
        f"{one.idle / 1000:.2f} m",
        _time(one.seconds),
    ]


def _said(words: str) -> Paragraph:
    """Words on the page. Its own letters have no others than Latin ones: those are told apart."""
    plain = words.encode("latin-1", "replace").decode("latin-1")
    return Paragraph(escape(plain), _WORDS)


def _time(seconds: float) -> str:
    whole = round(seconds)
    return f"{whole // 60} min {whole % 60:02} s" if whole >= 60 else f"{whole} s"
