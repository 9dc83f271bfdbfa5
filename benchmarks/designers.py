"""The measure of gaps against type designers' own spacing.

    .venv/bin/python -m benchmarks.designers

42 open faces (`faces.json`), none of which is shipped, come from the npm registry into
`var/faces`. In each, HarfBuzz says from the face's advances and kerning how far apart its
designer put all 676 pairs of capitals, of small letters, and of a capital before a small
letter. Held against that are the distances at which the measure finds one gap for all pairs:
the constants of `core/setting/sides.py` were found on the tuned half; the other half was not
looked at for that.

Errors are in % of the cap height, each face's median error taken out, faces averaged.
"""

from __future__ import annotations

import json
import string
import subprocess
import tarfile
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import numpy as np

from ulvent.core.faces import Cluster, Face
from ulvent.core.setting.gaps.gap import GapMeter
from ulvent.formats.fonts.font_file import read_font

HERE = Path(__file__).parent
CACHE = HERE.parent / "var" / "faces"
WEIGHT = 400
CLASSES = {
    "capitals": (string.ascii_uppercase, string.ascii_uppercase),
    "small letters": (string.ascii_lowercase, string.ascii_lowercase),
    "mixed": (string.ascii_uppercase, string.ascii_lowercase),
}
NAMED = ("AV", "WA", "LT", "LI", "LH", "OO", "To", "Te", "Ty", "Vo")
_REACH, _HALVINGS = 1.2, 40


class Pairs(NamedTuple):
    """All pairs of a class in one face, font units.

    designed, advances
        (n,) from start to start with kerning, and without
    """

    texts: list[str]
    clusters: list[tuple[Cluster, Cluster]]
    designed: np.ndarray
    advances: np.ndarray


def main() -> None:
    faces = json.loads((HERE / "faces.json").read_text())
    fetch([f"{one['package']}@{one['version']}" for one in faces])
    found: dict[tuple[str, str, str], list[tuple[float, float, float]]] = {}
    serifs: dict[tuple[str, str], list[float]] = {}
    named: dict[tuple[str, str], list[float]] = {}
    for one in faces:
        face = read(one["package"])
        for name, letters in CLASSES.items():
            pairs = pairs_of(face, *letters)
            for method, distances in (
                ("equal boxes", boxes(face, pairs)),
                ("advances alone", pairs.advances),
                ("the measure", one_gap_for_all(face, pairs)),
            ):
                off = errors(face, pairs, distances)
                kerned = pairs.designed != pairs.advances
                white = np.array([inside(face, pair) for pair in pairs.clusters])
                own, theirs = distances - white, pairs.designed - white
                like = np.corrcoef(own, theirs)[0, 1] if np.ptp(own) > 1e-6 else 0.0
                found.setdefault((name, method, one["half"]), []).append(
                    (like, np.abs(off).mean(), np.abs(off[kerned]).mean())
                )
                if method == "the measure":
                    if one["serif"]:
                        serifs.setdefault((name, one["half"]), []).append(np.abs(off).mean())
                    for text, error in zip(pairs.texts, off, strict=True):
                        named.setdefault((text, one["half"]), []).append(error)
    print(
        f"{len(faces)} faces; correlation, mean error, mean error of kerned pairs (tuned | unseen)"
    )
    for name in CLASSES:
        for method in ("equal boxes", "advances alone", "the measure"):
            row = " | ".join(
                "{:6.2f} {:5.2f} % {:5.2f} %".format(
                    *np.nanmean(np.array(found[name, method, half]), axis=0)
                )
                for half in ("tuned", "unseen")
            )
            print(f"{name:14} {method:15} {row}")
        row = " | ".join(f"{np.mean(serifs[name, half]):.2f} %" for half in ("tuned", "unseen"))
        print(f"{name:14} {'in serif faces':15} {row}")
    print("\npairs, too loose (+) or too tight (−), tuned | unseen")
    for text in NAMED:
        tuned, unseen = (float(np.mean(named[text, half])) for half in ("tuned", "unseen"))
        print(f"{text}  {tuned:+.1f} % | {unseen:+.1f} %")


def fetch(packages: list[str]) -> None:
    """Unpack what is not there yet."""
    CACHE.mkdir(parents=True, exist_ok=True)
    missing = [one for one in packages if not (CACHE / one.split("/")[1]).exists()]
    if not missing:
        return
    script = '. tools/setup.sh; node_on_path; cd "$0"; npm pack --silent "$@"'
    subprocess.run(
        ["bash", "-c", script, str(CACHE), *missing], cwd=HERE.parent, check=True,
        stdout=subprocess.DEVNULL,
    )  # fmt: skip
    for one in missing:
        name, version = one.split("/")[1].split("@")
        with tarfile.open(CACHE / f"fontsource-{name}-{version}.tgz") as archive:
            archive.extractall(CACHE / one.split("/")[1], filter="data")


def read(package: str) -> Face:
    """The upright Latin face of a package whose weight is nearest to regular."""
    name = package.split("/")[1]
    (folder,) = CACHE.glob(f"{name}@*")
    files = (folder / "package" / "files").glob(f"{name}-latin-[0-9]*-normal.woff2")
    best = min(files, key=lambda file: abs(int(file.stem.split("-")[-2]) - WEIGHT))
    return read_font(best.read_bytes(), name)


def pairs_of(face: Face, first: str, second: str) -> Pairs:
    texts, clusters, designed, advances = [], [], [], []
    for one in first:
        alone = face.shape(one).clusters[0].advance
        for two in second:
            shaped = face.shape(one + two).clusters
            if len(shaped) == 2:  # a ligature is no pair
                texts.append(one + two)
                clusters.append((shaped[0], shaped[1]))
                designed.append(shaped[0].advance)
                advances.append(alone)
    return Pairs(texts, clusters, np.array(designed), np.array(advances))


def inside(face: Face, pair: tuple[Cluster, Cluster]) -> float:
    """From start to start of two letters whose boxes touch."""
    left, right = (face.cluster_outline(cluster.glyphs).bounds() for cluster in pair)
    return left[2] - right[0]


def boxes(face: Face, pairs: Pairs) -> np.ndarray:
    """Distances at which the boxes of all pairs are equally far apart."""
    return np.array([inside(face, pair) for pair in pairs.clusters])


def one_gap_for_all(face: Face, pairs: Pairs) -> np.ndarray:
    """Distances at which all pairs have the median of the gaps that their designer gave them."""
    row = [cluster for pair in pairs.clusters for cluster in pair]
    meter = GapMeter(face, tuple(row), np.ones(len(row)))

    def gaps(distances: np.ndarray) -> np.ndarray:
        starts = np.stack([np.zeros(len(distances)), distances], axis=1).ravel()
        return meter.on_straight(starts)[0::2]

    wanted = np.median(gaps(pairs.designed))
    return solved(gaps, pairs.designed, wanted, _REACH * face.metrics.cap_height)


def solved(
    gaps: Callable[[np.ndarray], np.ndarray], start: np.ndarray, wanted: float, reach: float
) -> np.ndarray:
    """Where every gap is the one that is wanted, by bisection: gaps rise with the distance."""
    low, high = start - reach, start + reach
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        small = gaps(middle) < wanted
        low, high = np.where(small, middle, low), np.where(small, high, middle)
    return (low + high) / 2


def errors(face: Face, pairs: Pairs, distances: np.ndarray) -> np.ndarray:
    """(n,) how much farther apart than designed, % of the cap height, the median taken out."""
    off = distances - pairs.designed
    return 100 * (off - np.median(off)) / face.metrics.cap_height


if __name__ == "__main__":
    main()
