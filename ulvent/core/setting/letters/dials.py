"""Dials and rulers: labels spread along a guide, and the ticks beside them."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Booleans, Stations
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.tolerances import JOINT, ROUNDING
from ulvent.core.curves import Curve
from ulvent.core.outlines import Outline
from ulvent.core.recipe import MOST_LABELS, MOST_TICKS, Dial, Lettering, Tick
from ulvent.core.setting.letters.sequences import label_texts

_SAME_BEND = 1e-9


@dataclass(frozen=True, eq=False)
class Label:
    """One label: its number, its words, its station on the guide, and its own height."""

    index: int
    text: str
    station: float
    height: float


@dataclass(frozen=True, eq=False)
class TickLines:
    """Ticks, mm: those with a width as areas, the others as single strokes."""

    areas: Outline
    strokes: Outline


class DialPlaces:
    """Where the labels and long ticks of a dial stand, and which labels have no place.

    first
        the station of the place that all others count from, mm
    points
        stations of the guide's own points, mm
    """

    def __init__(
        self, lettering: Lettering, dial: Dial, guide: Curve, first: float,
        points: tuple[float, ...],
    ) -> None:  # fmt: skip
        self._lettering, self._dial, self._guide, self._points = lettering, dial, guide, points
        own = label_texts(dial.labels, words=lettering.text)
        self._way = 1.0 if dial.way == "along" else -1.0
        steps = self._at_its_own(first) if dial.on else self._steps(len(own))
        self.stations: Stations = first + self._way * steps
        self.texts = own or label_texts(dial.labels, len(self.stations))
        self.on_guide: Booleans = self._on_guide(steps)

    @property
    def labels(self) -> list[Label]:
        """The labels to set."""
        changes = {change.label: change for change in self._dial.changes}
        found: list[Label] = []
        for index, (station, text) in enumerate(
            zip(self.stations.tolist(), self.texts, strict=False)
        ):
            change = changes.get(index)
            if (change and change.hidden) or not self.on_guide[index]:
                continue
            words = text if change is None or change.text is None else change.text
            height = change.height if change and change.height else self._lettering.height
            found.append(Label(index, words, station, height))
        return found

    @property
    def unplaced(self) -> tuple[str, ...]:
        """The words of the labels that have no place."""
        hidden = {change.label for change in self._dial.changes if change.hidden}
        placed = self.on_guide.tolist()
        return tuple(
            text
            for index, text in enumerate(self.texts)
            if text and index not in hidden and (index >= len(placed) or not placed[index])
        )

    @property
    def ticks(self) -> TickLines:
        """Ticks at all places and between them."""
        ticks, guide = self._dial.ticks, self._guide
        if ticks is None:
            return TickLines(Outline.empty(), Outline.empty())
        majors = self.stations[self.on_guide]
        between = np.arange(1, ticks.parts) / ticks.parts
        ends = majors
        if guide.closed and not self._dial.places and self._dial.pitch is None:
            # The places divide all of the guide.
            ends = np.append(majors, majors[:1] + self._way * guide.length)
        spans = np.diff(ends)
        if (len(spans) + 1) * ticks.parts > MOST_TICKS:
            raise wrong_field("dial.ticks.parts", f"would make more than {MOST_TICKS} ticks")
        inner = (ends[:-1, None] + spans[:, None] * between).ravel()
        half_way = np.tile(np.abs(between - 0.5) < _SAME_BEND, len(spans))
        middle = ticks.middle or ticks.minor
        kinds = [(ticks.major, majors), (middle, inner[half_way]), (ticks.minor, inner[~half_way])]
        out = outside(guide)
        way = {"outside": (0.0, out), "inside": (-out, 0.0), "both": (-0.5, 0.5)}[ticks.side]
        lines = [
            _tick_lines(tick, guide, stations, way)
            for tick, stations in kinds
            if tick is not None and len(stations)
        ]
        return TickLines(
            Outline.joined(line for line in lines if line.operations[-1:] == "Z"),
            Outline.joined(line for line in lines if line.operations[-1:] != "Z"),
        )

    def _on_guide(self, steps: Stations) -> Booleans:
        """Which places have the guide under them, and no other place of an earlier lap."""
        if not self._guide.closed:
            inside = self.stations <= self._guide.length + JOINT
            return (self.stations >= -JOINT) & inside
        if self._dial.places:
            return np.ones(len(steps), dtype=bool)
        return np.abs(steps) < self._guide.length - JOINT

    def _steps(self, own: int) -> Stations:
        """How far each place is from the first; `own` is how many labels there are."""
        dial, guide = self._dial, self._guide
        if dial.places:
            steps: Stations = np.array(dial.places, dtype=float)
            if dial.places_in == "degrees":
                steps = np.radians(steps) * _radius(guide)
        else:
            if dial.divisions is not None:
                count, pitch = dial.divisions + (not guide.closed), guide.length / dial.divisions
            elif dial.pitch is not None:
                fitting = math.floor(guide.length / dial.pitch + ROUNDING) + (not guide.closed)
                count, pitch = own or min(fitting, MOST_LABELS), dial.pitch
            else:
                count, pitch = own, guide.length / max(own if guide.closed else own - 1, 1)
            steps = pitch * np.arange(count, dtype=float)
        return steps

    def _at_its_own(self, first: float) -> Stations:
        """Steps to the guide's own corners or points, from the one that is nearest to `first`."""
        corners = self._dial.on == "corners"
        own = np.array(self._guide.corners.stations if corners else self._points, dtype=float)
        if not len(own):
            raise wrong_field("dial.on", f"this guide has no {self._dial.on} of its own")
        length, way = self._guide.length, self._way
        if not self._guide.closed:
            return np.sort(way * (own - first))
        away = np.mod(way * (own - first) + JOINT, length) - JOINT
        away = np.sort(away)
        # The nearest one may lie just before.
        if length - away[-1] < away[0]:
            away = np.append(away[-1] - length, away[:-1])
        return away


def outside(guide: Curve) -> float:
    """1 where a closed guide's outside is to its left, -1 where it is to its right.

    The left of an open guide counts as its outside: it is where letters stand.
    """
    if not guide.closed:
        return 1.0
    return 1.0 if guide.frames(guide.length - JOINT).turnings[0] < 0.0 else -1.0


def _radius(guide: Curve) -> float:
    """The radius of a guide that is a circle or an arc of one."""
    bends = guide.bends[1]
    least, most = float(np.abs(bends).min()), float(np.abs(bends).max())
    if least <= 0.0 or most - least > _SAME_BEND * most or len(guide.corners.stations):
        raise wrong_field("dial.places", "in degrees need a circle or an arc; give them in mm")
    return 1.0 / most


def _tick_lines(tick: Tick, guide: Curve, stations: Stations, way: tuple[float, float]) -> Outline:
    """Ticks as rectangles, or as strokes where they have no width, all as one outline."""
    frames = guide.frames(stations)
    low = frames.points + frames.normals * (min(way) * tick.length)
    high = frames.points + frames.normals * (max(way) * tick.length)
    if tick.width == 0.0:
        points = np.stack([low, high], axis=1)
        return Outline("ML" * len(stations), points.reshape(-1, 2))
    aside = frames.tangents * (tick.width / 2.0)
    points = np.stack([low - aside, low + aside, high + aside, high - aside], axis=1)
    return Outline("MLLLZ" * len(stations), points.reshape(-1, 2))
