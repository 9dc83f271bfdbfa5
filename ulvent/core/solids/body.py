"""What a blank becomes: a plate, a cylinder or cone, a band, a signet; and its faces."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import manifold3d
import numpy as np

from ulvent.core.base.arrays import Floats, Millimetres, Points, wrapped
from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.blanks import AnyBlank
from ulvent.core.guides.round_blanks import BandBlank, SideBlank, SignetBlank
from ulvent.core.guides.rounds import RoundSide
from ulvent.core.recipe.read_body import ReadBody
from ulvent.core.recipe.solid import Solid
from ulvent.core.shapes import Region
from ulvent.core.shapes.region import Corners
from ulvent.core.solids.prisms import prism, profile, walled
from ulvent.core.solids.surface import FlatFace, RoundFace, Surface
from ulvent.core.solids.triangles import read_solid

_LEAST_SIDES, _MOST_SIDES = 48, 2000
_CROWNS = 24
"""Chords across a crowned section."""
_HEAD = 0.6
"""mm of a signet's head that is as wide as its face, before it runs into the band."""


@dataclass(frozen=True, eq=False)
class Body:
    """A body without its lettering.

    kind
        `plate`, `side`, `band`, `signet` or `read`
    depth
        how deep one may go into it before one comes out again, mm; of one that was read, where
        that is most
    sag
        how far its facets lie within its round face at most, mm
    back
        (3, 4) to where the part belongs; none where it is made in its place
    """

    kind: str
    solid: manifold3d.Manifold
    depth: Millimetres
    _plate: FlatFace | None = None
    _round: RoundSide | None = None
    _base: Millimetres = 0.0
    _between: Millimetres = 0.0
    sag: Millimetres = 0.0
    back: Floats | None = None

    def face_at(self, y: Millimetres, level: Millimetres) -> Surface:
        """The face that lies at a height of the flat drawing.

        level
            height of the letters' own line on the flat drawing, mm
        """
        if self._round is None:
            assert self._plate is not None
            return self._plate
        if self._plate is not None and y > self._between:
            return self._plate
        axis: Literal["z", "y"] = "z" if self._plate is None else "y"
        return RoundFace(self._round, level - self._round.middle[1], self._base, axis)

    @property
    def reference(self) -> str:
        """Which radius lengths round the part refer to, in words; nothing of a plate."""
        if self._round is None:
            return ""
        side = self._round
        where = "halfway up the side" if side.slope else "the outside of the body"
        return f"lengths round the part are true at R {side.front:.2f} mm, {where}"


def body_of(blank: AnyBlank | None, area: Region, solid: Solid) -> Body:
    """The body of a blank.

    area
        the blank's, with its holes

    Raises
    ------
    PieceError
        Where there is no blank, or it leaves nothing; where a body that was read has another.
    """
    if solid.body is not None:
        return _read(solid.body, blank)
    if isinstance(blank, SideBlank):
        return _turned(blank, solid)
    if isinstance(blank, BandBlank):
        side = blank.round_side
        made = _band(side, blank.inner / 2.0, solid.tolerance)
        width = max(blank.width, blank.back_width or blank.width)
        return Body("band", made.translate((0.0, 0.0, width / 2.0)), blank.thickness,
                    _round=side, _base=width / 2.0)  # fmt: skip
    if isinstance(blank, SignetBlank):
        return _signet(blank, solid)
    if blank is None or area.is_empty:
        raise wrong_field("blank", "there is none: a part needs a body")
    return _plate(area.simplified(solid.tolerance / 4.0), solid)


def _read(body: ReadBody, blank: AnyBlank | None) -> Body:
    if blank != body.face:
        raise wrong_field("blank", f"is not the face of {body.name}: take the face anew")
    made = read_solid(body)
    if isinstance(blank, SideBlank):
        return Body("read", made, body.depth, _round=blank.round_side, _base=blank.height / 2.0,
                    sag=body.sag, back=body.back)  # fmt: skip
    return Body("read", made, body.depth, FlatFace(0.0), sag=body.sag, back=body.back)


def _plate(area: Region, solid: Solid) -> Body:
    walls = profile(solid.thickness, edge=solid.edge, size=solid.edge_size, off=solid.tolerance)
    made = walled(area, 0.0, walls, solid.tolerance)
    floor = solid.thickness
    if solid.rim is not None:
        inside = area.offset(-solid.rim.width)
        if inside.is_empty:
            raise wrong_field("solid.rim", "leaves no floor inside of it")
        floor -= solid.rim.depth
        made -= prism(inside, floor, solid.thickness + 1.0)
    return Body("plate", made, floor, FlatFace(floor))


def sides_of(radius: Millimetres, off: Millimetres) -> int:
    """How many chords a circle has that are off by at most so much, mm."""
    share = min(off / radius, 1.0)
    return min(max(math.ceil(math.pi / math.acos(1.0 - share)), _LEAST_SIDES), _MOST_SIDES)


def evened(sides: int) -> float:
    """By what a radius is multiplied so that so many chords hold the area of the circle."""
    turn = 2.0 * math.pi / sides
    return math.sqrt(turn / math.sin(turn))


