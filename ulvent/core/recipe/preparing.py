"""The recipe of preparing: how lettering becomes outlines that a tool can follow.

The steps are taken in the order of the fields, each on what the last one gave. All are
data: leaving a step out gives back what was there before it.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import (
    Coordinate,
    Identifier,
    Model,
    Size,
    SizeOrNone,
    WrongRecipeError,
)

MOST_BORDERS = 8
MOST_BANDS = 20
MOST_CUTS = 20
MOST_BRIDGES = 2000

Shape = Identifier | None
"""A guide's id; none stands for the blank."""


class Strokes(Model):
    """Outlines drawn as single lines.

    kind
        the middle line of the strokes; lines at `angle`; lines at `angle` and across; or
        rings at every `pitch` until the letter is full
    pen
        width of the line that the tool draws, mm: rings and lines keep half of it inside
    """

    kind: Literal["middle", "hatch", "cross-hatch", "rings"]
    pitch: Size = 0.5
    angle: Annotated[float, Field(ge=-360.0, le=360.0, allow_inf_nan=False)] = 45.0
    pen: SizeOrNone = 0.3
    outline: bool = True


class Join(Model):
    """Letters that overlap become one outline.

    over
        only where they overlap by more than this, mm: zero joins all that touch
    """

    over: SizeOrNone = 0.0


class Band(Model):
    """A bar or ring that carries letters: a band along a guide, or inside the blank's edge.

    aside
        from the guide to the band's middle, mm, positive to the left of its direction; on
        the blank, from its edge inward
    """

    along: Shape = None
    width: Size
    aside: Coordinate = 0.0


class CutBack(Model):
    """Lettering kept only inside, or only outside, of a shape that is `margin` mm smaller."""

    to: Shape = None
    keep: Literal["inside", "outside"] = "inside"
    margin: Coordinate = 0.0


class TakenOut(Model):
    """A closed shape from which the lettering is cut: what is kept is the shape with holes."""

    of: Shape = None


class Border(Model):
    """An outline round the lettering, or inside it where the distance is negative.

    fill
        holes of the border that are narrower than this are filled, mm
    joined
        part of the lettering's own outline rather than a layer of its own
    """

    distance: Annotated[float, Field(ge=-500.0, le=500.0, allow_inf_nan=False)]
    corners: Literal["round", "mitred", "bevelled"] = "round"
    fill: SizeOrNone = 0.0
    joined: bool = False

    @model_validator(mode="after")
    def _is_somewhere(self) -> Self:
        if self.distance == 0.0:
            raise WrongRecipeError("distance", "must not be 0: that is the lettering itself")
        return self


class BridgeChange(Model):
    """One bridge that was moved or taken away by hand.

    lettering, letter, bridge
        the letter's place in the words, and which of its bridges, from 0; the lettering is
        named where the recipe is the whole piece's
    angle
        where it stands: seen from the counter's middle, degrees in the letter's own frame
    """

    lettering: Annotated[str, Field(max_length=64)] = ""
    letter: Annotated[int, Field(ge=0, lt=2000)]
    bridge: Annotated[int, Field(ge=0, lt=50)]
    removed: bool = False
    angle: Annotated[float, Field(ge=-360.0, le=360.0, allow_inf_nan=False)] | None = None


class Bridges(Model):
    """Every counter tied to the sheet by one or more bridges."""

    width: Size = 1.0
    changes: Annotated[tuple[BridgeChange, ...], Field(max_length=MOST_BRIDGES)] = ()

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        seen: set[tuple[str, int, int]] = set()
        for index, change in enumerate(self.changes):
            which = (change.lettering, change.letter, change.bridge)
            if which in seen:
                raise WrongRecipeError(f"changes[{index}]", "changes a bridge a second time")
            seen.add(which)
        return self


class Rounding(Model):
    """Corners rounded to a least radius, mm, for a cutter: where ink is outside, and inside."""

    outside: SizeOrNone = 0.0
    inside: SizeOrNone = 0.0


class Kerf(Model):
    """Half the width of what the beam or cutter takes away, given back on one side.

    side
        `outward`: the lettering is what is kept; `inward`: the lettering is cut out
    """

    width: Size
    side: Literal["outward", "inward"] = "outward"


class Prepare(Model):
    """What is done to lettering before a tool gets it.

    few_nodes
        how far curves may be from what they stand for, mm
    """

    strokes: Strokes | None = None
    join: Join | None = None
    bands: Annotated[tuple[Band, ...], Field(max_length=MOST_BANDS)] = ()
    cut_back: Annotated[tuple[CutBack, ...], Field(max_length=MOST_CUTS)] = ()
    borders: Annotated[tuple[Border, ...], Field(max_length=MOST_BORDERS)] = ()
    bridges: Bridges | None = None
    taken_out: TakenOut | None = None
    rounding: Rounding | None = None
    kerf: Kerf | None = None
    few_nodes: Annotated[float, Field(ge=0.001, le=1.0, allow_inf_nan=False)] = 0.01

    @property
    def shapes(self) -> tuple[tuple[str, Shape], ...]:
        """What the steps name, each with the field that names it; none is the blank."""
        named = [(f"bands[{index}].along", band.along) for index, band in enumerate(self.bands)]
        named += [(f"cut_back[{index}].to", cut.to) for index, cut in enumerate(self.cut_back)]
        if self.taken_out is not None:
            named.append(("taken_out.of", self.taken_out.of))
        return tuple(named)
