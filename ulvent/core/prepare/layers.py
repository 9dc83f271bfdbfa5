"""What a tool gets: layers of cutouts and single lines."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ulvent.core.base.outputs import OutputOrNone
from ulvent.core.base.tolerances import FITTING
from ulvent.core.layout import LaidGuide
from ulvent.core.outlines import Outline
from ulvent.core.shapes import Region, refitted_each, refitted_lines
from ulvent.core.steps.bridge_search import Bridge
from ulvent.core.steps.cutout import Cutout, SingleLine

_SEEN = 0.001
"""mm."""


@dataclass(frozen=True, eq=False)
class Layer:
    """What is cut, drawn or engraved together.

    id
        names it in files: `lettering-…`, `border-…-1` or `whole`
    owner
        the lettering that it is made of; empty for the whole piece
    cutouts
        what is cut out, each by itself
    lines
        single lines
    bridges
        those that are in the cutouts
    few_nodes
        how far the curves may be from what they stand for, mm
    notes
        what there is to say, in words
    inverse
        whether the cutouts are what is left of a shape that lettering was taken out of
    output
        what becomes of a border; letters say so themselves
    """

    id: str
    owner: str
    kind: Literal["letters", "border", "whole"]
    cutouts: tuple[Cutout, ...]
    lines: tuple[SingleLine, ...] = ()
    bridges: tuple[Bridge, ...] = ()
    few_nodes: float = FITTING
    notes: tuple[str, ...] = ()
    inverse: bool = False
    output: OutputOrNone = "cut"

    @property
    def key(self) -> tuple[str, ...]:
        """Names it, as the group in files that it fills."""
        if self.kind == "whole":
            return ("whole",)
        return (self.kind, self.id if self.kind == "border" else self.owner)

    @cached_property
    def area(self) -> Region:
        """All cutouts together, as they are seen."""
        return Region.joined(self.seen)

    @cached_property
    def seen(self) -> tuple[Region, ...]:
        """Each cutout with edges that are off by less than the proof tells apart."""
        return tuple(cutout.area.simplified(_SEEN) for cutout in self.cutouts)

    @cached_property
    def outlines(self) -> tuple[Outline, ...]:
        """The closed contours for the tool, with few nodes: one outline a cutout.

        Pieces that nothing was done to have the face's own curves.
        """
        return tuple(outline for _, outline in self.outlined_at())

    @cached_property
    def _outlined(self) -> dict[float, tuple[tuple[Cutout, Outline], ...]]:
        return {}

    def outlined_at(self, offset: float = 0.0) -> tuple[tuple[Cutout, Outline], ...]:
        """The cutouts that a tool's line goes round, each with that line.

        offset
            mm outward: what the tool's width takes is given back
        """
        if offset not in self._outlined:
            self._outlined[offset] = tuple(self._fitted(offset))
        return self._outlined[offset]

    def _fitted(self, offset: float) -> Iterator[tuple[Cutout, Outline]]:
        own = [cutout.outline if not offset else None for cutout in self.cutouts]
        areas = [
            cutout.area.offset(offset) if offset else cutout.area
            for cutout, outline in zip(self.cutouts, own, strict=True)
            if not outline
        ]
        fitted = iter(refitted_each(areas, self.few_nodes))
        for cutout, outline in zip(self.cutouts, own, strict=True):
            if found := outline or next(fitted):
                yield cutout, found

    @property
    def strokes(self) -> tuple[Outline, ...]:
        """The single lines for the tool."""
        return self.strokes_of(self.lines)

    def strokes_of(self, lines: tuple[SingleLine, ...]) -> tuple[Outline, ...]:
        """Some of its single lines as the tool follows them."""
        own = (one.outline for one in lines if one.outline is not None)
        dense = [one.line for one in lines if one.line is not None]
        return (*own, *refitted_lines(dense, self.few_nodes))


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
