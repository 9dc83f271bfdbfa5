"""The scene: a laid-out piece as the screen paints it.

Outlines are named, in font units, and sent once; what travels while a person drags is
matrices. Here everything is gathered; it is worked out in the core.
"""

from __future__ import annotations

from functools import cached_property
from typing import Any

import numpy as np

from ulvent.core.acts.become_act import becomes
from ulvent.core.acts.grips import grips, grips_on_line
from ulvent.core.base.arrays import extent, united
from ulvent.core.base.remembered import remembered
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.curves.segments import as_point
from ulvent.core.drawing.bands import bands
from ulvent.core.drawing.dimensions import Dimension, dimensions
from ulvent.core.drawing.endings import ending
from ulvent.core.drawing.judged_gaps import judged
from ulvent.core.drawing.measured_marks import Mark, Measured, measured
from ulvent.core.drawing.strip import Strip, StripLettering, pull_straight
from ulvent.core.drawing.tight_lines import tight_lines
from ulvent.core.faces import PlacedGlyph
from ulvent.core.fits.offered import fits_offered, keeps_offered
from ulvent.core.guides import named_places
from ulvent.core.guides.blanks import blank_words
from ulvent.core.guides.kinds import KINDS, SCALE, figures_of, kind_of, sizes_of
from ulvent.core.guides.scaling import real_figures
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.layout.names import lettering_names
from ulvent.core.prepare import output_of
from ulvent.core.proof import Finding
from ulvent.core.recipe.arrangements import arrangement_of, placing_of, usual_pitch
from ulvent.core.setting import Setting
from ulvent.core.setting.rows.outcome import Fitted
from ulvent.formats.svg_data import broken_line_data, curve_data, matrices_data, outline_data
from ulvent.web.shown import (
    Moved,
    MovedLine,
    NamedPlace,
    Scene,
    SceneFit,
    SceneFrame,
    SceneGuide,
    SceneLast,
    SceneLettering,
    SceneMeasure,
    SceneStrip,
    SceneTicks,
    Spot,
    StripLine,
)
from ulvent.web.turning import turned

_MOST_DISCS = 3
_LABELLED = 0.1
"""The share of a guide at which it is said what becomes of it."""


class Painting:
    """A layout being painted: what moves, and the whole scene, which share what is the same.

    `chosen` is the lettering or guide whose strip is shown, and `node` the chosen point of
    a chosen guide, whose handles are shown.
    """

    def __init__(self, layout: Layout, chosen: str | None = None, node: int | None = None) -> None:
        self._layout, self._chosen, self._node = layout, chosen, node

    @property
    def moved(self) -> Moved:
        """What moves while something is held: a part of the scene that is made sooner."""
        held = self._held
        found = grips_on_line(held, self._node) if held else []
        return turned(
            Moved(
                guides={one.recipe.id: _path(one.curve) for one in self._layout.shown_guides},
                lines=[MovedLine(**standing) for standing in self._standing],
                grips={grip.name: grip.at for grip in found},
                dimensions=self._dimensions,
            )
        )

    def scene(self, findings: tuple[Finding, ...], marks: tuple[Mark, ...] = ()) -> Scene:
        """All that the layout view shows; the chosen guide is measured at `marks`."""
        layout, held = self._layout, self._held
        guide, against = _chosen_guide(layout, self._chosen)
        names = lettering_names(layout)
        return turned(
            Scene(
                bounds=layout.reach(),
                lie=matrices_data(layout.piece.lie.matrix[None]),
                extent=extent(curve_bounds(layout.blank[0])) if layout.blank else None,
                blank=[curve_data(outline) for outline in layout.blank],
                blank_words=blank_words(layout.piece.blank),
                blank_bounds=united([curve_bounds(outline) for outline in layout.blank]),
                frames=_frames(layout),
                guides=[_guide(one, layout.settings) for one in layout.guides],
                letterings=[
                    _lettering(setting, standing, layout, names[setting.lettering.id])
                    for setting, standing in zip(layout.settings, self._standing, strict=True)
                ],
                dimensions=self._dimensions,
                grips=grips(held, self._node) if held else [],
                measure=_measured(measured(guide, marks)) if guide and marks else None,
                strip=_strip(pull_straight(layout, guide, against)) if guide else None,
                findings=list(findings),
            )
        )

    @cached_property
    def _held(self) -> LaidGuide | None:
        """The guide that is chosen itself, whose grips are shown."""
        guides = self._layout.guides
        return next((guide for guide in guides if guide.recipe.id == self._chosen), None)

    @cached_property
    def _dimensions(self) -> list[Dimension]:
        return dimensions(self._layout)

    @cached_property
    def _standing(self) -> list[dict[str, Any]]:
        return [_standing(setting) for setting in self._layout.settings]


def _guide(guide: LaidGuide, settings: tuple[Setting, ...]) -> SceneGuide:
    recipe, kind = guide.recipe, kind_of(guide.recipe)
    mine = [setting for setting in settings if setting.lettering.guide == recipe.id]
    return SceneGuide(
        id=recipe.id,
        path=_path(guide.curve),
        length=guide.curve.length,
        closed=guide.curve.closed,
        places=[
            NamedPlace(name=name, share=share) for name, share in named_places(guide.curve).items()
        ],
        bounds=guide.bounds,
        extent=extent(guide.bounds),
        leans_on=list(recipe.leans_on),
        becomes={name: KINDS[name].title for name in becomes(recipe)},
        label_at=as_point(guide.curve.points([_LABELLED * guide.curve.length])[0]),
        shown=not (recipe.hidden or recipe.removed),
        note=guide.note,
        tight="".join(broken_line_data(line) for line in tight_lines(guide.curve, mine)),
        size=kind.words(real_figures(recipe)),
        readings=kind.readings(recipe),
        sizes=list(sizes_of(recipe).values()),
    )