def _turned(blank: SideBlank, solid: Solid) -> Body:
    """A cylinder or cone, bored or not."""
    low, high = blank.diameter / 2.0, (blank.top or blank.diameter) / 2.0
    bore = solid.bore / 2.0
    if bore >= min(low, high):
        least = 2.0 * min(low, high)
        raise wrong_field("solid.bore", f"must be less than the outside, {least:g} mm")
    ring = np.array([[bore, 0.0], [low, 0.0], [high, blank.height], [bore, blank.height]])
    section = _edges_off(ring, solid) if solid.edge != "square" else Region.of_rings([ring])
    sides = sides_of(max(low, high), solid.tolerance)
    # An edge that stands on the axis stays there.
    rings = [one * (evened(sides), 1.0) for one in section.rings]
    made = manifold3d.CrossSection(rings, manifold3d.FillRule.Positive).revolve(sides)
    depth = min(low, high) - bore
    return Body("side", made, depth, _round=blank.round_side, _base=blank.height / 2.0)


def _edges_off(ring: Points, solid: Solid) -> Region:
    """A section whose corners are rounded or bevelled; those on the axis are none."""
    size = solid.edge_size
    hollow = ring[0, 0] > 0.0
    whole = ring if hollow else np.concatenate([ring[1:3], ring[1:3][::-1] * (-1.0, 1.0)])
    corners: Corners = "round" if solid.edge == "rounded" else "bevelled"
    area = Region.of_rings([whole])
    inner = area.offset(-size, "mitred")
    if inner.is_empty:
        raise wrong_field("solid.edge_size", "takes off more than there is")
    found = inner.offset(size, corners)
    right = max(float(ring[:, 0].max()) + 1.0, 1.0)
    return found.meet(Region.box((0.0, -1.0, right, float(ring[:, 1].max()) + 1.0)))


def _band(side: RoundSide, inner: Millimetres, off: Millimetres) -> manifold3d.Manifold:
    """A band about the z axis, its middle at 0: sections joined round and round."""
    sides = sides_of(max(side.front, side.back), off)
    angles = np.arange(sides) / sides * 2.0 * math.pi
    shares = np.array([-0.5, 0.5]) if side.crown is None else np.linspace(-0.5, 0.5, _CROWNS + 1)
    v = side.height_at(angles)[:, None] * shares
    face = RoundFace(side, 0.0)
    u = np.repeat(side.along(wrapped(angles)) - side.girth(0.0) / 2.0, len(shares))
    places = np.stack([u, v.ravel(), np.zeros(v.size)], axis=1)
    outside = face.carried(places).reshape(sides, len(shares), 3) * _evened(sides)
    ends = outside[:, [-1, 0], 2]
    across = np.stack([np.sin(angles), -np.cos(angles)], axis=1)[:, None] * inner * evened(sides)
    inside = np.concatenate([np.repeat(across, 2, axis=1), ends[:, :, None]], axis=2)
    return _ring_of(np.concatenate([outside, inside], axis=1))


def _evened(sides: int) -> Floats:
    return np.array([evened(sides), evened(sides), 1.0])


def _ring_of(sections: Floats) -> manifold3d.Manifold:
    """A closed ring through sections (n, k, 3), each counter-clockwise about the way it goes."""
    n, k, _ = sections.shape
    places = np.arange(n * k).reshape(n, k)
    here, beside = places, np.roll(places, -1, axis=1)
    next_here, next_beside = np.roll(here, -1, axis=0), np.roll(beside, -1, axis=0)
    faces = np.concatenate(
        [
            np.stack([here, next_here, next_beside], axis=2).reshape(-1, 3),
            np.stack([here, next_beside, beside], axis=2).reshape(-1, 3),
        ]
    )
    return manifold3d.Manifold(
        manifold3d.Mesh64(np.ascontiguousarray(sections.reshape(-1, 3)), faces.astype(np.uint64))
    )


def _signet(blank: SignetBlank, solid: Solid) -> Body:
    """A band lying along y, its front up, that swells into a head."""
    side, inner = blank.round_side, blank.inner / 2.0
    # About y: what pointed to the front, −y, now points up.
    stands = np.array([[1.0, 0.0, 0.0, 0.0], [0.0, 0.0, 1.0, 0.0], [0.0, -1.0, 0.0, 0.0]])
    upright = _band(
        RoundSide(side.front, side.back, side.height, side.back_height), inner, solid.tolerance
    ).transform(stands)
    face = side.front + blank.rise
    a, b = blank.head_width / 2.0, blank.head_height / 2.0
    turn = np.linspace(0.0, 2.0 * math.pi, sides_of(max(a, b), solid.tolerance), endpoint=False)
    oval = Region.of_rings([np.stack([a * np.cos(turn), b * np.sin(turn)], axis=1)])
    top = prism(oval, face - min(_HEAD, blank.rise / 2.0), face)
    half = math.asin(min(blank.head_width / 2.0 / side.front, 1.0))
    shoulders = upright.trim_by_plane((0.0, 0.0, 1.0), side.front * math.cos(half))
    swell = manifold3d.Manifold.batch_hull([top, shoulders])
    sides = sides_of(inner, solid.tolerance)
    long = 4.0 * (b + blank.width)
    hole = manifold3d.Manifold.cylinder(long, inner * evened(sides), circular_segments=sides)
    hole = hole.translate((0.0, 0.0, -long / 2.0)).rotate((90.0, 0.0, 0.0))
    made = (upright + swell) - hole
    return Body("signet", made, blank.thickness, FlatFace(face), side, _between=blank.between)
