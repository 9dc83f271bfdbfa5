"""A laid-out piece prepared: what a tool gets, in layers.

A layer is lettering as it shall be cut: single pieces, each an area with its holes, and
single lines. What a person set is never changed; it is all worked out from the layout.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import cached_property
from typing import Literal

from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import parallel_of
from ulvent.core.guides.blanks import blank_curves
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.outlines import Outline, Polyline
from ulvent.core.prepare.layers import Layer, Letter, Prepared
from ulvent.core.recipe.preparing import Band, Border, Bridges, Prepare, Rounding, Shape, Strokes
from ulvent.core.setting import Setting
from ulvent.core.shapes import Region, flat_contours, outline_of
from ulvent.core.steps.bridge_search import Bridge, bridges_of, fallen, letter_bridges, sheet_round
from ulvent.core.steps.hatching import hatched, rings_until_full
from ulvent.core.steps.middle_lines import GOOD_COVER, middle_line
from ulvent.core.steps.piece_work import (
    bordered,
    carried,
    clipped,
    holes_filled,
    merged,
    near_lines,
    rounded,
    without_ties,
)


def prepared(layout: Layout) -> Prepared:
    """Prepare a piece.

    Raises
    ------
    PieceError
        Naming each step that needs a closed shape and is given an open one.
    """
    shapes = _Shapes(layout)
    layers: list[Layer] = []
    for index, lettering in enumerate(layout.piece.letterings):
        letters, strokes = _as_set(layout.lines_of(lettering.id))
        where = f"letterings[{index}].prepare"
        layers.extend(
            _Preparing(lettering.prepare, shapes, where, lettering.id).layers(letters, strokes)
        )
    if layout.piece.prepare is not None:
        own = [layer for layer in layers if layer.kind == "letters"]
        letters = [piece for layer in own for piece in layer.pieces]
        strokes = [line for layer in own for line in layer.own_lines]
        whole = _Preparing(layout.piece.prepare, shapes, "prepare", "")
        dense = [line for layer in own for line in layer.lines]
        bridges = tuple(bridge for layer in own for bridge in layer.bridges)
        borders = [layer for layer in layers if layer.kind == "border"]
        layers = [*whole.layers(letters, strokes, dense, bridges), *borders]
    if shapes.problems:
        raise PieceError(shapes.problems)
    return Prepared(tuple(layers), _kept_guides(layout), shapes.blank)


def _kept_guides(layout: Layout) -> tuple[LaidGuide, ...]:
    """The guides that are lines of their own, each line once."""
    found: dict[str, LaidGuide] = {}
    for guide in layout.guides:
        if guide.recipe.output is not None and not guide.recipe.removed:
            plain = guide.recipe.model_copy(
                update={"id": "any", "hidden": False, "output": None, "reverse": False}
            )
            found.setdefault(plain.model_dump_json(), guide)
    return tuple(found.values())


def _as_set(lines: tuple[Setting, ...]) -> tuple[list[Letter], list[Outline]]:
    """The letters of a lettering as they stand, and what of it is single lines."""
    letters: list[Letter] = []
    strokes: list[Outline] = []
    for setting in lines:
        key = setting.lettering.id
        for index, cluster in enumerate(setting.clusters):
            if not setting.drawn[index]:
                continue
            outline = setting.placed_outline(index)
            if setting.face.single_stroke:
                strokes.append(outline)
                continue
            shape = setting.outline(index)
            matrix, scale = setting.matrices[index], float(setting.scales[index])
            area = Region.of(outline) if setting.bent else Region.of(shape, matrix)
            if area.is_empty:
                continue
            local = matrix / scale
            local[:, 2] = matrix[:, 2]
            letters.append(
                Letter(area, key, int(setting.places[index]), cluster.text, setting.capital,
                       outline, None if setting.bent else local, shape, scale)
            )  # fmt: skip
        for ticks, areas in setting.tick_outlines():
            if areas:
                letters.append(Letter(Region.of(ticks), key, outline=ticks))
            else:
                strokes.append(ticks)
    return letters, strokes


class _Shapes:
    """The blank and the guides as shapes, made when they are asked for."""

    def __init__(self, layout: Layout) -> None:
        self.problems: list[FieldProblem] = []
        self._curves = {guide.recipe.id: guide.curve for guide in layout.guides}
        blank = layout.piece.blank
        self._blank = blank_curves(blank) if blank is not None else ()

    @cached_property
    def blank(self) -> Region:
        """The blank's area, without its holes; empty where there is no blank."""
        if not self._blank:
            return Region()
        outer, *holes = (Region.inside(curve) for curve in self._blank)
        return outer.minus(Region.joined(holes)) if holes else outer

    def closed(self, shape: Shape, field: str) -> Region:
        """The area of a shape; a problem where it is an open guide."""
        if shape is None:
            return self.blank
        curve = self._curves[shape]
        if not curve.closed:
            self.problems.append(
                FieldProblem(field, f"the guide “{shape}” is open: it has no inside")
            )
            return Region()
        return Region.inside(curve)

    def band(self, band: Band) -> Region:
        """A band along a guide, or inside the blank's edge."""
        if band.along is None:
            outer = self.blank.offset(-band.aside)
            return outer.minus(self.blank.offset(-band.aside - band.width))
        curve = self._curves[band.along]
        line = parallel_of(curve, band.aside) if band.aside else curve
        ((points, closed),) = flat_contours(outline_of(line))
        return Region.along(points, closed, band.width)


