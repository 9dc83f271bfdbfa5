"""A route for bodies from files: what faces they have that lettering can stand on."""

from __future__ import annotations

import base64

import numpy as np
from fastapi import APIRouter, Request, Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from ulvent.bench import Bench
from ulvent.core.guides.blanks import BLANKS, Blank
from ulvent.core.recipe.read_body import Frame, packed
from ulvent.core.solids import Mesh
from ulvent.core.solids.found_faces import FoundFace, found_faces
from ulvent.core.solids.made_solid import BODY_COLOUR
from ulvent.formats.body_reading import BodyFileError, BodyKind, read_body
from ulvent.formats.format import FileUnit
from ulvent.formats.glb_writing import glb
from ulvent.web.bodies import A_FILE
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork

router = APIRouter(tags=["solid"], responses={422: {"model": Problem}})


_READING_SECONDS = 10.0
"""A file that takes longer to read is refused."""


class ShownFace(BaseModel):
    """A face that lettering can stand on; what of it goes into the piece, and in words."""

    said: str
    blank: Blank
    frame: Frame
    depth: float
    sag: float


class ShownBody(BaseModel):
    """A body that was read; nothing is kept.

    size
        along x, y and z of the file, mm
    mesh
        as the piece holds it
    glb
        to be shown: base64 of a GLB file, its triangles in order
    face_of
        which of the faces each triangle is in; −1: none
    """

    size: tuple[float, float, float]
    triangles: int
    mesh: str
    glb: str
    face_of: list[int]
    faces: list[ShownFace]


@router.post("/api/solid/body/{kind}", response_model=ShownBody, openapi_extra=A_FILE)
async def body(
    kind: BodyKind, request: Request, work: TheWork, unit: FileUnit = "file"
) -> Response:
    """What a file holds as a body. The request is the file as it is."""
    data = await request.body()

    def shown() -> Response:
        return work.json(_shown, data, kind, unit, seconds=_READING_SECONDS)

    return await run_in_threadpool(shown)


def _shown(_: Bench, data: bytes, kind: BodyKind, unit: FileUnit) -> ShownBody:
    read = read_body(data, kind, unit)
    faces = found_faces(read)
    if not faces:
        raise BodyFileError("no face of the body is flat, cylindrical or conical")
    face_of = np.full(len(read), -1)
    for index, face in enumerate(faces):
        face_of[face.triangles] = index
    x, y, z = np.ptp(read.vertices, axis=0).tolist()
    mesh = Mesh(read.vertices, read.triangles, "Body", BODY_COLOUR)
    return ShownBody(
        size=(x, y, z),
        triangles=len(read),
        mesh=packed(read.vertices, read.triangles),
        glb=base64.b64encode(glb([mesh])).decode("ascii"),
        face_of=face_of.tolist(),
        faces=[_face(face) for face in faces],
    )


def _face(face: FoundFace) -> ShownFace:
    said = BLANKS[face.blank.kind].words(face.blank)
    if face.kind == "flat":
        said = f"flat, {said}"
    elif face.around < 360.0:
        said = f"{said}, {face.around:.0f}° of it"
    frame = tuple(face.frame.ravel().tolist())
    return ShownFace(said=said, blank=face.blank, frame=frame, depth=face.depth, sag=face.sag)
