"""The scene: a laid-out piece as the screen paints it.

Everything here is in mm with y down, as SVG has it, so that the screen paints and
computes nothing. Outlines are named, in font units, and sent once; what travels
while a person drags is matrices.
"""

from __future__ import annotations

import math
from dataclasses import replace
from functools import lru_cache
from statistics import median
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ulvent.core.acts.grips import grips, grips_on_line
from ulvent.core.base.arrays import united
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.drawing.dimensions import Dimension, dimensions
from ulvent.core.drawing.measured_marks import Mark, Measured, measured
from ulvent.core.drawing.strip import Strip, StripGap, StripLettering, pull_straight
from ulvent.core.faces import PlacedGlyph
from ulvent.core.fits import figures_of
from ulvent.core.guides import named_places
from ulvent.core.guides.grip import Grip
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.proof import OtherFaces, prove
from ulvent.core.setting import Setting, tight_stretches
from ulvent.formats.svg import curve_data, outline_data
from ulvent.web.shown import (
    Box,
    Moved,
    MovedLine,
    NamedPlace,
    Scene,
    SceneFit,
    SceneFrame,
    SceneGaps,
    SceneGuide,
    SceneLast,
    SceneLettering,
    SceneMeasure,
    SceneStrip,
    SceneTicks,
    StripLine,
)

STANDS_OUT = 0.1
"""A gap stands out when its share differs from the middle one by more than this."""

MOST_STANDING_OUT = 3
_OVERLAP = 0.05
_TIGHT_SAMPLES = 17
_LARGEST_SHARE = 3.0


def paint(
    layout: Layout,
    chosen: str | None,
    marks: tuple[Mark, ...] = (),
    node: int | None = None,
    others: OtherFaces = tuple,
) -> Scene:
    """The scene of a layout.

    `chosen` is the lettering or guide whose strip is shown, and `node` the chosen point of
    a chosen guide, whose handles are shown. `others` are as for `prove`.
    """
    strip_guide, against = _chosen_guide(layout, chosen)
    held = _held(layout, chosen)
    return Scene(
        bounds=_down(layout.reach()),
        blank=[curve_data(outline) for outline in layout.blank],
        blank_bounds=_down(united([curve_bounds(outline) for outline in layout.blank])),
        frames=_frames(layout),
        guides=[_guide(guide, layout.settings) for guide in layout.guides],
        letterings=[_lettering(setting) for setting in layout.settings],
        dimensions=_dimensions(layout),
        grips=[replace(grip, at=_point_down(grip)) for grip in grips(held, node)] if held else [],
        measure=_measured(measured(strip_guide, marks)) if strip_guide and marks else None,
        strip=_strip(pull_straight(layout, strip_guide, against)) if strip_guide else None,
        findings=prove(layout, others, remedies=False),
    )


def _guide(guide: LaidGuide, settings: tuple[Setting, ...]) -> SceneGuide:
    return SceneGuide(
        id=guide.recipe.id,
        path=_path(guide.curve),
        length=guide.curve.length,
        closed=guide.curve.closed,
        places=[
            NamedPlace(name=name, share=share) for name, share in named_places(guide.curve).items()
        ],
        bounds=_down(guide.bounds),
        shown=not (guide.recipe.hidden or guide.recipe.removed),
        note=guide.note,
        tight=_tight(guide, [s for s in settings if s.lettering.guide == guide.recipe.id]),
        sizes=list(figures_of(guide.recipe)),
    )


def _tight(guide: LaidGuide, settings: list[Setting]) -> str:
    """Where the guide is too tight, as a broken line of path data: it is only looked at."""
    stretches = {(s.begin, s.end) for setting in settings for s in tight_stretches(setting)}
    ends = [(begin, end) for begin, end in sorted(stretches) if end - begin > JOINT]
    if not ends:
        return ""
    begins, lasts = np.array(ends).T[:, :, None]
    stations = begins + (lasts - begins) * np.linspace(0.0, 1.0, _TIGHT_SAMPLES)
    lines = guide.curve.points(stations.ravel()).reshape(*stations.shape, 2)
    return "".join(_broken_line(line) for line in lines)


@lru_cache(maxsize=256)
def _path(curve: Curve) -> str:
    """Path data of a curve; a guide that stays is not written anew on every move."""
    return curve_data(curve)


def _frames(layout: Layout) -> list[SceneFrame]:
    found: list[SceneFrame] = []
    sheet, area = layout.piece.sheet, layout.piece.area
    if sheet:
        x, y = sheet.width / 2.0, sheet.height / 2.0
        found.append(SceneFrame(kind="sheet", box=(-x, -y, x, y)))
    if area:
        x, y = area.width / 2.0, area.height / 2.0
        x, y = (y, x) if area.turned else (x, y)
        found.append(SceneFrame(kind="area", box=(-x, -y, x, y)))
    return found


def _measured(found: Measured) -> SceneMeasure:
    return SceneMeasure(
        guide=found.guide,
        path=curve_data(found.stretch) if found.stretch else "",
        points=[(x, -y) for x, y in found.points],
        stations=list(found.stations),
        length=found.length,
        chord=found.chord,
        radius=found.radius,
        text=found.text,
    )


