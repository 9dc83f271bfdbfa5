"""Routes for stitch files: read and shown, and sewn by the simulated stitcher."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel

from ulvent.bench import LATER, Bench
from ulvent.core.base.arrays import Points
from ulvent.core.base.trees import point_tree
from ulvent.core.stitches import Embroidery
from ulvent.core.stitches.hoops import one_hooping
from ulvent.core.stitches.thread_figures import figures
from ulvent.formats.thread_out import THREAD_FORMATS
from ulvent.formats.thread_reading import MOST_BYTES, read_thread
from ulvent.machines.stitcher import Limits, State, Stitcher
from ulvent.web.bodies import A_FILE
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork

router = APIRouter(tags=["thread"], responses={422: {"model": Problem}})

StitchFile = Literal["dst", "exp", "pes", "jef", "vp3"]
_GOES_BACK = 8
"""Stitches after a thread broke."""


class SewnLine(BaseModel):
    """Needle points of one thread between two ends, x and y, y down."""

    colour: str
    points: list[float]


class StitchFileShown(BaseModel):
    """A stitch file: what it sews, and what that comes to at 700 stitches a minute."""

    lines: list[SewnLine]
    stitches: int
    trims: int
    seconds: float
    metres: float
    size: tuple[float, float]


class Sewing(BaseModel):
    """A piece to be sewn by the simulated stitcher.

    hooping
        from 1; 0: all of it
    breaks_at
        the stitch at which the thread breaks; none: it holds
    """

    piece: dict[str, Any]
    format: StitchFile = "dst"
    hooping: int = 0
    breaks_at: int | None = None


class SewnOut(BaseModel):
    """What the stitcher made of a file.

    wrong
        limits that the file is beyond; then nothing is sewn
    went_back
        whether its thread broke, and it went back some stitches
    meant, sewn
        needle points of the piece, and of what came out; those sewn again are counted again
    off
        the farthest that one is from where it was meant, mm
    lines
        what came out, moved to where it was meant
    """

    state: State
    wrong: list[str]
    went_back: bool
    meant: int
    sewn: int
    off: float
    lines: list[SewnLine]


@router.post("/api/thread/read", openapi_extra=A_FILE)
async def read(
    request: Request, work: TheWork, format: Annotated[StitchFile, Query()]
) -> StitchFileShown:
    """A stitch file, shown and measured; nothing is kept. The body is the file as it is."""
    from starlette.concurrency import run_in_threadpool

    data = await request.body()
    return await run_in_threadpool(
        lambda: work.done(_read, data[:MOST_BYTES], format, seconds=LATER)
    )


@router.post("/api/thread/sewn", response_model=SewnOut)
def sewn(request: Sewing, work: TheWork) -> Response:
    """A piece's stitch file sewn by the simulated stitcher, held against what was meant."""
    return work.json(_sewn, request, seconds=LATER, patient=True)


def _read(_: Bench, data: bytes, format: str) -> StitchFileShown:
    found = read_thread(data, format)
    come_to = figures(found, 700.0)
    x0, y0, x1, y1 = found.bounds or (0.0, 0.0, 0.0, 0.0)
    return StitchFileShown(
        lines=[_line(one.points, colour.colour) for colour in found.colours for one in colour.sewn],
        stitches=come_to.stitches,
        trims=come_to.trims,
        seconds=come_to.seconds,
        metres=come_to.metres,
        size=(x1 - x0, y1 - y0),
    )


def _sewn(bench: Bench, request: Sewing) -> SewnOut:
    work = bench.workshop.of_document(request.piece)
    embroidery = one_hooping(work.piece, work.embroidery, request.hooping)
    hoop = work.piece.sewing.hoop if work.piece.sewing else None
    limits = Limits(*hoop.sides) if hoop else Limits()
    machine = Stitcher(limits, request.breaks_at)
    machine.load(THREAD_FORMATS[request.format].write(embroidery), request.format)
    machine.go()
    broke = machine.state == "thread broken"
    if broke:
        machine.back(_GOES_BACK)
        machine.go()
    return _outcome(machine, embroidery, broke)


def _outcome(machine: Stitcher, embroidery: Embroidery, broke: bool) -> SewnOut:
    meant = [one.points for one in embroidery.sewn]
    every = np.concatenate(meant) if meant else np.empty((0, 2))
    lines = [(number, np.array(points)) for number, points in machine.lines]
    off = 0.0
    if lines and len(every):
        came = np.concatenate([points for _, points in lines])
        # Some formats count from the middle of what they hold.
        move = (every.max(axis=0) + every.min(axis=0) - came.max(axis=0) - came.min(axis=0)) / 2.0
        near = point_tree(every)
        # The outermost are rounded: all of them say it better.
        move += np.median(every[near.query(came + move)[1]] - (came + move), axis=0)
        lines = [(number, points + move) for number, points in lines]
        off = float(near.query(came + move)[0].max())
    colours = [one.colour for one in embroidery.colours]
    return SewnOut(
        state=machine.state,
        wrong=machine.wrong,
        went_back=broke,
        meant=len(every),
        sewn=machine.sewn,
        off=off,
        lines=[_line(points, colours[min(number, len(colours) - 1)]) for number, points in lines],
    )


def _line(points: Points, colour: str) -> SewnLine:
    return SewnLine(colour=colour, points=(points * (1.0, -1.0)).round(2).ravel().tolist())
