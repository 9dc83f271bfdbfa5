"""Letters with changes by hand on a spiral, and letters that bend.

    .venv/bin/python -m benchmarks.letters

Placing: letters on a spiral of 12 turns, every seventh changed by hand, shaping and all
included; the time against one 60 Hz frame, and how it grows with the number of letters.
Bending: the outlines of 60 letters on a circle, as a ratio to a straight loop over
kurbopy's own curve fit, with the number of segments and the worst error of both.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable

import numpy as np
from kurbopy import BezPath, Point, Vec2, fit_to_bezpath

from ulvent.core.base.tolerances import FITTING
from ulvent.core.curves import CircularArc, Curve
from ulvent.core.guides import guide_curve
from ulvent.core.guides.kinds.spiral_guide import SpiralGuide
from ulvent.core.recipe import Lettering, Nudge
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.shipped_faces import shipped_face

FRAME_MS = 1000 / 60
COUNTS = (50, 100, 200, 400, 800, 1600, 3200, 6400)
WORDS = "QUILLMERE ORCHARD AUTUMN FAIR PRESSED BY HAND "
RUNS = 7
EVERY = 7
BENT = 60
RADIUS = 120.0


def main() -> None:
    print("placing letters with changes by hand on a spiral of 12 turns")
    print(f"{'letters':>8} {'ms':>8} {'µs a letter':>12}   of a 60 Hz frame")
    for count in COUNTS:
        standing = Standing(_spiral(count))
        lettering = _lettering(count)
        took = _median(lambda s=standing, w=lettering: _placed(w, s))
        print(f"{count:8d} {took:8.2f} {1000 * took / count:12.1f}   {took / FRAME_MS:.0%}")
    _bending()


def _spiral(letters: int) -> Curve:
    """Twelve turns as long as the letters need at 9 mm each."""
    length = 9.0 * letters + 50.0
    recipe = SpiralGuide(id="s", kind="spiral", turns=12, length=length, inner=length / 60)
    return guide_curve(recipe)


def _lettering(letters: int) -> Lettering:
    text = (WORDS * (letters // len(WORDS) + 1))[:letters]
    hand = tuple(
        Nudge(letter=at, along=0.2, turn=1.0) for at in range(0, min(letters, 2000), EVERY)
    )
    fields = {"id": "x", "guide": "s", "text": "", "face": "lato-bold", "height": 7}
    # More letters than a piece takes: what is asked here is how the time grows.
    return Lettering(**fields).model_copy(update={"text": text, "hand": hand, "hand_words": text})


def _placed(lettering: Lettering, standing: Standing) -> Setting:
    (setting,) = set_lettering(lettering, standing, shipped_face("lato-bold"))
    assert setting.matrices.shape[1:] == (2, 3)
    return setting


def _median(run: Callable[[], object]) -> float:
    run()
    took = []
    for _ in range(RUNS):
        start = time.perf_counter()
        run()
        took.append(1000 * (time.perf_counter() - start))
    return float(np.median(took))


# ---------------------------------------------------------------------- bending


def _bending() -> None:
    circle = CircularArc.circle((0, 0), RADIUS, 90, clockwise=True)
    text = (WORDS * 3)[:BENT]
    fields = {"id": "x", "guide": "s", "text": text, "face": "lato-bold", "height": 9}
    lettering = Lettering(**fields, shape="bent")

    def ours() -> Setting:
        setting = _placed(lettering, Standing(circle))
        setting.placed_outline(0)
        return setting

    setting = ours()
    before = sum(_segments(setting.outline(i).operations) for i in range(len(setting.clusters)))
    after = sum(
        _segments(setting.placed_outline(i).operations) for i in range(len(setting.clusters))
    )
    mine = _median(ours)
    theirs = _median(lambda: _by_kurbopy(setting))
    paths = _by_kurbopy(setting)
    count = sum(len(path.segments()) for path in paths)
    print(f"\nbending {BENT} letters on a circle of {2 * RADIUS:g} mm, {before} segments")
    print(f"  ours    {mine:8.1f} ms  {after} segments ({after / before:.2f} times)")
    print(f"  kurbopy {theirs:8.1f} ms  {count} segments ({count / before:.2f} times)")
    print(f"  ratio   {theirs / mine:8.1f}")


def _segments(operations: str) -> int:
    return sum(operation in "LQC" for operation in operations)


class _BentPiece:
    """One piece of an outline, bent on the circle, as kurbopy's fit asks for it."""

    def __init__(self, controls: np.ndarray) -> None:
        self._controls = controls

    def _at(self, t: float) -> tuple[np.ndarray, np.ndarray]:
        u = 1.0 - t
        a, b, c, d = self._controls
        station, height = u**3 * a + 3 * u * u * t * b + 3 * u * t * t * c + t**3 * d
        ds, dh = 3 * (u * u * (b - a) + 2 * u * t * (c - b) + t * t * (d - c))
        angle, radius = math.pi / 2 - station / RADIUS, RADIUS + height
        out = np.array([math.cos(angle), math.sin(angle)])
        along = np.array([out[1], -out[0]])
        return radius * out, along * ds * radius / RADIUS + out * dh

    def sample_pt_tangent(self, t: float, _sign: float) -> tuple[Point, Vec2]:
        point, way = self._at(t)
        return Point(*point), Vec2(*way)

    def sample_pt_deriv(self, t: float) -> tuple[Point, Vec2]:
        return self.sample_pt_tangent(t, 0.0)

    def break_cusp(self, _start: float, _end: float) -> None:
        return None


def _by_kurbopy(setting: Setting) -> list[BezPath]:
    """A straight loop: every piece of every outline bent and fitted by itself."""
    found: list[BezPath] = []
    for index in range(len(setting.clusters)):
        offset = np.array([setting.middles[index] - setting.widths[index] / 2.0, 0.0])
        at = np.zeros(2)
        for operation, points in setting.outline(index).steps():
            flat = points * setting.scale + offset
            if operation in "LQC":
                controls = _as_cubic(np.vstack([at, flat]))
                found.append(fit_to_bezpath(_BentPiece(controls), FITTING))
            at = flat[-1] if len(flat) else at
    return found


def _as_cubic(points: np.ndarray) -> np.ndarray:
    if len(points) == 4:
        return points
    first, last = points[0], points[-1]
    if len(points) == 2:
        return np.array([first, first + (last - first) / 3, last - (last - first) / 3, last])
    control = points[1]
    return np.array(
        [first, first + (control - first) * 2 / 3, last + (control - last) * 2 / 3, last]
    )


if __name__ == "__main__":
    main()