class _Preparing:
    """The steps of one recipe."""

    def __init__(self, recipe: Prepare | None, shapes: _Shapes, where: str, owner: str) -> None:
        self._recipe, self._shapes, self._where, self._owner = recipe, shapes, where, owner
        self._notes: list[str] = []
        self._bridges: list[Bridge] = []
        self._inverse = False
        self._left_sharp = 0

    def layers(
        self,
        letters: list[Letter],
        strokes: list[Outline],
        lines: Iterable[Polyline] = (),
        bridges: tuple[Bridge, ...] = (),
    ) -> list[Layer]:
        kind: Literal["letters", "whole"] = "letters" if self._owner else "whole"
        name = f"lettering-{self._owner}" if self._owner else "whole"
        recipe = self._recipe
        if recipe is None:
            areas = tuple(letter.area for letter in letters)
            return [Layer(name, self._owner, kind, tuple(letters), areas, tuple(lines),
                          tuple(strokes))]  # fmt: skip
        self._bridges.extend(bridges)
        ink = Region.joined(letter.area for letter in letters)
        found = [*lines]
        if recipe.strokes is not None:
            found.extend(self._stroked(recipe.strokes, letters))
            if recipe.strokes.kind == "middle" or not recipe.strokes.outline:
                letters = []
        pieces = self._joined(letters) if recipe.join is not None else letters
        for band in recipe.bands:
            pieces = carried(pieces, self._shapes.band(band))
        pieces = self._cut_back(pieces)
        strokes, found = self._lines_cut_back(strokes, found)
        borders = self._borders(ink, strokes)
        for border, region in borders:
            if border.joined:
                pieces = bordered(pieces, region, border)
        if recipe.bridges is not None:
            pieces = self._bridged(recipe.bridges, pieces)
        if recipe.taken_out is not None:
            shape = self._shapes.closed(recipe.taken_out.of, f"{self._where}.taken_out.of")
            left = shape.minus(Region.joined(piece.area for piece in pieces))
            pieces = [Letter(part) for part in left.parts]
            self._inverse = True
        if recipe.rounding is not None:
            pieces = [self._rounded(piece, recipe.rounding) for piece in pieces]
            if self._left_sharp:
                self._notes.append(
                    f"{self._left_sharp} strokes are thinner than {2 * recipe.rounding.outside:g}"
                    " mm and keep their corners: rounding would take them away"
                )
        # What was cut back or hollowed out to nothing is no piece.
        pieces = [piece for piece in pieces if not piece.area.is_empty]
        paths = tuple(self._with_kerf(piece.area) for piece in pieces)
        layers = [
            Layer(name, self._owner, kind, tuple(pieces), paths, tuple(found), tuple(strokes),
                  tuple(self._bridges), recipe.few_nodes, tuple(self._notes), self._inverse)
        ]  # fmt: skip
        for number, (border, region) in enumerate(borders, 1):
            if not border.joined:
                owner = self._owner or "whole"
                parts = tuple(Letter(part) for part in region.parts)
                paths = tuple(self._with_kerf(part.area) for part in parts)
                layers.append(Layer(f"border-{owner}-{number}", self._owner, "border", parts,
                                    paths, few_nodes=recipe.few_nodes))  # fmt: skip
        return layers

    def _stroked(self, strokes: Strokes, letters: list[Letter]) -> list[Polyline]:
        found: list[Polyline] = []
        poor: list[str] = []
        for letter in letters:
            if strokes.kind == "middle":
                middle = middle_line(letter.area)
                found.extend(middle.lines)
                if middle.cover < GOOD_COVER:
                    poor.append(f"“{letter.text}” {middle.cover:.0%}")
                continue
            if strokes.kind == "rings":
                found.extend(rings_until_full(letter.area, strokes.pitch, strokes.pen))
                continue
            angles = [strokes.angle]
            if strokes.kind == "cross-hatch":
                angles.append(strokes.angle + 90.0)
            for angle in angles:
                found.extend(hatched(letter.area, strokes.pitch, angle, strokes.pen))
        if poor:
            named = ", ".join(dict.fromkeys(poor))
            self._notes.append(f"a middle line is a poor fit for {named} of the letter covered")
        return found

    def _joined(self, letters: list[Letter]) -> list[Letter]:
        """Letters that overlap by more than the recipe says, as one."""
        assert self._recipe is not None
        assert self._recipe.join is not None
        over = self._recipe.join.over
        return merged(letters, lambda common: not common.offset(-over / 2.0).is_empty)

    def _cut_back(self, pieces: list[Letter]) -> list[Letter]:
        assert self._recipe is not None
        for shape, keep in self._cutters:
            cut: list[Letter] = []
            for piece in pieces:
                left = piece.area.meet(shape) if keep == "inside" else piece.area.minus(shape)
                if abs(left.area - piece.area.area) <= JOINT:
                    cut.append(piece)
                else:
                    cut.extend(replace(piece, area=part, outline=None) for part in left.parts)
            pieces = cut
        return pieces

    @cached_property
    def _cutters(self) -> list[tuple[Region, str]]:
        assert self._recipe is not None
        found: list[tuple[Region, str]] = []
        for index, cut in enumerate(self._recipe.cut_back):
            shape = self._shapes.closed(cut.to, f"{self._where}.cut_back[{index}].to")
            margin = -cut.margin if cut.keep == "inside" else cut.margin
            found.append((shape.offset(margin), cut.keep))
        return found

    def _lines_cut_back(
        self, strokes: list[Outline], lines: list[Polyline]
    ) -> tuple[list[Outline], list[Polyline]]:
        """Single lines, broken where the shapes cut them."""
        cutters = self._cutters
        if not cutters:
            return strokes, lines
        dense = [*lines, *(line for stroke in strokes for line in flat_contours(stroke))]
        for shape, keep in cutters:
            dense = [part for line in dense for part in clipped(line, shape, keep == "inside")]
        return [], dense

    def _borders(self, ink: Region, strokes: list[Outline]) -> list[tuple[Border, Region]]:
        assert self._recipe is not None
        found: list[tuple[Border, Region]] = []
        for border in self._recipe.borders:
            region = ink.offset(border.distance, border.corners)
            if border.distance > 0.0 and strokes:
                region = Region.joined([region, *(near_lines(s, border.distance) for s in strokes)])
            if border.fill > 0.0:
                region = holes_filled(region, border.fill)
            found.append((border, region))
        return found

    def _bridged(self, bridges: Bridges, pieces: list[Letter]) -> list[Letter]:
        """Bridges of single letters, always the same for one; then of what several enclose."""
        found: list[Bridge] = []
        kept_open: list[Region] = []
        for piece in pieces:
            if piece.place < 0 or piece.shape is None:
                continue
            mine = tuple(
                change
                for change in bridges.changes
                if change.letter == piece.place and change.lettering in ("", piece.lettering)
            )
            if piece.local is not None and piece.outline is not None:
                ties = [
                    tie.moved(piece.local)
                    for tie in letter_bridges(piece.shape, piece.scale, bridges.width, mine)
                ]
            else:
                ties = bridges_of(piece.area, bridges.width, changes=mine)
            found.extend(
                replace(tie, lettering=piece.lettering, letter=piece.place) for tie in ties
            )
            if any(change.removed for change in mine):
                kept_open.append(piece.area.filled())
        areas = without_ties(pieces, found)
        ink = Region.joined(piece.area for piece in areas)
        sheet = self._sheet(ink, bridges.width)
        loose = [
            island
            for island in fallen(ink, bridges.width, sheet)
            if not any(not island.meet(shut).is_empty for shut in kept_open)
        ]
        if loose:
            rest = bridges_of(ink, bridges.width, sheet)
            near = Region.joined(loose).offset(0.1)
            rest = [tie for tie in rest if not tie.region().meet(near).is_empty]
            areas = without_ties(areas, rest)
            found.extend(replace(tie, lettering=self._owner) for tie in rest)
        self._bridges.extend(found)
        return areas

    def _sheet(self, ink: Region, width: float) -> Region:
        assert self._recipe is not None
        if self._recipe.taken_out is not None:
            return self._shapes.closed(self._recipe.taken_out.of, f"{self._where}.taken_out.of")
        return Region.joined([self._shapes.blank, sheet_round(ink, 3.0 * width)])

    def _rounded(self, piece: Letter, rounding: Rounding) -> Letter:
        area, thin = rounded(piece.area, rounding.outside, rounding.inside)
        self._left_sharp += thin
        return replace(piece, area=area, outline=None)

    def _with_kerf(self, area: Region) -> Region:
        assert self._recipe is not None
        kerf = self._recipe.kerf
        if kerf is None:
            return area
        half = kerf.width / 2.0
        return area.offset(half if kerf.side == "outward" else -half)
