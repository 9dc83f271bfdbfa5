"""Routes for parts: what a piece becomes as a solid, for the page to turn about, and its files."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, Any, Literal
from uuid import UUID

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from ulvent.bench import LATER, Bench
from ulvent.core.guides.blanks import BLANKS, AnyBlank
from ulvent.core.guides.round_blanks import BandBlank, RoundBlank, SignetBlank
from ulvent.core.layout.names import lettering_names
from ulvent.core.recipe import Piece
from ulvent.core.recipe.solid import LetteringRelief, Solid
from ulvent.core.solids import MATERIALS, MadeSolid, ring_sizes, solid_of
from ulvent.core.workshop import Workpiece
from ulvent.formats.solid_out import SOLID_FORMATS
from ulvent.formats.solid_picture import SIDES, Side, solid_picture
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import Shelf, download

router = APIRouter(tags=["solid"], responses={422: {"model": Problem}})

if TYPE_CHECKING:
    SolidFormatName = str
else:
    SolidFormatName = Literal[tuple(SOLID_FORMATS)]

COARSE = 4.0
"""How many times coarser a part is that is only looked at while it is pulled about."""
SEEN = 1500.0
"""Into how many parts a screen may tell a piece apart: what is finer only slows its turning."""
_COARSE = Annotated[bool, Query()]


class SolidRequest(BaseModel):
    """A piece that is looked at as a part."""

    piece: dict[str, Any]


class ShownMaterial(BaseModel):
    """A material to choose."""

    name: str
    title: str


class ShownRelief(BaseModel):
    """How a lettering stands out; whether that is said of it alone."""

    name: str
    own: bool
    relief: LetteringRelief


class ShownStretch(BaseModel):
    """A letter that is stretched, in words."""

    letter: str
    said: str


class ShownRingSizes(BaseModel):
    """An inner diameter on the common scales."""

    iso: float
    british: str
    american: float


class SolidScene(BaseModel):
    """A piece as a part: what it comes to.

    own
        whether the piece says what it becomes
    kind
        plate, side, band, signet or read
    read
        the file that the body was read from; its triangles are left out of `recipe`
    size
        along x, y and z, mm
    volume, area, weight
        cm³, cm² and g; no weight while the material is not said
    """

    own: bool
    kind: str
    blank: str
    read: str
    recipe: Solid
    size: tuple[float, float, float]
    volume: float
    area: float
    weight: float | None
    triangles: int
    parts: list[str]
    reference: str
    ring: ShownRingSizes | None
    letterings: list[ShownRelief]
    stretched: list[ShownStretch]
    materials: list[ShownMaterial]


@router.post("/api/solid", response_model=SolidScene)
def solid(request: SolidRequest, work: TheWork) -> Response:
    """A piece as a part, in figures."""
    return work.json(_scene, request, seconds=LATER, patient=True)


@router.post("/api/solid/mesh", response_class=Response)
def solid_mesh(request: SolidRequest, work: TheWork, coarse: _COARSE = False) -> Response:
    """The part itself as GLB: coarse and soon, or as exact as a screen shows it."""
    data = work.done(_mesh, request, coarse, seconds=LATER, patient=not coarse)
    return Response(data, media_type="model/gltf-binary")


@router.post("/api/solid/picture", response_class=Response)
def solid_seen(
    request: SolidRequest, work: TheWork, side: Annotated[Side, Query()] = SIDES[0]
) -> Response:
    """The part seen from a side as PNG, for pages that cannot turn it about."""
    data = work.done(_picture, request, side, seconds=LATER, patient=True)
    return Response(data, media_type="image/png")


@router.get("/api/pieces/{piece_id}/solid/{format}", response_class=Response)
def solid_file(pieces: Shelf, work: TheWork, piece_id: UUID, format: SolidFormatName) -> Response:
    """A piece as a part, as a file."""
    piece = pieces.get(piece_id).piece
    wanted = SOLID_FORMATS[format]
    data = work.done(_written, piece, format, seconds=LATER, patient=True)
    if wanted.kernel is not None:
        data = wanted.kernel(data)
    return download(data, piece.title, wanted.ending, wanted.media_type)


def _written(bench: Bench, piece: Piece, format: str) -> bytes:
    return SOLID_FORMATS[format].write(bench.workshop.of(piece))


def _mesh(bench: Bench, request: SolidRequest, coarse: bool) -> bytes:
    from ulvent.formats.glb_writing import glb

    work = bench.workshop.of_document(request.piece)
    x0, y0, x1, y1 = work.layout.bounds()
    asked = (work.piece.solid or Solid()).tolerance
    seen = max(math.hypot(x1 - x0, y1 - y0) / SEEN / asked, 1.0)
    coarser = seen * COARSE if coarse else seen
    part = work.solid if coarser == 1.0 else solid_of(work.layout, work.ready, coarser)
    return glb(part.meshes)


def _picture(bench: Bench, request: SolidRequest, side: Side) -> bytes:
    return solid_picture(bench.workshop.of_document(request.piece).solid, side)


def _scene(bench: Bench, request: SolidRequest) -> SolidScene:
    work = bench.workshop.of_document(request.piece)
    made, piece = work.solid, work.piece
    low, high = made.box
    blank = piece.blank
    assert blank is not None
    return SolidScene(
        own=piece.solid is not None,
        kind=_kind(piece),
        blank=BLANKS[blank.kind].words(blank),
        read=made.recipe.body.name if made.recipe.body else "",
        recipe=made.recipe.model_copy(update={"body": None}),
        size=(high[0] - low[0], high[1] - low[1], high[2] - low[2]),
        volume=made.volume / 1000.0,
        area=made.area / 100.0,
        weight=made.weight,
        triangles=sum(len(mesh.triangles) for mesh in made.meshes),
        parts=[mesh.name for mesh in made.meshes],
        reference=made.reference,
        ring=_ring(blank),
        letterings=_letterings(work, made.recipe),
        stretched=_stretched(made),
        materials=[ShownMaterial(name=name, title=one.title) for name, one in MATERIALS.items()],
    )


def _kind(piece: Piece) -> str:
    if piece.solid is not None and piece.solid.body is not None:
        return "read"
    return piece.blank.kind if isinstance(piece.blank, RoundBlank) else "plate"


def _ring(blank: AnyBlank) -> ShownRingSizes | None:
    """The sizes of a ring for a finger; none of a band that is larger."""
    if not isinstance(blank, BandBlank | SignetBlank):
        return None
    sizes = ring_sizes(blank.inner)
    return ShownRingSizes(**sizes._asdict()) if sizes.british else None


def _letterings(work: Workpiece, recipe: Solid) -> list[ShownRelief]:
    names = lettering_names(work.layout)
    own = {one.of: one for one in recipe.letterings}
    return [
        ShownRelief(
            name=names[one.id],
            own=one.id in own,
            relief=own.get(one.id) or LetteringRelief(of=one.id, **recipe.relief.model_dump()),
        )
        for one in work.piece.letterings
    ]


def _stretched(made: MadeSolid) -> list[ShownStretch]:
    """Each letter with what of it is most out, in per cent."""
    found = []
    for one in made.stretched:
        wider = one.wider >= -one.narrower
        share = one.wider if wider else -one.narrower
        how = "wider" if wider else "narrower"
        found.append(
            ShownStretch(letter=one.letter, said=f"{100.0 * share:.2f} % {how} at the {one.at}")
        )
    return found
