"""Results that are remembered, and can be forgotten all at once when memory is short."""

from __future__ import annotations

from collections.abc import Callable
from functools import _lru_cache_wrapper, lru_cache
from typing import Any, TypeVar

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
