"""What Ulvent knows of one format of cut files: one record each."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from ulvent.core.base.inputs import Values
from ulvent.core.outlines import FileOutline
from ulvent.core.runs import Run
from ulvent.core.workshop import Workpiece

FileUnit = Literal["file", "mm", "inch"]
FILE_UNITS: Values = (("file", "as it says"), ("mm", "mm"), ("inch", "inches"))
"""What a unit of a file is, with words."""


@dataclass(frozen=True, eq=False)
class Format:
    """A format in which a prepared piece is taken away.

    name
        as addresses name it, and the ending of its files
    title
        what it is called
    write
        the bytes of a file, with guides or without
    """

    name: str
    title: str
    media_type: str
    rank: float
    write: Callable[[Workpiece, bool], bytes]

    @property
    def ending(self) -> str:
        return f".{self.name}"


@dataclass(frozen=True, eq=False)
class RunFormat:
    """A format in which a run is taken to a machine, or to paper.

    name
        as addresses name it, and the ending of its files
    title
        what it is called
    write
        the bytes of a file
    """

    name: str
    title: str
    media_type: str
    rank: float
    write: Callable[[Run], bytes]

    @property
    def ending(self) -> str:
        return f".{self.name}"


@dataclass(frozen=True, eq=False)
class Reader:
    """A format from which outlines are taken.

    name
        as addresses name it, and the ending of its files
    read
        the outlines of a file, given what a unit of it is where it does not say so itself
    """

    name: str
    title: str
    rank: float
    read: Callable[[bytes, FileUnit], list[FileOutline]]

    @property
    def ending(self) -> str:
        return f".{self.name}"
