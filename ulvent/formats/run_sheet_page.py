"""The run sheet as a printed page: what to set at the machine, pass by pass, and what it takes."""

from __future__ import annotations

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
    sheet = run.sheet
    x0, y0, x1, y1 = run.frame
    corner = sheet.zero.replace("-", " ")
    story: list[Flowable] = [
        Paragraph("Run sheet", _TITLE),
        _said(
            f"{x1 - x0:.1f} × {y1 - y0:.1f} mm of sheet. The run begins at the piece's {corner}"
            f"{'' if sheet.zero == 'centre' else ' corner'}, which lies {sheet.at[0]:g} mm across "
            f"and {sheet.at[1]:g} mm up from the machine's zero."
        ),
    ]
    if sheet.mirrored:
        story.append(_said("Mirrored: it is cut from the back."))
    if sheet.rehearsal != "off":
        story.append(_said("A rehearsal: the tool stays up."))
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
    story += [Spacer(1, 5 * mm), table, Spacer(1, 4 * mm)]
    down, up = (sum(part) for part in zip((0.0, 0.0), *_lengths(run), strict=True))
    story.append(
        _said(f"In all {_time(run.seconds)}: {down / 1000:.2f} m down, {up / 1000:.2f} m up.")
    )
    for one in run.passes:
        if one.recipe.pause:
            story.append(_said(f"Before pass {one.number}: {one.recipe.pause}"))
    held = [recipe for recipe in sheet.passes if recipe.held]
    if held:
        names = ", ".join(recipe.name or recipe.id for recipe in held)
        story.append(_said(f"Held back for another time: {names}"))
    page.build(story)
    return target.getvalue()


def _lengths(run: Run) -> list[tuple[float, float]]:
    return [(one.drawn, one.idle) for one in run.passes]


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
