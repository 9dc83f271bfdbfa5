"""Even gaps and fits: how fast, beside a plain loop over pairs.

    .venv/bin/python -m benchmarks.even

Letters on a wavy guide, evenly spaced, from the words to all that stands: 30, 60, 120 …
letters, until one setting takes longer than a frame at 60 Hz: anew, and as it is pulled along its
guide by half a millimetre a move. The peer spaces the same words
pair by pair: scipy's brentq moves each letter along the guide until the shapely distance of the
two placed outlines is what it is on the straight. It has another notion of a gap, a simpler
one; what is compared is the work. Fits with even gaps are held against one even setting.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable

import numpy as np
from scipy.optimize import brentq
from shapely import affinity
from shapely.geometry import MultiPolygon, Polygon
from shapely.ops import unary_union

from ulvent.core.curves import Curve
from ulvent.core.fits import set_fitted
from ulvent.core.guides import guide_curve
from ulvent.core.guides.kinds.wave_guide import WaveGuide
from ulvent.core.layout import lay_out
from ulvent.core.recipe import Lettering, parse_piece
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.core.setting.gaps.spacing import forget_rows
from ulvent.shipped_faces import shipped_face

FRAME_MS = 1000 / 60
WORDS = "QUILLMERE ORCHARD AUTUMN FAIR PRESSED BY HAND IN THE OLD BARN NEAR LOWER "
FACE = "lato-bold"
HEIGHT = 6.0
MOST_LETTERS = 1920
ROUNDS = 9
FITS: list[tuple[str, dict[str, object], dict[str, object]]] = [
    ("height for the room", {"kind": "arch", "chord": 180, "rise": 40}, {"kind": "height"}),
    ("height on a wave", {"kind": "wave", "length": 120, "height": 16, "waves": 4},
     {"kind": "height"}),
    ("gap that fills a ring", {"kind": "circle", "diameter": 120}, {"kind": "gap"}),
    ("diameter of a ring", {"kind": "circle", "diameter": 120}, {"kind": "guide"}),
    ("turns of a spiral", {"kind": "spiral", "inner": 60, "gain": 20, "turns": 2},
     {"kind": "guide", "figure": "turns"}),
    ("taper on a spiral", {"kind": "spiral", "inner": 60, "gain": 20, "turns": 1},
     {"kind": "taper"}),
]  # fmt: skip


def main() -> None:
    print("letters   even, ms   of a frame   pulled, ms   of a frame   by the face, ms")
    letters = 30
    while letters <= MOST_LETTERS:
        even, own = (_milliseconds(_setting(letters, spacing)) for spacing in ("even", "font"))
        pulled = _pulled(letters)
        print(f"{letters:7d} {even:10.2f} {even / FRAME_MS:11.0%} {pulled:12.2f} "
              f"{pulled / FRAME_MS:11.0%} {own:17.2f}")  # fmt: skip
        if pulled > FRAME_MS:
            break
        letters *= 2
    lettering, standing = _lettering(60, "even"), Standing(_wave(60))
    (setting,) = set_lettering(lettering, standing, shipped_face(FACE))
    begin = time.perf_counter()
    _plainly_spaced(setting)
    plain = 1000 * (time.perf_counter() - begin)
    even = _milliseconds(_setting(60, "even"))
    print(f"60 letters by brentq and shapely: {plain:.0f} ms, {plain / even:.0f} times as long")
    print("\nfit with even gaps, in even settings of the same words")
    for name, guide, fit in FITS:
        print(f"{name:24} {_fit_ratio(guide, fit):5.1f}")


def _wave(letters: int) -> Curve:
    return guide_curve(
        WaveGuide(id="g", kind="wave", length=120, height=30, waves=max(1.0, letters / 15))
    )


def _lettering(letters: int, spacing: str) -> Lettering:
    text = (WORDS * (letters // len(WORDS) + 1))[:letters]
    return Lettering.model_validate(
        {"id": "x", "guide": "g", "text": text, "face": FACE, "height": HEIGHT, "spacing": spacing}
    )


def _setting(letters: int, spacing: str) -> Callable[[], object]:
    lettering, standing, face = (
        _lettering(letters, spacing),
        Standing(_wave(letters)),
        shipped_face(FACE),
    )
    return lambda: set_lettering(lettering, standing, face)


def _pulled(letters: int) -> float:
    """Milliseconds a move of an evenly spaced lettering pulled along its guide."""
    lettering, standing = _lettering(letters, "even"), Standing(_wave(letters))
    took = []
    for move in range(2 * ROUNDS):
        moved = lettering.model_copy(update={"at": 5 + 0.5 * move})
        begin = time.perf_counter()
        set_lettering(moved, standing, shipped_face(FACE))
        took.append(time.perf_counter() - begin)
    return 1000 * float(np.median(took))


def _milliseconds(run: Callable[[], object]) -> float:
    """The median of some runs, none of which knows of the others."""
    run()
    took = []
    for _ in range(ROUNDS):
        forget_rows()
        begin = time.perf_counter()
        run()
        took.append(time.perf_counter() - begin)
    return 1000 * float(np.median(took))


def _plainly_spaced(setting: Setting) -> list[float]:
    """Stations of all letters, each moved until its shapely distance is that on the straight."""
    letters = [_area(setting, index) for index in range(len(setting.clusters))]
    halves = setting.widths / 2
    stations = [float(setting.middles[0])]

    def placed(index: int, station: float) -> MultiPolygon:
        frame = setting.baseline.frames(station)
        angle = math.atan2(*frame.tangents[0][::-1])
        turned = affinity.rotate(letters[index], angle, origin=(0, 0), use_radians=True)
        return affinity.translate(turned, *frame.points[0])

    for index in range(1, len(letters)):
        straight = setting.meant[index] - setting.meant[index - 1]
        straight += halves[index] - halves[index - 1]
        beside = affinity.translate(letters[index], straight, 0)
        wanted = letters[index - 1].distance(beside)
        last = placed(index - 1, stations[-1])

        def miss(station: float, index: int = index, last: MultiPolygon = last,
                 wanted: float = wanted) -> float:  # fmt: skip
            letter = placed(index, station)
            return -1.0 if letter.intersects(last) else letter.distance(last) - wanted

        low, high = stations[-1] + 0.2 * straight, stations[-1] + 3 * straight + 2 * HEIGHT
        stations.append(brentq(miss, low, high, xtol=1e-6))
    return stations


def _area(setting: Setting, index: int) -> MultiPolygon:
    """A letter as an area about the middle of its advance, mm."""
    scale = float(setting.scales[index])
    rings = [Polygon(points * scale) for points, _ in setting.outline(index).flattened(8)]
    whole = rings[0].buffer(0)
    for ring in rings[1:]:
        whole = whole.symmetric_difference(ring.buffer(0))
    return affinity.translate(unary_union(whole), -float(setting.widths[index]) / 2, 0)


def _fit_ratio(guide: dict[str, object], fit: dict[str, object]) -> float:
    """How many even settings of the solved words a fit takes."""
    lettering = {"id": "x", "guide": "g", "text": WORDS.strip(), "face": FACE, "height": HEIGHT,
                 "spacing": "even"}  # fmt: skip
    document = {"ulvent": 1, "guides": [{"id": "g", **guide}]}
    fitted = parse_piece({**document, "letterings": [{**lettering, "fit": fit}]})
    layout = lay_out(fitted, shipped_face)
    standing, face = layout.stands["x"]
    solved = layout.settings[0].lettering

    def solve() -> object:
        if fit["kind"] == "guide":
            return lay_out(fitted, shipped_face)
        return set_fitted(fitted.letterings[0], standing, face)

    return _milliseconds(solve) / _milliseconds(lambda: set_lettering(solved, standing, face))


if __name__ == "__main__":
    main()
