"""What the live channel answers: the worker's side of it.

While something is held an answer comes in two: what has moved on the drawing, and then the
whole scene. The second is made when it is asked for.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Annotated, Any, NamedTuple

import structlog
from cachetools import LRUCache
from pydantic import BaseModel, Field, ValidationError

from ulvent.bench import Bench
from ulvent.core.acts import AnyAct, Done, Made, perform_all
from ulvent.core.acts.by_row import hand_of_row, is_of_row
from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.recipe import Piece
from ulvent.core.recipe.name_list import Handwork, NameRow
from ulvent.core.series.listed import Listed
from ulvent.core.workshop import Workpiece, Workshop
from ulvent.web.problems import WrongField, fields
from ulvent.web.scene import Painting, new_shapes
from ulvent.web.shown import Moved, Scene
from ulvent.web.turning import turned

log = structlog.get_logger()

MOST_ACTS = 600
_MOST_CHANNELS = 100
_MOST_SENT = 20_000
"""Outlines of which it is remembered that a channel has them."""


class LiveRequest(BaseModel):
    """A piece to lay out, and what is done to it by hand.

    base
        hash of the piece's document; where the server does not know it, it says so
    piece
        the document itself, instead
    chosen
        the lettering or guide whose strip is shown
    acts
        done one after another, as one change, with their points in mm, y down as the screen has it
    node
        the chosen point of the chosen guide
    marks
        stations, or points beside it, at which the chosen guide is measured
    hold
        whether something is held and more requests will come
    by_face
        a lettering that is shown as its face spaces it, for comparing
    sample
        the row of the piece's list whose words are shown in place of its fields: the first row,
        which may be names of columns, and that one
    """

    sequence: int
    base: str | None = None
    piece: dict[str, Any] | None = None
    chosen: str | None = None
    acts: Annotated[tuple[AnyAct, ...], Field(max_length=MOST_ACTS)] = ()
    marks: tuple[float | Point, ...] = ()
    node: int | None = None
    hold: bool = False
    by_face: str | None = None
    sample: Annotated[tuple[NameRow, ...], Field(max_length=2)] = ()


class LiveAnswer(BaseModel):
    """The scene of a piece, or what is wrong with it.

    unknown
        whether the base that was named is not known: the document is wanted
    base, hash
        name the document that was started from, and that of the piece as it is now, unless it
        is only in hand
    working
        a sign of life and no answer: the newest request is being worked on
    moved
        instead, while something is held: what moves, before the scene that follows
    acted, made, said
        the piece as the act left it, what is new in it, and what there is to say of it
    hand
        instead, where letters were changed that a row brings: what that row has by hand, by the
        ids of letterings
    shapes
        outlines that this connection has not been sent before
    """

    sequence: int
    unknown: bool = False
    working: bool = False
    base: str | None = None
    hash: str | None = None
    scene: Scene | None = None
    moved: Moved | None = None
    acted: Piece | None = None
    hand: dict[str, Handwork] | None = None
    made: tuple[Made, ...] = ()
    said: str = ""
    shapes: dict[str, str] = {}
    problems: list[WrongField] = []


def answers(request: LiveRequest, sent: set[str], bench: Bench) -> Iterator[LiveAnswer]:
    """Lay out a request's piece. Names of outlines are added to `sent`."""
    request = turned(request)
    shop, sequence = bench.workshop, request.sequence
    try:
        base = _base(request, shop)
        if base is None:
            yield LiveAnswer(sequence=sequence, unknown=True)
            return
        work, row, done, hand = _acted(base, request, bench)
        shown = _by_face(row or work, request.by_face, shop)
        painting = Painting(shown.layout, request.chosen, request.node)
        if request.hold:
            yield LiveAnswer(sequence=sequence, base=base.hash, moved=painting.moved)
        shapes = new_shapes(shown.layout, sent)
        found = painting.scene(shown.findings, request.marks)
    except PieceError as error:
        yield LiveAnswer(sequence=sequence, problems=fields(error.problems))
        return
    sent.update(shapes)
    yield LiveAnswer(
        sequence=sequence,
        base=base.hash,
        hash=None if request.acts and (request.hold or hand is not None) else work.hash,
        scene=found,
        acted=work.piece if done else None,
        hand=hand,
        made=done.made if done else (),
        said=done.said if done else "",
        shapes=shapes,
    )


