"""What the letters of a row are spaced by: targets, floors, and how the row is held."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Stations, Stretch
from ulvent.core.curves import Parallel
from ulvent.core.faces import Face
from ulvent.core.recipe import Lettering
from ulvent.core.setting.gaps.clearance import straight_clearance
from ulvent.core.setting.gaps.gap import gap_meter
from ulvent.core.setting.gaps.profiles import softening
from ulvent.core.setting.gaps.spacing import FLOOR, NEAR_AS_DESIGNED, Hold, Spacing
from ulvent.core.setting.letters.corners import corner_zones
from ulvent.core.setting.rows.arrange import SHARE_BEFORE, Row
from ulvent.core.setting.rows.inked import InkedLetters
from ulvent.core.setting.rows.targets import gap_targets
from ulvent.core.stances import LABEL_STANCES, STANCES


def stands_side_by_side(lettering: Lettering) -> bool:
    """Whether letters stand on the baseline one by one, and not straight, upright or stacked."""
    dial = lettering.dial
    on_guide = dial is None or (LABEL_STANCES[dial.stand].on_line and dial.curved)
    return on_guide and STANCES[lettering.shape].side_by_side


def row_spacing(
    lettering: Lettering,
    face: Face,
    letters: InkedLetters,
    row: Row,
    baseline: Parallel,
    within: float,
) -> Spacing:
    """What a row is spaced by."""
    hold = _hold(lettering, row)
    white = softening(face, "capital").white
    stems = white * np.minimum(letters.scales[:-1], letters.scales[1:])
    overlap = lettering.spacing == "overlap"
    if overlap:
        targets = _overlapping(letters)
        floor = np.full(len(targets), -lettering.overlap)
    else:
        targets = _targets(lettering, face, letters, baseline)
        floor = np.minimum(FLOOR * stems, _near_as_designed(face, letters))
    count = len(letters.clusters)
    return Spacing(
        face=face,
        clusters=letters.clusters,
        scales=letters.scales,
        bent=STANCES[lettering.shape].bending is not None,
        middles=letters.middles,
        targets=targets,
        runs=letters.runs if hold != "row" else np.zeros(count, dtype=int),
        hold=hold,
        share=SHARE_BEFORE[lettering.align],
        floor=floor,
        stems=stems,
        overlap=overlap,
        within=within,
    )


def _hold(lettering: Lettering, row: Row) -> Hold:
    if lettering.dial is not None:
        return "labels"
    return "ring" if row.goes_round else "row"


def _targets(lettering: Lettering, face: Face, letters: InkedLetters, baseline: Parallel) -> Floats:
    """(n − 1,) what gaps are to be, mm; nan for those that are left alone."""
    clusters, scales = letters.clusters, letters.scales
    designed = gap_meter(face, clusters, scales).on_straight(letters.starts)
    extra = np.diff(letters.starts - letters.natural)
    targets = gap_targets(face, clusters, scales, designed, extra, lettering.spacing == "same",
                          lettering.space_all)  # fmt: skip
    # Letters on two sides of a corner stay as they are.
    apart = (np.diff(letters.pushes) != 0.0) | _parted(letters.middles, baseline)
    targets[apart | (np.diff(letters.runs) != 0)] = np.nan
    return targets


def _overlapping(letters: InkedLetters) -> Floats:
    """(n − 1,) zero for letters of one word, which overlap, and nan for others."""
    pairs = zip(letters.clusters, letters.clusters[1:], strict=False)
    same_word = np.array([two.place - one.place == len(one.text) for one, two in pairs])
    return np.where(same_word & (np.diff(letters.runs) == 0), 0.0, np.nan)


def _near_as_designed(face: Face, letters: InkedLetters) -> Floats:
    """What is near by design, as a tail under its neighbour, may be nearly so on the curve."""
    clear = straight_clearance(face, letters.clusters, letters.scales, letters.natural)
    return np.minimum(clear, NEAR_AS_DESIGNED * clear)


def _parted(middles: Stations, baseline: Parallel) -> Booleans:
    """(n − 1,) which neighbours stand on two sides of a corner."""
    corners = np.array([sum(zone) / 2.0 for zone in corner_zones(baseline.base, baseline, 0.0)])
    if not len(corners):
        return np.zeros(len(middles) - 1, dtype=bool)
    if baseline.closed:
        # How many corners have been passed, laps and all.
        laps = np.floor(middles / baseline.length)
        passed = laps * len(corners) + np.searchsorted(
            np.sort(corners), middles - laps * baseline.length
        )
    else:
        passed = np.searchsorted(corners, middles)
    parted: Booleans = np.diff(passed) != 0
    return parted


def moved_stretches(
    stretches: tuple[Stretch, ...], runs: Integers, moved: Floats
) -> tuple[Stretch, ...]:
    """Stretches whose first and last letters were moved."""
    found: list[Stretch] = []
    with_ink = np.unique(runs).tolist()
    for (begin, end), run in zip(stretches, with_ink, strict=False):
        mine = moved[runs == run]
        found.append((begin + float(mine[0]), end + float(mine[-1])))
    return (*found, *stretches[len(found) :])
