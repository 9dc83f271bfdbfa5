"""Values changed by what their types say of them, however deep they lie in a record.

A type carries marks (`Annotated[float, LENGTH]`); a change is made for each marked type, and a
record is copied with all its marked values changed: models, dataclasses, lists, mappings.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, is_dataclass, replace
from types import UnionType
from typing import Annotated, Any, Union, get_args, get_origin, get_type_hints

from pydantic import BaseModel

Change = Callable[[Any, Any], Any]
"""Makes a value into another, by something that is given with it."""
Leaf = Callable[[tuple[Any, ...]], Change | None]
"""The change for a type with these marks, if there is one."""


class Changer:
    """Changes records by the marks of their types.

    leaf
        the change for a type with some marks
    exempt
        names the fields of one model that are let be as they are
    """

    def __init__(self, leaf: Leaf, exempt: Callable[[Any], tuple[str, ...]] = lambda _: ()) -> None:
        self._leaf, self._exempt = leaf, exempt
        self._known: dict[Any, Change | None] = {}

    def change_of(self, kind: Any) -> Change | None:
        """What changes values of a type; nothing where no part of it is marked."""
        if kind not in self._known:
            self._known[kind] = self._found(kind)
        return self._known[kind]

    def _found(self, kind: Any) -> Change | None:
        origin, arguments = get_origin(kind), get_args(kind)
        if origin is Annotated:
            return self._leaf(arguments[1:]) or self.change_of(arguments[0])
        if origin in (Union, UnionType):
            return self._of_union(arguments)
        if origin in (list, tuple):
            return self._of_sequence(origin, arguments)
        if origin is dict:
            return self._of_mapping(arguments[1])
        if isinstance(kind, type) and (issubclass(kind, BaseModel) or is_dataclass(kind)):
            return self._of_record(kind)
        return None

    def _of_union(self, kinds: tuple[Any, ...]) -> Change | None:
        changes = [(_accepts(kind), found) for kind in kinds if (found := self.change_of(kind))]
        if not changes:
            return None
        return lambda value, by: next(
            (change(value, by) for accepts, change in changes if isinstance(value, accepts)), value
        )

    def _of_mapping(self, kind: Any) -> Change | None:
        change = self.change_of(kind)
        if change is None:
            return None
        return lambda value, by: {key: change(one, by) for key, one in value.items()}

    def _of_sequence(self, kind: Any, arguments: tuple[Any, ...]) -> Change | None:
        if kind is list or Ellipsis in arguments:
            change = self.change_of(arguments[0])
            return None if change is None else lambda value, by: kind(change(v, by) for v in value)
        changes = [self.change_of(argument) for argument in arguments]
        if not any(changes):
            return None
        return lambda value, by: tuple(
            change(one, by) if change else one for change, one in zip(changes, value, strict=True)
        )

    def _of_record(self, kind: Any) -> Change | None:
        """What changes a model or a dataclass: a copy of it with the marked fields changed."""
        hints = get_type_hints(kind, include_extras=True)
        model = issubclass(kind, BaseModel)
        names = kind.model_fields if model else [field.name for field in fields(kind)]
        changes = {name: found for name in names if (found := self.change_of(hints[name]))}
        if not changes:
            return None

        def changed(value: Any, by: Any) -> dict[str, Any]:
            kept = self._exempt(value)
            return {
                name: change(getattr(value, name), by)
                for name, change in changes.items()
                if name not in kept
            }

        if model:
            return lambda value, by: value.model_copy(update=changed(value, by))
        return lambda value, by: replace(value, **changed(value, by))


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