def new_shapes(layout: Layout, known: set[str]) -> dict[str, str]:
    """Path data, in font units with y down, of every outline of a layout that is not `known`."""
    return {
        name: outline_data(setting.outline(index))
        for setting in layout.settings
        for index, name in enumerate(_shape_names(setting))
        if name not in known
    }


def _shape_names(setting: Setting) -> list[str]:
    key = f"{setting.lettering.face}:{setting.face.key}"
    return [_shape_name(key, cluster.glyphs) for cluster in setting.clusters]


@lru_cache(maxsize=16384)
def _shape_name(face: str, glyphs: tuple[PlacedGlyph, ...]) -> str:
    return face + ":" + ";".join(f"{g.glyph},{g.x:g},{g.y:g}" for g in glyphs)


def moved(layout: Layout, chosen: str | None, node: int | None = None) -> Moved:
    """What moves while something is held: a part of the scene that is made sooner."""
    held = _held(layout, chosen)
    return Moved(
        guides={guide.recipe.id: _path(guide.curve) for guide in layout.shown_guides},
        lines=[MovedLine(**_standing(setting)) for setting in layout.settings],
        grips={grip.name: _point_down(grip) for grip in grips_on_line(held, node)} if held else {},
        dimensions=_dimensions(layout),
    )


def _held(layout: Layout, chosen: str | None) -> LaidGuide | None:
    """The guide that is chosen itself, whose grips are shown."""
    return next((guide for guide in layout.guides if guide.recipe.id == chosen), None)


def _point_down(grip: Grip) -> tuple[float, float]:
    return (grip.at[0], -grip.at[1])


def _dimensions(layout: Layout) -> list[Dimension]:
    return [_dimension_down(found) for found in dimensions(layout)]


def _standing(setting: Setting) -> dict[str, Any]:
    """Where the letters of a line stand."""
    return {
        "id": setting.lettering.id,
        "line": setting.line,
        "matrices": [] if setting.bent else _matrices_down(setting.matrices),
        "outlines": [
            outline_data(setting.placed_outline(index))
            for index in range(len(setting.clusters) if setting.bent else 0)
        ],
        "drawn": setting.drawn.tolist(),
        "band": _band(setting),
    }


def _lettering(setting: Setting) -> SceneLettering:
    return SceneLettering(
        **_standing(setting),
        guide=setting.lettering.guide,
        shapes=[] if setting.bent else _shape_names(setting),
        ticks=[
            SceneTicks(path=outline_data(ticks), strokes=not areas)
            for ticks, areas in setting.tick_outlines()
        ],
        places=setting.places.tolist(),
        hand=list(setting.nudges.values()) if setting.line == 0 else [],
        labels=[setting.labels[run].index for run in setting.runs] if setting.labels else [],
        label_texts={label.index: label.text for label in setting.labels},
        last=_last(setting),
        fit=SceneFit(**vars(setting.fitted)) if setting.fitted else None,
        strokes=setting.face.single_stroke,
        bounds=_down(reach) if (reach := setting.reach()) else None,
        length=setting.length,
        room=setting.room,
    )


def _last(setting: Setting) -> SceneLast | None:
    lettering = setting.lettering
    if setting.baseline.closed or not setting.clusters or lettering.dial is not None:
        return None
    if lettering.fill is not None and setting.overhang <= JOINT:
        return None
    x, y = setting.baseline.points(setting.end)[0].tolist()
    return SceneLast(at=(x, -y), left=setting.baseline.length - setting.end)


def _matrices_down(matrices: NDArray[np.float64]) -> list[float]:
    """Six figures a matrix, a b c d e f of SVG, for outlines and results with y down."""
    figures = np.stack(
        [
            matrices[:, 0, 0],
            -matrices[:, 1, 0],
            -matrices[:, 0, 1],
            matrices[:, 1, 1],
            matrices[:, 0, 2],
            -matrices[:, 1, 2],
        ],
        axis=1,
    )
    flat: list[float] = np.round(figures, 6).ravel().tolist()
    return flat


def _band(setting: Setting) -> str:
    """The bands that the words take up, a little longer than they are, as path data."""
    if not setting.clusters:
        return ""
    if setting.poses.on_baseline:
        rings = [_along_baseline(setting, *stretch) for stretch in setting.stretches]
    else:
        rings = [_round_letters(setting, run) for run in np.unique(setting.runs).tolist()]
    return "".join(_broken_line(ring) + "Z" for ring in rings)


def _broken_line(points: NDArray[np.float64]) -> str:
    return "M" + "L".join(f"{x:.2f} {-y:.2f}" for x, y in points.tolist())


