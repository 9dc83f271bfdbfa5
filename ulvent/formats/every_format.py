"""All formats in which a piece can be taken away, by the endings of their files."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

from ulvent.core.workshop import Workpiece
from ulvent.formats.out import FORMATS
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.formats.solid_out import SOLID_FORMATS
from ulvent.formats.thread_out import THREAD_FORMATS

Write = Callable[[Workpiece], bytes]


@cache
def every_format() -> dict[str, Write]:
    """What writes a piece as it says, without guides, all passes and all hoopings."""
    found: dict[str, Write] = {}
    for name, outline in FORMATS.items():
        found[name] = lambda work, one=outline: one.write(work, False)  # type: ignore[misc]
    # Where an ending is a run's and the lettering's, it is the lettering's.
    for name, run in RUN_FORMATS.items():
        if name not in found:
            found[name] = lambda work, one=run: one.write(work.run)  # type: ignore[misc]
    for name, thread in THREAD_FORMATS.items():
        found[name] = lambda work, one=thread: one.write(work.embroidery)  # type: ignore[misc]
    for name, solid in SOLID_FORMATS.items():
        found[name] = solid.file
    return found
