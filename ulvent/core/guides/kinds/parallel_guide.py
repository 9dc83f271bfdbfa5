"""Another guide at a distance."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from ulvent.core.base.fields import Coordinate, Identifier
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure, GuideChoice
from ulvent.core.curves import Curve, nearest
from ulvent.core.curves.segments import as_point
from ulvent.core.guides.grip import Grip
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, GuideKind, Hold, Made, Sizes, Start


class ParallelGuide(GuideRecipe):
    """Another guide at a distance, positive to the left of its travel."""

    leaning_fields = ("guide",)

    kind: Literal["parallel"]
    guide: Identifier
    distance: Coordinate


def _pieces(guide: ParallelGuide, bases: tuple[Curve, ...]) -> tuple[Curve, ...]:
    # Imported when it is needed: SciPy would double the start of the command line.
    from ulvent.core.curves.trimmed import trimmed_parallels

    return trimmed_parallels(bases[0], guide.distance)


def _note(guide: ParallelGuide, bases: tuple[Curve, ...]) -> str:
    count = len(_pieces(guide, bases))
    if count == 1:
        return ""
    return f"this parallel falls apart into {count} pieces; the longest is used"


def _drawn_on(guide: ParallelGuide, made: Made) -> list[DrawnFigure]:
    (base,) = made.bases
    middle = made.curve.points(made.curve.length / 2.0)
    foot = as_point(base.points(nearest(base, middle))[0])
    end = as_point(middle[0])
    return [
        DrawnFigure(
            "distance", "Distance of the parallel", "⇲ ", guide.distance, foot, end, off="left"
        )
    ]


def _grips(_: ParallelGuide, curve: Curve, __: int | None) -> list[Grip]:
    where = as_point(curve.points(curve.length / 2.0)[0])
    return [Grip("distance", "distance", where, label="distance")]


def _pulled(guide: ParallelGuide, hold: Hold) -> GuideRecipe | None:
    if hold.grip not in ("distance", "whole"):
        return None
    (base,) = hold.bases()
    at = base.frames(nearest(base, np.array([hold.end])))
    away = np.array(hold.end) - at.points[0]
    side = math.copysign(1.0, float(away @ at.normals[0]))
    distance = round(side * float(np.hypot(*away)), 2)
    return guide.model_copy(update={"distance": distance})


def _first(sizes: Sizes) -> dict[str, object]:
    return {"guide": sizes.on[0], "distance": 10}


KIND = GuideKind(
    recipe=ParallelGuide,
    line=lambda guide, bases: _pieces(guide, bases)[0],
    title="parallel",
    words=lambda guide: f"parallel at {shown(guide.distance)} mm",
    rank=180,
    blame="distance",
    inputs=(
        Figure("distance", "Distance, + is left"),
        GuideChoice("guide", "Parallel to"),
    ),
    starts=(
        Start(
            "parallel",
            "M5 24C14 8 30 8 39 24M11 26C18 15 26 15 33 26",
            _first,
            210,
            "parallel",
            needs=1,
        ),
    ),
    drawn_on=_drawn_on,
    turns=False,
    scales=False,
    note=_note,
    grips=_grips,
    pulled=_pulled,
)
