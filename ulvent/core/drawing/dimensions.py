"""Dimensions: the figures that are drawn on a piece and typed into it.

Each names the field that it shows, and the two points, mm, between which its line is
drawn. What is drawn between them is the screen's business.
"""

from __future__ import annotations

from collections.abc import Container, Iterable
from dataclasses import replace
from typing import Literal

import numpy as np
from pydantic import BaseModel

from ulvent.core.base.arrays import Point
from ulvent.core.base.inputs import Unit
from ulvent.core.curves.segments import as_point
from ulvent.core.guides.blanks import BLANKS
from ulvent.core.guides.frame import to_piece
from ulvent.core.guides.kind import DrawnFigure, KeptOff, Made
from ulvent.core.guides.kinds import kind_of
from ulvent.core.guides.scaling import real_figures
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.setting import Setting
from ulvent.core.setting.letters.touch import touch_height
from ulvent.core.stances import STANCES


class Dimension(BaseModel):
    """A figure on the drawing.

    owner, field
        id of the guide or lettering it belongs to, nothing for the blank, and the field
        of it that typing sets
    label, sign, unit
        what it is in words, the sign before the figure, and its unit
    start, end, at
        its line, and the share of it at which the figure stands; a point where the two
        are the same, with the figure beside it
    solved
        whether a fit has found it
    off
        how its line is kept off letters
    """

    of: Literal["blank", "guide", "lettering"]
    owner: str
    field: str
    label: str
    sign: str
    unit: Unit
    value: float
    start: Point
    end: Point
    at: float = 0.5
    solved: bool = False
    off: KeptOff = "left"


def dimensions(layout: Layout) -> list[Dimension]:
    """All dimensions of a laid-out piece: blank, guides, letterings."""
    blank, settings = layout.piece.blank, layout.settings
    found = _each("blank", "", BLANKS[blank.kind].drawn(blank) if blank else ())
    laid = {guide.recipe.id: guide for guide in layout.guides}
    for guide in layout.shown_guides:
        fits = [one.fitted for one in settings if one.lettering.guide == guide.recipe.id]
        solved = {figure for fit in fits if fit for figure in fit.guide_figures}
        if "scaled" in solved:
            solved.update(type(guide.recipe).model_fields)
        found += _each("guide", guide.recipe.id, _of_guide(guide, laid), solved)
    for setting in settings:
        fitted = setting.fitted.figures if setting.fitted else {}
        # They stand beside their letter already.
        beside = [replace(one, off="left") for one in _of_lettering(setting)]
        found += _each("lettering", setting.lettering.id, beside, fitted)
    return found


def _each(
    of: Literal["blank", "guide", "lettering"],
    owner: str,
    figures: Iterable[DrawnFigure],
    solved: Container[str] = (),
) -> list[Dimension]:
    return [
        Dimension(of=of, owner=owner, solved=figure.field in solved, **vars(figure))
        for figure in figures
    ]


def _of_guide(guide: LaidGuide, laid: dict[str, LaidGuide]) -> list[DrawnFigure]:
    recipe = real_figures(guide.recipe)
    kind = kind_of(recipe)
    if kind.drawn_on is not None:
        bases = tuple(laid[name].curve for name in recipe.leans_on)
        return kind.drawn_on(recipe, Made(guide.curve, bases))
    return [
        replace(one, start=to_piece(recipe, one.start), end=to_piece(recipe, one.end))
        for one in kind.drawn(recipe)
    ]


_MEASURES = {
    "capital": "Height of capitals",
    "x-height": "Height of a small x",
    "ascender": "Height from descender to ascender",
    "type": "Type size",
}


def _of_lettering(setting: Setting) -> list[DrawnFigure]:
    """The height, and the standoff where there is one, just before the first letter."""
    lettering, metrics = setting.lettering, setting.face.metrics
    if setting.line > 0 or not STANCES[lettering.shape].side_by_side or lettering.dial is not None:
        return []
    frame = setting.baseline.frames(setting.start - 0.6 * setting.capital)
    foot, up = frame.points[0], frame.normals[0]
    solved = setting.fitted.figures if setting.fitted else {}
    deep = lettering.measured in ("ascender", "type")
    low = foot + up * (setting.scale * metrics.descender if deep else 0.0)
    figures = [
        DrawnFigure(
            "height",
            _MEASURES[lettering.measured],
            "↕ ",
            lettering.height,
            as_point(low),
            as_point(low + up * lettering.height),
            0.5,
        )
    ]
    if "tracking" in solved:
        figures.append(_solved_gap(setting))
    if "end_height" in solved:
        figures.append(_end_height(setting, solved["end_height"]))
    if lettering.standoff != 0.0:
        touch = setting.scale * touch_height(lettering.touch, metrics)
        touching = foot + up * touch
        figures.append(
            DrawnFigure(
                "standoff",
                "Standoff from the guide",
                "⇲ ",
                lettering.standoff,
                as_point(touching - up * lettering.standoff),
                as_point(touching),
                0.5,
            )
        )
    return figures


def _solved_gap(setting: Setting) -> DrawnFigure:
    """The tracking that fills, over the first gap."""
    pair = setting.middles[:2]
    frame = setting.baseline.frames(np.array([pair.mean()]))
    above = frame.points[0] + frame.normals[0] * 1.25 * setting.capital
    half = frame.tangents[0] * abs(setting.lettering.tracking) / 2.0
    return DrawnFigure(
        "tracking",
        "Added to every gap",
        "↔ ",
        setting.lettering.tracking,
        as_point(above - half),
        as_point(above + half),
        0.5,
    )


def _end_height(setting: Setting, height: float) -> DrawnFigure:
    """The height of the last letter, after it."""
    frame = setting.baseline.frames(setting.end + 0.6 * height)
    foot, up = frame.points[0], frame.normals[0]
    top = as_point(foot + up * height)
    low = as_point(foot)
    return DrawnFigure("end_height", "Height at the end", "↕ ", height, low, top, 0.5)
