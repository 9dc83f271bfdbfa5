"""Acts: what a person does to a piece by hand, and the piece that comes of it.

An act names what it is done to and holds absolute values, so that it can be done
again from the same piece. Points are in the piece, mm, y up.
"""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ulvent.core.acts.grips import pulled
from ulvent.core.acts.lettering_acts import AnyLetteringAct, LetteringAct, done_to_lettering
from ulvent.core.base.errors import FaceError, wrong_field
from ulvent.core.guides import guide_curves
from ulvent.core.guides.drawn import Node
from ulvent.core.guides.frame import to_recipe
from ulvent.core.guides.freehand import fitted_nodes
from ulvent.core.guides.kinds import AnyGuide, Guide
from ulvent.core.guides.kinds.arc_through_guide import ArcThroughGuide
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide, with_node
from ulvent.core.guides.nodes import (
    closed_up,
    drawn_from,
    joined,
    split_at,
    with_joint,
    with_node_added,
    without_node,
)
from ulvent.core.guides.sizes import given_as
from ulvent.core.layout import FaceNamed, with_solved
from ulvent.core.recipe.piece import Piece

XY = Annotated[
    tuple[
        Annotated[float, Field(allow_inf_nan=False)], Annotated[float, Field(allow_inf_nan=False)]
    ],
    Field(),
]
MOST_SAMPLES = 20_000


