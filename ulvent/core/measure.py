"""A laid-out piece in figures: where every letter stands, and what room is left."""

from __future__ import annotations

import math

from pydantic import BaseModel

from ulvent.core.layout import Layout
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
    """A lettering's length and what is left of its guide, negative when it overflows; mm."""

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
        letterings=[_lettering(setting) for setting in layout.settings],
    )


def _lettering(setting: Setting) -> MeasuredLettering:
    gaps: list[float | None] = [
        None if math.isnan(gap) else gap for gap in setting.gaps.found.tolist()
    ]
    rows = zip(
        setting.clusters,
        setting.stations.tolist(),
        setting.frames.points.tolist(),
        setting.angles.tolist(),
        setting.advances.tolist(),
        [*gaps, None],
        strict=False,
    )
    return MeasuredLettering(
        id=setting.lettering.id,
        length=setting.length,
        room=setting.room,
        clusters=[
            MeasuredCluster(
                text=cluster.text, station=station, x=x, y=y, angle=angle, advance=advance, gap=gap
            )
            for cluster, station, (x, y), angle, advance, gap in rows
        ],
    )
