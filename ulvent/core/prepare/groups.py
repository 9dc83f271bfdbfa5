"""What a file holds: lines that belong together, by what becomes of them and what they are called.

Letters, ticks, borders, guides and the blank's edge are groups of their own. All lie as the
piece lies on the sheet.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ulvent.core.base.arrays import Bounds, Matrices
from ulvent.core.base.outputs import OUTPUTS, Output, OutputOrNone
from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.layout.names import guide_name, lettering_names
from ulvent.core.outlines import FileOutline, Outline, curve_of, laid_segment
from ulvent.core.prepare.kerfs import Kerfs, kerfs_in_files, offset_of
from ulvent.core.prepare.layers import Layer, Prepared
from ulvent.core.recipe import Lettering, Piece
from ulvent.core.recipe.tool_sheet import PLAIN
from ulvent.core.steps.cutout import Cutout

_BY_USE: dict[str, Output] = {"kept": "cut", "removed": "cut", "sunk": "engrave", "lines": "draw"}
"""What becomes of letters of which nothing else is said, by how the sheet is used."""

_BORDER = ", border"


@dataclass(eq=False)
class Group:
    """What becomes one thing, under one name; all in the sheet's own plane, mm, y up.

    key
        what it is, and of which lettering, layer or guide: letters, ticks, border, guide, edge,
        or the whole
    name
        unlike that of any other group, whatever its case
    kerf
        what a file of the piece gives back of the tool's width
    lie
        (2, 3) how it lies on the sheet; none: as it is designed
    cut
        the letters or borders of each layer that is in it
    lines
        single lines
    curves
        guides and edges, whose arcs are arcs
    """

    key: tuple[str, ...]
    output: Output
    name: str
    kerf: Kerfs = ()
    lie: Matrices | None = None
    cut: dict[Layer, list[Cutout]] = field(default_factory=dict)
    lines: list[Outline] = field(default_factory=list)
    curves: list[FileOutline] = field(default_factory=list)

    @cached_property
    def areas(self) -> list[Outline]:
        """Outlines of letters and borders, as a file of the piece holds them."""
        return [outline for _, outline in self.areas_with(self.kerf)]

    def areas_with(self, kerf: Kerfs) -> list[tuple[str, Outline]]:
        """The same as a pass follows them that gives back so much, each with its letters."""
        found: list[tuple[str, Outline]] = []
        for layer, cutouts in self.cut.items():
            mine = set(map(id, cutouts))
            for cutout, outline in layer.outlined_at(offset_of(kerf, layer.owner)):
                if id(cutout) in mine:
                    found.append((cutout.text, self.laid(outline)))
        return found

    def laid(self, outline: Outline) -> Outline:
        return outline if self.lie is None else outline.transformed(self.lie)

    def bounds(self) -> list[Bounds]:
        """Boxes round all that it holds, mm."""
        boxes = [outline.bounds() for outline in (*self.areas, *self.lines)]
        return boxes + [curve_bounds(curve_of(line)) for line in self.curves]


def output_of(lettering: Lettering, piece: Piece, single_stroke: bool) -> OutputOrNone:
    """What becomes of the letters of a lettering: as it says, or as face and material ask."""
    if lettering.output is not None:
        return lettering.output
    sheet = piece.tool_sheets[0] if piece.tool_sheets else PLAIN
    usual = _BY_USE[sheet.use]
    return "draw" if single_stroke and usual == "cut" else usual


def file_groups(layout: Layout, ready: Prepared) -> tuple[Group, ...]:
    """All groups of a piece, in the order in which they are made: what is cut comes last."""
    gathering = _Gathering(layout)
    for layer in ready.layers:
        if layer.kind == "border":
            gathering.border(layer)
        else:
            gathering.letters(layer)
    for guide in ready.guides:
        gathering.guide(guide)
    gathering.edge()
    order = list(OUTPUTS)
    found = sorted(gathering.groups.values(), key=lambda group: order.index(group.output))
    for group, name in zip(found, numbered([group.name for group in found]), strict=True):
        group.name = name
    return tuple(found)


def layer_names(layout: Layout, ready: Prepared) -> list[str]:
    """What the layers of a piece are called, unlike each other."""
    names, whole = lettering_names(layout), _whole_name(layout.piece)
    found = [
        names.get(layer.owner, whole) + (_BORDER if layer.kind == "border" else "")
        for layer in ready.layers
    ]
    return list(numbered(found))


def layer_outputs(layout: Layout, ready: Prepared) -> list[OutputOrNone]:
    """What becomes of the layers of a piece; ticks apart from their labels are not looked at."""
    outputs = _outputs(layout)
    return [
        layer.output if layer.kind == "border" else outputs.get(layer.owner, _of_whole(outputs))
        for layer in ready.layers
    ]


def made_layers(layout: Layout, ready: Prepared) -> list[Layer]:
    """The layers of which something becomes."""
    outputs = layer_outputs(layout, ready)
    return [
        layer for layer, output in zip(ready.layers, outputs, strict=True)
        if output is not None and output != "none"
    ]  # fmt: skip


def _outputs(layout: Layout) -> dict[str, OutputOrNone]:
    """What becomes of the letters of each lettering."""
    return {
        one.id: output_of(one, layout.piece, layout.lines_of(one.id)[0].face.single_stroke)
        for one in layout.piece.letterings
    }


def _of_whole(outputs: dict[str, OutputOrNone]) -> OutputOrNone:
    """What becomes of letterings that became one."""
    return next((one for one in outputs.values() if one != "none"), "cut")


def _whole_name(piece: Piece) -> str:
    """What letterings are called that became one."""
    return piece.title or "Lettering"


def laid_lines(curves: Iterable[Curve], lie: Matrices) -> list[FileOutline]:
    """Curves as they lie on the sheet."""
    return [
        FileOutline(tuple(laid_segment(one, lie) for one in curve.segments()), curve.closed)
        for curve in curves
    ]


def other_guides(layout: Layout, ready: Prepared) -> dict[str, FileOutline]:
    """Guides that are shown and become nothing, as they lie on the sheet, by their names."""
    others = [guide for guide in layout.shown_guides if guide not in ready.guides]
    names = numbered([guide_name(guide.recipe) for guide in others])
    lines = laid_lines([guide.curve for guide in others], layout.piece.lie.matrix)
    return dict(zip(names, lines, strict=True))


class _Gathering:
    """Groups being filled, by what becomes of them and their name."""

    def __init__(self, layout: Layout) -> None:
        self._layout, self._piece = layout, layout.piece
        self._lie = layout.piece.lie.matrix
        self._moves = layout.piece.lie != type(layout.piece.lie)()
        self.groups: dict[tuple[str, ...], Group] = {}
        self._letterings = {one.id: one for one in layout.piece.letterings}
        self._names = lettering_names(layout)
        self._outputs = _outputs(layout)

    def letters(self, layer: Layer) -> None:
        """A layer of letters, and of the ticks of its dials apart from them."""
        for cutout in layer.cutouts:
            group = self._of(cutout.lettering or layer.owner, cutout.ticks)
            if group is not None:
                group.cut.setdefault(layer, []).append(cutout)
        whose = dict.fromkeys((line.lettering or layer.owner, line.ticks) for line in layer.lines)
        for owner, ticks in whose:
            group = self._of(owner, ticks)
            mine = (
                line
                for line in layer.lines
                if ((line.lettering or layer.owner), line.ticks) == (owner, ticks)
            )
            if group is not None:
                group.lines += map(group.laid, layer.strokes_of(tuple(mine)))

    def border(self, layer: Layer) -> None:
        whose = self._names.get(layer.owner, _whole_name(self._piece))
        group = self._group(layer.key, layer.output, whose + _BORDER)
        if group is not None:
            group.cut[layer] = list(layer.cutouts)

    def guide(self, guide: LaidGuide) -> None:
        assert guide.recipe.output is not None
        key = ("guide", guide.recipe.id)
        group = self._group(key, guide.recipe.output, guide_name(guide.recipe))
        if group is not None:
            group.curves += laid_lines([guide.curve], self._lie)

    def edge(self) -> None:
        group = self._group(("edge",), self._piece.edge or "none", "Edge of the blank")
        if group is not None:
            group.curves += laid_lines(self._layout.blank, self._lie)

    def _of(self, owner: str, ticks: bool) -> Group | None:
        """The group of a lettering's letters or ticks; of what is made of several, the whole's."""
        if owner not in self._letterings:
            return self._group(("whole",), _of_whole(self._outputs), _whole_name(self._piece))
        dial = self._letterings[owner].dial
        if not ticks or dial is None or dial.ticks is None:
            return self._group(("letters", owner), self._outputs[owner], self._names[owner])
        name = self._names[owner]
        name = name if name == "Ticks" else f"{name}, ticks"
        return self._group(("ticks", owner), dial.ticks.output or self._outputs[owner], name)

    def _group(self, key: tuple[str, ...], output: OutputOrNone, name: str) -> Group | None:
        if output == "none":
            return None
        if key not in self.groups:
            kerf = kerfs_in_files(self._piece.run, key, output)
            lie = self._lie if self._moves else None
            self.groups[key] = Group(key, output, name, kerf, lie)
        return self.groups[key]


def numbered(names: Sequence[str]) -> Iterable[str]:
    """Names of which the same ones are numbered: some formats hold capitals for nothing."""
    seen: set[str] = set()
    for name in names:
        number, one = 1, name
        while one.lower() in seen:
            number += 1
            one = f"{name} {number}"
        seen.add(one.lower())
        yield one
