"""Parts as STEP: what is to be made is worked out here, and made by a CAD kernel in a process.

The kernel is an extra that may not be installed. It knows curves and faces exactly: letters on a
cylinder lie in the cylinder, as curves of its own plane.
"""

from __future__ import annotations

import json
import math
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from importlib.util import find_spec
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.errors import UlventError, wrong_field
from ulvent.core.base.tolerances import SAME
from ulvent.core.curves import ArcSegment, Curve
from ulvent.core.curves.cubics import parted, points_at
from ulvent.core.guides.round_blanks import BandBlank, SideBlank
from ulvent.core.outlines import Contour, Outline
from ulvent.core.prepare.groups import made_layers
from ulvent.core.recipe.solid import ReliefOf, Solid
from ulvent.core.shapes import Region, refitted
from ulvent.core.shapes.region import ring_area
from ulvent.core.solids.body import Body, body_of
from ulvent.core.solids.surface import RoundFace
from ulvent.core.workshop import Workpiece

SECONDS = 120
"""After so long the kernel is stopped."""
_OFF, _INSIDE = 1e-4, np.array([[0.25, 0.5, 0.75]])
"""mm by which a curve may be off, at some of its parameters, that bends by being rolled up."""
_SMALL = 1e-4
_NOT_THERE = (
    "STEP needs the extra “step”, which is not installed here: "
    "pip install --require-hashes -r requirements-step.lock"
)


Carried = Callable[[Floats], list[Floats]]


class StepError(UlventError):
    """A part of which no STEP file could be made; says why."""


def step(asked: bytes) -> bytes:
    """A STEP file of what was asked for, AP 214, mm.

    Raises
    ------
    StepError
        Where the kernel is not installed, takes too long, or fails.
    """
    if find_spec("OCP") is None:
        raise StepError(_NOT_THERE)
    with tempfile.TemporaryDirectory(prefix="ulvent-step-") as folder:
        out = Path(folder) / "part.step"
        try:
            done = subprocess.run(
                [sys.executable, "-m", "ulvent.formats.step_kernel", str(out)],
                input=asked, capture_output=True, timeout=SECONDS, check=False,
            )  # fmt: skip
        except subprocess.TimeoutExpired as error:
            reason = f"making STEP took more than {SECONDS} s; fewer letters would do"
            raise StepError(reason) from error
        if done.returncode != 0 or not out.exists():
            last = done.stderr.decode(errors="replace").strip().splitlines()[-1:]
            raise StepError(f"no STEP file came of it: {''.join(last) or 'the kernel ended'}")
        return out.read_bytes()


def asked(work: Workpiece) -> bytes:
    """What the kernel is to make of a piece, as JSON.

    Raises
    ------
    PieceError
        Naming what of the part is made as a mesh only.
    """
    recipe = work.piece.solid or Solid()
    body = body_of(work.piece.blank, work.ready.blank, recipe)
    letters = list(_letters(work, recipe, body))
    return json.dumps(
        {
            "title": work.piece.title or "Part",
            "body": _body(work, recipe, body),
            "letters": letters,
        }
    ).encode()


def _body(work: Workpiece, recipe: Solid, body: Body) -> dict[str, Any]:
    """The body in plain figures, mm."""
    blank = work.piece.blank
    if recipe.shrinkage:
        raise wrong_field("solid.shrinkage", "is for castings, as meshes; STEP has the part itself")
    if recipe.body is not None:
        raise wrong_field("solid.body", "is made of triangles: take STL or 3MF")
    edge = {"edge": recipe.edge, "edge_size": recipe.edge_size}
    if isinstance(blank, SideBlank):
        high = (blank.top or blank.diameter) / 2
        return {"kind": "side", "low": blank.diameter / 2, "high": high, "height": blank.height,
                "bore": recipe.bore / 2, **edge}  # fmt: skip
    if isinstance(blank, BandBlank):
        if blank.crown or any(
            one not in (None, whole)
            for one, whole in (
                (blank.back_width, blank.width),
                (blank.back_thickness, blank.thickness),
            )
        ):
            reason = "is a band that is the same all round and flat across; others are meshes only"
            raise wrong_field("blank", f"what STEP has {reason}")
        outside = blank.inner / 2 + blank.thickness
        return {"kind": "side", "low": outside, "high": outside, "height": blank.width,
                "bore": blank.inner / 2, "edge": "square", "edge_size": 0.0}  # fmt: skip
    if body.kind != "plate":
        raise wrong_field("blank", "a signet is made as a mesh only: take STL or 3MF")
    found: dict[str, Any] = {"kind": "plate", "thickness": recipe.thickness, **edge}
    found["faces"] = _faces([_ring_of(curve) for curve in work.layout.blank])
    if recipe.rim is not None:
        floor = refitted(work.ready.blank.offset(-recipe.rim.width), recipe.tolerance)
        assert floor is not None
        found["rim"] = {
            "depth": recipe.rim.depth,
            "faces": _faces(_rings([floor], _as_it_is)),
        }
    return found


