"""What the gaps of a row are to be: as designed, or one for all."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Floats, Lengths, Scales
from ulvent.core.base.remembered import remembered
from ulvent.core.faces import Cluster, Face
from ulvent.core.faces.sides import Band, band_of
from ulvent.core.setting.gaps.gap import GapMeter
from ulvent.core.setting.gaps.profiles import softening
from ulvent.core.setting.letters.words import join_each_other

_ORDINARY = {"capital": "HAMBURGEFONTS", "x": "hamburgefonts"}
"""Words whose pairs are ordinary ones: the median of their gaps is a face's common gap."""


def gap_targets(
    face: Face,
    clusters: tuple[Cluster, ...],
    scales: Scales,
    designed: Lengths,
    extra: Floats,
    common: bool,
    space_all: bool,
) -> Floats:
    """(n − 1,) targets, nan for pairs that are left alone.

    Parameters
    ----------
    designed, extra
        (n − 1,) gaps on the straight, as designed and with what is added to each distance;
        and what that is, mm
    common
        whether all pairs that are not parted by a space have one gap
    """
    targets = designed.copy()
    for index, (one, two) in enumerate(zip(clusters, clusters[1:], strict=False)):
        if (join_each_other(face, one, two) and face.touching(one, two)) or not (
            space_all or (_is_letter(one) and _is_letter(two))
        ):
            targets[index] = np.nan
        elif common and two.place - one.place == len(one.text):
            least = min(scales[index], scales[index + 1])
            targets[index] = common_gap(face, band_of(one, two)) * least + extra[index]
    return targets


def _is_letter(cluster: Cluster) -> bool:
    return cluster.text[:1].isalpha()


@remembered(64)
def common_gap(face: Face, band: Band) -> float:
    """The one gap that stands for all of a face's in a band, font units."""
    shaped = face.shape(_ORDINARY[band])
    if shaped.missing or len(shaped.clusters) < len(_ORDINARY[band]):
        how = softening(face, band)
        return how.white
    starts = np.concatenate([[0.0], np.cumsum([c.advance for c in shaped.clusters])])[:-1]
    meter = GapMeter(face, shaped.clusters, np.ones(len(shaped.clusters)))
    return float(np.median(meter.on_straight(starts)))
