"""Dimensions: the figures that are drawn on a piece and typed into it.

Each names the field of the piece that it shows, and the two points, mm, between
which its line is drawn. What is drawn between them is the screen's business.
"""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import BaseModel

from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.piece import CircleGuide
from ulvent.core.setting import Setting
from ulvent.core.setting.touch import touch_height

Point = tuple[float, float]


class Dimension(BaseModel):
    """A figure on the drawing.

    owner
        id of the guide or lettering it belongs to; empty for the blank
    field
        the field of its owner that typing into it sets
    """

    kind: Literal["diameter", "height", "standoff", "blank-diameter"]
    owner: str
    field: str
    value: float
    start: Point
    end: Point


def dimensions(layout: Layout) -> list[Dimension]:
    """All dimensions of a laid-out piece: blank, guides, letterings."""
    found: list[Dimension] = []
    blank = layout.piece.blank
    if blank is not None:
        found.append(
            Dimension(
                kind="blank-diameter",
                owner="",
                field="diameter",
                value=blank.diameter,
                start=(0.0, 0.0),
                end=_at_angle(blank.diameter / 2.0, -20.0),
            )
        )
    found.extend(
        _diameter(guide) for guide in layout.guides if isinstance(guide.recipe, CircleGuide)
    )
    for setting in layout.settings:
        found.extend(_of_lettering(setting))
    return found


def _diameter(guide: LaidGuide) -> Dimension:
    recipe = guide.recipe
    assert isinstance(recipe, CircleGuide)
    (x, y), radius = recipe.centre, recipe.diameter / 2.0
    return Dimension(
        kind="diameter",
        owner=recipe.id,
        field="diameter",
        value=recipe.diameter,
        start=(x - radius, y),
        end=(x + radius, y),
    )


def _of_lettering(setting: Setting) -> list[Dimension]:
    """The height of capitals, and the standoff where there is one, just before the first letter."""
    lettering = setting.lettering
    before = setting.start - 0.6 * lettering.height
    frame = setting.baseline.frames(before)
    foot, up = frame.points[0], frame.normals[0]
    found = [
        Dimension(
            kind="height",
            owner=lettering.id,
            field="height",
            value=lettering.height,
            start=_pair(foot),
            end=_pair(foot + up * lettering.height),
        )
    ]
    if lettering.standoff != 0.0:
        metrics = setting.face.metrics
        touch = setting.scale * touch_height(lettering.touch, metrics)
        touching = foot + up * touch
        found.append(
            Dimension(
                kind="standoff",
                owner=lettering.id,
                field="standoff",
                value=lettering.standoff,
                start=_pair(touching - up * lettering.standoff),
                end=_pair(touching),
            )
        )
    return found


def _at_angle(radius: float, degrees: float) -> Point:
    angle = np.radians(degrees)
    return (float(radius * np.cos(angle)), float(radius * np.sin(angle)))


def _pair(point: np.ndarray) -> Point:
    return (float(point[0]), float(point[1]))
