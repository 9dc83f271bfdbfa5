"""From a prepared piece to its part: a body, and lettering that is one with it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import manifold3d
import numpy as np

from ulvent.core.base.at_work import at_work
from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.kinds.belt_guide import BeltGuide
from ulvent.core.layout import Layout
from ulvent.core.prepare import Prepared
from ulvent.core.prepare.groups import made_layers
from ulvent.core.recipe import Piece
from ulvent.core.recipe.solid import ReliefOf, Solid
from ulvent.core.shapes import Region
from ulvent.core.solids.body import Body, body_of
from ulvent.core.solids.materials import MATERIALS
from ulvent.core.solids.mesh import Mesh
from ulvent.core.solids.prisms import joined, prism, profile, sound, walled
from ulvent.core.solids.surface import RoundFace, Surface, stretches

BODY_COLOUR, LETTER_COLOUR = "#d9d3c3", "#7a2e1d"
_ROOT = 0.05
"""mm by which raised lettering goes into its body, and a cut begins above it."""
_FEWER = "fewer letters, or a coarser tolerance, would do"
_SPECK = 1e-3
"""Cubic mm of a part that is a crumb of the computation."""
_ASTRAY = 0.01
"""The share of a letter's foot outside of its body that counts."""
_TOLD_APART = 2e-4
"""mm: single precision, and six digits, tell no less apart on a part of some hundred mm."""


class StandingLetter(NamedTuple):
    """What is raised or sunk by itself, in the plane of the piece."""

    area: Region
    lettering: str
    place: int
    text: str
    relief: ReliefOf


class StretchedLetter(NamedTuple):
    """A letter whose face is stretched by being carried to the part.

    narrower, wider
        the least and the greatest stretch along it, as shares: 0.013 is 1.3 % wider
    at
        whether the greatest is at its head, its middle or its foot
    """

    lettering: str
    place: int
    letter: str
    narrower: float
    wider: float
    at: str


@dataclass(frozen=True, eq=False)
class MadeSolid:
    """A part.

    recipe
        what was asked for
    meshes
        one for each thing of its own colour or that hangs together
    reference
        which radius lengths refer to, in words
    stretched
        letters that are not as they are when laid flat
    letters
        what stands out of it, or is sunk
    astray
        of these, what does not stand on the body with all of it, or comes out of it again
    """

    recipe: Solid
    meshes: tuple[Mesh, ...]
    reference: str
    stretched: tuple[StretchedLetter, ...]
    letters: tuple[StandingLetter, ...]
    astray: tuple[StandingLetter, ...] = ()

    @cached_property
    def volume(self) -> float:
        """Cubic mm."""
        return sum(mesh.volume for mesh in self.meshes)

    @cached_property
    def area(self) -> float:
        """Square mm."""
        return sum(mesh.area for mesh in self.meshes)

    @property
    def weight(self) -> float | None:
        """Grams; none while the material is not said."""
        density = MATERIALS[self.recipe.material].density
        return self.volume / 1000.0 * density if density else None

    @cached_property
    def box(self) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
        """The least and the greatest of its coordinates, mm."""
        lows, highs = zip(*(mesh.box for mesh in self.meshes), strict=True)
        low, high = np.min(lows, axis=0).tolist(), np.max(highs, axis=0).tolist()
        return (low[0], low[1], low[2]), (high[0], high[1], high[2])


def solid_of(layout: Layout, ready: Prepared, coarse: float = 1.0) -> MadeSolid:
    """The part of a piece; one that says nothing of it is a plate of its blank.

    coarse
        how many times coarser than asked for, while it is pulled about

    Raises
    ------
    PieceError
        Where there is no body, or the lettering leaves nothing of it.
    """
    with at_work("solid", "making the part", _FEWER):
        return _Making(layout, ready, coarse).made()


