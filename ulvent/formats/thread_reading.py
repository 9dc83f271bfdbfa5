"""Stitch files read, by pyembroidery: shown, measured, and held against what was meant."""

from __future__ import annotations

import io

import numpy as np
import pyembroidery

from ulvent.core.stitches import CLOTHS, Colour, Embroidery, Sewn, Thread, What
from ulvent.formats.outline_file import OutlineFileError

READERS = {
    "dst": pyembroidery.DstReader,
    "exp": pyembroidery.ExpReader,
    "pes": pyembroidery.PesReader,
    "jef": pyembroidery.JefReader,
    "vp3": pyembroidery.Vp3Reader,
}
MOST_BYTES = 8_000_000
MM_A_UNIT = 0.1
_PLAIN = "#1b1b1b"


def read_thread(data: bytes, format: str) -> Embroidery:
    """What a stitch file sews, mm, y up, from its own origin.

    Raises
    ------
    OutlineFileError
        Where the file is none of its kind, or sews nothing.
    """
    pattern = pyembroidery.EmbPattern()
    try:
        READERS[format].read(io.BytesIO(data), pattern)
    except Exception as error:  # pyembroidery raises whatever it meets
        raise OutlineFileError(f"this is no stitch file of the kind .{format}") from error
    colours: list[Colour] = []
    for block, thread in pattern.get_as_colorblocks():
        sewn: list[Sewn] = []
        points: list[tuple[float, float]] = []
        for x, y, command in [*block, (0.0, 0.0, pyembroidery.TRIM)]:
            if command == pyembroidery.STITCH:
                points.append((x * MM_A_UNIT, -y * MM_A_UNIT))
            elif points:
                thread_of = Thread.of(np.array(points), What.RUN)
                sewn.append(Sewn(thread_of, "", f"Thread {len(colours) + 1}"))
                points = []
        if sewn:
            colours.append(Colour(_colour(thread), tuple(sewn)))
    found = Embroidery(CLOTHS["woven-cotton"], tuple(colours), {})
    box = found.bounds
    if box is None or (box[0] == box[2] and box[1] == box[3]):
        raise OutlineFileError("nothing is sewn in this file")
    return found


def _colour(thread: pyembroidery.EmbThread) -> str:
    colour = getattr(thread, "color", None)
    return _PLAIN if colour is None else f"#{int(colour) & 0xFFFFFF:06x}"
