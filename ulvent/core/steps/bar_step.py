"""A bar or ring that carries the letters."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ulvent.core.base.fields import Coordinate, Identifier, Model, Size
from ulvent.core.base.inputs import Figure, GuideChoice
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import parallel_of
from ulvent.core.shapes import Region, flat_contours, outline_of
from ulvent.core.steps.cutout import Cutout, made_one
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Shapes, Work

MOST_BARS = 20


class Bar(Model):
    """A bar that carries letters: along a guide, or a ring inside the blank's edge.

    aside
        from the guide to the bar's middle, mm, positive to the left of its direction; on
        the blank, from its edge inward
    """

    along: Identifier | None = None
    width: Size
    aside: Coordinate = 0.0


def _take(recipe: tuple[Bar, ...], work: Work) -> None:
    for bar in recipe:
        work.cutouts = _carried(work.cutouts, _area(bar, work.shapes))


def _area(bar: Bar, shapes: Shapes) -> Region:
    """A bar along a guide, or a ring inside the blank's edge."""
    if bar.along is None:
        outer = shapes.blank.offset(-bar.aside)
        return outer.minus(shapes.blank.offset(-bar.aside - bar.width))
    curve = shapes.curves[bar.along]
    line = parallel_of(curve, bar.aside) if bar.aside else curve
    ((points, closed),) = flat_contours(outline_of(line))
    return Region.along(points, closed, bar.width)


def _carried(cutouts: list[Cutout], bar: Region) -> list[Cutout]:
    """Cutouts with a bar that is one with all that it touches."""
    larger = bar.offset(2.0 * JOINT)
    touched = [one for one in cutouts if not one.area.meet(larger).is_empty]
    carrier = made_one([Cutout(bar), *touched], [larger.meet(one.area) for one in touched])
    return [carrier, *(one for one in cutouts if one not in touched)]


STEP = Step(
    field="bands",
    recipe=Annotated[tuple[Bar, ...], Field(max_length=MOST_BARS)],
    rank=30,
    title="Bar or ring",
    hint="holds the letters together as one part",
    first={"width": 3, "aside": 0},
    take=_take,
    inputs=(
        GuideChoice("along", "Along", or_blank=True),
        Figure("width", "Width"),
        Figure("aside", "Moved off the line by"),
    ),
    left_out=(),
)
