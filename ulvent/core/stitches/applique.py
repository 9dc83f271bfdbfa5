"""Lines along the edge of a shape, and cloth laid on cloth: placed, tacked down, covered."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region
from ulvent.core.stitches.cloths import Cloth
from ulvent.core.stitches.column import Column
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import running, satin, zigzag

COVER = 3.0
"""mm: how wide the satin is that covers the edge. Common practice, no source."""
_TACKED = 1.0
_TACK = 2.5
_OVER = 3.0
"""mm over its beginning to which a closed line goes on, so that it does not come open."""


def edge_lines(part: Region, cloth: Cloth, what: What = What.RUN) -> Iterator[Thread]:
    """A line round each edge of a shape."""
    for ring in part.rings:
        yield Thread.of(running(_closed(ring), cloth.run), what)


def tacked(part: Region) -> Iterator[Thread]:
    """Zig-zag that holds the laid cloth, a little inside its edge."""
    for ring in part.offset(-_TACKED / 2.0).rings:
        column = Column.along(_closed(ring), _TACKED)
        yield Thread.of(zigzag(column, _TACK, 1.0), What.UNDER)


def covered(part: Region, cloth: Cloth) -> Iterator[Thread]:
    """Satin over the edge of the laid cloth."""
    for ring in part.rings:
        column = Column.along(_closed(ring), COVER)
        yield Thread.of(satin(column, cloth), What.SATIN)


def _closed(ring: np.ndarray) -> np.ndarray:
    """A ring from the middle of its longest side, gone round and a little on."""
    sides = np.hypot(*(np.roll(ring, -1, axis=0) - ring).T)
    first = int(np.argmax(sides))
    rolled = np.roll(ring, -first - 1, axis=0)
    begin = (ring[first] + rolled[0]) / 2.0
    walk = Polyline(np.concatenate([begin[None], rolled]), True).walk()
    over = min(_OVER, walk.length / 4.0)
    return np.concatenate([walk.points, walk.at(np.arange(0.5, over + 0.5, 0.5))])
