"""Outlines drawn as single lines: their middle lines, hatching, or rings."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.arrays import extent
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import Model, ToolSize, ToolSizeOrNone
from ulvent.core.base.inputs import Figure, Option, Switch, When
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region
from ulvent.core.steps.cutout import Cutout, SingleLine
from ulvent.core.steps.hatching import hatched, rings_until_full
from ulvent.core.steps.middle_lines import GOOD_COVER, middle_line
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work

_MOST_LINES = 100_000
"""Of hatching, over all letters."""
_MOST_RINGS = 20_000


class Strokes(Model):
    """Outlines drawn as single lines.

    kind
        the middle line of the strokes; lines at `angle`; lines at `angle` and across; or
        rings at every `pitch` until the letter is full
    pen
        width of the line that the tool draws, mm: rings and lines keep half of it inside
    """

    kind: Literal["middle", "hatch", "cross-hatch", "rings"]
    pitch: ToolSize = 0.5
    angle: Annotated[float, Field(ge=-360.0, le=360.0, allow_inf_nan=False)] = 45.0
    pen: ToolSizeOrNone = 0.3
    outline: bool = True


def _take(recipe: Strokes, work: Work) -> None:
    if recipe.kind == "middle":
        work.lines.extend(_middle_lines(work))
    else:
        _refuse_many(recipe, work)
        work.lines.extend(
            _of(letter, line) for letter in work.cutouts for line in _filled(recipe, letter)
        )
    if recipe.kind == "middle" or not recipe.outline:
        work.cutouts = []


def _refuse_many(recipe: Strokes, work: Work) -> None:
    """What lines come to has a bound, which is said before any of them is drawn."""
    about = sum(_lines_in(recipe, letter.area) for letter in work.cutouts)
    most = _MOST_RINGS if recipe.kind == "rings" else _MOST_LINES
    if about > most:
        coarser = recipe.pitch * about / most
        reason = f"would make about {about:.0f} lines, and at most {most} are drawn"
        raise wrong_field(
            f"{work.where}.strokes.pitch", f"{reason}: {coarser:.2g} mm or more would do"
        )


def _lines_in(recipe: Strokes, area: Region) -> float:
    """About how many lines or rings fill a letter."""
    if recipe.kind == "rings":
        return area.area / max(area.perimeter, JOINT) / recipe.pitch
    angle, (width, height) = math.radians(recipe.angle), extent(area.bounds)
    sine, cosine = abs(math.sin(angle)), abs(math.cos(angle))
    size = sine * width + cosine * height
    if recipe.kind == "cross-hatch":
        size += cosine * width + sine * height
    return size / recipe.pitch


def _of(letter: Cutout, line: Polyline) -> SingleLine:
    return SingleLine(letter.lettering, line=line, ticks=letter.ticks)


def _middle_lines(work: Work) -> list[SingleLine]:
    found: list[SingleLine] = []
    poor: list[str] = []
    for letter in work.cutouts:
        middle = middle_line(letter.area)
        found.extend(_of(letter, line) for line in middle.lines)
        if middle.cover < GOOD_COVER:
            poor.append(f"“{letter.text}” {middle.cover:.0%}")
    if poor:
        named = ", ".join(dict.fromkeys(poor))
        work.notes.append(f"a middle line is a poor fit for {named} of the letter covered")
    return found


def _filled(recipe: Strokes, letter: Cutout) -> list[Polyline]:
    if recipe.kind == "rings":
        return rings_until_full(letter.area, recipe.pitch, recipe.pen)
    found = hatched(letter.area, recipe.pitch, recipe.angle, recipe.pen)
    if recipe.kind == "cross-hatch":
        found += hatched(letter.area, recipe.pitch, recipe.angle + 90.0, recipe.pen)
    return found


_HATCHED = ("hatch", "cross-hatch")
_FILLED = (*_HATCHED, "rings")

STEP = Step(
    field="strokes",
    recipe=Strokes,
    rank=10,
    title="Single lines",
    hint="outlines drawn as middle lines, hatching or rings",
    first={"kind": "middle", "pitch": 0.5, "angle": 45, "pen": 0.3, "outline": True},
    take=_take,
    inputs=(
        Option(
            "kind",
            "Drawn as",
            (
                ("middle", "middle line"),
                ("hatch", "hatched"),
                ("cross-hatch", "hatched crosswise"),
                ("rings", "rings until full"),
            ),
        ),
        Figure("pen", "Pen"),
        Figure("pitch", "Between lines", when=When("kind", _FILLED)),
        Figure("angle", "Angle", "°", when=When("kind", _HATCHED)),
        Switch("outline", "keep the outline", When("kind", _FILLED)),
    ),
)
