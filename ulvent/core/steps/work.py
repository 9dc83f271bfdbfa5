"""What is being prepared: what the steps so far have made of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING, Any

from ulvent.core.base.errors import FieldProblem
from ulvent.core.base.outputs import OutputOrNone
from ulvent.core.base.tolerances import FITTING
from ulvent.core.curves import Curve
from ulvent.core.shapes import Region, area_within
from ulvent.core.steps.cutout import Cutout, SingleLine

if TYPE_CHECKING:
    from ulvent.core.steps.bridge_search import Bridge
    from ulvent.core.steps.step import Step


class Shapes:
    """The blank and the guides as shapes, made when they are asked for."""

    def __init__(self, curves: Mapping[str, Curve], blank: tuple[Curve, ...]) -> None:
        self.curves, self._blank = curves, blank
        self.problems: list[FieldProblem] = []

    @cached_property
    def blank(self) -> Region:
        """The blank's area, without its holes; empty where there is no blank."""
        return area_within(self._blank)

    def closed(self, shape: str | None, field: str) -> Region:
        """The area of a shape, the blank's for none; a problem where it is an open guide."""
        if shape is None:
            return self.blank
        curve = self.curves[shape]
        if not curve.encloses:
            how = "is open" if not curve.closed else "goes round a part"
            reason = f"the guide “{shape}” {how}: it has no inside"
            self.problems.append(FieldProblem(field, reason))
            return Region()
        return Region.inside(curve)


@dataclass
class Work:
    """What the steps of one recipe work on; each step changes it.

    shapes, where, owner
        what steps can name, the recipe's field for problems, and the lettering whose recipe it
        is, empty for the whole piece
    steps
        all that are taken, with their recipes
    cutouts
        what is cut out, each by itself
    lines
        single lines
    letters, ink
        all cutouts before the first step, and their area
    borders
        those that are layers of their own, by their numbers, each with what becomes of it
    bridges
        those that are in the cutouts
    few_nodes
        how far curves may be from what they stand for, mm
    notes
        what there is to say, in words
    inverse
        whether the cutouts are what is left of a shape that lettering was taken out of
    """

    shapes: Shapes
    where: str
    owner: str
    steps: tuple[tuple[Step, Any], ...]
    cutouts: list[Cutout]
    lines: list[SingleLine]
    bridges: list[Bridge] = field(default_factory=list)
    borders: dict[int, tuple[Region, OutputOrNone]] = field(default_factory=dict)
    few_nodes: float = FITTING
    notes: list[str] = field(default_factory=list)
    inverse: bool = False
    letters: tuple[Cutout, ...] = field(init=False)

    def __post_init__(self) -> None:
        self.letters = tuple(self.cutouts)

    @cached_property
    def ink(self) -> Region:
        return Region.joined(cutout.area for cutout in self.letters)

    def closed(self, shape: str | None, field: str) -> Region:
        """The area of a shape that a field of the recipe names."""
        return self.shapes.closed(shape, f"{self.where}.{field}")

    @property
    def cut_from(self) -> Region | None:
        """What the letters will be taken out of, where a step does so."""
        for step, recipe in self.steps:
            if step.cut_from is not None:
                return step.cut_from(recipe, self)
        return None
