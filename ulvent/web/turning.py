"""The one place where y is turned: the screen's points down, the core's up, by their types.

A field of a model is turned where its type is marked with `Turned`, as `Point` and `Bounds`
are, however deep it lies. Path data and matrices are written with y down by `formats.svg_data`.
"""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel

from ulvent.core.base.arrays import Turned
from ulvent.core.base.marked import Change, Changer

Shown = TypeVar("Shown", bound=BaseModel)


def turned(model: Shown) -> Shown:
    """The model with every point and box in it turned, from the screen or to it."""
    turn = _TURNING.change_of(type(model))
    found: Shown = turn(model, None) if turn else model
    return found


def _turn_of(marks: tuple[Any, ...]) -> Change | None:
    found = [mark for mark in marks if isinstance(mark, Turned)]
    if not found:
        return None
    return _box if found[0].box else _point


def _point(value: Any, _: None) -> Any:
    x, y = value
    return x, -y


def _box(value: Any, _: None) -> Any:
    x0, y0, x1, y1 = value
    return x0, -y1, x1, -y0


_TURNING = Changer(_turn_of)
