"""The labels of a dial as they stand on the guide, each with what is its own."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ulvent.core.base.arrays import Floats, Stations
from ulvent.core.curves import Parallel
from ulvent.core.faces import Face
from ulvent.core.recipe import Dial, LabelChange, Lettering
from ulvent.core.setting.letters.dials import DialPlaces, Label
from ulvent.core.setting.letters.words import Words, refuse_many, scale_of, words_of
from ulvent.core.setting.rows.arrange import Row, guide_station
from ulvent.core.setting.rows.placing import baseline_curve, place_row
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing
from ulvent.core.stances import LABEL_STANCES
from ulvent.core.stances.label_stances import straight
from ulvent.core.stances.poses import Poses, turned_about


def set_dial(lettering: Lettering, dial: Dial, standing: Standing, face: Face) -> Setting:
    """Place the labels and ticks of a dial."""
    guide = standing.guide
    first = guide_station(lettering, guide)
    baseline = baseline_curve(lettering, guide, face)
    places = DialPlaces(lettering, dial, guide, first, standing.points)
    labels = places.labels
    letters = sum(len(label.text) for label in labels)
    refuse_many("dial.labels", letters, "fewer labels, or shorter ones")
    runs = [_label_words(lettering, face, label) for label in labels]
    stations = np.array([label.station for label in labels])
    if lettering.reading == "against":
        stations = guide.length - stations
    changes = {change.label: change for change in dial.changes}
    moved = [changes.get(label.index) for label in labels]
    along = np.array([change.along if change else 0.0 for change in moved])
    middles = baseline.carry(stations) + along
    halves = np.array([words.length / 2.0 for words in runs])
    begins = (middles - halves).tolist() if runs else []
    used = float(sum(words.length for words in runs))
    row = Row(runs, begins, used, _crowding(dial, runs, begins, baseline), goes_round=True)
    plain = lettering.model_copy(update={"text": ""})
    standing = replace(standing, keep_off=False)
    setting = place_row(plain, 0, face, standing, baseline, row, 0.0)
    setting = replace(
        setting,
        ticks=places.ticks,
        unplaced=places.unplaced,
        label_places=int(places.on_guide.sum()),
    )
    if not runs:
        return setting
    poses = _label_poses(dial, setting, middles, halves, runs)
    poses = _turned_by_hand(lettering, poses, setting, labels, middles, moved)
    return replace(setting, poses=poses, labels=tuple(labels))


def _turned_by_hand(
    lettering: Lettering, poses: Poses, setting: Setting, labels: list[Label], middles: Stations,
    moved: list[LabelChange | None],
) -> Poses:  # fmt: skip
    """The labels as they stand, those that were moved across or turned by hand so."""
    across = np.array([change.across if change else 0.0 for change in moved])
    turns = np.radians([change.turn if change else 0.0 for change in moved])
    if not across.any() and not turns.any():
        return poses
    face = setting.face
    frames = setting.baseline.frames(middles)
    lifts = np.array([scale_of(_at_height(lettering, label.height), face) for label in labels])
    pivots = frames.points + frames.normals * (lifts * face.metrics.cap_height / 2.0)[:, None]
    shifts = frames.normals * across[:, None]
    return turned_about(poses, setting.runs, pivots, turns, shifts)


def _at_height(lettering: Lettering, height: float) -> Lettering:
    return lettering.model_copy(update={"height": height})


def _label_words(lettering: Lettering, face: Face, label: Label) -> Words:
    return words_of(_at_height(lettering, label.height), face, {}, label.text)


def _crowding(dial: Dial, runs: list[Words], begins: list[float], baseline: Parallel) -> float:
    """By how much neighbouring labels run into each other where they stand on the guide, mm."""
    if not LABEL_STANCES[dial.stand].on_line or not runs:
        return 0.0
    spans = sorted(
        (begin, begin + words.length)
        for words, begin in zip(runs, begins, strict=True)
        if words.length > 0.0
    )
    if not spans:
        return 0.0
    if baseline.closed:
        spans.append((spans[0][0] + baseline.length, spans[0][1] + baseline.length))
    over = [end - begin for (_, end), (begin, _) in zip(spans, spans[1:], strict=False)]
    return max(0.0, *over) if over else 0.0


def _label_poses(
    dial: Dial, setting: Setting, middles: Stations, halves: Floats, runs: list[Words]
) -> Poses:
    stance = LABEL_STANCES[dial.stand]
    if stance.on_line and dial.curved:
        return setting.poses
    frames = setting.baseline.frames(middles)
    capital = setting.face.metrics.cap_height
    scales = np.array([words.scales[0] if len(words.scales) else 0.0 for words in runs])
    offsets = setting.middles - middles[setting.runs]
    return straight(stance, frames, setting.runs, offsets, scales * capital / 2.0, halves)
