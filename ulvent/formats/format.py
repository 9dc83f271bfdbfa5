"""What Ulvent knows of one format of cut files: one record each."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

from ulvent.core.base.inputs import Values
from ulvent.core.outlines import FileOutline
from ulvent.core.runs import Run
from ulvent.core.stitches import Embroidery
from ulvent.core.workshop import Workpiece
from ulvent.formats.program import Block

FileUnit = Literal["file", "mm", "inch"]
FILE_UNITS: Values = (("file", "as it says"), ("mm", "mm"), ("inch", "inches"))
"""What a unit of a file is, with words."""


@dataclass(frozen=True, eq=False)
class _Kind:
    """A kind of files.

    name
        as addresses name it, and the ending of its files
    title
        what it is called
    """

    name: str
    title: str

    @property
    def ending(self) -> str:
        return f".{self.name}"


@dataclass(frozen=True, eq=False)
class _Written(_Kind):
    """A kind of files that is written; `rank` is its place among those that are offered."""

    media_type: str
    rank: float


@dataclass(frozen=True, eq=False)
class Format(_Written):
    """A format in which a prepared piece is taken away.

    write
        the bytes of a file, with guides or without
    """

    write: Callable[[Workpiece, bool], bytes]


@dataclass(frozen=True, eq=False)
class RunFormat(_Written):
    """A format in which a run is taken to a machine, or to paper.

    write
        the bytes of a file
    blocks
        the same for a machine that is spoken to: what it is told, stretch by stretch
    """

    write: Callable[[Run], bytes]
    blocks: Callable[[Run], Iterator[Block]] | None = None


@dataclass(frozen=True, eq=False)
class ThreadFormat(_Written):
    """A format in which thread is taken to a machine.

    write
        the bytes of a file
    """

    write: Callable[[Embroidery], bytes]


@dataclass(frozen=True, eq=False)
class SolidFormat(_Written):
    """A format in which a part is taken away, or its side laid flat.

    write
        the bytes of a file, or what is asked of `kernel`
    kernel
        what makes the file of it in a process of its own; none: it is made
    """

    write: Callable[[Workpiece], bytes]
    kernel: Callable[[bytes], bytes] | None = None

    def file(self, work: Workpiece) -> bytes:
        """The bytes of a file."""
        written = self.write(work)
        return self.kernel(written) if self.kernel else written


@dataclass(frozen=True, eq=False)
class Reader(_Kind):
    """A format from which outlines are taken.

    read
        the outlines of a file, given what a unit of it is where it does not say so itself
    """

    rank: float
    read: Callable[[bytes, FileUnit], list[FileOutline]]
