"""Routes for faces, shipped and added, and for typed figures."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from ulvent.bench import Bench
from ulvent.core.base.arrays import united
from ulvent.core.base.fields import Text
from ulvent.core.base.figures import parse_length
from ulvent.core.curves import Line
from ulvent.core.faces import Axis, Face, FeatureChoice
from ulvent.core.faces.traits import traits
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Standing, set_lettering
from ulvent.formats.fonts.font_file import FontFacts, try_font
from ulvent.formats.svg_pictures import write_words
from ulvent.shipped_faces import ShippedFace, catalogue
from ulvent.store.added_faces import Faces, StoredFace
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheHands, TheWork

router = APIRouter(
    prefix="/api", tags=["faces"], responses={code: {"model": Problem} for code in (404, 422)}
)

_SAMPLE_HEIGHT = 10.0
_MOST_SAMPLE_LETTERS = 80
_UNENDING = 1e5
_TRYING_SECONDS = 5.0
"""A font file that takes longer to try out is refused."""
_NO_LICENCE = "no licence is stated in the file"


def _added(request: Request) -> Faces:
    faces: Faces = request.app.state.faces
    return faces


Added = Annotated[Faces, Depends(_added)]


class FaceEntry(BaseModel):
    """A face that a lettering can be set in.

    added
        whether a maker added it
    good_for
        what it is, measured: joined, stencil, thin strokes and so on
    missing
        characters of the asked words that it has no letter for
    """

    id: str
    name: str
    kind: str
    licence: str
    single_stroke: bool
    added: bool
    cap_height: str
    good_for: list[str]
    axes: list[Axis]
    features: list[FeatureChoice]
    missing: list[str]


class TypedFigure(BaseModel):
    """A typed figure, understood: mm."""

    value: float


@router.get("/faces", response_model=list[FaceEntry])
def faces(work: TheWork, text: Annotated[Text, Query(max_length=2000)] = "") -> Response:
    """All faces that are offered; with `text`, what each of them has no letter for."""
    return work.json(_faces, text)


def _faces(bench: Bench, text: str) -> list[FaceEntry]:
    added = {stored.id: stored for stored in bench.case.added.all()}
    return [
        _entry(face_id, face, catalogue().get(face_id) or added[face_id], text)
        for face_id, face in bench.case.offered()
        if face_id in catalogue() or face_id in added
    ]


@router.get("/faces/{face_id}", response_model=FaceEntry)
def one_face(work: TheWork, face_id: str) -> Response:
    """One face, also one that is no longer offered."""
    return work.json(_face, face_id)


def _face(bench: Bench, face_id: str) -> FaceEntry:
    source = catalogue().get(face_id) or bench.case.added.get(face_id)
    return _entry(face_id, bench.case.known(face_id), source, "")


def _entry(face_id: str, face: Face, source: ShippedFace | StoredFace, text: str) -> FaceEntry:
    if isinstance(source, ShippedFace):
        name, kind, licence = source.name, source.kind, source.licence
    else:
        facts = FontFacts(**source.facts)
        name, kind = source.name, f"added, {facts.format.upper()}"
        licence = facts.licence or _NO_LICENCE
    return FaceEntry(
        id=face_id,
        name=name,
        kind=kind,
        licence=licence,
        single_stroke=face.single_stroke,
        added=isinstance(source, StoredFace),
        cap_height=face.metrics.sources["cap_height"],
        good_for=list(traits(face)),
        axes=list(face.axes),
        features=list(face.features),
        missing=sorted({missing.character for missing in face.shape(text).missing}),
    )


@router.post(
    "/faces",
    status_code=201,
    response_model=FaceEntry,
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {
                "application/octet-stream": {"schema": {"type": "string", "format": "binary"}}
            },
        }
    },
)
async def add_face(
    work: TheWork,
    added: Added,
    request: Request,
    name: Annotated[Text, Query(min_length=1, max_length=120)],
) -> Response:
    """Add a font file, once it has been tried out; the body is the file as it is."""
    data = await request.body()

    def add() -> Response:
        facts = work.done(_tried, data, name, seconds=_TRYING_SECONDS)
        kept: dict[str, Any] = vars(facts)
        stored = added.add(facts.name, data, kept)
        work.hands.faces_changed()
        found = work.json(_face, stored.id)
        found.status_code = 201
        return found

    return await run_in_threadpool(add)


def _tried(_: Bench, data: bytes, name: str) -> FontFacts:
    return try_font(data, name)


@router.delete("/faces/{face_id}", status_code=204)
def remove_face(added: Added, hands: TheHands, face_id: str) -> None:
    """Offer an added face no longer. What is set in it keeps it."""
    added.remove(face_id)
    hands.faces_changed()


@router.post("/faces/{face_id}/restore", status_code=204)
def restore_face(added: Added, hands: TheHands, face_id: str) -> None:
    """Offer an added face again."""
    added.restore(face_id)
    hands.faces_changed()


@router.get("/faces/{face_id}/words", response_class=Response)
def words(
    work: TheWork, face_id: str, text: Annotated[Text, Query(min_length=1, max_length=2000)]
) -> Response:
    """Some words set straight in a face (SVG), to choose it by."""
    picture = work.done(_words, face_id, text)
    return Response(picture, media_type="image/svg+xml", headers={"Cache-Control": "max-age=86400"})


def _words(bench: Bench, face_id: str, text: str) -> bytes:
    face = bench.case.known(face_id)
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
    return write_words(outlines, bounds, straight.text, face.single_stroke)


@router.get("/faces/{face_id}/licence", response_class=Response)
def licence(added: Added, face_id: str) -> Response:
    """The licence of a face: of a shipped one as its makers wrote it, else what its file states."""
    shipped = catalogue().get(face_id)
    if shipped is not None:
        text = shipped.licence_text
    else:
        facts = FontFacts(**added.get(face_id).facts)
        text = f"{facts.name}: {facts.licence or _NO_LICENCE}\n"
    return Response(text, media_type="text/plain; charset=utf-8")


@router.get("/figure")
def figure(text: str = Query(max_length=200), unit: Literal["mm", "in"] = "mm") -> TypedFigure:
    """What a typed figure comes to: sums, fractions and inches are understood."""
    return TypedFigure(value=float(np.round(parse_length(text, unit), 6)))
