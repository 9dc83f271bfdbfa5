"""Flat, cylindrical and conical faces of a body of triangles, for lettering to stand on.

From each large group of triangles of one plane the surface is followed over its smooth edges; an
axis and a cone (a cylinder is one) are fitted to what is found first, and all that lies on that is
taken with it. What bends otherwise is none of these, and is not offered.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations
from typing import Literal

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers
from ulvent.core.base.linked import joined_groups
from ulvent.core.base.tolerances import JOINT
from ulvent.core.guides.blanks import DiscBlank, OutlineBlank, RingBlank
from ulvent.core.guides.round_blanks import SideBlank
from ulvent.core.solids.cone_fit import Cone, fitted_cone
from ulvent.core.solids.flat_blanks import flat_blank
from ulvent.core.solids.triangles import FLAT, Triangles

FaceKind = Literal["flat", "cylinder", "cone"]
_ONE_PLANE = math.cos(math.radians(0.1))
_ONE_WAY = 0.9999
_ONE_STRIP = math.cos(math.radians(0.004))
_SMOOTH = math.cos(math.radians(46.0))
"""Edges that turn less belong to one surface: a cylinder of eight sides is the coarsest."""
_FACET = math.cos(math.radians(26.0))
"""How far facets are turned from the surface that they stand for, at most."""
_CHAINED, _ALIKE, _CHAIN = math.cos(math.radians(25.0)), 2.5, 5
"""So many faces that turn less from one to the next, with areas whose ratio is less."""
_AS_LONG = 0.7
_SEEN_TURN = math.cos(math.radians(50.0))
"""How far the surface is followed, by its turn, before a cone is fitted to it."""
_LEAST_TURN = 40.0
"""Degrees that a round face goes round at least."""
_LEAST_SHARE, _LEAST_AREA = 0.004, 1.0
"""Faces smaller than this share of the body, or than so many mm², are not looked for."""
_MOST_MISSES, _MOST_FACES = 24, 24
_OFF, _OFF_SHARE = 0.004, 2e-4
"""How far a corner may be from the surface it stands for: mm, and of its radius."""
_BESIDE, _LEANS_ALIKE, _NO_AXIS, _EVENLY = 4, 0.02, 1e-9, 0.1
_DEPTHS = 6
_PLACES = np.concatenate([np.full((3, 3), 0.1) + 0.7 * np.eye(3), np.full((1, 3), 1.0 / 3.0)])
"""In how many triangles of a face, and where in each, it is looked how deep the body is."""
_POINTED = 0.05
"""The least radius of a cone that is lettered on, of its greatest."""
_TO_AXIS = 0.98
_DECIMALS = 2


@dataclass(frozen=True, eq=False)
class FoundFace:
    """A face that lettering can stand on.

    triangles
        which of the body's are in it
    area
        mm²
    around
        degrees that a round face goes round; 0 for a flat one
    blank
        the face laid flat
    frame
        (3, 4) from the file to where it is laid out, as `ReadBody.frame` has it
    depth, sag
        as `ReadBody` has them
    """

    kind: FaceKind
    triangles: Integers
    area: float
    around: float
    blank: OutlineBlank | DiscBlank | RingBlank | SideBlank
    frame: Floats
    depth: float
    sag: float


def found_faces(body: Triangles) -> list[FoundFace]:
    """The faces of a body that lettering can stand on, the largest first."""
    faces = _no_chains(body, sorted(_Looking(body).faces(), key=lambda face: -face.area))
    return faces[:_MOST_FACES]


def _no_chains(body: Triangles, faces: list[FoundFace]) -> list[FoundFace]:
    """Without many round faces that go on in one another nearly straight, about as large: those
    are facets of what bends both ways, a ball or a bent pipe."""
    if not faces:
        return []
    owners = np.full(len(body), -1)
    for index, face in enumerate(faces):
        if face.kind != "flat":
            owners[face.triangles] = index
    one, two = owners[body.links[body.link_cosines > _CHAINED]].T
    areas = np.array([face.area for face in faces])
    beside = (one != two) & (np.minimum(one, two) >= 0)
    one, two = one[beside], two[beside]
    alike = np.maximum(areas[one], areas[two]) < _ALIKE * np.minimum(areas[one], areas[two])
    chains = joined_groups(one[alike], two[alike], len(faces))
    long = np.bincount(chains)[chains] >= _CHAIN
    return [face for face, drop in zip(faces, long, strict=True) if not drop]


def _planes(body: Triangles) -> Integers:
    """(m,) the group of one plane that each triangle is in."""
    planes = body.hanging_together(body.link_cosines > _ONE_PLANE)
    sums = _sums(body, planes)
    lengths = np.sqrt((sums**2).sum(axis=1))
    ways = sums / np.maximum(lengths, JOINT)[:, None]
    levels = np.einsum("nci,ni->nc", body.corners, ways[planes])
    low, high = np.full(len(sums), math.inf), np.full(len(sums), -math.inf)
    np.minimum.at(low, planes, levels.min(axis=1))
    np.maximum.at(high, planes, levels.max(axis=1))
    turned = lengths < _ONE_WAY * np.bincount(planes, body.areas)
    bent = (turned | (high - low > 2.0 * FLAT))[planes]
    if not bent.any():
        return planes
    # Strips of a very finely divided side turn as little as triangles of one plane may.
    one, two = body.links.T
    apart = bent[one] | bent[two]
    strict = (body.link_cosines > _ONE_PLANE) & (~apart | (body.link_cosines > _ONE_STRIP))
    return body.hanging_together(strict)


def _sums(body: Triangles, planes: Integers) -> Floats:
    """(planes, 3) the normal of each group, as long as the group is large."""
    sums = np.zeros((int(planes.max()) + 1, 3))
    np.add.at(sums, planes, body.normals * body.areas[:, None])
    return sums


class _Looking:
    """Looks for the faces of one body."""

    def __init__(self, body: Triangles) -> None:
        self._body = body
        self._smooth: Booleans = body.link_cosines > _SMOOTH
        self._planes = _planes(body)
        self._taken = np.zeros(len(body), dtype=bool)

    def faces(self) -> Iterator[FoundFace]:
        areas = np.bincount(self._planes, self._body.areas)
        least = max(_LEAST_SHARE * float(areas.sum()), _LEAST_AREA)
        misses = 0
        for plane in np.argsort(-areas, kind="stable").tolist():
            mine = self._planes == plane
            if self._taken[mine].any():
                continue
            if misses > _MOST_MISSES:
                break
            found = self._round(mine)
            if self._taken[mine].all():
                misses = 0
            elif areas[plane] >= least:
                found = self._flat(mine)
            else:
                misses += 1
            if found is not None and found.area >= least:
                yield found

    def _flat(self, mine: Booleans) -> FoundFace | None:
        body, which = self._body, np.flatnonzero(mine)
        normal = np.average(body.normals[which], axis=0, weights=body.areas[which])
        normal /= np.sqrt(normal @ normal)
        level = body.vertices[body.triangles[which]] @ normal
        self._taken |= mine
        if float(np.ptp(level)) > 2.0 * FLAT:
            return None
        frame = _lying(normal, body.corners[which].reshape(-1, 3).mean(axis=0))
        laid = flat_blank(body, which, frame)
        if laid is None:
            return None
        blank, frame = laid
        depth = max(self._depths(which, np.tile(-normal, (len(which), 1))))
        return FoundFace("flat", which, float(body.areas[which].sum()), 0.0, blank, frame,
                         round(depth, _DECIMALS), 0.0)  # fmt: skip

    def _round(self, mine: Booleans) -> FoundFace | None:
        """The round face that a group is in; that of a hole is taken, and not found."""
        for along in (True, False):
            seen = self._leaning_alike(mine, self._followed(mine, along))
            if len(np.unique(self._planes[seen])) < 3:
                continue
            cone = fitted_cone(self._body, np.flatnonzero(seen))
            grown = seen
            for _ in range(2):
                if cone is None:
                    break
                grown = self._grown(mine, cone)
                several = len(np.unique(self._planes[grown])) >= 3
                cone = fitted_cone(self._body, np.flatnonzero(grown), cone) if several else None
            if cone is not None and self._goes_round(grown, cone):
                self._taken |= grown
                which = np.flatnonzero(grown)
                outward = cone.normals(self._body.middles[which[:1]]) @ self._body.normals[which[0]]
                return self._cone_face(which, cone) if outward[0] > 0.0 else None
        return None

    def _goes_round(self, grown: Booleans, cone: Cone) -> bool:
        corners = self._body.corners[grown].reshape(-1, 3)
        return cone.reach_round(corners)[1] >= _LEAST_TURN

    def _followed(self, mine: Booleans, along: bool) -> Booleans:
        """What the surface is about a group, as far as it turns a little.

        along
            only over edges as long as strips are: not into roundings at their ends
        """
        links = self._along_strips if along else self._smooth
        normal = np.average(self._body.normals[mine], axis=0, weights=self._body.areas[mine])
        near = self._body.normals @ (normal / np.sqrt(normal @ normal)) > _SEEN_TURN
        groups = self._body.hanging_together(links, near)
        found: Booleans = groups == groups[np.argmax(mine)]
        return found

    @cached_property
    def _along_strips(self) -> Booleans:
        """(e,) which smooth edges are about as long as the longest of what lies beside them."""
        longest = np.zeros(len(self._sums))
        one, two = self._planes[self._body.links].T
        lengths = self._body.link_lengths
        turned = (one != two) & self._smooth
        for side in (one, two):
            np.maximum.at(longest, side[turned], lengths[turned])
        as_long = lengths >= _AS_LONG * np.maximum(longest[one], longest[two])
        found: Booleans = self._smooth & (~turned | as_long)
        return found

    @cached_property
    def _sums(self) -> Floats:
        return _sums(self._body, self._planes)

    def _leaning_alike(self, mine: Booleans, seen: Booleans) -> Booleans:
        """Of what is seen that whose normals lean as a group's and two beside it do.

        Three normals say what the axis would be; of all pairs beside it that one counts with which
        most leans alike. A flat end that turns little does not.
        """
        planes = np.unique(self._planes[seen])
        areas = np.sqrt((self._sums**2).sum(axis=1))
        normals = self._sums[planes] / np.maximum(areas[planes], JOINT)[:, None]
        own = int(self._planes[np.argmax(mine)])
        beside = self._beside(own, planes)
        best, most = seen, -math.inf
        for one, two in combinations(beside, 2):
            first, left, right = (normals[planes == each][0] for each in (own, one, two))
            axis = np.cross(left - first, right - first)
            length = math.sqrt(axis @ axis)
            if length < _NO_AXIS:
                continue
            alike = np.abs((normals - first) @ axis / length) < _LEANS_ALIKE
            together = float(np.minimum(areas[planes[alike]], areas[own]).sum())
            # Of pairs that come to as much, the one that turns alike to both sides.
            together -= _EVENLY * float(areas[own] * abs(left @ first - right @ first))
            if together > most:
                best, most = seen & np.isin(self._planes, planes[alike]), together
        return best

    def _beside(self, own: int, among: Integers) -> list[int]:
        """The few groups with the longest edges in common with a group."""
        one, two = self._planes[self._body.links].T
        at_own = ((one == own) | (two == own)) & (one != two)
        ends, lengths = np.where(one == own, two, one)[at_own], self._body.link_lengths[at_own]
        inside = np.isin(ends, among)
        together = np.bincount(ends[inside], lengths[inside])
        found: list[int] = np.argsort(-together, kind="stable")[:_BESIDE].tolist()
        return [each for each in found if together[each] > 0.0]

    def _grown(self, mine: Booleans, cone: Cone) -> Booleans:
        """All that hangs together with a group and lies on a cone."""
        body = self._body
        off = _OFF + _OFF_SHARE * cone.radius
        on = np.abs(cone.off(body.vertices)) <= off
        lies = on[body.triangles].all(axis=1) & ~self._taken
        outward = np.einsum("ni,ni->n", body.normals, cone.normals(body.middles))
        lies &= outward * np.sign(outward[mine].sum()) > _FACET
        if not lies[mine].all():
            return np.zeros(len(body), dtype=bool)
        groups = body.hanging_together(self._smooth, lies)
        found: Booleans = groups == groups[np.argmax(mine)]
        return found

    def _cone_face(self, which: Integers, cone: Cone) -> FoundFace:
        body = self._body
        corners = body.corners[which].reshape(-1, 3)
        middle, around = cone.reach_round(corners)
        low, high = _below_the_point(cone, *cone.heights(corners))
        lower, upper = (cone.radius_at(z) for z in (low, high))
        straight = round(abs(upper - lower), _DECIMALS) == 0.0
        if straight:
            lower = upper = (lower + upper) / 2.0
        blank = SideBlank(
            kind="side",
            diameter=round(2.0 * lower, _DECIMALS),
            top=None if straight else round(2.0 * upper, _DECIMALS),
            height=round(high - low, _DECIMALS),
        )
        inward = -cone.normals(body.middles[which])
        depth = min(max(self._depths(which, inward)), _TO_AXIS * min(lower, upper))
        within = np.concatenate([body.middles[which], *_edge_middles(body, which)])
        sag = max(0.0, -float(cone.off(within).min()))
        kind: FaceKind = "cylinder" if straight else "cone"
        return FoundFace(kind, which, float(body.areas[which].sum()), around, blank,
                         cone.frame(low, middle), round(depth, _DECIMALS),
                         round(sag, _DECIMALS))  # fmt: skip

    def _depths(self, which: Integers, inward: Floats) -> list[float]:
        """How deep the body is beneath a few places of a face."""
        order = np.argsort(-self._body.areas[which], kind="stable")
        some = order[np.unique(np.linspace(0, len(order) - 1, _DEPTHS).astype(int))]
        return [
            self._body.depth(share @ self._body.corners[which[index]], inward[index])
            for index in some.tolist()
            for share in _PLACES
        ]


def _below_the_point(cone: Cone, low: float, high: float) -> tuple[float, float]:
    """From where to where a cone is lettered on: one that ends in a point, short of that."""
    widest = max(cone.radius_at(low), cone.radius_at(high))
    if cone.lean == 0.0 or min(cone.radius_at(low), cone.radius_at(high)) >= _POINTED * widest:
        return low, high
    end = (_POINTED * widest - cone.radius) / cone.lean
    return (end, high) if cone.lean > 0.0 else (low, end)


def _edge_middles(body: Triangles, which: Integers) -> Iterator[Floats]:
    corners = body.corners[which]
    for one, two in ((0, 1), (1, 2), (2, 0)):
        yield (corners[:, one] + corners[:, two]) / 2.0


def _lying(normal: Floats, about: Floats) -> Floats:
    """A frame with a normal as z: of upright faces up stays up, of others right stays right."""
    upright = abs(normal[2]) < 0.9
    lead = np.array([0.0, 0.0, 1.0]) if upright else np.array([1.0, 0.0, 0.0])
    lead -= (lead @ normal) * normal
    lead /= np.sqrt(lead @ lead)
    x = np.cross(lead, normal) if upright else lead
    turn = np.stack([x, np.cross(normal, x), normal])
    return np.column_stack([turn, -turn @ about])
