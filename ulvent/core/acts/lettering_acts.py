"""What a person does to a lettering by hand, and the lettering that comes of it."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from ulvent.core.acts.by_hand import changed_letters, nudged, put_back
from ulvent.core.acts.sides import matched_to, on_other_side, turned_over
from ulvent.core.acts.slide import kept_as, slid_after, slid_along
from ulvent.core.acts.tables import pasted_labels
from ulvent.core.base.errors import wrong_field
from ulvent.core.curves import Curve
from ulvent.core.guides import guide_curves
from ulvent.core.layout import FaceNamed, standing_of
from ulvent.core.recipe.lettering import Lettering, Nudge, Place, PlaceKind
from ulvent.core.recipe.piece import Piece
from ulvent.core.setting import set_lettering

Finite = Annotated[float, Field(allow_inf_nan=False)]
XY = tuple[Finite, Finite]
Letters = Annotated[tuple[Place, ...], Field(max_length=2000)]


class LetteringAct(BaseModel):
    """An act on one lettering."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    lettering: str


class SlideBy(LetteringAct):
    """A lettering slid along its guide by a length, in its reading direction."""

    act: Literal["slide-by"]
    by: Finite


class SlideAfter(LetteringAct):
    """A lettering slid along its guide after a pointer."""

    act: Literal["slide-after"]
    start: XY
    end: XY


class KeepPlaceAs(LetteringAct):
    """The place of a lettering kept in another way, without moving it."""

    act: Literal["keep-place-as"]
    at_in: PlaceKind


class NudgeLetters(LetteringAct):
    """Letters moved, turned, sized, or the gaps after them opened, on top of what is there."""

    act: Literal["nudge"]
    letters: Letters
    along: Finite = 0.0
    across: Finite = 0.0
    turn: Finite = 0.0
    size: Annotated[float, Field(gt=0.0, allow_inf_nan=False)] = 1.0
    gap: Finite = 0.0


class SetNudge(LetteringAct):
    """What was done to letters by hand, typed: what is left out stays as it is."""

    act: Literal["set-nudge"]
    letters: Letters
    along: Finite | None = None
    across: Finite | None = None
    turn: Finite | None = None
    size: Finite | None = None
    gap: Finite | None = None


class PullLetters(LetteringAct):
    """Letters moved as far as a pointer went, along the line and across it."""

    act: Literal["pull-letters"]
    letters: Letters
    start: XY
    end: XY


class PutBack(LetteringAct):
    """What was done by hand taken back, from some letters or from all."""

    act: Literal["put-back"]
    letters: Letters | None = None


class OtherSide(LetteringAct):
    """A lettering put on the other side of its guide, reading the same way."""

    act: Literal["other-side"]


class TurnOver(LetteringAct):
    """A lettering turned head down where it stands."""

    act: Literal["turn-over"]


class MatchBand(LetteringAct):
    """A lettering fitted between the same two parallels as another one of its guide."""

    act: Literal["match-band"]
    other: str


class PasteLabels(LetteringAct):
    """The labels of a dial, and where they stand, from a pasted table."""

    act: Literal["paste-labels"]
    table: Annotated[str, Field(max_length=40_000)]


class KeepFigures(LetteringAct):
    """What a lettering's fit came to kept as plain figures, and the fit ended."""

    act: Literal["keep-figures"]


AnyLetteringAct = (
    SlideBy
    | SlideAfter
    | KeepPlaceAs
    | NudgeLetters
    | SetNudge
    | PullLetters
    | PutBack
    | OtherSide
    | TurnOver
    | MatchBand
    | PasteLabels
    | KeepFigures
)


def done_to_lettering(act: AnyLetteringAct, piece: Piece, face_named: FaceNamed) -> Piece:
    """The piece after an act on a lettering.

    Raises
    ------
    PieceError
        When the act names what is not there, or cannot be done.
    FaceError
        When the lettering's face is not there.
    """
    lettering = _lettering(piece, act.lettering)
    curve = guide_curves(piece.guides)[lettering.guide]
    changed = _done(act, piece, lettering, curve, face_named)
    letterings = tuple(changed if one.id == changed.id else one for one in piece.letterings)
    return piece.model_copy(update={"letterings": letterings})


def _done(
    act: AnyLetteringAct, piece: Piece, lettering: Lettering, curve: Curve, face_named: FaceNamed
) -> Lettering:
    if isinstance(act, SlideBy):
        return slid_along(lettering, curve, act.by)
    if isinstance(act, SlideAfter):
        return slid_after(lettering, curve, act.start, act.end)
    if isinstance(act, KeepPlaceAs):
        return kept_as(lettering, curve, act.at_in)
    if isinstance(act, NudgeLetters):
        change = nudged(act.along, act.across, act.turn, act.size, act.gap)
        return changed_letters(lettering, _known(lettering, act.letters), change)
    if isinstance(act, SetNudge):
        return _set(lettering, act)
    if isinstance(act, PutBack):
        return put_back(lettering, act.letters)
    if isinstance(act, KeepFigures):
        return lettering.model_copy(update={"fit": None})
    if isinstance(act, PasteLabels):
        return pasted_labels(lettering, act.table)
    face = face_named(lettering.face)
    if isinstance(act, PullLetters):
        return _pulled(act, piece, lettering, curve, face_named)
    if isinstance(act, OtherSide):
        return on_other_side(lettering, curve, face)
    if isinstance(act, TurnOver):
        return turned_over(lettering, curve, face)
    other = _lettering(piece, act.other)
    if other.guide != lettering.guide:
        raise wrong_field("other", "stands on another guide")
    return matched_to(lettering, face, other, face_named(other.face), curve)


def _set(lettering: Lettering, act: SetNudge) -> Lettering:
    fields = {name: value for name, value in act.model_dump().items()
              if name in Nudge.model_fields and value is not None}  # fmt: skip

    def change(nudge: Nudge) -> Nudge:
        return Nudge.model_validate(nudge.model_dump() | fields)

    return changed_letters(lettering, _known(lettering, act.letters), change)


def _pulled(
    act: PullLetters, piece: Piece, lettering: Lettering, curve: Curve, face_named: FaceNamed
) -> Lettering:
    """Along and across as the first of the letters stands."""
    standing = standing_of(piece.guide(lettering.guide), curve)
    way = np.array(act.end) - np.array(act.start)
    for line in set_lettering(lettering, standing, face_named(lettering.face)):
        for index in np.flatnonzero(np.isin(line.places, act.letters)).tolist():
            along = float(way @ line.frames.tangents[index])
            across = float(way @ line.frames.normals[index])
            letters = _known(lettering, act.letters)
            change = nudged(along=round(along, 3), across=round(across, 3))
            return changed_letters(lettering, letters, change)
    raise wrong_field("letters", "none of these letters stands on the drawing")


def _known(lettering: Lettering, letters: tuple[int, ...]) -> tuple[int, ...]:
    if any(letter >= len(lettering.text) for letter in letters):
        raise wrong_field("letters", "there is no such letter")
    return letters


def _lettering(piece: Piece, lettering_id: str) -> Lettering:
    found = next((one for one in piece.letterings if one.id == lettering_id), None)
    if found is None:
        raise wrong_field("lettering", f"there is no lettering “{lettering_id}”")
    return found