def _base(request: LiveRequest, shop: Workshop) -> Workpiece | None:
    """The piece that a request starts from; nothing where only its hash is given, and unknown."""
    if request.piece is not None:
        return shop.of_document(request.piece)
    return shop.known(request.base or "")


class _Acted(NamedTuple):
    """A piece, and with the words of a row, after the acts; and what came of them."""

    work: Workpiece
    row: Workpiece | None
    done: Done | None = None
    hand: dict[str, Handwork] | None = None


def _acted(base: Workpiece, request: LiveRequest, bench: Bench) -> _Acted:
    """What the acts of a request make of its piece; or of the row, where they are done to that."""
    shop, faces = bench.workshop, bench.case.named
    if not request.acts:
        return _Acted(base, _filled(base, request, shop))
    of_row = bool(request.sample) and is_of_row(request.acts, base.piece)
    row = _filled(base, request, shop) if of_row else None
    if row is not None:
        filled = perform_all(request.acts, row.solved, faces).piece
        *first, now = request.sample
        hand = hand_of_row(request.acts, base.piece, now, filled)
        sample = (*first, now.model_copy(update={"hand": hand}))
        again = _filled(base, request.model_copy(update={"sample": sample}), shop)
        return _Acted(base, again, hand=hand)
    done = perform_all(request.acts, base.solved, faces)
    work = _looked_at(done.piece, request, shop)
    return _Acted(work, _filled(work, request, shop), done)


def _looked_at(piece: Piece, request: LiveRequest, shop: Workshop) -> Workpiece:
    """What is in hand is only looked at; the last answer of a pull is exact."""
    return shop.in_hand(piece) if request.hold else shop.of(piece)


def _filled(work: Workpiece, request: LiveRequest, shop: Workshop) -> Workpiece | None:
    """The piece with the words of a row; nothing where there is none that fills them."""
    names = work.piece.names
    if not request.sample or names is None:
        return None
    two = names.model_copy(update={"rows": request.sample})
    try:
        series = Listed(work.piece.model_copy(update={"names": two})).series(-1, {})
        filled = series.piece(request.sample[-1].cells)
    except PieceError:
        return None  # Names says what is wrong with it
    return _looked_at(filled, request, shop)


def _by_face(work: Workpiece, lettering: str | None, shop: Workshop) -> Workpiece:
    """The piece with a lettering as its face spaces it."""
    if lettering is None:
        return work
    letterings = tuple(
        one.model_copy(update={"spacing": "font"}) if one.id == lettering else one
        for one in work.piece.letterings
    )
    return shop.in_hand(work.piece.model_copy(update={"letterings": letterings}))


def replies(text: str, sent: set[str], bench: Bench) -> Iterator[tuple[str, bool]]:
    """The answers to one message as JSON, and whether more follow. There always is one."""
    sequence = -1
    try:
        request = LiveRequest.model_validate_json(text)
        sequence = request.sequence
        for answer in answers(request, sent, bench):
            yield answer.model_dump_json(), answer.moved is not None
        return
    except ValidationError as error:
        reason = "; ".join(detail["msg"] for detail in error.errors())
        problems = fields([FieldProblem("", f"not a request of the live channel: {reason}")])
    except MemoryError:  # the worker says so, and is renewed
        raise
    except Exception as error:  # the channel outlives any one bad piece
        log.error("live request failed", exc_info=error)
        problems = fields([FieldProblem("", "Ulvent could not lay this out; the log has more")])
    found = [problem.model_dump() for problem in problems]
    yield json.dumps({"sequence": sequence, "problems": found}), False


class _Channel:
    """What a worker knows of a channel: the outlines it has sent, and what is half answered."""

    def __init__(self) -> None:
        self.sent: set[str] = set()
        self.rest: Iterator[tuple[str, bool]] = iter(())


_channels: LRUCache[str, _Channel] = LRUCache(_MOST_CHANNELS)
"""In a worker. What is forgotten, or done by another one, is sent once more, and does no harm."""


def begun(bench: Bench, channel: str, text: str) -> tuple[str, bool] | None:
    """The first answer to a message, and whether there is another to `go_on` to."""
    mine = _channels.setdefault(channel, _Channel())
    if len(mine.sent) > _MOST_SENT:
        mine.sent.clear()
    mine.rest = replies(text, mine.sent, bench)
    return next(mine.rest, None)


def gone_on(bench: Bench, channel: str) -> tuple[str, bool] | None:
    """The next answer to the message that was begun last; nothing where that is not known here."""
    mine = _channels.get(channel)
    return next(mine.rest, None) if mine else None
