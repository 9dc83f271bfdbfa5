"""Results that are remembered, and can be forgotten all at once when memory is short; and those
that take long enough to be kept for whoever computes next, elsewhere and later."""

from __future__ import annotations

from collections.abc import Callable
from functools import _lru_cache_wrapper, lru_cache
from typing import Any, Protocol, TypeVar

R = TypeVar("R")

_remembering: list[_lru_cache_wrapper[Any]] = []


def remembered(most: int) -> Callable[[Callable[..., R]], _lru_cache_wrapper[R]]:
    """Remember so many results of a function, the last that were asked for; see `forget_all`.

    It bounds entries. What all of them together take is bounded by who calls `forget_all`.
    """

    def remember(function: Callable[..., R]) -> _lru_cache_wrapper[R]:
        remembering = lru_cache(maxsize=most)(function)
        _remembering.append(remembering)
        return remembering

    return remember


def forget_all() -> None:
    """Forget what every function remembers; it is made again where it is asked for."""
    for one in _remembering:
        one.cache_clear()


class Elsewhere(Protocol):
    """Where results are kept, as bytes by a name of any length. It may lose them, or be away."""

    def get(self, name: bytes) -> bytes | None: ...

    def put(self, name: bytes, data: bytes) -> None: ...


_elsewhere: list[Elsewhere] = []


def keep_in(*elsewhere: Elsewhere) -> None:
    """Have this process keep results there; nowhere, where nothing is said."""
    _elsewhere[:] = elsewhere


def kept_elsewhere(
    what: str,
    made_from: bytes,
    make: Callable[[], R],
    pack: Callable[[R], bytes],
    unpack: Callable[[bytes], R],
) -> R:
    """A result that was made from the same before, wherever; or made now, and kept.

    what, made_from
        what kind of result it is, and all that it depends on
    pack, unpack
        make it bytes, and back to the last bit
    """
    if not _elsewhere:
        return make()
    (place,) = _elsewhere
    name = what.encode() + b"\0" + made_from
    data = place.get(name)
    if data is not None:
        return unpack(data)
    found = make()
    place.put(name, pack(found))
    return found
