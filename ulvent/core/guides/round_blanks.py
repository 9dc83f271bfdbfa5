"""Blanks that are the sides of round parts: cylinders and cones, bands, signets.

Their outlines are the sides laid flat: what is set on them has its true lengths.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from ulvent.core.base.fields import Model, Size, WrongRecipeError
from ulvent.core.base.figures import shown
from ulvent.core.curves import Chain, Curve, Line
from ulvent.core.curves.analytic import EllipseArc
from ulvent.core.curves.belt import belt_line
from ulvent.core.curves.placed import Placed
from ulvent.core.curves.section import stretch_of
from ulvent.core.guides.kind import DrawnFigure
from ulvent.core.guides.rounds import RoundSide
from ulvent.core.guides.shared_lines import closed_polyline

_APART = 4.0
"""mm between the head of a signet and its band, laid flat."""
_SIDES = 240
"""Chords that stand for the edge of a band whose width changes: off by less than is drawn."""


class SideBlank(Model):
    """The side of a cylinder or, with another diameter at the top, of a cone; it stands upright."""

    kind: Literal["side"]
    diameter: Size
    top: Size | None = None
    height: Size

    @property
    def round_side(self) -> RoundSide:
        low = self.diameter / 2.0
        high = (self.top or self.diameter) / 2.0
        slant = math.hypot(self.height, high - low)
        lean = math.degrees(math.asin((low - high) / slant))
        middle = (low + high) / 2.0
        return RoundSide(middle, middle, slant, slant, lean)


class BandBlank(Model):
    """The outside of a band for a finger, a stick or a napkin.

    inner
        diameter inside
    width, back_width
        at the front, and at the back where it is another
    thickness, back_thickness
        the same of its wall
    crown
        radius of its section outside, across the width; none: it is flat
    """

    kind: Literal["band"]
    inner: Size
    width: Size
    back_width: Size | None = None
    thickness: Size
    back_thickness: Size | None = None
    crown: Size | None = None

    @model_validator(mode="after")
    def _can_be_made(self) -> Self:
        widest = max(self.width, self.back_width or 0.0)
        if self.crown is not None:
            if self.crown < 0.5 * widest:
                reason = f"must be at least {widest / 2.0:g}, half the width"
                raise WrongRecipeError("crown", reason)
            fallen = self.crown - math.sqrt(self.crown**2 - widest**2 / 4.0)
            thinnest = min(self.thickness, self.back_thickness or self.thickness)
            if fallen >= thinnest:
                reason = f"takes {fallen:.2f} mm off the edges of a wall of {thinnest:g}"
                raise WrongRecipeError("crown", reason)
        return self

    @property
    def round_side(self) -> RoundSide:
        return _outside_of(self, (0.0, 0.0))


class SignetBlank(Model):
    """A signet ring: an oval head, flat, on a band whose outside lies below it when laid flat.

    head_width, head_height
        across the finger, and along it
    rise
        of the head's face above the outside of the band
    """

    kind: Literal["signet"]
    head_width: Size
    head_height: Size
    rise: Annotated[float, Field(ge=0.2, le=50.0, allow_inf_nan=False)] = 1.0
    inner: Size
    width: Size
    back_width: Size | None = None
    thickness: Size

    @model_validator(mode="after")
    def _head_fits(self) -> Self:
        widest = self.inner + 2.0 * self.thickness
        if self.head_width > widest:
            reason = f"must be at most {widest:g}, the outside of the band"
            raise WrongRecipeError("head_width", reason)
        return self

    @property
    def between(self) -> float:
        """The height of the flat drawing that lies between the head and the band, mm."""
        return -(self.head_height + _APART) / 2.0

    @property
    def round_side(self) -> RoundSide:
        middle = -(self.head_height / 2.0 + _APART + self.width / 2.0)
        return _outside_of(self, (0.0, middle))


RoundBlank = SideBlank | BandBlank | SignetBlank


def _outside_of(band: BandBlank | SignetBlank, middle: tuple[float, float]) -> RoundSide:
    front = band.inner / 2.0 + band.thickness
    back, crown = front, None
    if isinstance(band, BandBlank):
        back = band.inner / 2.0 + (band.back_thickness or band.thickness)
        crown = band.crown
    height, back_height = (
        _along_section(width, crown) for width in (band.width, band.back_width or band.width)
    )
    return RoundSide(front, back, height, back_height, 0.0, crown, middle)


def _along_section(width: float, crown: float | None) -> float:
    """Width along a crowned section, mm."""
    return width if crown is None else 2.0 * crown * math.asin(width / 2.0 / crown)


def round_outlines(blank: RoundBlank) -> tuple[Curve, ...]:
    """The side laid flat, cut open at the back; a signet's head comes first."""
    side = blank.round_side
    flat = _laid_flat(side)
    if not isinstance(blank, SignetBlank):
        return (flat,)
    head = EllipseArc((0.0, 0.0), blank.head_width / 2.0, blank.head_height / 2.0, 180.0, -360.0)
    return (head, Placed(flat, 1.0, 0.0, side.middle))


