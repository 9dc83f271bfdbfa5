"""A shape is kept, with the letters as holes."""

from __future__ import annotations

from ulvent.core.base.fields import Identifier, Model
from ulvent.core.base.inputs import GuideChoice
from ulvent.core.shapes import Region
from ulvent.core.steps.cutout import Cutout
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work


class TakenOut(Model):
    """A closed shape from which the lettering is cut: what is kept is the shape with holes."""

    of: Identifier | None = None


def _shape(recipe: TakenOut, work: Work) -> Region:
    return work.closed(recipe.of, "taken_out.of")


def _take(recipe: TakenOut, work: Work) -> None:
    left = _shape(recipe, work).minus(Region.joined(cutout.area for cutout in work.cutouts))
    work.cutouts = [Cutout(part) for part in left.parts]
    work.inverse = True


STEP = Step(
    field="taken_out",
    recipe=TakenOut,
    rank=70,
    title="Cut the letters out of a shape",
    hint="the shape is kept, with the letters as holes",
    first={},
    take=_take,
    inputs=(GuideChoice("of", "Shape", or_blank=True),),
    cut_from=_shape,
)