class _Making:
    """A part in the making."""

    def __init__(self, layout: Layout, ready: Prepared, coarse: float) -> None:
        self._layout, self._ready = layout, ready
        self._piece: Piece = layout.piece
        recipe = self._piece.solid or Solid()
        tolerance = min(recipe.tolerance * coarse, 0.5)
        # A casting is made larger by what it shrinks.
        self._grown = 1.0 / (1.0 - recipe.shrinkage / 100.0)
        self._recipe = recipe.model_copy(update={"tolerance": tolerance})
        self._body: Body = body_of(self._piece.blank, ready.blank, self._recipe)
        self._stretched: list[StretchedLetter] = []

    def made(self) -> MadeSolid:
        raised: list[manifold3d.Manifold] = []
        sunk: list[manifold3d.Manifold] = []
        filled: list[manifold3d.Manifold] = []
        astray: list[StandingLetter] = []
        letters = list(self._letters())
        for letter in letters:
            face, relief = self._face(letter), letter.relief
            if relief.relief == "raised":
                raised.append(self._raised(letter, face))
            else:
                sunk.append(self._cut(letter, face))
                if self._recipe.apart and relief.relief == "sunk" and not relief.draft:
                    filled.append(self._on(face, prism(letter.area, -relief.by, 0.0)))
            self._stretch(letter, face)
            if self._strays(letter, face):
                astray.append(letter)
        body = sound(self._body.solid, "solid")
        if sunk:
            body = body - joined(sunk)
        return MadeSolid(
            self._piece.solid or Solid(),
            tuple(self._meshes(body, raised, filled)),
            self._body.reference,
            tuple(self._stretched),
            tuple(letters),
            tuple(astray),
        )

    def _strays(self, letter: StandingLetter, face: Surface) -> bool:
        """Whether a letter leaves a body that was read: those that are made end with the blank."""
        if self._recipe.body is None or letter.relief.relief == "through":
            return False
        within = self._body.sag + 2.0 * self._off
        deep = within + (letter.relief.by if letter.relief.relief == "sunk" else _ROOT)
        foot = self._on(face, prism(letter.area, -deep, -within))
        return bool((foot - self._body.solid).volume() > _ASTRAY * foot.volume())

    def _meshes(
        self,
        body: manifold3d.Manifold,
        raised: list[manifold3d.Manifold],
        filled: list[manifold3d.Manifold],
    ) -> Iterator[Mesh]:
        title = self._piece.title or "Part"
        if self._recipe.apart:
            letters = joined([joined(raised) - body, *filled]) if raised or filled else None
            yield self._mesh(body, title, BODY_COLOUR)
            if letters is not None and not letters.is_empty():
                yield self._mesh(letters, f"{title}, lettering", LETTER_COLOUR)
            return
        whole = sound(joined([body, *raised]), "solid")
        parts = [part for part in whole.decompose() if part.volume() > _SPECK]
        parts.sort(key=lambda part: -part.volume())
        if not parts:
            raise wrong_field("solid", "nothing is left of the body")
        for number, part in enumerate(parts, 1):
            name = title if number == 1 else f"{title}, part {number}"
            yield self._mesh(part, name, BODY_COLOUR)

    def _mesh(self, solid: manifold3d.Manifold, name: str, colour: str) -> Mesh:
        if self._grown != 1.0:
            solid = solid.scale((self._grown,) * 3)
        # Edges shorter than files tell apart would make triangles of no area there.
        solid = sound(solid.simplify(_TOLD_APART), "solid")
        if self._body.back is not None:
            solid = solid.transform(self._body.back)
        return Mesh.of(solid, name, colour)

    def _letters(self) -> Iterator[StandingLetter]:
        """What stands out or is sunk; bridges and letters made one go as all lettering."""
        for layer in made_layers(self._layout, self._ready):
            for cutout in layer.cutouts:
                yield from self._letter(
                    cutout.area, cutout.lettering or layer.owner, cutout.place, cutout.text
                )
            for line in layer.lines:
                strokes = [
                    Region.along(one.points, one.closed, self._recipe.line) for one in line.dense
                ]
                yield from self._letter(Region.joined(strokes), line.lettering or layer.owner)

    def _letter(
        self, area: Region, lettering: str, place: int = -1, text: str = ""
    ) -> Iterator[StandingLetter]:
        relief = self._recipe.relief_of(lettering)
        area = area.simplified(self._recipe.tolerance / 4.0)
        if relief.relief != "none" and not area.is_empty:
            yield StandingLetter(area, lettering, place, text, relief)

    def _face(self, letter: StandingLetter) -> Surface:
        _, low, _, high = letter.area.bounds
        y = (low + high) / 2.0
        return self._body.face_at(y, self._levels.get(letter.lettering, y))

    @cached_property
    def _levels(self) -> dict[str, float]:
        """The height of each lettering's own line, where it goes round a part."""
        belts = {one.id: one for one in self._piece.guides if isinstance(one, BeltGuide)}
        return {
            one.id: belts[one.guide].centre[1]
            for one in self._piece.letterings
            if one.guide in belts
        }

    def _raised(self, letter: StandingLetter, face: Surface) -> manifold3d.Manifold:
        relief = letter.relief
        walls = profile(relief.by, relief.draft, relief.edge, relief.edge_size, self._off)
        root = min(_ROOT + self._body.sag + 2.0 * self._off, self._body.depth / 2.0)
        return self._on(face, walled(letter.area, -root, walls, self._off))

    def _cut(self, letter: StandingLetter, face: Surface) -> manifold3d.Manifold:
        """What is taken away: its walls come in on the way down."""
        relief = letter.relief
        above = _ROOT + 2.0 * self._off
        deep = relief.by
        if relief.relief == "through":
            if isinstance(face, RoundFace) and not self._hollow:
                raise wrong_field("solid.bore", "lettering goes through a wall: a bore is needed")
            deep = self._body.depth + above
        elif deep >= self._body.depth:
            field = self._field(letter.lettering)
            raise wrong_field(field, f"must be less than the body, {self._body.depth:g} mm")
        draft = relief.angle / 2.0 if relief.relief == "grooved" else relief.draft
        up = walled(letter.area, -above, profile(deep, draft), self._off)
        return self._on(face, up.mirror((0.0, 0.0, 1.0)))

    @property
    def _hollow(self) -> bool:
        return self._body.kind != "side" or self._recipe.bore > 0.0

    def _field(self, name: str) -> str:
        for index, one in enumerate(self._recipe.letterings):
            if one.of == name:
                return f"solid.letterings[{index}].by"
        return "solid.relief.by"

    @property
    def _off(self) -> float:
        return self._recipe.tolerance

    def _on(self, face: Surface, flat: manifold3d.Manifold) -> manifold3d.Manifold:
        """A solid of the flat face carried to the part."""
        if math.isfinite(face.least_radius):
            flat = flat.refine_to_length(math.sqrt(8.0 * face.least_radius * self._off))
        return flat.warp_batch(face.carried)

    def _stretch(self, letter: StandingLetter, face: Surface) -> None:
        if not isinstance(face, RoundFace) or letter.place < 0:
            return
        points = np.concatenate(letter.area.rings)
        found = stretches(face, points)
        narrower, wider = float(found[:, 0].min()) - 1.0, float(found[:, 1].max()) - 1.0
        if max(-narrower, wider) < 1e-4:
            return
        most = int(np.argmax(np.abs(found - 1.0).max(axis=1)))
        low, high = points[:, 1].min(), points[:, 1].max()
        share = (points[most, 1] - low) / max(high - low, 1e-9)
        at = "head" if share > 0.67 else "foot" if share < 0.33 else "middle"
        self._stretched.append(
            StretchedLetter(letter.lettering, letter.place, letter.text, narrower, wider, at)
        )
