"""Letters of a line that leave a shape, seen in the layout: quick enough for a pull."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import FITTING
from ulvent.core.curves import Curve
from ulvent.core.guides.blanks import AnyBlank
from ulvent.core.guides.round_blanks import RoundBlank
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import named_letters
from ulvent.core.setting import Setting
from ulvent.core.shapes import Region, area_within, flat_contours, with_laps
from ulvent.core.shapes.scattered import wholly

_MOST_PLACES = 40


@remembered(32)
def inside_of(outlines: tuple[Curve, ...], blank: AnyBlank | None = None) -> Region:
    """The area within outlines, a little larger and coarser, with the laps of a round blank."""
    area = past_the_seam(area_within(outlines), blank)
    return area.offset(2.0 * FITTING).simplified(FITTING)


def past_the_seam(area: Region, blank: AnyBlank | None) -> Region:
    """The area of a blank; with its laps, where it is the side of a round part."""
    if not isinstance(blank, RoundBlank):
        return area
    lap = blank.round_side.lap
    return with_laps(area, lap.matrix, lap.back.matrix)


def leaving(check: Check, subject: Subject, shape: Region, name: str) -> list[Finding]:
    """What `check` finds of a lettering's letters that are not wholly inside of a shape."""
    found = [(line, index) for line in subject.lines for index in letters_outside(line, shape)]
    if not found:
        return []
    texts = [line.clusters[index].text for line, index in found]
    many = "1 letter leaves" if len(found) == 1 else f"{len(found)} letters leave"
    middles = [line.letter_corners[index].mean(axis=0) for line, index in found[:_MOST_PLACES]]
    return [
        check.finding(
            f"{many} {name}{named_letters(texts[:12])}",
            "Make it smaller, or move it.",
            float(len(found)),
            lettering=subject.words.id,
            letters=tuple(texts),
            places=tuple((float(x), float(y)) for x, y in middles),
        )
    ]


def letters_outside(line: Setting, shape: Region) -> list[int]:
    """The letters with ink outside of a shape."""
    if not line.clusters or shape.is_empty:
        return []
    corners = _corners(line)
    boxes = np.concatenate([corners.min(axis=1), corners.max(axis=1)], axis=1)
    _, outside = wholly(boxes, shape)
    out = outside & line.drawn
    within = shape.contains(corners.reshape(-1, 2)).reshape(-1, 4).all(axis=1)
    doubtful = np.flatnonzero(~within & ~outside & line.drawn)
    if len(doubtful):
        # A box that is outside with a corner may have its ink inside.
        inked = [_ink(line, int(index)) for index in doubtful]
        owners = np.repeat(doubtful, [len(points) for points in inked])
        out[owners[~shape.contains(np.concatenate(inked))]] = True
    return [int(index) for index in np.flatnonzero(out)]


def _corners(line: Setting) -> Points:
    """(n, 4, 2) corners of boxes that hold the letters, mm."""
    if not line.bent:
        return line.letter_corners
    boxes = np.array([line.placed_outline(index).bounds() for index in range(len(line.clusters))])
    return boxes[:, [[0, 1], [0, 3], [2, 3], [2, 1]]]


def _ink(line: Setting, index: int) -> Points:
    """(n, 2) points of a letter's edge, mm."""
    if line.bent:
        contours = [points for points, _ in flat_contours(line.placed_outline(index))]
    else:
        matrix, scale = line.matrices[index], float(line.scales[index])
        own = flat_contours(line.outline(index), scale)
        contours = [points @ matrix[:, :2].T + matrix[:, 2] for points, _ in own]
    return np.concatenate(contours or [np.empty((0, 2))])