def _letters(work: Workpiece, recipe: Solid, body: Body) -> Iterator[dict[str, Any]]:
    """Each thing that stands out: its curves in the plane of its face, and by how much."""
    for layer in made_layers(work.layout, work.ready):
        if layer.lines:
            raise wrong_field("letterings", "single lines are made as meshes only")
        for cutout, outline in layer.outlined_at():
            relief = recipe.relief_of(cutout.lettering or layer.owner)
            if relief.relief == "none":
                continue
            _refuse_leaning(relief)
            _, low, _, high = cutout.area.bounds
            face = body.face_at((low + high) / 2.0, 0.0)
            carried = _carrier(face) if isinstance(face, RoundFace) else _as_it_is
            by = body.depth + 1.0 if relief.relief == "through" else relief.by
            yield {
                "faces": _faces(_rings([outline], carried)),
                "by": by if relief.relief == "raised" else -by,
            }


def _as_it_is(cubic: Floats) -> list[Floats]:
    return [cubic]


def _refuse_leaning(relief: ReliefOf) -> None:
    if relief.relief == "grooved":
        raise wrong_field("solid.relief.relief", "grooves are made as meshes only")
    if relief.draft or (relief.edge != "square" and relief.edge_size):
        field = "draft" if relief.draft else "edge"
        reason = "walls that lean and edges that are taken off are made as meshes only"
        raise wrong_field(f"solid.relief.{field}", reason)


def _carrier(face: RoundFace) -> Carried:
    """What takes a cubic (4, 2) of the flat face to cubics in angle and height of the part."""
    side = face.side
    if not side.slope:
        turn = 2.0 * math.pi / side.girth(0.0)
        return lambda cubic: [(cubic - side.middle) * (turn, 1.0)]
    apex = side.front / side.slope
    toward, slope = math.copysign(1.0, side.slope), abs(side.slope)

    def rolled(points: Floats) -> Floats:
        x, y = points[..., 0], (apex - points[..., 1]) * toward
        far = np.hypot(x, y)
        return np.stack([np.arctan2(x, y) / slope, toward * (abs(apex) - far)], axis=-1)

    scale = np.array([side.front, 1.0])

    def moved(at: Floats, way: Floats) -> Floats:
        """How fast a place moves on the cone whose flat place moves `way`."""
        return (rolled(at + _SMALL * way) - rolled(at - _SMALL * way)) / (2.0 * _SMALL)

    def carried(cubic: Floats) -> list[Floats]:
        """Its ends and directions as they are on the cone; halved while its middle is off."""
        a, b, c, d = cubic
        start, stop = rolled(a), rolled(d)
        one = np.stack([start, start + moved(a, b - a), stop - moved(d, d - c), stop])
        off = (points_at(one[None], _INSIDE) - rolled(points_at(cubic[None], _INSIDE))) * scale
        if np.abs(off).max() < _OFF:
            return [one]
        return [*carried(parted(cubic, 0.0, 0.5)), *carried(parted(cubic, 0.5, 1.0))]

    return carried


class _Ring(NamedTuple):
    """A closed line: dense points (k, 2) where it lies flat, and its curves as the kernel has them.

    A curve is its control points, or a centre, a radius, and the angles, degrees, between which
    an arc runs.
    """

    dense: Floats
    curves: list[Any]

    @property
    def area(self) -> float:
        return ring_area(self.dense)

    def turned(self, forward: bool) -> list[Any]:
        """Its curves, counter-clockwise if `forward`."""
        if (self.area > 0.0) == forward:
            return self.curves
        return [_backwards(one) for one in self.curves[::-1]]


def _backwards(curve: Any) -> Any:
    if isinstance(curve, dict):
        return {**curve, "from": curve["to"], "to": curve["from"]}
    return curve[::-1]


def _ring_of(curve: Curve) -> _Ring:
    """A blank's outline, its arcs exact."""
    curves: list[Any] = []
    for one in curve.segments():
        if isinstance(one, ArcSegment):
            ends = {"from": one.begin, "to": one.begin + one.sweep}
            curves.append({"centre": list(one.centre), "radius": one.radius, **ends})
        elif math.dist(one[0], one[-1]) > SAME:
            curves.append([list(point) for point in one])
    return _Ring(curve.samples[1][:-1], curves)


def _rings(outlines: list[Outline], carried: Carried) -> list[_Ring]:
    t = np.linspace(0.0, 1.0, 9)[None, :-1]
    return [
        _Ring(points_at(one.cubics, t).reshape(-1, 2), _curves(one, carried))
        for outline in outlines
        for one in outline.contours
        if one.closed
    ]


def _faces(rings: list[_Ring]) -> list[list[list[Any]]]:
    """Areas with their holes, each ring as curves: the outer one counter-clockwise, first."""
    areas = [Region.of_rings([ring.dense]) for ring in rings]
    around = [
        {
            other
            for other, area in enumerate(areas)
            if abs(rings[other].area) > abs(ring.area) and area.contains(ring.dense[:1]).all()
        }
        for ring in rings
    ]
    return [
        [
            ring.turned(True),
            *(
                hole.turned(False)
                for inner, hole in enumerate(rings)
                if index in around[inner] and len(around[inner]) == len(around[index]) + 1
            ),
        ]
        for index, ring in enumerate(rings)
        if len(around[index]) % 2 == 0
    ]


def _curves(contour: Contour, carried: Carried) -> list[Any]:
    """A contour's curves as control points, two where a curve is straight and stays so."""
    found: list[Any] = []
    for cubic, straight in zip(contour.cubics, contour.straight, strict=True):
        pieces = carried(cubic)
        stays = bool(straight) and len(pieces) == 1
        found += [one[[0, 3]].tolist() if stays else one.tolist() for one in pieces]
    return [one for one in found if math.dist(one[0], one[-1]) > SAME]
