"""The one place where y is turned: the screen's points down, the core's up, by their types.

A field of a model is turned where its type is marked with `Turned`, as `Point` and `Bounds`
are, however deep it lies. Path data and matrices are written with y down by `formats.svg_data`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, is_dataclass, replace
from functools import cache
from types import UnionType
from typing import Annotated, Any, TypeVar, Union, get_args, get_origin, get_type_hints

from pydantic import BaseModel

from ulvent.core.base.arrays import Turned

Shown = TypeVar("Shown", bound=BaseModel)
Turn = Callable[[Any], Any]


def turned(model: Shown) -> Shown:
    """The model with every point and box in it turned, from the screen or to it."""
    turn = _turn_of(type(model))
    found: Shown = turn(model) if turn else model
    return found


@cache
def _turn_of(kind: Any) -> Turn | None:
    """What turns values of a type; nothing where no part of it is turned."""
    origin, arguments = get_origin(kind), get_args(kind)
    if origin is Annotated:
        marks = [mark for mark in arguments[1:] if isinstance(mark, Turned)]
        if marks:
            return _box if marks[0].box else _point
        return _turn_of(arguments[0])
    if origin in (Union, UnionType):
        return _of_union(arguments)
    if origin in (list, tuple):
        return _of_sequence(origin, arguments)
    if origin is dict:
        return _of_mapping(arguments[1])
    if isinstance(kind, type) and (issubclass(kind, BaseModel) or is_dataclass(kind)):
        return _of_record(kind)
    return None


def _point(value: Any) -> Any:
    x, y = value
    return x, -y


def _box(value: Any) -> Any:
    x0, y0, x1, y1 = value
    return x0, -y1, x1, -y0


def _of_union(kinds: tuple[Any, ...]) -> Turn | None:
    turns = [(_accepts(kind), found) for kind in kinds if (found := _turn_of(kind))]
    if not turns:
        return None
    return lambda value: next(
        (turn(value) for accepts, turn in turns if isinstance(value, accepts)), value
    )


def _accepts(kind: Any) -> type | tuple[type, ...]:
    """What values of a type are instances of."""
    origin = get_origin(kind)
    if origin is Annotated:
        return _accepts(get_args(kind)[0])
    if origin in (Union, UnionType):
        return tuple(one for part in get_args(kind) for one in _as_tuple(_accepts(part)))
    found: type = origin or kind
    return found


def _as_tuple(kinds: type | tuple[type, ...]) -> tuple[type, ...]:
    return kinds if isinstance(kinds, tuple) else (kinds,)


def _of_mapping(kind: Any) -> Turn | None:
    turn = _turn_of(kind)
    return None if turn is None else lambda value: {k: turn(v) for k, v in value.items()}


def _of_sequence(kind: Any, arguments: tuple[Any, ...]) -> Turn | None:
    if kind is list or Ellipsis in arguments:
        turn = _turn_of(arguments[0])
        return None if turn is None else lambda value: kind(turn(one) for one in value)
    turns = [_turn_of(argument) for argument in arguments]
    if not any(turns):
        return None
    return lambda value: tuple(
        turn(one) if turn else one for turn, one in zip(turns, value, strict=True)
    )


def _of_record(kind: Any) -> Turn | None:
    """What turns a model or a dataclass: a copy of it with the fields that are turned."""
    hints = get_type_hints(kind, include_extras=True)
    names = (
        kind.model_fields if issubclass(kind, BaseModel) else [field.name for field in fields(kind)]
    )
    turns = {name: turn for name in names if (turn := _turn_of(hints[name]))}
    if not turns:
        return None

    def changed(value: Any) -> dict[str, Any]:
        return {name: turn(getattr(value, name)) for name, turn in turns.items()}

    if issubclass(kind, BaseModel):
        return lambda value: value.model_copy(update=changed(value))
    return lambda value: replace(value, **changed(value))
