"""How long a run takes, from a stated model of the machine.

Along a line the tool goes at its speed, but slows down before a corner and gathers speed behind
it at a steady acceleration: its speed has a trapezoid's profile, or a triangle's where there is
no room to reach full speed. Through a corner it goes as fast as if it rounded it off by a small
arc, so far from it, at that acceleration; at a full turn back it stands still. It begins and ends
each line at rest. With the tool up it goes straight, at the machine's travelling speed. Each time
that it goes down or up takes a while.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Floats, Points
from ulvent.core.base.tolerances import JOINT, NIL


@dataclass(frozen=True)
class Motion:
    """How a machine moves.

    acceleration
        mm per second squared
    travel
        with the tool up, mm per second
    rounded
        how far a corner may be rounded off, mm
    lift
        seconds to bring the tool down, and as many to lift it
    """

    acceleration: float = 1000.0
    travel: float = 200.0
    rounded: float = 0.01
    lift: float = 0.05


USUAL = Motion()
"""Common practice for hobby machines, no source."""


def straight_seconds(length: float, speed: float, acceleration: float) -> float:
    """Seconds for a straight way from rest to rest, mm."""
    if length <= 0.0:
        return 0.0
    if length * acceleration >= speed * speed:
        return length / speed + speed / acceleration
    return float(2.0 * np.sqrt(length / acceleration))


def seconds_along(points: Points, speed: float, motion: Motion) -> float:
    """Seconds for a line (k, 2), or (k, 3) with its depths, from rest to rest."""
    marks = times_along(points, speed, motion)
    return float(marks[-1])


def times_along(points: Points, speed: float, motion: Motion) -> Floats:
    """(k,) seconds from its beginning at which the tool is at each point of a line."""
    chords = np.diff(points, axis=0)
    lengths = np.linalg.norm(chords, axis=1)
    most = np.full(len(points), speed * speed)
    most[[0, -1]] = 0.0
    if len(points) > 2:
        most[1:-1] = np.minimum(most[1:-1], _through_corners(chords, lengths, motion))
    # The square of the speed gains at most 2 a mm by mm, ahead and back: running minima.
    gained = np.concatenate([[0.0], np.cumsum(2.0 * motion.acceleration * lengths)])
    squares = gained + np.minimum.accumulate(most - gained)
    squares = (np.minimum.accumulate((squares + gained)[::-1]))[::-1] - gained
    squares = np.maximum(squares, 0.0)
    begin, end = squares[:-1], squares[1:]
    # Where both ends would allow it, there is a stretch at a higher speed between them.
    peak = np.minimum((begin + end) / 2.0 + motion.acceleration * lengths, speed * speed)
    slow, fast, top = np.sqrt(begin), np.sqrt(end), np.sqrt(peak)
    ramps = (2.0 * peak - begin - end) / (2.0 * motion.acceleration)
    seconds = (2.0 * top - slow - fast) / motion.acceleration
    seconds += np.maximum(lengths - ramps, 0.0) / np.maximum(top, JOINT)
    return np.concatenate([[0.0], np.cumsum(seconds)])


def _through_corners(chords: Floats, lengths: Floats, motion: Motion) -> Floats:
    """The square of the greatest speed through each inner point."""
    ways = chords / np.maximum(lengths, JOINT)[:, None]
    cosine = np.clip(np.einsum("ni,ni->n", ways[:-1], ways[1:]), -1.0, 1.0)
    # An arc that touches both sides and leaves the corner by `rounded`: r = d c / (1 - c).
    half = np.sqrt((1.0 + cosine) / 2.0)
    squares: Floats = motion.acceleration * motion.rounded * half / np.maximum(1.0 - half, NIL)
    return squares
