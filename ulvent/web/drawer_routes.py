"""Routes for the drawer of guides."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from ulvent.bench import Bench
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import Text
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.guides.kinds import AnyGuide, Guide
from ulvent.core.guides.taken import fitted_to, standing_alone
from ulvent.core.recipe import parse_guide, parse_piece
from ulvent.formats.guide_file import ENDING, read_guide, write_guide
from ulvent.formats.svg_pictures import write_curve
from ulvent.store.drawer import Drawer, SavedGuide
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import download

router = APIRouter(
    prefix="/api/drawer",
    tags=["drawer"],
    responses={status: {"model": Problem} for status in (404, 422)},
)


class DrawerEntry(BaseModel):
    """A guide in the drawer."""

    id: UUID
    name: str
    kind: str
    size: str


class NewEntry(BaseModel):
    """A guide of a piece, to be saved under a name."""

    name: str
    piece: dict[str, Any]
    guide: str


class ChangedEntry(BaseModel):
    """A new name, or a guide of a piece to take the place of the old one."""

    name: str | None = None
    piece: dict[str, Any] | None = None
    guide: str | None = None


class Wanted(BaseModel):
    """Where a copy shall go: its id in the piece, and whether it is fitted to the blank."""

    piece: dict[str, Any]
    id: str
    fit: Literal["true", "blank"] = "true"


class Copy(BaseModel):
    """A copy for a piece."""

    guide: Guide


def all_guides(request: Request) -> Drawer:
    drawer: Drawer = request.app.state.drawer
    return drawer


All = Annotated[Drawer, Depends(all_guides)]


@router.get("")
def find(
    drawer: All, work: TheWork, words: Annotated[Text, Query(max_length=200)] = ""
) -> list[DrawerEntry]:
    """The guides whose names hold all of `words`."""
    return work.done(_entries, drawer.find(words))


@router.post("", status_code=201)
def save(drawer: All, work: TheWork, new: NewEntry) -> DrawerEntry:
    guide = work.done(_standing_alone, new.piece, new.guide)
    return _entry(work, drawer.save(new.name, guide))


@router.post(
    "/file",
    status_code=201,
    openapi_extra={
        "requestBody": {"required": True, "content": {"application/json": {"schema": {}}}}
    },
)
async def open_file(drawer: All, work: TheWork, request: Request) -> DrawerEntry:
    """Put the guide of a guide file into the drawer; the body is the file as it is."""
    data = await request.body()

    def keep() -> DrawerEntry:
        return _entry(work, drawer.save(*work.done(_read, data)))

    return await run_in_threadpool(keep)


@router.put("/{guide_id}")
def change(drawer: All, work: TheWork, guide_id: UUID, changed: ChangedEntry) -> DrawerEntry:
    """Rename a guide, or replace it."""
    guide = None
    if changed.piece and changed.guide:
        guide = work.done(_standing_alone, changed.piece, changed.guide)
    return _entry(work, drawer.change(guide_id, changed.name, guide))


@router.delete("/{guide_id}", status_code=204)
def delete(drawer: All, guide_id: UUID) -> None:
    drawer.delete(guide_id)


@router.post("/{guide_id}/restore")
def restore(drawer: All, work: TheWork, guide_id: UUID) -> DrawerEntry:
    return _entry(work, drawer.restore(guide_id))


@router.post("/{guide_id}/copy")
def copy(drawer: All, work: TheWork, guide_id: UUID, wanted: Wanted) -> Copy:
    """A copy of a guide for a piece, at true size or as large as its blank has room for."""
    return work.done(_copy, drawer.get(guide_id).guide, wanted)


def _copy(_: Bench, guide: AnyGuide, wanted: Wanted) -> Copy:
    guide = guide.model_copy(update={"id": wanted.id})
    if wanted.fit == "blank":
        guide = fitted_to(guide, parse_piece(wanted.piece).blank)
    return Copy(guide=parse_guide(guide.model_dump(mode="json")))


@router.get("/{guide_id}/picture", response_class=Response)
def picture(drawer: All, work: TheWork, guide_id: UUID) -> Response:
    """The guide as a small picture (SVG)."""
    data = work.done(_picture, drawer.get(guide_id), patient=True)
    return Response(data, media_type="image/svg+xml", headers={"Cache-Control": "no-cache"})


def _picture(_: Bench, saved: SavedGuide) -> bytes:
    return write_curve(guide_curves((saved.guide,))[saved.guide.id], saved.name)


@router.get("/{guide_id}/file", response_class=Response)
def guide_file(drawer: All, guide_id: UUID) -> Response:
    """The guide as a guide file."""
    saved = drawer.get(guide_id)
    return download(write_guide(saved.name, saved.guide), saved.name, ENDING, "application/json")


def _read(_: Bench, data: bytes) -> tuple[str, AnyGuide]:
    name, guide = read_guide(data)
    guide_curves((guide,))
    return name, guide


def _entry(work: TheWork, saved: SavedGuide) -> DrawerEntry:
    (entry,) = work.done(_entries, [saved])
    return entry


def _entries(_: Bench, saved: list[SavedGuide]) -> list[DrawerEntry]:
    return [_described(one) for one in saved]


def _described(saved: SavedGuide) -> DrawerEntry:
    x0, y0, x1, y1 = curve_bounds(guide_curves((saved.guide,))[saved.guide.id])
    size = f"{x1 - x0:.4g} × {y1 - y0:.4g} mm"
    return DrawerEntry(id=saved.id, name=saved.name, kind=saved.guide.kind, size=size)


def _standing_alone(_: Bench, document: dict[str, Any], guide_id: str) -> AnyGuide:
    piece = parse_piece(document)
    guide = next((one for one in piece.guides if one.id == guide_id), None)
    if guide is None:
        raise wrong_field("guide", f"there is no guide “{guide_id}”")
    return standing_alone(guide, guide_curves(piece.guides)[guide_id])
