"""What the letters of a row are spaced by: targets, floors, and how the row is held."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ulvent.core.base.arrays import Floats, Stretch
from ulvent.core.curves import Parallel
from ulvent.core.faces import Cluster, Face
from ulvent.core.recipe.lettering import Lettering
from ulvent.core.setting.gaps.clearance import straight_clearance
from ulvent.core.setting.gaps.gap import gap_meter
from ulvent.core.setting.gaps.profiles import softening
from ulvent.core.setting.gaps.spacing import FLOOR, NEAR_AS_DESIGNED, Hold, Spacing
from ulvent.core.setting.letters.corners import corner_zones
from ulvent.core.setting.rows.arrange import SHARE_BEFORE, Row
from ulvent.core.setting.rows.targets import gap_targets


def stands_on_baseline(lettering: Lettering) -> bool:
    """Whether letters stand on the baseline one by one, and not straight, upright or stacked."""
    dial = lettering.dial
    on_guide = dial is None or (dial.stand == "on-guide" and dial.curved)
    return on_guide and not lettering.shape.startswith("stacked")


def row_spacing(
    lettering: Lettering,
    face: Face,
    clusters: tuple[Cluster, ...],
    scales: Floats,
    middles: Floats,
    runs: NDArray[np.int_],
    pushes: Floats,
    row: Row,
    starts: tuple[Floats, Floats],
    baseline: Parallel,
    within: float,
) -> Spacing:
    """What a row is spaced by; `starts` are those with all that was added, and as designed."""
    with_all, natural = starts
    meter = gap_meter(face, clusters, scales)
    designed = meter.on_straight(with_all)
    extra = np.diff(with_all - natural)
    targets = gap_targets(face, clusters, scales, designed, extra, lettering.spacing == "same",
                          lettering.space_all)  # fmt: skip
    # Letters on two sides of a corner stay as they are.
    targets[(np.diff(pushes) != 0.0) | _parted(middles, baseline)] = np.nan
    hold: Hold = "row"
    if lettering.dial is not None:
        hold = "labels"
    elif row.goes_round:
        hold = "ring"
    targets[np.diff(runs) != 0] = np.nan
    white = softening(face, "capital").white
    stems = white * np.minimum(scales[:-1], scales[1:])
    # What is near by design, as a tail under its neighbour, may be nearly so on the curve.
    designed_clear = straight_clearance(face, clusters, scales, natural)
    designed_clear = np.minimum(designed_clear, NEAR_AS_DESIGNED * designed_clear)
    floor = np.minimum(FLOOR * stems, designed_clear)
    overlap = lettering.spacing == "overlap"
    if overlap:
        pairs = zip(clusters, clusters[1:], strict=False)
        same_word = np.array([two.place - one.place == len(one.text) for one, two in pairs])
        targets = np.where(same_word & (np.diff(runs) == 0), 0.0, np.nan)
        floor = np.full(len(targets), -lettering.overlap)
    return Spacing(
        face=face,
        clusters=clusters,
        scales=scales,
        bent=lettering.shape == "bent",
        middles=middles,
        targets=targets,
        runs=runs if hold != "row" else np.zeros(len(clusters), dtype=int),
        hold=hold,
        share=SHARE_BEFORE[lettering.align],
        floor=floor,
        stems=stems,
        overlap=overlap,
        within=within,
    )


def _parted(middles: Floats, baseline: Parallel) -> NDArray[np.bool_]:
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
    parted: NDArray[np.bool_] = np.diff(passed) != 0
    return parted


def moved_stretches(
    stretches: tuple[Stretch, ...], runs: NDArray[np.int_], moved: Floats
) -> tuple[Stretch, ...]:
    """Stretches whose first and last letters were moved."""
    found: list[Stretch] = []
    with_ink = np.unique(runs).tolist()
    for (begin, end), run in zip(stretches, with_ink, strict=False):
        mine = moved[runs == run]
        found.append((begin + float(mine[0]), end + float(mine[-1])))
    return (*found, *stretches[len(found) :])
