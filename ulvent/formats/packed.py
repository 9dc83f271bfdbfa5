"""Files packed into one ZIP, the same bytes each time."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterable

_ALWAYS = (1980, 1, 1, 0, 0, 0)
"""When all was packed: the earliest that a ZIP can say."""


def packed(files: Iterable[tuple[str, bytes]]) -> bytes:
    """A ZIP of files by their names, in their order."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
        for name, data in files:
            package.writestr(zipfile.ZipInfo(name, _ALWAYS), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()
