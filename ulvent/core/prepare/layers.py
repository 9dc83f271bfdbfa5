"""What a tool gets: layers of cutouts and single lines."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ulvent.core.base.tolerances import FITTING
from ulvent.core.layout import LaidGuide
from ulvent.core.outlines import Outline, Polyline
from ulvent.core.shapes import Region, refitted, refitted_lines
from ulvent.core.steps.bridge_search import Bridge
from ulvent.core.steps.cutout import Cutout


@dataclass(frozen=True, eq=False)
class Layer:
    """What is cut, drawn or engraved together.

    id
        names it in files: `lettering-…`, `border-…-1` or `whole`
    owner
        the lettering that it is made of; empty for the whole piece
    cutouts
        what is cut out, each by itself, before the kerf
    paths
        the same as the tool's line runs, with the kerf
    lines, own_lines
        single lines: dense, mm, and as the face or the dial has them
    bridges
        those that are in the cutouts
    few_nodes
        how far the curves may be from what they stand for, mm
    notes
        what there is to say, in words
    inverse
        whether the cutouts are what is left of a shape that lettering was taken out of
    """

    id: str
    owner: str
    kind: Literal["letters", "border", "whole"]
    cutouts: tuple[Cutout, ...]
    paths: tuple[Region, ...]
    lines: tuple[Polyline, ...] = ()
    own_lines: tuple[Outline, ...] = ()
    bridges: tuple[Bridge, ...] = ()
    few_nodes: float = FITTING
    notes: tuple[str, ...] = ()
    inverse: bool = False

    @cached_property
    def area(self) -> Region:
        """All cutouts together."""
        return Region.joined(cutout.area for cutout in self.cutouts)

    @cached_property
    def outlines(self) -> tuple[Outline, ...]:
        """The closed contours for the tool, with few nodes: one outline a cutout.

        Pieces that nothing was done to have the face's own curves.
        """
        found: list[Outline] = []
        for cutout, path in zip(self.cutouts, self.paths, strict=True):
            own = cutout.outline if path is cutout.area else None
            found.append(own or refitted(path, self.few_nodes))
        return tuple(outline for outline in found if outline)

    @cached_property
    def strokes(self) -> tuple[Outline, ...]:
        """The single lines for the tool."""
        return (*self.own_lines, *refitted_lines(self.lines, self.few_nodes))


@dataclass(frozen=True, eq=False)
class Prepared:
    """A piece as its tools get it: its layers, and the guides that are lines of their own."""

    layers: tuple[Layer, ...]
    guides: tuple[LaidGuide, ...]
    blank: Region

    def bounds(self) -> list[tuple[float, float, float, float]]:
        """A box round all that is written of each layer, mm."""
        return [
            outline.bounds()
            for layer in self.layers
            for outline in (*layer.outlines, *layer.strokes)
        ]

    def layer_of(self, owner: str) -> Layer:
        """The lettering's own layer, or, where `owner` is empty, that of the whole piece."""
        return next(one for one in self.layers if one.owner == owner and one.kind != "border")