def _laid_flat(side: RoundSide) -> Curve:
    if side.slope:
        return _sector(side)
    half = side.girth(0.0) / 2.0
    if side.height == side.back_height:
        x, y = half, side.height / 2.0
        return closed_polyline([(-x, -y), (-x, y), (x, y), (x, -y)], "clockwise")
    angles = np.linspace(-math.pi, math.pi, _SIDES + 1)
    u = side.along(angles) - half
    v = side.height_at(angles) / 2.0
    upper = list(zip(u.tolist(), v.tolist(), strict=True))
    lower = list(zip(u[::-1].tolist(), (-v[::-1]).tolist(), strict=True))
    return closed_polyline([*upper, *lower], "clockwise")


def _sector(side: RoundSide) -> Curve:
    low, high = (
        Placed(belt_line(side.girth(v), side.lean), 1.0, 0.0, (0.0, v))
        for v in (-side.height / 2.0, side.height / 2.0)
    )
    lower, upper = (_open(one) for one in (low, high))
    corners = [one.points([0.0, one.length]).tolist() for one in (lower, upper)]
    (a, b), (c, d) = corners
    return Chain(
        [Line(tuple(a), tuple(c)), upper, Line(tuple(d), tuple(b)), lower.reversed()], closed=True
    )


def _open(belt: Placed) -> Curve:
    return stretch_of(belt, 0.0, belt.length)


def round_figures(blank: RoundBlank) -> list[DrawnFigure]:
    """What of a blank's size is drawn on its side."""
    side = blank.round_side
    half, (x, y) = side.girth(0.0) / 2.0, side.middle
    field, label = ("height", "Height of the side")
    if not isinstance(blank, SideBlank):
        field, label = ("width", "Width of the band")
    high, at = getattr(blank, field), x + 0.9 * half
    ends = ((at, y - high / 2.0), (at, y + high / 2.0))
    found = [DrawnFigure(field, label, "↕ ", high, *ends, 0.5)]
    below = (x, y - side.height / 2.0)
    field, label = (
        ("diameter", "Diameter of the blank")
        if isinstance(blank, SideBlank)
        else ("inner", "Inner diameter")
    )
    found.append(DrawnFigure(field, label, "⌀ ", getattr(blank, field), below, below, 0.5))
    if isinstance(blank, SignetBlank):
        a, b = blank.head_width / 2.0, blank.head_height / 2.0
        found += [
            DrawnFigure("head_width", "Width of the head", "↔ ", 2.0 * a, (-a, b), (a, b)),
            DrawnFigure("head_height", "Height of the head", "↕ ", 2.0 * b, (a, -b), (a, b)),
        ]
    return found


def round_words(blank: RoundBlank) -> str:
    """A blank in a few words, with its size."""
    if isinstance(blank, SideBlank):
        top = f" to {shown(blank.top)}" if blank.top and blank.top != blank.diameter else ""
        shape = "cone" if top else "cylinder"
        return f"side of a {shape} ⌀ {shown(blank.diameter)}{top} mm, {shown(blank.height)} high"
    if isinstance(blank, BandBlank):
        return f"band ⌀ {shown(blank.inner)} inside, {shown(blank.width)} mm wide"
    return f"signet ring ⌀ {shown(blank.inner)} inside"
