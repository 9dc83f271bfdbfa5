"""Routes for faces and for typed figures."""

from __future__ import annotations

import numpy as np
from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from ulvent.core.curves import Line
from ulvent.core.errors import FaceError
from ulvent.core.figures import parse_length
from ulvent.core.layout import united
from ulvent.core.lettering import Lettering
from ulvent.core.setting import Standing, set_lettering
from ulvent.formats.svg import write_words
from ulvent.typecase import catalogue, shipped_face
from ulvent.web.problems import Problem

router = APIRouter(
    prefix="/api", tags=["faces"], responses={code: {"model": Problem} for code in (404, 422)}
)

_SAMPLE_HEIGHT = 10.0
_MOST_SAMPLE_LETTERS = 80
_UNENDING = 1e5


class FaceEntry(BaseModel):
    """A face that a lettering can be set in."""

    id: str
    name: str
    kind: str
    licence: str
    single_stroke: bool
    cap_height: str
    missing: list[str]


class Figure(BaseModel):
    """A typed figure, understood: mm."""

    value: float


@router.get("/faces")
def faces(text: str = Query("", max_length=2000)) -> list[FaceEntry]:
    """All faces; with `text`, what each of them has no letter for."""
    entries: list[FaceEntry] = []
    for entry in catalogue().values():
        face = shipped_face(entry.id)
        entries.append(
            FaceEntry(
                id=entry.id,
                name=entry.name,
                kind=entry.kind,
                licence=entry.licence,
                single_stroke=face.single_stroke,
                cap_height=face.metrics.sources["cap_height"],
                missing=sorted({missing.character for missing in face.shape(text).missing}),
            )
        )
    return entries


@router.get("/faces/{face_id}/words", response_class=Response)
def words(face_id: str, text: str = Query(min_length=1, max_length=2000)) -> Response:
    """Some words set straight in a face (SVG), to choose it by."""
    face = shipped_face(face_id)
    straight = Lettering(
        id="sample",
        guide="line",
        text="".join(c for c in text[:_MOST_SAMPLE_LETTERS] if c.isprintable()),
        face=face_id,
        height=_SAMPLE_HEIGHT,
    )
    (setting,) = set_lettering(straight, Standing(Line((0.0, 0.0), (_UNENDING, 0.0))), face)
    outlines = [setting.placed_outline(index) for index in range(len(setting.clusters))]
    left, low, right, high = united([outline.bounds() for outline in outlines])
    # One height for every face, so that rows of samples compare.
    low, high = min(low, -0.45 * _SAMPLE_HEIGHT), max(high, 1.35 * _SAMPLE_HEIGHT)
    bounds = (left - 1.0, low, max(right, left + 1.0) + 1.0, high)
    picture = write_words(outlines, bounds, straight.text, face.single_stroke)
    return Response(picture, media_type="image/svg+xml", headers={"Cache-Control": "max-age=86400"})


@router.get("/faces/{face_id}/licence", response_class=Response)
def licence(face_id: str) -> Response:
    """The licence of a face, as its makers wrote it."""
    entry = catalogue().get(face_id)
    if entry is None:
        raise FaceError(f"there is no face “{face_id}”")
    return Response(entry.licence_text, media_type="text/plain; charset=utf-8")


@router.get("/figure")
def figure(text: str = Query(max_length=200)) -> Figure:
    """What a typed figure comes to: sums, fractions and inches are understood."""
    return Figure(value=float(np.round(parse_length(text), 6)))
