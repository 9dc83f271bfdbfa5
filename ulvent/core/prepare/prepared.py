"""A laid-out piece prepared: what a tool gets, in layers.

A layer is lettering as it shall be cut: single pieces, each an area with its holes, and
single lines. What a person set is never changed; it is all worked out from the layout.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ulvent.core.blanks import blank_curves
from ulvent.core.errors import FieldProblem, PieceError
from ulvent.core.faces import Outline
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.prepare.bridges import Bridge, bridges_of, fallen, letter_bridges
from ulvent.core.prepare.middle import GOOD_COVER, middle_line
from ulvent.core.prepare.strokes import Line, hatched, rings_until_full
from ulvent.core.prepare_recipe import Band, Border, Bridges, Prepare, Rounding, Shape, Strokes
from ulvent.core.setting import Setting
from ulvent.core.shapes import Region, flat_contours, outline_of, refitted, refitted_lines
from ulvent.core.tolerances import FITTING, JOINT

Floats = NDArray[np.float64]
_CRUMB = 0.002
_CORNER = 0.25
_TIP = 3.0
"""What rounding takes from a corner reaches no farther than this, in radii; a stroke does."""


@dataclass(frozen=True, eq=False)
class Letter:
    """One letter, or another single piece, as it stands.

    place
        in the words of its lettering, −1 where it is none of them
    lettering
        whose it is; empty for a band, or a piece made of several letterings
    height
        of a capital, mm; zero for what is no letter
    outline
        the piece's own curves; none where it has been worked on
    local
        from the letter's upright frame at true size to where it stands, for rigid letters
    shape, scale
        the letter's outline in font units, and mm per unit
    """

    area: Region
    lettering: str = ""
    place: int = -1
    text: str = ""
    height: float = 0.0
    outline: Outline | None = None
    local: Floats | None = None
    shape: Outline | None = None
    scale: float = 1.0


@dataclass(frozen=True, eq=False)
class Layer:
    """What is cut, drawn or engraved together.

    id
        names it in files: `lettering-…`, `border-…-1` or `whole`
    owner
        the lettering that it is made of; empty for the whole piece
    pieces
        what is cut out, each by itself, before the kerf
    paths
        the same as the tool's line runs, with the kerf
    lines
        single lines, dense, mm
    bridges
        those that are in the pieces
    unreached
        what a round cutter leaves, or takes, that was meant otherwise
    few_nodes
        how far the curves may be from what they stand for, mm
    notes
        what there is to say, in words
    """

    id: str
    owner: str
    kind: Literal["letters", "border", "whole"]
    pieces: tuple[Letter, ...]
    paths: tuple[Region, ...]
    lines: tuple[Line, ...] = ()
    own_lines: tuple[Outline, ...] = ()
    bridges: tuple[Bridge, ...] = ()
    few_nodes: float = FITTING
    notes: tuple[str, ...] = ()
    inverse: bool = False

    @cached_property
    def area(self) -> Region:
        """All pieces together."""
        return Region.joined(piece.area for piece in self.pieces)

    @cached_property
    def outlines(self) -> tuple[Outline, ...]:
        """The closed contours for the tool, with few nodes: one outline a piece.

        Pieces that nothing was done to have the face's own curves.
        """
        found: list[Outline] = []
        for piece, path in zip(self.pieces, self.paths, strict=True):
            own = piece.outline if path is piece.area else None
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
            middle = band.aside + band.width / 2.0 if band.aside else band.width / 2.0
            outer = self.blank.offset(band.width / 2.0 - middle)
            return outer.minus(self.blank.offset(-middle - band.width / 2.0))
        curve = self._curves[band.along]
        ((points, closed),) = flat_contours(outline_of(curve))
        if band.aside:
            line = curve.parallel(band.aside)
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
        lines: Iterable[Line] = (),
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
            pieces = _carried(pieces, self._shapes.band(band))
        pieces = self._cut_back(pieces)
        strokes, found = self._lines_cut_back(strokes, found)
        borders = self._borders(ink, strokes)
        for border, region in borders:
            if border.joined:
                pieces = _bordered(pieces, region, border)
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

    def _stroked(self, strokes: Strokes, letters: list[Letter]) -> list[Line]:
        found: list[Line] = []
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
        return _merged(letters, lambda common: not common.offset(-over / 2.0).is_empty)

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
        self, strokes: list[Outline], lines: list[Line]
    ) -> tuple[list[Outline], list[Line]]:
        """Single lines, broken where the shapes cut them."""
        cutters = self._cutters
        if not cutters:
            return strokes, lines
        dense = [*lines, *(line for stroke in strokes for line in flat_contours(stroke))]
        for shape, keep in cutters:
            dense = [part for line in dense for part in _clipped(line, shape, keep == "inside")]
        return [], dense

    def _borders(self, ink: Region, strokes: list[Outline]) -> list[tuple[Border, Region]]:
        assert self._recipe is not None
        found: list[tuple[Border, Region]] = []
        for border in self._recipe.borders:
            region = ink.offset(border.distance, border.corners)
            if border.distance > 0.0 and strokes:
                region = Region.joined([region, *(_round(s, border.distance) for s in strokes)])
            if border.fill > 0.0:
                region = _holes_filled(region, border.fill)
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
        areas = _without(pieces, found)
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
            areas = _without(areas, rest)
            found.extend(rest)
        self._bridges.extend(found)
        return areas

    def _sheet(self, ink: Region, width: float) -> Region:
        assert self._recipe is not None
        if self._recipe.taken_out is not None:
            return self._shapes.closed(self._recipe.taken_out.of, f"{self._where}.taken_out.of")
        x0, y0, x1, y1 = ink.bounds
        box = Region.box((x0 - 3.0 * width, y0 - 3.0 * width, x1 + 3.0 * width, y1 + 3.0 * width))
        return Region.joined([self._shapes.blank, box])

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


def _without(pieces: list[Letter], ties: list[Bridge]) -> list[Letter]:
    """Pieces with bridges left standing in them."""
    if not ties:
        return pieces
    regions = [tie.region() for tie in ties]
    boxes = np.array([region.bounds for region in regions])
    found: list[Letter] = []
    for piece in pieces:
        x0, y0, x1, y1 = piece.area.bounds
        near = (boxes[:, 0] < x1) & (boxes[:, 2] > x0) & (boxes[:, 1] < y1) & (boxes[:, 3] > y0)
        mine = [regions[index] for index in np.flatnonzero(near).tolist()]
        left = piece.area.minus(Region.joined(mine)) if mine else piece.area
        if left.area == piece.area.area:
            found.append(piece)
        else:
            found.append(replace(piece, area=left, outline=None))
    return found


def _merged(pieces: list[Letter], belong: Callable[[Region], bool]) -> list[Letter]:
    """Pieces made one wherever what they have in common says so."""
    owner = list(range(len(pieces)))

    def root(index: int) -> int:
        while owner[index] != index:
            index = owner[index]
        return index

    # What only touches has something in common once it is a little larger.
    larger = [piece.area.offset(JOINT) for piece in pieces]
    seams: list[tuple[int, Region]] = []
    boxes = np.array([area.bounds for area in larger]).reshape(-1, 4)
    for one in range(len(pieces)):
        x0, y0, x1, y1 = boxes[one]
        later = boxes[one + 1 :]
        near = (later[:, 0] <= x1) & (later[:, 2] >= x0) & (later[:, 1] <= y1) & (later[:, 3] >= y0)
        for two in (np.flatnonzero(near) + one + 1).tolist():
            common = larger[one].meet(larger[two])
            if not common.is_empty and belong(common):
                seams.append((one, common))
                owner[root(two)] = root(one)
    groups: dict[int, list[int]] = {}
    for index in range(len(pieces)):
        groups.setdefault(root(index), []).append(index)
    return [
        _one([pieces[i] for i in group], [seam for at, seam in seams if at in group])
        for group in groups.values()
    ]


def _one(pieces: list[Letter], seams: list[Region]) -> Letter:
    """Several pieces as one, held together by their seams too where they only touch."""
    first = pieces[0]
    if len(pieces) == 1:
        return first
    names = {piece.lettering for piece in pieces}
    heights = [piece.height for piece in pieces if piece.height > 0.0]
    thin = [seam.offset(JOINT) for seam in seams if seam.offset(-2.0 * JOINT).is_empty]
    return Letter(
        Region.joined([*(piece.area for piece in pieces), *thin]),
        names.pop() if len(names) == 1 else "",
        text="".join(piece.text for piece in pieces),
        height=min(heights, default=0.0),
    )


def _carried(pieces: list[Letter], band: Region) -> list[Letter]:
    """Pieces with a band that is one with all that it touches."""
    larger = band.offset(2.0 * JOINT)
    touched = [piece for piece in pieces if not piece.area.meet(larger).is_empty]
    carrier = _one([Letter(band), *touched], [larger.meet(piece.area) for piece in touched])
    return [carrier, *(piece for piece in pieces if piece not in touched)]


def _bordered(pieces: list[Letter], region: Region, border: Border) -> list[Letter]:
    """Pieces made one with a border round them, or hollowed by one inside."""
    if border.distance < 0.0:
        hollow = (replace(p, area=p.area.minus(region), outline=None) for p in pieces)
        return [piece for piece in hollow if not piece.area.is_empty]
    whole = Region.joined([region, *(piece.area for piece in pieces)])
    text = "".join(piece.text for piece in pieces)
    return [Letter(part, pieces[0].lettering if pieces else "", text=text) for part in whole.parts]


def _holes_filled(region: Region, narrower: float) -> Region:
    """Without the holes that are nowhere as wide as this."""
    holes = region.holes()
    small = [hole for hole in holes.parts if hole.offset(-narrower / 2.0).is_empty]
    return Region.joined([region, *(hole.offset(JOINT) for hole in small)])


def _round(stroke: Outline, distance: float) -> Region:
    """What is nearer to single lines than a distance."""
    found: list[Region] = []
    for points, closed in flat_contours(stroke):
        found.append(Region.along(points, closed, 2.0 * distance))
        if not closed:
            found.extend(Region.disc(points[end], 2.0 * distance) for end in (0, -1))
    return Region.joined(found)


def _clipped(line: Line, shape: Region, inside: bool) -> list[Line]:
    """The parts of a dense line that are inside, or outside, of a shape."""
    points, closed = line
    dense = np.concatenate([points, points[:1]]) if closed else points
    begins, ends = dense[:-1], dense[1:]
    edges = [(ring, np.roll(ring, -1, axis=0)) for ring in shape.rings]
    shares: list[list[float]] = [[] for _ in begins]
    for a, b in edges:
        way, edge = ends - begins, b - a
        for some in np.array_split(np.arange(len(begins)), 1 + len(begins) * len(a) // 2_000_000):
            cross = way[some, None, 0] * edge[:, 1] - way[some, None, 1] * edge[:, 0]
            off = a - begins[some, None]
            with np.errstate(divide="ignore", invalid="ignore"):
                t = (off[..., 0] * edge[:, 1] - off[..., 1] * edge[:, 0]) / cross
                u = (off[..., 0] * way[some, None, 1] - off[..., 1] * way[some, None, 0]) / cross
            hit = (t > 0.0) & (t < 1.0) & (u >= 0.0) & (u < 1.0)
            for i, j in np.argwhere(hit).tolist():
                shares[int(some[i])].append(float(t[i, j]))
    pieces: list[list[Floats]] = [[]]
    middles: list[Floats] = []
    stretches: list[tuple[Floats, Floats]] = []
    for begin, end, cuts in zip(begins, ends, shares, strict=True):
        marks = [0.0, *sorted(cuts), 1.0]
        for low, high in zip(marks[:-1], marks[1:], strict=True):
            stretches.append((begin + (end - begin) * low, begin + (end - begin) * high))
            middles.append(begin + (end - begin) * (low + high) / 2.0)
    keep = shape.contains(np.array(middles)) == inside
    for (begin, end), kept in zip(stretches, keep.tolist(), strict=True):
        if not kept:
            if pieces[-1]:
                pieces.append([])
            continue
        if not pieces[-1]:
            pieces[-1].append(begin)
        pieces[-1].append(end)
    found = [np.array(piece) for piece in pieces if len(piece) >= 2]
    if closed and keep.all():
        return [line]
    if closed and len(found) > 1 and keep[0] and keep[-1]:
        found[0] = np.concatenate([found.pop(), found[0][1:]])
    return [(piece, False) for piece in found]


def rounded(area: Region, outside: float, inside: float) -> tuple[Region, int]:
    """An area with its corners rounded to two radii, mm; how many strokes were too thin for it.

    Those are left as they are.
    """
    thin = 0
    if outside > 0.0:
        opened = area.offset(-outside).offset(outside)
        beyond = opened.offset(_TIP * outside)
        kept: list[Region] = []
        for rest in area.minus(opened).parts:
            # A right-angled corner loses (1 - pi / 4) r².
            if rest.area < _CORNER * outside * outside:
                continue
            far = not rest.minus(beyond).is_empty
            if far or len(rest.offset(1e-4).meet(opened).parts) > 1:
                kept.append(rest.offset(1e-4))
        thin = len(kept)
        area = Region.joined([opened, *kept]).meet(area) if kept else opened
    if inside > 0.0:
        area = area.offset(inside).offset(-inside)
    return area, thin


def unreached(area: Region, diameter: float, side: Literal["inside", "outside"]) -> Region:
    """Corners that a round cutter does not come into: where it clears the inside of an area,
    what it leaves of it; where it goes round the outside, what it cannot take beside it.
    """
    radius = diameter / 2.0
    # Along curves reach and area are nearly the same: crumbs of the difference are no corners.
    if side == "inside":
        rest = area.minus(area.offset(-radius).offset(radius + _CRUMB))
    else:
        rest = area.offset(radius).offset(-radius - _CRUMB).minus(area)
    return _big_enough(rest, math.pi * (0.02 * diameter) ** 2)


def _big_enough(region: Region, least: float) -> Region:
    return Region.joined(part for part in region.parts if part.area > least)
