"""Files packed into one ZIP, the same bytes each time."""

from __future__ import annotations

import zipfile
from collections.abc import Iterable, Iterator
from typing import IO, cast

_ALWAYS = (1980, 1, 1, 0, 0, 0)
"""When all was packed: the earliest that a ZIP can say."""


def packed(files: Iterable[tuple[str, bytes]]) -> bytes:
    """A ZIP of files by their names, in their order."""
    return b"".join(packing(files))


def packing(files: Iterable[tuple[str, bytes]]) -> Iterator[bytes]:
    """The same, part by part, so that no more than a file of it is in the memory."""
    out = _Passing()
    with zipfile.ZipFile(cast(IO[bytes], out), "w", zipfile.ZIP_DEFLATED) as package:
        for name, data in files:
            package.writestr(zipfile.ZipInfo(name, _ALWAYS), data, zipfile.ZIP_DEFLATED)
            yield out.taken()
    yield out.taken()


class _Passing:
    """A file that is written once from its begin to its end, and taken away as it is."""

    def __init__(self) -> None:
        self._parts: list[bytes] = []

    def write(self, data: bytes) -> int:
        self._parts.append(bytes(data))
        return len(data)

    def flush(self) -> None:
        """There is nothing to wait for."""

    def taken(self) -> bytes:
        """What was written since the last time."""
        parts, self._parts = self._parts, []
        return b"".join(parts)
