"""What Ulvent knows of one check of the proof: one record each.

A check looks at a piece stage by stage, as it is laid out, prepared, and held against a tool
sheet, and says what a maker should know.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Literal

from ulvent.core.faces import Face
from ulvent.core.layout import Layout
from ulvent.core.prepare import Layer, Prepared
from ulvent.core.proof.finding import Finding, FindingUnit, Severity
from ulvent.core.proof.material import Material, material
from ulvent.core.proof.remedy import Remedy
from ulvent.core.recipe import PLAIN, Lettering, ToolSheet
from ulvent.core.runs import Run
from ulvent.core.setting import Setting
from ulvent.core.shapes import Region
from ulvent.core.solids import MadeSolid
from ulvent.core.stitches import Embroidery

Stage = Literal[
    "lettering", "piece", "layer", "layers", "sheet layer", "sheet", "run", "thread", "solid"
]  # fmt: skip
OtherFaces = Callable[[], Iterable[tuple[str, Face]]]
"""Gives all faces that could stand in for one another, with their ids."""

_NOTHING = Prepared((), (), Region())


@dataclass(frozen=True, eq=False)
class Subject:
    """What a check looks at: the piece, and what of it the stage is about.

    others
        faces that are offered where letters are missing
    run
        what the machine does, where the piece has a run sheet
    embroidery
        what is sewn, where the piece says how
    solid
        the part, where the piece says what it becomes
    """

    layout: Layout
    others: OtherFaces = tuple
    ready: Prepared = _NOTHING
    lettering: Lettering | None = None
    layer: Layer = field(default_factory=lambda: Layer("", "", "whole", (), ()))
    sheet: ToolSheet = PLAIN
    run: Run | None = None
    embroidery: Embroidery | None = None
    solid: MadeSolid | None = None

    @property
    def part(self) -> MadeSolid:
        """The part, where that is looked at."""
        assert self.solid is not None
        return self.solid

    @property
    def going(self) -> Run:
        """What the machine does, where that is looked at."""
        assert self.run is not None
        return self.run

    @property
    def sewn(self) -> Embroidery:
        """What is sewn, where that is looked at."""
        assert self.embroidery is not None
        return self.embroidery

    @property
    def lines(self) -> tuple[Setting, ...]:
        """The lines of the lettering that is looked at."""
        return self.layout.lines_of(self.words.id)

    @property
    def words(self) -> Lettering:
        """The lettering that is looked at."""
        assert self.lettering is not None
        return self.lettering

    @cached_property
    def stuff(self) -> Material | None:
        """The layer as material, where the sheet is cut through."""
        if self.sheet.use not in ("kept", "removed"):
            return None
        return material((self.layer,), self.ready.blank, self.sheet.use)

    @property
    def strokes(self) -> Region:
        """What has to hold together: the letters, or what of the sheet stays."""
        removed = self.stuff is not None and self.stuff.use == "removed"
        return self.stuff.stays if removed and self.stuff else self.layer.area


@dataclass(frozen=True, eq=False)
class Check:
    """One check.

    kind
        names its findings
    rank
        where its findings come among others of one stage
    severity, unit
        of its findings, mostly
    looks
        what it finds at each stage that it looks at
    less_is_worse
        whether a finding gets worse as its figure gets less
    remedies
        changes that mend a lettering, where they must be tried, which takes longer than a frame
    needless
        kinds of findings of the same lettering, or, of the whole piece, of all, that say nothing
        more once this one is found
    """

    kind: str
    rank: float
    severity: Severity
    looks: Mapping[Stage, Callable[[Subject], Iterable[Finding]]]
    unit: FindingUnit = "letters"
    less_is_worse: bool = False
    remedies: Callable[[Layout, Lettering], list[Remedy]] | None = None
    needless: tuple[str, ...] = ()

    def finding(self, message: str, remedy: str, figure: float, **more: Any) -> Finding:
        """A finding of this check: of the whole piece, or, with `lettering`, of one lettering."""
        usual = {"severity": self.severity, "unit": self.unit, "lettering": ""}
        fields = usual | more
        return Finding(kind=self.kind, message=message, remedy=remedy, figure=figure, **fields)
