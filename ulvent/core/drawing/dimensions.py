"""Dimensions: the figures that are drawn on a piece and typed into it.

Each names the field that it shows, and the two points, mm, between which its line is
drawn. What is drawn between them is the screen's business.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Literal

import numpy as np
from pydantic import BaseModel

from ulvent.core.base.arrays import Point
from ulvent.core.curves import nearest
from ulvent.core.curves.segments import as_point
from ulvent.core.guides.kinds import circle_diameter, spiral_extent
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.recipe.recipes import (
    AnyBlank,
    ArcGuide,
    ArchGuide,
    BannerBlank,
    BetweenGuide,
    CircleGuide,
    DiscBlank,
    EllipseGuide,
    GrowingSpiralGuide,
    LineGuide,
    ParallelGuide,
    PolygonGuide,
    RectangleBlank,
    RectangleGuide,
    RingBlank,
    SpiralGuide,
    StarGuide,
    SuperellipseGuide,
    TagBlank,
    WaveGuide,
)
from ulvent.core.setting import Setting
from ulvent.core.setting.letters.touch import touch_height

Unit = Literal["mm", "°", "×", "%", ""]


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


class _Figure(BaseModel):
    """A dimension in its owner's own frame."""

    field: str
    label: str
    sign: str
    value: float
    start: Point
    end: Point
    at: float = 0.5
    unit: Unit = "mm"
    solved: bool = False


def dimensions(layout: Layout) -> list[Dimension]:
    """All dimensions of a laid-out piece: blank, guides, letterings."""
    found: list[Dimension] = []
    if layout.piece.blank is not None:
        found.extend(
            Dimension(of="blank", owner="", **figure.model_dump())
            for figure in _blank_figures(layout.piece.blank)
        )
    curves = {guide.recipe.id: guide for guide in layout.guides}
    solved = {
        (setting.lettering.guide, figure)
        for setting in layout.settings
        if setting.fitted
        for figure in setting.fitted.guide_figures
    }
    for guide in layout.shown_guides:
        found.extend(
            one.model_copy(update={"solved": (one.owner, one.field) in solved})
            for one in _of_guide(guide, curves)
        )
    for setting in layout.settings:
        found.extend(_of_lettering(setting))
    return found


_ASIDE = 0.3
"""A figure stands on its line where it leaves the middle free, which is a grip's place."""


def _line(
    field: str,
    label: str,
    sign: str,
    value: float,
    start: Point,
    end: Point,
    at: float = _ASIDE,
    solved: bool = False,
) -> _Figure:
    return _Figure(
        field=field, label=label, sign=sign, value=value, start=start, end=end, at=at, solved=solved
    )


def _beside(
    field: str, label: str, sign: str, value: float, where: Point, unit: Unit = "mm"
) -> _Figure:
    return _Figure(
        field=field, label=label, sign=sign, value=value, start=where, end=where, unit=unit
    )


def _box(width: float, height: float) -> list[_Figure]:
    """Width and height across the middle, their figures apart."""
    return [
        _line("width", "Width", "↔ ", width, (-width / 2, 0.0), (width / 2, 0.0)),
        _line("height", "Height", "↕ ", height, (0.0, -height / 2), (0.0, height / 2)),
    ]


# ------------------------------------------------------------------------ blank


def _blank_figures(blank: AnyBlank) -> list[_Figure]:
    if isinstance(blank, DiscBlank):
        rim = _around(blank.diameter / 2.0, -20.0)
        return [_beside("diameter", "Diameter of the blank", "⌀ ", blank.diameter, rim)]
    if isinstance(blank, RingBlank):
        outer, inner = _around(blank.outer / 2.0, -20.0), _around(blank.inner / 2.0, -40.0)
        return [
            _beside("outer", "Outer diameter of the blank", "⌀ ", blank.outer, outer),
            _beside("inner", "Inner diameter of the blank", "⌀ ", blank.inner, inner),
        ]
    if isinstance(blank, RectangleBlank | BannerBlank | TagBlank):
        x, y = blank.width / 2.0, blank.height / 2.0
        drop = blank.rise / 2.0 if isinstance(blank, BannerBlank) else 0.0
        return [
            _beside("width", "Width of the blank", "↔ ", blank.width, (0.35 * x, -y - drop)),
            _beside("height", "Height of the blank", "↕ ", blank.height, (x, -0.4 * y - drop)),
        ]
    return []