@remembered(256)
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
        found.append(SceneFrame(kind="area", box=area.box))
    return found


def _measured(found: Measured) -> SceneMeasure:
    return SceneMeasure(
        guide=found.guide,
        path=curve_data(found.stretch) if found.stretch else "",
        points=list(found.points),
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


@remembered(16384)
def _shape_name(face: str, glyphs: tuple[PlacedGlyph, ...]) -> str:
    return face + ":" + ";".join(f"{g.glyph},{g.x:g},{g.y:g}" for g in glyphs)


def _standing(setting: Setting) -> dict[str, Any]:
    """Where the letters of a line stand."""
    return {
        "id": setting.lettering.id,
        "line": setting.line,
        "matrices": [] if setting.bent else matrices_data(setting.matrices),
        "outlines": [
            outline_data(setting.placed_outline(index))
            for index in range(len(setting.clusters) if setting.bent else 0)
        ],
        "drawn": setting.drawn.tolist(),
        "band": "".join(broken_line_data(ring, closed=True) for ring in bands(setting)),
    }


def _lettering(
    setting: Setting, standing: dict[str, Any], layout: Layout, name: str
) -> SceneLettering:
    lettering, last = setting.lettering, ending(setting)
    asked = next(one for one in layout.piece.letterings if one.id == lettering.id)
    return SceneLettering(
        **standing,
        guide=lettering.guide,
        shapes=[] if setting.bent else _shape_names(setting),
        ticks=[
            SceneTicks(path=outline_data(ticks), strokes=not areas)
            for ticks, areas in setting.tick_outlines()
        ],
        places=setting.places.tolist(),
        text=asked.text if setting.line == 0 else "",
        hand=list(setting.nudges.values()) if setting.line == 0 else [],
        labels=[setting.labels[run].index for run in setting.runs] if setting.labels else [],
        label_texts={label.index: label.text for label in setting.labels},
        last=SceneLast(at=last.at, left=last.left) if last else None,
        fit=_fit(setting.fitted, layout.guide(lettering.guide)) if setting.fitted else None,
        strokes=setting.face.single_stroke,
        bounds=setting.reach(),
        length=setting.length,
        room=setting.room,
        arrangement=arrangement_of(asked),
        placing=placing_of(asked.dial) if asked.dial else "",
        fits=list(fits_offered(asked)),
        keeps=list(keeps_offered(asked, layout.piece)),
        line_to_line=usual_pitch(asked.height),
        spots=_spots(setting),
        label_boxes=_label_boxes(setting),
        name=name,
        output=output_of(asked, layout.piece, setting.face.single_stroke),
    )


def _spots(setting: Setting) -> list[Spot]:
    """Discs over the letters that are drawn, side by side along the longer side of each."""
    corners = setting.letter_corners[setting.drawn]
    if not len(corners):
        return []
    sides = np.stack([corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 1]], axis=1)
    sizes = np.hypot(*np.moveaxis(sides, 2, 0))
    longer = np.argmax(sizes, axis=1)
    rows = np.arange(len(corners))
    along, size, short = sides[rows, longer], sizes[rows, longer], sizes.min(axis=1)
    counts = np.clip(np.round(size / np.maximum(short, NIL)), 1, _MOST_DISCS)
    reaches = np.maximum(short, size / counts) / 2.0
    middles = corners.mean(axis=1)
    spots: list[Spot] = []
    for disc in range(_MOST_DISCS):
        has = counts > disc
        shares = (disc + 0.5) / counts[has] - 0.5
        places = np.round(middles[has] + shares[:, None] * along[has], 3)
        spots += [
            Spot(at=(float(x), float(y)), reach=round(float(reach), 3))
            for (x, y), reach in zip(places, reaches[has], strict=True)
        ]
    return spots


def _label_boxes(setting: Setting) -> dict[int, str]:
    if not setting.labels:
        return {}
    runs = np.unique(setting.runs).tolist()
    rings = bands(setting)
    return {
        setting.labels[run].index: broken_line_data(ring, closed=True)
        for run, ring in zip(runs, rings, strict=False)
    }


def _fit(fitted: Fitted, guide: LaidGuide) -> SceneFit:
    figures = dict(fitted.guide_figures)
    size = next(iter(figures), "")
    recipe, real = guide.recipe, real_figures(guide.recipe)
    if size == SCALE.field and real is not recipe:
        figures = {size: real.scaled} | {
            one.field: getattr(real, one.field)
            for one in figures_of(real)
            if getattr(real, one.field) != getattr(recipe, one.field)
        }
    shown = vars(fitted) | {"guide_figures": figures}
    return SceneFit(**shown, size=size)


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
    return SceneStrip(
        guide=strip.guide.recipe.id,
        length=strip.length,
        closed=strip.guide.curve.closed and not strip.filled,
        filled=strip.filled,
        against=strip.against,
        lines=[_strip_line(line) for line in strip.letterings],
        free=list(strip.free),
        corners=list(strip.corners),
        bends=list(strip.bends),
    )


def _strip_line(line: StripLettering) -> StripLine:
    setting = line.setting
    return StripLine(
        id=setting.lettering.id,
        line=setting.line,
        shapes=_shape_names(setting) if setting.bent else [],
        matrices=matrices_data(line.matrices),
        places=setting.places.tolist(),
        by_hand=line.by_hand,
        starts=np.round(line.starts, 3).tolist(),
        ends=np.round(line.ends, 3).tolist(),
        upright=line.upright,
        gaps=judged(line),
        over_seam=line.over_seam,
        height=setting.capital,
        foot=line.foot,
    )
