"""Registers: records that are found in the modules of a package, and nowhere else.

A new record is a new file in the package; nothing that is there is edited. Modules of the
package that define no record are its helpers.
"""

from __future__ import annotations

import pkgutil
from importlib import import_module
from typing import Protocol, TypeVar


class Ranked(Protocol):
    """A record knows its place among the others."""

    @property
    def rank(self) -> float: ...


Record = TypeVar("Record", bound=Ranked)


def found_records(package: str, kind: type[Record]) -> tuple[Record, ...]:
    """All records of a kind that the modules of a package define, by their ranks.

    A module that defines several holds them in any names, singly or in a tuple.

    Examples
    --------
    >>> from ulvent.core.guides.kind import GuideKind
    >>> [one.name for one in found_records("ulvent.core.guides.kinds", GuideKind)][:2]
    ['circle', 'arc-through']
    """
    found: list[Record] = []
    for module in pkgutil.iter_modules(import_module(package).__path__, f"{package}."):
        for value in vars(import_module(module.name)).values():
            for one in value if isinstance(value, tuple) else (value,):
                if isinstance(one, kind) and one not in found:
                    found.append(one)
    return tuple(sorted(found, key=lambda one: one.rank))


Base = TypeVar("Base")


def found_classes(package: str, base: type[Base]) -> tuple[type[Base], ...]:
    """The classes that the modules of a package derive from `base`, by their names.

    A class from which another one there is derived is none of them.
    """
    classes = [
        value
        for module in pkgutil.iter_modules(import_module(package).__path__, f"{package}.")
        for value in vars(import_module(module.name)).values()
        if isinstance(value, type) and value.__module__ == module.name and issubclass(value, base)
    ]
    derived_from = {above for one in classes for above in one.__mro__[1:]}
    ends = [one for one in classes if one not in derived_from]
    return tuple(sorted(ends, key=lambda one: one.__name__))
