"""An outline round the lettering, or inside it."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from ulvent.core.base.fields import LENGTH, Model, SizeOrNone, WrongRecipeError
from ulvent.core.base.inputs import Again, Figure, Option, Switch
from ulvent.core.base.outputs import OUTPUTS, OutputOrNone
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Outline
from ulvent.core.shapes import Region
from ulvent.core.shapes.region import Corners
from ulvent.core.steps.cutout import Cutout, SingleLine
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work

MOST_BORDERS = 8


class Border(Model):
    """An outline round the lettering, or inside it where the distance is negative.

    fill
        holes of the border that are narrower than this are filled, mm
    joined
        part of the lettering's own outline rather than a layer of its own
    output
        what becomes of it, where it is a layer of its own
    """

    distance: Annotated[float, Field(ge=-500.0, le=500.0, allow_inf_nan=False), LENGTH]
    corners: Literal["round", "mitred", "bevelled"] = "round"
    fill: SizeOrNone = 0.0
    joined: bool = False
    output: OutputOrNone = "cut"

    @model_validator(mode="after")
    def _is_somewhere(self) -> Self:
        if self.distance == 0.0:
            raise WrongRecipeError("distance", "must not be 0: that is the lettering itself")
        return self


def _take(recipe: tuple[Border, ...], work: Work) -> None:
    for number, border in enumerate(recipe, 1):
        region = _area(border, work)
        if border.joined:
            work.cutouts = _made_one_with(work.cutouts, region, border)
        else:
            work.borders[number] = region, border.output


def _area(border: Border, work: Work) -> Region:
    if border.distance > 0.0:
        # What is near all letters is what is near any of them.
        region = Region.joined(_near_letter(letter, border) for letter in work.letters)
    else:
        region = work.ink.offset(border.distance, border.corners)
    if border.distance > 0.0 and work.lines:
        near = (_near_lines(line, border.distance) for line in work.lines if line.outline)
        region = Region.joined([region, *near])
    return _holes_filled(region, border.fill) if border.fill > 0.0 else region


def _near_letter(letter: Cutout, border: Border) -> Region:
    """What is nearer to a letter than a border's distance; worked out once for all its like."""
    shape, matrix = letter.shape, letter.local
    if letter.outline is None or shape is None or matrix is None:
        return letter.area.offset(border.distance, border.corners)
    if np.linalg.det(matrix[:, :2]) < 0.0:
        return letter.area.offset(border.distance, border.corners)
    return _grown(shape, letter.scale, border.distance, border.corners).transformed(matrix)


@remembered(1024)
def _grown(shape: Outline, scale: float, distance: float, corners: Corners) -> Region:
    """A letter in its own upright frame, grown by a distance, mm."""
    upright = Region.of(shape, np.array([[scale, 0.0, 0.0], [0.0, scale, 0.0]]))
    return upright.offset(distance, corners)


def _made_one_with(letters: list[Cutout], region: Region, border: Border) -> list[Cutout]:
    """Letters made one with a border round them, or hollowed by one inside."""
    if border.distance < 0.0:
        hollow = (replace(p, area=p.area.minus(region), outline=None) for p in letters)
        return [letter for letter in hollow if not letter.area.is_empty]
    whole = Region.joined([region, *(letter.area for letter in letters)])
    text = "".join(letter.text for letter in letters)
    return [
        Cutout(part, letters[0].lettering if letters else "", text=text) for part in whole.parts
    ]


def _holes_filled(region: Region, narrower: float) -> Region:
    """Without the holes that are nowhere as wide as this."""
    holes = region.holes()
    small = [hole for hole in holes.parts if hole.offset(-narrower / 2.0).is_empty]
    return Region.joined([region, *(hole.offset(JOINT) for hole in small)])


def _near_lines(line: SingleLine, distance: float) -> Region:
    """What is nearer to a single line than a distance."""
    found: list[Region] = []
    for points, closed in line.dense:
        found.append(Region.along(points, closed, 2.0 * distance))
        if not closed:
            found.extend(Region.disc(points[end], 2.0 * distance) for end in (0, -1))
    return Region.joined(found)


STEP = Step(
    field="borders",
    recipe=Annotated[tuple[Border, ...], Field(max_length=MOST_BORDERS)],
    rank=50,
    title="Border",
    hint="an outline round the lettering, or inside it",
    first={"distance": 2, "corners": "round", "fill": 2, "joined": False},
    take=_take,
    inputs=(
        Figure("distance", "Distance"),
        Option(
            "corners",
            "Corners",
            (("round", "round"), ("mitred", "mitred"), ("bevelled", "bevelled")),
        ),
        Figure("fill", "Fill holes up to"),
        Again("distance", "A second at", (("joined", False),)),
        Switch("joined", "joined to the letters"),
        Option(
            "output",
            "In files it is",
            (*((name, words) for name, (words, _, _) in OUTPUTS.items()), ("none", "left out")),
        ),
    ),
    left_out=(),
)