class _Act(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Pull(_Act):
    """A grip of a guide pulled."""

    act: Literal["pull"]
    guide: str
    grip: str
    start: XY
    end: XY


class PlaceNode(_Act):
    """A placed point put where its coordinates say."""

    act: Literal["place-node"]
    guide: str
    index: Annotated[int, Field(ge=0)]
    at: XY


class AddNode(_Act):
    """A point added to a drawn guide, where its line is nearest."""

    act: Literal["add-node"]
    guide: str
    near: XY


class RemoveNode(_Act):
    act: Literal["remove-node"]
    guide: str
    index: Annotated[int, Field(ge=0)]


class SetJoint(_Act):
    """A point made corner, smooth or even; `free` lets the line find its own way there."""

    act: Literal["set-joint"]
    guide: str
    index: Annotated[int, Field(ge=0)]
    joint: Literal["smooth", "even", "corner", "free"]


class SplitAt(_Act):
    """A drawn guide split at a point, or opened there when it is closed."""

    act: Literal["split"]
    guide: str
    index: Annotated[int, Field(ge=0)]


class CloseUp(_Act):
    act: Literal["close"]
    guide: str


class Join(_Act):
    """Two open drawn guides made one."""

    act: Literal["join"]
    guide: str
    other: str


class MakeDrawn(_Act):
    """A guide of any kind made a drawn one that follows the same line."""

    act: Literal["make-drawn"]
    guide: str


class GiveAs(_Act):
    """The size of a guide given by other figures; the line stays what it is."""

    act: Literal["give-as"]
    guide: str
    figures: Annotated[tuple[str, ...], Field(max_length=4)]


class AddGuide(_Act):
    """A new guide; what its recipe leaves out is as usual."""

    act: Literal["add-guide"]
    recipe: Guide


class DrawThrough(_Act):
    """A new drawn guide through placed points."""

    act: Literal["draw-through"]
    guide: str
    points: Annotated[tuple[XY, ...], Field(min_length=2, max_length=1000)]
    closed: bool = False


class DrawFreehand(_Act):
    """A new drawn guide, fitted to a pointer's way within a tolerance, mm."""

    act: Literal["draw-freehand"]
    guide: str
    points: Annotated[tuple[XY, ...], Field(min_length=2, max_length=MOST_SAMPLES)]
    tolerance: Annotated[float, Field(gt=0.0, le=1000.0, allow_inf_nan=False)]


class RemoveLettering(_Act):
    """A lettering deleted, and with it a line that was kept only for it."""

    act: Literal["remove-lettering"]
    lettering: str


class RemoveGuide(_Act):
    """A guide deleted. What stands on it keeps its place: the line is then kept for it."""

    act: Literal["remove-guide"]
    guide: str


class RestoreGuide(_Act):
    """A deleted guide, of which the line was kept, brought back."""

    act: Literal["restore-guide"]
    guide: str


_GuideAct = (
    Pull
    | PlaceNode
    | AddNode
    | RemoveNode
    | SetJoint
    | SplitAt
    | CloseUp
    | Join
    | MakeDrawn
    | GiveAs
    | AddGuide
    | DrawThrough
    | DrawFreehand
    | RemoveLettering
    | RemoveGuide
    | RestoreGuide
)
Act = Annotated[AnyLetteringAct | _GuideAct, Field(discriminator="act")]


def perform(act: Act, piece: Piece, face_named: FaceNamed) -> Piece:
    """The piece after an act.

    Raises
    ------
    PieceError
        When the act names what is not there, cannot be done, or would make what a piece
        may not hold.
    """
    try:
        # What is done by hand starts from what is seen.
        piece = with_solved(piece, face_named)
        if isinstance(act, LetteringAct):
            return done_to_lettering(act, piece, face_named)
        return _performed(act, piece)
    except ValidationError as error:
        field = "lettering" if isinstance(act, LetteringAct) else "guide"
        reason = error.errors()[0]["msg"]
        raise wrong_field(field, f"this would make what a piece may not hold: {reason}") from error
    except FaceError as error:
        raise wrong_field("face", str(error)) from error


def _performed(act: _GuideAct, piece: Piece) -> Piece:
    if isinstance(act, RemoveLettering):
        letterings = tuple(one for one in piece.letterings if one.id != act.lettering)
        return without_orphans(piece.model_copy(update={"letterings": letterings}))
    if isinstance(act, AddGuide):
        return _with_guides(piece, [*piece.guides, act.recipe])
    if isinstance(act, DrawThrough | DrawFreehand):
        return _with_guides(piece, [*piece.guides, _new_drawn(act)])
    guide = next((one for one in piece.guides if one.id == act.guide), None)
    if guide is None:
        raise wrong_field("guide", f"there is no guide “{act.guide}”")
    if isinstance(act, RemoveGuide):
        return _without_guide(piece, guide)
    if isinstance(act, Join):
        return _with_joined(piece, _drawn(guide), act.other)
    changed = _changed(act, guide, piece)
    guides: list[AnyGuide] = []
    for one in piece.guides:
        guides.extend(changed if one.id == guide.id else [one])
    return _with_guides(piece, guides)


def _changed(act: _GuideAct, guide: AnyGuide, piece: Piece) -> list[AnyGuide]:
    """What a guide becomes: mostly one guide, two where it is split."""
    if isinstance(act, Pull):
        return [pulled(piece, guide, act.grip, act.start, act.end)]
    if isinstance(act, RestoreGuide):
        return [guide.model_copy(update={"removed": False, "hidden": False})]
    if isinstance(act, GiveAs):
        return [given_as(guide, act.figures)]
    if isinstance(act, MakeDrawn):
        return [drawn_from(guide, guide_curves(piece.guides)[guide.id])]
    if isinstance(act, PlaceNode) and isinstance(guide, ArcThroughGuide):
        points = [*guide.points]
        if act.index >= len(points):
            raise wrong_field("index", "there is no such point")
        points[act.index] = to_recipe(guide, act.at)
        return [guide.model_copy(update={"points": tuple(points)})]
    return _redrawn(act, _drawn(guide), piece)


def _redrawn(act: _GuideAct, drawn: DrawnGuide, piece: Piece) -> list[AnyGuide]:
    """What a drawn guide becomes when its points are worked on."""
    if isinstance(act, AddNode):
        return [with_node_added(drawn, act.near)[0]]
    if isinstance(act, CloseUp):
        return [closed_up(drawn)]
    assert isinstance(act, PlaceNode | RemoveNode | SetJoint | SplitAt)
    if act.index >= len(drawn.nodes):
        raise wrong_field("index", "there is no such point")
    if isinstance(act, PlaceNode):
        return [with_node(drawn, act.index, at=to_recipe(drawn, act.at))]
    if isinstance(act, RemoveNode):
        return [without_node(drawn, act.index)]
    if isinstance(act, SplitAt):
        return list(split_at(drawn, act.index, unused_id(drawn.id, piece)))
    if act.joint == "free":
        return [with_node(drawn, act.index, joint="smooth", before=None, after=None)]
    return [with_joint(drawn, act.index, act.joint)]


def unused_id(stem: str, piece: Piece) -> str:
    """An id like `stem` that no guide of the piece has."""
    taken = {guide.id.lower() for guide in piece.guides}
    number = 2
    while f"{stem}-{number}".lower() in taken:
        number += 1
    return f"{stem}-{number}"


def _new_drawn(act: DrawThrough | DrawFreehand) -> DrawnGuide:
    points = np.array(act.points) @ np.array([1.0, 1j])
    low, high = (
        points.real.min() + 1j * points.imag.min(),
        points.real.max() + 1j * points.imag.max(),
    )
    centre = (low + high) / 2.0
    middle = (round(centre.real, 3), round(centre.imag, 3))
    own = points - complex(*middle)
    if isinstance(act, DrawFreehand):
        nodes = tuple(Node(**found) for found in fitted_nodes(own, act.tolerance))
    else:
        nodes = tuple(Node(at=(round(p.real, 4), round(p.imag, 4))) for p in own.tolist())
    closed = isinstance(act, DrawThrough) and act.closed
    return DrawnGuide(id=act.guide, kind="drawn", centre=middle, nodes=nodes, closed=closed)


def _with_joined(piece: Piece, guide: DrawnGuide, other_id: str) -> Piece:
    """One guide of two; lettering on the other one goes over to it."""
    other = next((one for one in piece.guides if one.id == other_id), None)
    merged = joined(guide, _drawn(other))
    letterings = tuple(
        one.model_copy(update={"guide": guide.id}) if one.guide == other_id else one
        for one in piece.letterings
    )
    guides: list[AnyGuide] = [
        merged if one.id == guide.id else one for one in piece.guides if one.id != other_id
    ]
    return _with_guides(piece.model_copy(update={"letterings": letterings}), guides)


def _without_guide(piece: Piece, guide: AnyGuide) -> Piece:
    """Gone, or kept out of sight for what stands on it."""
    stood_on = any(one.guide == guide.id for one in piece.letterings)
    leant_on = any(guide.id in one.leans_on for one in piece.guides)
    leant_on |= any(guide.id == shape for _, shape in piece.shapes)
    if stood_on or leant_on:
        removed = guide.model_copy(update={"removed": True})
        return _with_guides(piece, [removed if one.id == guide.id else one for one in piece.guides])
    return _with_guides(piece, [one for one in piece.guides if one.id != guide.id])


def without_orphans(piece: Piece) -> Piece:
    """The piece without deleted guides that nothing stands on any more."""
    while True:
        needed = {one.guide for one in piece.letterings}
        needed.update(name for one in piece.guides for name in one.leans_on)
        needed.update(shape for _, shape in piece.shapes if shape is not None)
        kept = tuple(one for one in piece.guides if not one.removed or one.id in needed)
        if len(kept) == len(piece.guides):
            return piece
        piece = _with_guides(piece, list(kept))


def _with_guides(piece: Piece, guides: list[AnyGuide]) -> Piece:
    return piece.model_copy(update={"guides": tuple(guides)})


def _drawn(guide: AnyGuide | None) -> DrawnGuide:
    if not isinstance(guide, DrawnGuide):
        raise wrong_field("guide", "only a drawn guide has points; make it a drawn one first")
    return guide