# ----------------------------------------------------------------------- guides


def _of_guide(guide: LaidGuide, others: dict[str, LaidGuide]) -> list[Dimension]:
    recipe = guide.recipe
    if isinstance(recipe, ParallelGuide):
        return [_parallel(guide, others[recipe.guide])]
    if isinstance(recipe, BetweenGuide):
        middle = as_point(guide.curve.points(guide.curve.length / 2.0)[0])
        figure = _beside("share", "Share of the way between", "", recipe.share, middle, "%")
        return [_dimension(recipe.id, figure)]
    make: Callable[..., list[_Figure]] | None = _FIGURES.get(type(recipe))
    figures = make(recipe) if make else []
    angle, (x, y) = math.radians(recipe.turned), recipe.centre
    cos, sin = recipe.scaled * math.cos(angle), recipe.scaled * math.sin(angle)

    def placed(point: Point) -> Point:
        return (x + cos * point[0] - sin * point[1], y + sin * point[0] + cos * point[1])

    return [
        _dimension(
            recipe.id,
            figure.model_copy(update={"start": placed(figure.start), "end": placed(figure.end)}),
        )
        for figure in figures
    ]


def _dimension(owner: str, figure: _Figure) -> Dimension:
    return Dimension(of="guide", owner=owner, **figure.model_dump())


def _parallel(guide: LaidGuide, base: LaidGuide) -> Dimension:
    middle = guide.curve.points(guide.curve.length / 2.0)
    foot = base.curve.points(nearest(base.curve, middle))[0]
    recipe = guide.recipe
    assert isinstance(recipe, ParallelGuide)
    figure = _line(
        "distance",
        "Distance of the parallel",
        "⇲ ",
        recipe.distance,
        as_point(foot),
        as_point(middle[0]),
    )
    return _dimension(recipe.id, figure)


def _circle(guide: CircleGuide) -> list[_Figure]:
    radius = circle_diameter(guide) / 2.0
    if guide.radius is not None:
        return [_line("radius", "Radius", "R ", radius, (0.0, 0.0), (radius, 0.0))]
    if guide.round is not None:
        return [_beside("round", "Length round", "○ ", guide.round, _around(radius, -35.0))]
    assert guide.diameter is not None
    return [
        _line(
            "diameter", "Diameter of the guide", "⌀ ", guide.diameter, (-radius, 0.0), (radius, 0.0)
        )
    ]


def _arc(guide: ArcGuide) -> list[_Figure]:
    up = 1.0 if guide.side == "top" else -1.0
    end = _around(guide.radius, 90.0 * up + guide.angle / 2.0)
    return [
        _line("radius", "Radius", "R ", guide.radius, (0.0, 0.0), (0.0, up * guide.radius)),
        _line("angle", "Angle of the arc", "∠ ", guide.angle, (0.0, 0.0), end).model_copy(
            update={"unit": "°"}
        ),
    ]


def _arch(guide: ArchGuide) -> list[_Figure]:
    half = guide.chord / 2.0
    return [
        _line("chord", "Chord", "↔ ", guide.chord, (-half, 0.0), (half, 0.0), 0.25),
        _line("rise", "Rise", "↕ ", guide.rise, (0.0, 0.0), (0.0, guide.rise)),
    ]


def _ellipse(guide: EllipseGuide) -> list[_Figure]:
    figures = _box(guide.width, guide.height)
    if guide.angle < 360.0:
        end = _around(guide.width / 2.0, guide.start)
        figures.append(_beside("angle", "Angle of the arc", "∠ ", guide.angle, end, "°"))
    return figures