def _along_baseline(setting: Setting, begin: float, end: float) -> NDArray[np.float64]:
    """From the feet to the heads of the capitals; letters that grow take their band along."""
    margin = 0.15 * setting.capital
    steps = max(5, min(49, 1 + int((end - begin) / (0.3 * setting.capital))))
    stations = np.linspace(begin - margin, end + margin, steps)
    frames = setting.baseline.frames(stations)
    mine = (setting.middles >= begin) & (setting.middles <= end)
    scales = np.full(steps, setting.scale)
    grows = setting.lettering.end_height is not None or setting.lettering.with_guide
    if grows and mine.any():
        scales = np.interp(stations, setting.middles[mine], setting.scales[mine])
    heads = scales * setting.face.metrics.cap_height
    top = frames.points + frames.normals * heads[:, None]
    return np.concatenate([frames.points, top[::-1]])


def _round_letters(setting: Setting, run: int) -> NDArray[np.float64]:
    """From the first letter of a run to its last, as they stand."""
    mine = np.flatnonzero(setting.runs == run)
    poses = setting.poses
    asides = poses.rights[mine] * (setting.widths[mine] / 2.0)[:, None]
    feet = poses.feet[mine]
    heads = (
        feet + poses.ups[mine] * (setting.scales[mine] * setting.face.metrics.cap_height)[:, None]
    )
    if setting.lettering.dial is None:
        return np.concatenate(
            [feet - asides, heads - asides, (heads + asides)[::-1], (feet + asides)[::-1]]
        )
    first, last = 0, len(mine) - 1
    return np.stack(
        [
            feet[first] - asides[first],
            feet[last] + asides[last],
            heads[last] + asides[last],
            heads[first] - asides[first],
        ]
    )


def _down(box: Box) -> Box:
    x0, y0, x1, y1 = box
    return (x0, -y1, x1, -y0)


def _dimension_down(found: Dimension) -> Dimension:
    (sx, sy), (ex, ey) = found.start, found.end
    return found.model_copy(update={"start": (sx, -sy), "end": (ex, -ey)})


def _chosen_guide(layout: Layout, chosen: str | None) -> tuple[LaidGuide | None, bool]:
    """The guide of the chosen lettering, or the chosen guide, or the first one."""
    for lettering in layout.piece.letterings:
        if lettering.id == chosen:
            mine = next(g for g in layout.guides if g.recipe.id == lettering.guide)
            return mine, lettering.reading == "against"
    for guide in layout.guides:
        if guide.recipe.id == chosen:
            return guide, False
    shown = layout.shown_guides
    return (shown[0], False) if shown else (None, False)


def _strip(strip: Strip) -> SceneStrip:
    length = strip.guide.curve.length
    lines = [
        StripLine(
            id=line.setting.lettering.id,
            matrices=_matrices_down(line.matrices),
            upright=line.upright,
            gaps=_judged(line),
            over_seam=strip.guide.curve.closed and _over_seam(line, length),
            line=line.setting.line,
            shapes=_shape_names(line.setting) if line.setting.bent else [],
            places=line.setting.places.tolist(),
            by_hand=line.by_hand,
            starts=np.round(line.starts, 3).tolist(),
            ends=np.round(line.ends, 3).tolist(),
            height=line.setting.capital,
            foot=-float(np.median(line.matrices[:, 1, 2])) if len(line.matrices) else 0.0,
        )
        for line in strip.letterings
    ]
    return SceneStrip(
        guide=strip.guide.recipe.id,
        length=strip.guide.curve.length,
        closed=strip.guide.curve.closed,
        against=strip.against,
        lines=lines,
        free=list(strip.free),
        corners=list(strip.corners),
        bends=list(strip.bends),
    )


def _over_seam(line: StripLettering, length: float) -> bool:
    """Whether any letter, with a letter's height to spare, reaches past an end of the strip."""
    if not len(line.matrices):
        return False
    spare = line.setting.capital
    low, high = min(line.starts), max(line.ends)
    return bool(low < spare or high > length - spare)


def _judged(line: StripLettering) -> SceneGaps:
    """The gaps of a line with the worst of them marked, their middle share, and their spread."""
    shares = [_share(gap) for gap in line.gaps]
    usual = median(shares) if shares else 1.0
    # What is held apart so as not to touch is no unevenness that could be mended.
    off = [
        abs(share / usual - 1.0) if usual > 0.0 and not gap.held_apart else 0.0
        for share, gap in zip(shares, line.gaps, strict=True)
    ]
    worst = sorted(range(len(off)), key=lambda index: -off[index])[:MOST_STANDING_OUT]
    return SceneGaps(
        x=[gap.x for gap in line.gaps],
        after=[gap.after for gap in line.gaps],
        found=[gap.found for gap in line.gaps],
        designed=[gap.designed for gap in line.gaps],
        share=shares,
        excess=[gap.found - gap.designed * usual for gap in line.gaps],
        worst=[index for index in worst if off[index] > STANDS_OUT],
        held_apart=sum(gap.held_apart for gap in line.gaps),
        usual=usual,
        spread=max(off, default=0.0),
    )


def _share(gap: StripGap) -> float:
    """Found over designed; where letters overlap by design only the difference says anything."""
    share = gap.found / gap.designed if gap.designed > _OVERLAP else 1.0 + gap.found - gap.designed
    return min(max(share, 0.0), _LARGEST_SHARE) if math.isfinite(share) else 1.0
