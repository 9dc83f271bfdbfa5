"""An act: what a person does to a piece by hand, and the piece that comes of it.

An act names what it is done to and holds absolute values, so that it can be done
again from the same piece. Points are in the piece, mm, y up.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ulvent.core.base.arrays import Turned
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import FARTHEST
from ulvent.core.curves import Curve
from ulvent.core.guides import guide_curves
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece

Finite = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
"""A figure of an act: none lies outside of what a piece may hold."""
ActPoint = Annotated[tuple[Finite, Finite], Turned()]
"""A point of the piece, mm, y up; the screen's are turned on their way in."""
Index = Annotated[int, Field(ge=0)]
MOST_SAMPLES = 20_000


@dataclass(frozen=True)
class Made:
    """What an act has made new."""

    kind: Literal["guide", "lettering"]
    id: str


@dataclass(frozen=True)
class Done:
    """The piece after an act, what is new in it, and what there is to say, in words."""

    piece: Piece
    made: tuple[Made, ...] = ()
    said: str = ""


class Act(BaseModel):
    """An act. Each names itself in a field `act`."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    if TYPE_CHECKING:
        act: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        """The piece after the act; what its fits came to is in its figures already.

        Raises
        ------
        PieceError
            When the act names what is not there, or cannot be done.
        FaceError
            When a face is not there.
        """
        raise NotImplementedError


class GuideAct(Act):
    """An act on one guide."""

    guide: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        guide = guide_of(piece, self.guide)
        return Done(with_guide(piece, guide, self.changed(guide, piece)))

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        """The guide as the act leaves it."""
        raise NotImplementedError


class DrawnAct(GuideAct):
    """An act on the points of one drawn guide."""

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        return self.redrawn(drawn(guide))

    def redrawn(self, guide: DrawnGuide) -> DrawnGuide:
        """The guide as the act leaves it."""
        raise NotImplementedError


class LetteringAct(Act):
    """An act on one lettering."""

    lettering: str

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        lettering = lettering_of(piece, self.lettering)
        curve = guide_curves(piece.guides)[lettering.guide]
        changed = self.changed(lettering, curve, piece, faces)
        return Done(with_lettering(piece, changed))

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        """The lettering as the act leaves it; `curve` is that of its guide."""
        raise NotImplementedError


def guide_of(piece: Piece, guide_id: str) -> AnyGuide:
    """The guide with an id.

    Raises
    ------
    PieceError
        When there is none.
    """
    found = next((one for one in piece.guides if one.id == guide_id), None)
    if found is None:
        raise wrong_field("guide", f"there is no guide “{guide_id}”")
    return found


def lettering_of(piece: Piece, lettering_id: str) -> Lettering:
    """The lettering with an id.

    Raises
    ------
    PieceError
        When there is none.
    """
    found = next((one for one in piece.letterings if one.id == lettering_id), None)
    if found is None:
        raise wrong_field("lettering", f"there is no lettering “{lettering_id}”")
    return found


def drawn(guide: AnyGuide) -> DrawnGuide:
    """A guide that is a drawn one.

    Raises
    ------
    PieceError
        When it is not.
    """
    if not isinstance(guide, DrawnGuide):
        raise wrong_field("guide", "only a drawn guide has points; make it a drawn one first")
    return guide


def node_at(guide: DrawnGuide, index: int) -> int:
    """The index of a point that is there.

    Raises
    ------
    PieceError
        When there is none.
    """
    if index >= len(guide.nodes):
        raise wrong_field("index", "there is no such point")
    return index


def with_guides(piece: Piece, guides: Iterable[AnyGuide]) -> Piece:
    """The piece with other guides."""
    return piece.model_copy(update={"guides": tuple(guides)})


def with_guide(piece: Piece, guide: AnyGuide, *changed: AnyGuide) -> Piece:
    """The piece with others in the place of one guide."""
    guides: list[AnyGuide] = []
    for one in piece.guides:
        guides.extend(changed if one.id == guide.id else [one])
    return with_guides(piece, guides)


def with_new_guide(piece: Piece, guide: AnyGuide) -> Done:
    """The piece with a guide more, under an id that is free."""
    new = guide.model_copy(update={"id": free_id(guide.id, piece.guides)})
    return Done(with_guides(piece, [*piece.guides, new]), (Made("guide", new.id),))


def with_new_lettering(piece: Piece, lettering: Lettering) -> Piece:
    """The piece with a lettering more, whose id is free."""
    return piece.model_copy(update={"letterings": (*piece.letterings, lettering)})


def with_lettering(piece: Piece, changed: Lettering) -> Piece:
    """The piece with a lettering in the place of the one with its id."""
    letterings = tuple(changed if one.id == changed.id else one for one in piece.letterings)
    return piece.model_copy(update={"letterings": letterings})


def free_id(stem: str, taken: Iterable[AnyGuide | Lettering]) -> str:
    """An id like `stem` that none of the others has, whatever its case."""
    names = {one.id.lower() for one in taken}
    if stem.lower() not in names:
        return stem
    number = 2
    while f"{stem}-{number}".lower() in names:
        number += 1
    return f"{stem}-{number}"


def without_orphans(piece: Piece) -> Piece:
    """The piece without deleted guides that nothing stands on any more."""
    while True:
        needed = {one.guide for one in piece.letterings}
        needed.update(name for one in piece.guides for name in one.leans_on)
        needed.update(shape for _, shape in piece.shapes if shape is not None)
        kept = tuple(one for one in piece.guides if not one.removed or one.id in needed)
        if len(kept) == len(piece.guides):
            return piece
        piece = with_guides(piece, kept)