def _straight(guide: LineGuide) -> list[_Figure]:
    half = guide.length / 2.0
    return [_line("length", "Length", "↔ ", guide.length, (-half, 0.0), (half, 0.0))]


def _wave(guide: WaveGuide) -> list[_Figure]:
    begin, up = -guide.length * guide.waves / 2.0, guide.height / 2.0
    end = min(begin + guide.length, -begin)
    low = -1.35 * up
    return [
        _line("length", "Length of a wave", "↔ ", guide.length, (begin, low), (end, low)),
        _line("height", "Height, valley to crest", "↕ ", guide.height, (0.0, -up), (0.0, up)),
        _beside("waves", "Number of waves", "n ", guide.waves, (-begin, low), ""),
    ]


def _spiral(guide: SpiralGuide) -> list[_Figure]:
    gain, turns = spiral_extent(guide)
    first = guide.start_radius if guide.start_radius is not None else (guide.inner or 0.0) / 2.0
    last = first + gain * turns
    figures = [_start_of_spiral(guide, first)]
    along = _around(1.0, guide.start)
    if guide.outer is not None:
        figures.append(
            _line("outer", "Outer diameter", "⌀ ", guide.outer, (-last, 0.0), (last, 0.0), 0.8)
        )
    if guide.gain is not None:
        begin, end = max(last - gain, 0.0), last
        figures.append(
            _line("gain", "Gain a turn", "⇥ ", gain, _times(along, begin), _times(along, end))
        )
    if guide.turns is not None:
        where = _around(last, -35.0)
        figures.append(_beside("turns", "Number of turns", "n ", guide.turns, where, ""))
    if guide.length is not None:
        figures.append(_beside("length", "Length", "⌇ ", guide.length, _around(last, -60.0)))
    return figures


def _growing_spiral(guide: GrowingSpiralGuide) -> list[_Figure]:
    first = guide.start_radius if guide.start_radius is not None else (guide.inner or 0.0) / 2.0
    figures = [
        _start_of_spiral(guide, first),
        _beside("growth", "Growth a turn", "× ", guide.growth, _around(2.0 * first, -30.0), "×"),
    ]
    if guide.outer is not None:
        last = guide.outer / 2.0
        figures.append(
            _line("outer", "Outer diameter", "⌀ ", guide.outer, (-last, 0.0), (last, 0.0), 0.8)
        )
    for field, label, sign, value, unit in (
        ("turns", "Number of turns", "n ", guide.turns, ""),
        ("length", "Length", "⌇ ", guide.length, "mm"),
    ):
        if value is not None:
            where = _around(2.0 * first, -75.0)
            figures.append(
                _Figure(
                    field=field,
                    label=label,
                    sign=sign,
                    value=value,
                    unit=unit,
                    start=where,
                    end=where,
                )
            )
    return figures


def _start_of_spiral(guide: SpiralGuide | GrowingSpiralGuide, first: float) -> _Figure:
    if guide.start_radius is not None:
        return _line(
            "start_radius", "Radius of the start", "R ", first, (0.0, 0.0), _around(first, -90.0)
        )
    return _line("inner", "Inner diameter", "⌀ ", 2.0 * first, (-first, 0.0), (first, 0.0))


def _rectangle(guide: RectangleGuide) -> list[_Figure]:
    x, y, r = guide.width / 2.0, guide.height / 2.0, guide.radius
    corner = (x - r * (1 - math.sqrt(0.5)), y - r * (1 - math.sqrt(0.5)))
    return [
        *_box(guide.width, guide.height),
        _beside("radius", "Radius of the corners", "R ", r, corner),
    ]


def _polygon(guide: PolygonGuide) -> list[_Figure]:
    half = guide.across / 2.0
    return [
        _line(
            "across", "Circle through the corners", "⌀ ", guide.across, (-half, 0.0), (half, 0.0)
        ),
        _beside("radius", "Radius of the corners", "R ", guide.radius, _around(half, 30.0)),
    ]


