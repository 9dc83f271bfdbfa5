"""Placing 60 letters, against what a user would reach for instead.

    .venv/bin/pip install -r requirements-bench.lock
    .venv/bin/python -m benchmarks.placing

Ours is the whole way: shaping, stations, frames, matrices. The peers are given the
letters' advances and only place them: svgpathtools (`ilength`, `point`,
`unit_tangent`), Skia's path measure, and Chromium's own `textPath` layout, which
shapes as well. Errors are against 25-digit mpmath. Times are medians in one run.
"""

from __future__ import annotations

import base64
import math
import statistics
import time
from collections.abc import Callable
from typing import Any

import mpmath
import numpy as np
import skia
import svgpathtools
from playwright.sync_api import sync_playwright

from tests.browser.chromium import EXECUTABLE, OPTIONS
from tests.zoo import smooth_chain
from ulvent.core.curves import BezierPath, CircularArc, CubicSegment, Curve
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.formats.svg_data import curve_data
from ulvent.shipped_faces import FONTS, shipped_face

WORDS = "Quillmere Orchard autumn fair: pressed by hand in the old barn, near Low"
FACE = "lato-bold"
CONTROL = 0.5522847498307936


def main() -> None:
    guides: dict[str, Curve] = {
        "circle of 240 mm": CircularArc.circle((0, 0), 120, 90, clockwise=True),
        "chain of 40 Beziers": smooth_chain(40),
    }
    print(f"{len(WORDS)} characters\n")
    for name, guide in guides.items():
        _compare(name, guide)


def _compare(name: str, guide: Curve) -> None:
    lettering = Lettering(id="x", guide="g", text=WORDS, face=FACE, height=8)
    setting = _placed(lettering, guide)
    cold = _median(lambda: _placed(lettering, _anew(guide)), 50)
    print(f"{name}: {len(setting.clusters)} letters with ink")
    cubics = _cubics(guide)
    peer_path = svgpathtools.Path(*(svgpathtools.CubicBezier(*c) for c in cubics))
    # In turns, so that a machine that slows down slows both.
    pairs = [
        (
            _median(lambda: _placed(lettering, guide), 20),
            _once(lambda: _by_svgpathtools(peer_path, setting.middles)),
        )
        for _ in range(9)
    ]
    ours, svg_ms = (statistics.median(times) for times in zip(*pairs, strict=True))
    print(f"  ours                      {ours:9.3f} ms   ({cold:.3f} ms with the guide made anew)")
    ratio = statistics.median(theirs / mine for mine, theirs in pairs)
    print(f"  svgpathtools              {svg_ms:9.3f} ms   {ratio:8.0f} times ours")

    skia_path = skia.Path()
    skia_path.moveTo(cubics[0][0].real, cubics[0][0].imag)
    for _, b, c, d in cubics:
        skia_path.cubicTo(b.real, b.imag, c.real, c.imag, d.real, d.imag)
    skia_ms = _median(lambda: _by_skia(skia_path, setting.middles), 50)
    print(f"  Skia's path measure       {skia_ms:9.3f} ms   {skia_ms / ours:8.2f} times ours")

    browser_ms = _by_chromium(guide, lettering)
    print(f"  Chromium's textPath       {browser_ms:9.3f} ms   {browser_ms / ours:8.2f} times ours")

    exact = _exact_points(guide, cubics, setting.middles[::6])
    our_error = _worst(setting.frames.points[::6], exact)
    # Skia's own curve is the cubic one: on the circle its error is measured on that.
    on_cubics = _exact_points(None, cubics, setting.middles[::6])
    skia_error = _worst(_by_skia(skia_path, setting.middles)[::6], on_cubics)
    print(f"  position error, mm: ours {our_error:.1e}, Skia {skia_error:.1e}"
          f" ({skia_error / max(our_error, 1e-16):.0f} times ours)\n")  # fmt: skip


def _placed(lettering: Lettering, guide: Curve) -> Setting:
    (setting,) = set_lettering(lettering, Standing(guide), shipped_face(FACE))
    assert setting.matrices.shape[1:] == (2, 3)
    return setting


def _anew(guide: Curve) -> Curve:
    if isinstance(guide, CircularArc):
        return CircularArc(guide.centre, guide.radius, guide.begin, guide.sweep)
    return BezierPath(guide.segments())  # type: ignore[arg-type]


