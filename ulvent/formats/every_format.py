"""All files in which a piece can be taken away, by what they are of and by their endings."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache, partial

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import Format, RunFormat, ThreadFormat
from ulvent.formats.out import FORMATS
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.formats.solid_out import SOLID_FORMATS
from ulvent.formats.thread_out import THREAD_FORMATS

Write = Callable[[Workpiece], bytes]


@cache
def every_file() -> dict[str, Write]:
    """What writes each file of a piece, all passes and all hoopings, by where the page asks for it:
    `export/svg` for the lettering and `export/svg?guides=true`, `run/svg`, `thread/dst`,
    `solid/stl`."""
    found: dict[str, Write] = {}
    for name, one in FORMATS.items():
        for query, guides in ("", False), ("?guides=true", True):
            found[f"export/{name}{query}"] = partial(_outlines, one, guides)
    for name, run in RUN_FORMATS.items():
        found[f"run/{name}"] = partial(_followed, run)
    for name, thread in THREAD_FORMATS.items():
        found[f"thread/{name}"] = partial(_sewn, thread)
    for name, solid in SOLID_FORMATS.items():
        found[f"solid/{name}"] = solid.file
    return found


def _outlines(one: Format, guides: bool, work: Workpiece) -> bytes:
    return one.write(work, guides)


def _followed(run: RunFormat, work: Workpiece) -> bytes:
    return run.write(work.run)


def _sewn(thread: ThreadFormat, work: Workpiece) -> bytes:
    return thread.write(work.embroidery)


@cache
def every_format() -> dict[str, Write]:
    """What writes a piece as it says, by the ending alone: where it is the lettering's and a
    run's, it is the lettering's, without guides."""
    found: dict[str, Write] = {}
    for path, write in every_file().items():
        found.setdefault(ending_of(path), write)
    return found


def ending_of(path: str) -> str:
    """The ending of a file that `every_file` writes."""
    return path.rsplit("/", maxsplit=1)[-1].split("?", maxsplit=1)[0]