def _star(guide: StarGuide) -> list[_Figure]:
    inner, outer = guide.inner / 2.0, guide.outer / 2.0
    return [
        _line("outer", "Circle of the tips", "⌀ ", guide.outer, (0.0, -outer), (0.0, outer), 0.15),
        _line("inner", "Circle of the valleys", "⌀ ", guide.inner, (-inner, 0.0), (inner, 0.0)),
        _beside("tip_radius", "Radius of the tips", "R ", guide.tip_radius, _around(outer, 60.0)),
        _beside(
            "valley_radius",
            "Radius of the valleys",
            "R ",
            guide.valley_radius,
            _around(outer, 20.0),
        ),
    ]


def _superellipse(guide: SuperellipseGuide) -> list[_Figure]:
    where = _around(min(guide.width, guide.height) / 2.0, 40.0)
    return [
        *_box(guide.width, guide.height),
        _beside("exponent", "Exponent", "ⁿ ", guide.exponent, where, ""),
    ]


_FIGURES: dict[type, Callable[..., list[_Figure]]] = {
    CircleGuide: _circle,
    ArcGuide: _arc,
    ArchGuide: _arch,
    EllipseGuide: _ellipse,
    LineGuide: _straight,
    WaveGuide: _wave,
    SpiralGuide: _spiral,
    GrowingSpiralGuide: _growing_spiral,
    RectangleGuide: _rectangle,
    PolygonGuide: _polygon,
    StarGuide: _star,
    SuperellipseGuide: _superellipse,
}


# -------------------------------------------------------------------- letterings


_MEASURES = {
    "capital": "Height of capitals",
    "x-height": "Height of a small x",
    "ascender": "Height from descender to ascender",
    "type": "Type size",
}


def _of_lettering(setting: Setting) -> list[Dimension]:
    """The height, and the standoff where there is one, just before the first letter."""
    lettering, metrics = setting.lettering, setting.face.metrics
    if setting.line > 0 or lettering.shape.startswith("stacked") or lettering.dial is not None:
        return []
    frame = setting.baseline.frames(setting.start - 0.6 * setting.capital)
    foot, up = frame.points[0], frame.normals[0]
    solved = setting.fitted.figures if setting.fitted else {}
    deep = lettering.measured in ("ascender", "type")
    low = foot + up * (setting.scale * metrics.descender if deep else 0.0)
    figures = [
        _line(
            "height",
            _MEASURES[lettering.measured],
            "↕ ",
            lettering.height,
            as_point(low),
            as_point(low + up * lettering.height),
            0.5,
            "height" in solved,
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
            _line(
                "standoff",
                "Standoff from the guide",
                "⇲ ",
                lettering.standoff,
                as_point(touching - up * lettering.standoff),
                as_point(touching),
                0.5,
            )
        )
    return [
        Dimension(of="lettering", owner=lettering.id, **figure.model_dump()) for figure in figures
    ]


def _solved_gap(setting: Setting) -> _Figure:
    """The tracking that fills, over the first gap."""
    pair = setting.middles[:2]
    frame = setting.baseline.frames(np.array([pair.mean()]))
    above = frame.points[0] + frame.normals[0] * 1.25 * setting.capital
    half = frame.tangents[0] * abs(setting.lettering.tracking) / 2.0
    return _line(
        "tracking",
        "Added to every gap",
        "↔ ",
        setting.lettering.tracking,
        as_point(above - half),
        as_point(above + half),
        0.5,
        solved=True,
    )


def _end_height(setting: Setting, height: float) -> _Figure:
    """The height of the last letter, after it."""
    frame = setting.baseline.frames(setting.end + 0.6 * height)
    foot, up = frame.points[0], frame.normals[0]
    top = as_point(foot + up * height)
    low = as_point(foot)
    return _line("end_height", "Height at the end", "↕ ", height, low, top, 0.5, solved=True)


def _around(radius: float, degrees: float) -> Point:
    angle = math.radians(degrees)
    return (radius * math.cos(angle), radius * math.sin(angle))


def _times(point: Point, factor: float) -> Point:
    return (point[0] * factor, point[1] * factor)
