"""Dials and rulers: labels spread along a guide, and the ticks beside them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Booleans, Stations
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve
from ulvent.core.outlines import Outline
from ulvent.core.recipe import MOST_TICKS, Dial, Lettering, Tick
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


def dial_labels(lettering: Lettering, dial: Dial, guide: Curve, first: float) -> list[Label]:
    """The labels to set; `first` is the station of the place that all others count from."""
    stations = _stations(dial, guide, first)
    on_guide = _on_guide(guide, stations)
    changes = {change.label: change for change in dial.changes}
    found: list[Label] = []
    for index, (station, text) in enumerate(
        zip(stations.tolist(), label_texts(dial.labels, len(stations)), strict=False)
    ):
        change = changes.get(index)
        if (change and change.hidden) or not on_guide[index]:
            continue
        words = text if change is None or change.text is None else change.text
        height = change.height if change and change.height else lettering.height
        found.append(Label(index, words, station, height))
    return found


def dial_ticks(dial: Dial, guide: Curve, first: float) -> TickLines:
    """Ticks at all labels' places and between them."""
    ticks = dial.ticks
    if ticks is None:
        return TickLines(Outline.empty(), Outline.empty())
    majors = _stations(dial, guide, first)
    majors = majors[_on_guide(guide, majors)]
    between = np.arange(1, ticks.parts) / ticks.parts
    if guide.closed and dial.divisions is not None:
        ends = np.append(majors, majors[:1] + _way(dial) * guide.length)
    else:
        ends = majors
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


def outside(guide: Curve) -> float:
    """1 where a closed guide's outside is to its left, -1 where it is to its right.

    The left of an open guide counts as its outside: it is where letters stand.
    """
    if not guide.closed:
        return 1.0
    return 1.0 if guide.frames(guide.length - JOINT).turnings[0] < 0.0 else -1.0


def _way(dial: Dial) -> float:
    return 1.0 if dial.way == "along" else -1.0


def _stations(dial: Dial, guide: Curve, first: float) -> Stations:
    """Where labels and major ticks stand, those that have no guide under them too."""
    way = _way(dial)
    if dial.places:
        steps = np.array(dial.places)
        if dial.places_in == "degrees":
            steps = np.radians(steps) * _radius(guide)
    elif dial.divisions is not None:
        count = dial.divisions if guide.closed else dial.divisions + 1
        steps = np.arange(count) * (guide.length / dial.divisions)
    else:
        count = len(label_texts(dial.labels, None))
        parts = count if guide.closed else max(count - 1, 1)
        steps = np.arange(count) * (guide.length / max(parts, 1))
    stations: Stations = first + way * steps
    return stations


def _on_guide(guide: Curve, stations: Stations) -> Booleans:
    if guide.closed:
        return np.ones(len(stations), dtype=bool)
    return (stations >= -JOINT) & (stations <= guide.length + JOINT)


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
