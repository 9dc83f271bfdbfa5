"""A bar or ring that carries the letters."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ulvent.core.base.fields import Coordinate, Identifier, Model, Size
from ulvent.core.base.inputs import Figure, GuideChoice
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import parallel_of
from ulvent.core.shapes import Region, flat_contours, outline_of
from ulvent.core.steps.letter import Letter, made_one
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Shapes, Work

MOST_BANDS = 20


class Band(Model):
    """A bar or ring that carries letters: a band along a guide, or inside the blank's edge.

    aside
        from the guide to the band's middle, mm, positive to the left of its direction; on
        the blank, from its edge inward
    """

    along: Identifier | None = None
    width: Size
    aside: Coordinate = 0.0


def _take(recipe: tuple[Band, ...], work: Work) -> None:
    for band in recipe:
        work.letters = _carried(work.letters, _area(band, work.shapes))


def _area(band: Band, shapes: Shapes) -> Region:
    """A band along a guide, or inside the blank's edge."""
    if band.along is None:
        outer = shapes.blank.offset(-band.aside)
        return outer.minus(shapes.blank.offset(-band.aside - band.width))
    curve = shapes.curves[band.along]
    line = parallel_of(curve, band.aside) if band.aside else curve
    ((points, closed),) = flat_contours(outline_of(line))
    return Region.along(points, closed, band.width)


def _carried(letters: list[Letter], band: Region) -> list[Letter]:
    """Letters with a band that is one with all that it touches."""
    larger = band.offset(2.0 * JOINT)
    touched = [letter for letter in letters if not letter.area.meet(larger).is_empty]
    carrier = made_one([Letter(band), *touched], [larger.meet(one.area) for one in touched])
    return [carrier, *(letter for letter in letters if letter not in touched)]


STEP = Step(
    field="bands",
    recipe=Annotated[tuple[Band, ...], Field(max_length=MOST_BANDS)],
    rank=30,
    title="Band",
    hint="a bar or ring that carries the letters",
    first={"width": 3, "aside": 0},
    take=_take,
    inputs=(
        GuideChoice("along", "Along", or_blank=True),
        Figure("width", "Width"),
        Figure("aside", "Aside by"),
    ),
    left_out=(),
)
