"""A laid-out piece in figures: where every letter stands, and what room is left."""

from __future__ import annotations

import math

from pydantic import BaseModel

from ulvent.core.layout.layout import Layout
from ulvent.core.setting import Setting


class MeasuredGuide(BaseModel):
    """A guide's length, mm."""

    id: str
    length: float
    closed: bool


class MeasuredCluster(BaseModel):
    """A cluster with ink, by the middle of its advance on the baseline curve.

    Lengths in mm, `angle` in degrees. `gap` is the white to the next one; null after
    the last, and where the guide is too tight for it to be measured.
    """

    text: str
    station: float
    x: float
    y: float
    angle: float
    advance: float
    gap: float | None


class MeasuredLettering(BaseModel):
    """A lettering's length and what is left of its guide, negative when it overflows; mm.

    Of a lettering of several lines or laps: the length of all, and the room of the fullest.
    """

    id: str
    length: float
    room: float
    clusters: list[MeasuredCluster]


class Measurement(BaseModel):
    """All guides and letterings of a piece, measured."""

    guides: list[MeasuredGuide]
    letterings: list[MeasuredLettering]


def measure(layout: Layout) -> Measurement:
    """Everything about `layout` that has a figure."""
    return Measurement(
        guides=[
            MeasuredGuide(id=g.recipe.id, length=g.curve.length, closed=g.curve.closed)
            for g in layout.guides
        ],
        letterings=[_lettering(one.id, layout.lines_of(one.id)) for one in layout.piece.letterings],
    )


def _lettering(lettering_id: str, lines: tuple[Setting, ...]) -> MeasuredLettering:
    return MeasuredLettering(
        id=lettering_id,
        length=sum(line.length for line in lines),
        room=min(line.room for line in lines),
        clusters=[cluster for line in lines for cluster in _clusters(line)],
    )


def _clusters(setting: Setting) -> list[MeasuredCluster]:
    gaps: list[float | None] = [
        None if math.isnan(gap) else gap for gap in setting.gaps.found.tolist()
    ]
    rows = zip(
        setting.clusters,
        setting.stations.tolist(),
        setting.poses.feet.tolist(),
        setting.angles.tolist(),
        setting.advances.tolist(),
        [*gaps, None],
        strict=False,
    )
    return [
        MeasuredCluster(
            text=cluster.text, station=station, x=x, y=y, angle=angle, advance=advance, gap=gap
        )
        for cluster, station, (x, y), angle, advance, gap in rows
    ]