def _cubics(guide: Curve) -> list[tuple[complex, complex, complex, complex]]:
    """The guide as cubics, which is all that the peers take; a circle as four."""
    if isinstance(guide, CircularArc):
        quarter = [1, 1 + CONTROL * -1j, CONTROL + -1j, -1j]
        turn = [1j * (-1j) ** k for k in range(4)]
        return [tuple(guide.radius * t * p for p in quarter) for t in turn]  # type: ignore[misc]
    return [tuple(complex(*p) for p in s) for s in guide.segments()]  # type: ignore[misc]


def _by_svgpathtools(path: svgpathtools.Path, middles: np.ndarray) -> list[complex]:
    found = []
    for middle in middles.tolist():
        t = path.ilength(middle)
        found.append(path.point(t) + 0 * path.unit_tangent(t))
    return found


def _by_skia(path: skia.Path, middles: np.ndarray) -> np.ndarray:
    measure = skia.PathMeasure(path, False)
    found = [measure.getPosTan(middle)[0] for middle in middles.tolist()]
    return np.array([(point.x(), point.y()) for point in found])


_LAY_OUT = """
([size, words, data, rounds]) => {
  const ns = 'http://www.w3.org/2000/svg';
  const times = [];
  for (let round = 0; round < rounds; round += 1) {
    const svg = document.createElementNS(ns, 'svg');
    svg.innerHTML = `<defs><path id="line" d="${data}"/></defs><text
      style="font-family:bench;font-size:${size}px" text-rendering="geometricPrecision"
      ><textPath href="#line">${words}</textPath></text>`;
    const start = performance.now();
    document.body.replaceChildren(svg);
    svg.querySelector('text').getStartPositionOfChar(words.length - 1);
    times.push(performance.now() - start);
  }
  return times;
}
"""


def _by_chromium(guide: Curve, lettering: Lettering) -> float:
    data = base64.b64encode((FONTS / f"{FACE}.ttf").read_bytes()).decode()
    metrics = shipped_face(FACE).metrics
    size = lettering.height * metrics.units_per_em / metrics.cap_height
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=EXECUTABLE, args=OPTIONS)
        page = browser.new_page()
        page.set_content(
            f"<style>@font-face{{font-family:bench;src:url(data:font/ttf;base64,{data})}}</style>"
        )
        page.evaluate("document.fonts.load('20px bench')")
        times = page.evaluate(_LAY_OUT, [size, WORDS, curve_data(guide), 60])
        browser.close()
    return statistics.median(times)


def _exact_points(guide: Curve | None, cubics: list[Any], middles: np.ndarray) -> np.ndarray:
    """Points at stations, to 25 digits: in closed form on a circle, else by quadrature."""
    if isinstance(guide, CircularArc):
        angles = [math.pi / 2 - middle / guide.radius for middle in middles.tolist()]
        return guide.radius * np.array([(math.cos(a), math.sin(a)) for a in angles])
    mpmath.mp.dps = 25
    lengths = [_exact_length(CubicSegment(*c), 1.0) for c in cubics]
    found = []
    for middle in middles.tolist():
        rest, index = mpmath.mpf(middle), 0
        while rest > lengths[index]:
            rest -= lengths[index]
            index += 1
        segment = CubicSegment(*cubics[index])
        t = mpmath.findroot(
            lambda u, s=segment, r=rest: _exact_length(s, u) - r,
            (rest / lengths[index] * 0.95, min(1, rest / lengths[index] * 1.05 + 1e-6)),
            solver="secant",
        )
        a, b, c, d = (mpmath.mpc(p) for p in cubics[index])
        u = 1 - t
        point = u**3 * a + 3 * u * u * t * b + 3 * u * t * t * c + t**3 * d
        found.append((float(point.real), float(point.imag)))
    return np.array(found)


def _exact_length(segment: CubicSegment, end: Any) -> Any:
    a, b, c, d = (mpmath.mpc(p) for p in segment)
    d0, d1, d2 = 3 * (b - a), 6 * (c - 2 * b + a), 3 * (d - 3 * c + 3 * b - a)
    return mpmath.quad(lambda t: abs(d0 + t * (d1 + t * d2)), [0, end])


def _worst(found: np.ndarray, exact: np.ndarray) -> float:
    return float(np.hypot(*(found - exact).T).max())


def _median(work: Callable[[], object], rounds: int) -> float:
    work()
    return statistics.median(_once(work) for _ in range(rounds))


def _once(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return (time.perf_counter() - start) * 1e3


if __name__ == "__main__":
    main()
