"""Files written whole or not at all."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path


def write_whole(out: Path, data: bytes) -> None:
    """Write a file whole or not at all: nothing half written is left behind, as on a full disk.

    Raises
    ------
    OSError
        Where it cannot be written; what was there before stays.
    """
    name = ""
    try:
        handle, name = tempfile.mkstemp(dir=out.parent, prefix=".ulvent-")
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        umask = os.umask(0)
        os.umask(umask)
        os.chmod(name, 0o666 & ~umask)
        os.replace(name, out)
    except OSError:
        if name:
            Path(name).unlink(missing_ok=True)
        raise
