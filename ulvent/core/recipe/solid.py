"""A piece as a part: what body its blank becomes, and how its lettering stands out of it."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import (
    Identifier,
    Model,
    ToolSize,
    ToolSizeOrNone,
    WrongRecipeError,
    refuse_twice,
)
from ulvent.core.recipe.read_body import ReadBody

Relief = Literal["raised", "sunk", "grooved", "through", "none"]
Edge = Literal["square", "rounded", "bevelled"]
MaterialName = Literal[
    "none", "pla", "abs", "resin", "wax", "acrylic", "oak", "plywood", "aluminium", "brass",
    "bronze", "silver", "gold",
]  # fmt: skip
Making = Literal["printing", "milling", "casting"]
MOST_RELIEFS = 400
_Draft = Annotated[float, Field(ge=0.0, le=45.0, allow_inf_nan=False)]
_Tolerance = Annotated[float, Field(ge=0.002, le=0.5, allow_inf_nan=False)]


class ReliefOf(Model):
    """How lettering stands out of a body.

    relief
        `grooved`: as a pointed cutter leaves it that follows the middle of each stroke, as deep as
        the stroke is wide enough for
    by
        mm by which it is raised or sunk, or by which grooves are at most
    angle
        of the pointed cutter, degrees between its sides
    draft
        degrees by which its walls lean inward, away from the body, or into it
    edge, edge_size
        of raised lettering, at its top: rounded or bevelled by so many mm
    """

    relief: Relief = "raised"
    by: ToolSize = 1.0
    angle: Annotated[float, Field(ge=10.0, le=150.0, allow_inf_nan=False)] = 60.0
    draft: _Draft = 0.0
    edge: Edge = "square"
    edge_size: ToolSizeOrNone = 0.0

    @model_validator(mode="after")
    def _edge_fits(self) -> Self:
        if self.edge != "square" and self.edge_size > self.by:
            raise WrongRecipeError("edge_size", f"must be at most the height, {self.by:g}")
        return self


class LetteringRelief(ReliefOf):
    """How one lettering stands out, unlike the others."""

    of: Identifier


class Rim(Model):
    """A rim that is left standing round a plate; the floor inside of it lies lower.

    width, depth
        mm
    """

    width: ToolSize
    depth: ToolSize


class Solid(Model):
    """What a piece becomes as a part.

    body
        one that was read from a file, instead of what the blank would become
    thickness
        of a plate, mm
    bore
        diameter of the hole through a cylinder or cone, mm; 0: it is solid
    edge, edge_size
        of the body's upper edge, and of both edges of a round part: mm
    rim
        of a plate; none: it is flat
    relief
        of all lettering of which nothing else is said
    letterings
        that stand out otherwise
    line
        width of single lines, mm
    apart
        whether lettering is parts of its own, in another colour: what is sunk is filled
    tolerance
        mm by which chords may be off curves
    making, cutter, shrinkage
        how it is made; the diameter of a milling cutter, mm; per cent that a casting shrinks by
    """

    body: ReadBody | None = None
    thickness: ToolSize = 3.0
    bore: ToolSizeOrNone = 0.0
    edge: Edge = "square"
    edge_size: ToolSizeOrNone = 0.0
    rim: Rim | None = None
    relief: ReliefOf = ReliefOf()
    letterings: Annotated[tuple[LetteringRelief, ...], Field(max_length=MOST_RELIEFS)] = ()
    line: ToolSize = 0.8
    apart: bool = False
    tolerance: _Tolerance = 0.01
    material: MaterialName = "none"
    making: Making = "printing"
    cutter: ToolSize = 1.0
    shrinkage: Annotated[float, Field(ge=0.0, le=20.0, allow_inf_nan=False)] = 0.0

    @model_validator(mode="after")
    def _goes_together(self) -> Self:
        refuse_twice([one.of for one in self.letterings], "letterings", "of")
        if self.rim is not None and self.rim.depth >= self.thickness:
            raise WrongRecipeError("rim", f"must be less deep than the plate, {self.thickness:g}")
        if self.edge != "square" and self.edge_size >= self.thickness:
            raise WrongRecipeError("edge_size", f"must be less than {self.thickness:g}")
        return self

    @property
    def under_face(self) -> float:
        """How thick a plate is, or a body that was read beneath its face at most, mm."""
        return self.body.depth if self.body is not None else self.thickness

    def relief_of(self, lettering: str) -> ReliefOf:
        """How a lettering stands out."""
        return next((one for one in self.letterings if one.of == lettering), self.relief)
