"""Ten thousand inverse arc-length queries on every kind of guide, against two peers.

    .venv/bin/pip install -r requirements-bench.lock
    .venv/bin/python -m benchmarks.stations

Ours answers all queries in one call, exactly. The peers are asked one by one in a loop, as
their users do, on the cubics that stand for the guide within 0.001 mm (they have no other
kinds): svgpathtools by `ilength`, which is slow enough that it is asked only a few times
and its time multiplied; kurbopy by `inv_arclen` on the segment found by bisection. How
exact ours is stands in the tests, against mpmath and closed forms.
"""

from __future__ import annotations

import bisect
import statistics
import time
from collections.abc import Callable

import kurbopy
import numpy as np
import svgpathtools

from tests import zoo
from ulvent.core.curves import ArcSegment, CubicSegment, Curve, LineSegment, QuadraticSegment
from ulvent.core.curves.fitted import fitted_segments
from ulvent.core.guides import guide_curve

QUERIES = 10_000
ASKED_OF_SVGPATHTOOLS = 25
ROUNDS = 5


def main() -> None:
    print(f"{QUERIES} queries; milliseconds, and times ours")
    print(f"{'guide':>20} {'ours':>8} {'kurbopy':>16} {'svgpathtools':>20}")
    for name in zoo.RECIPES:
        _compare(name, guide_curve(zoo.guide(name)))


def _compare(name: str, guide: Curve) -> None:
    stations = np.random.default_rng(1).uniform(0, guide.length, QUERIES)
    cubics = [_cubic(segment) for segment in fitted_segments(guide)]
    kurbo = [_kurbo(cubic) for cubic in cubics]
    peer = svgpathtools.Path(*(svgpathtools.CubicBezier(*cubic) for cubic in cubics))
    guide.points(stations)
    # In turns, so that a machine that slows down slows all of them.
    times = [
        (
            _once(lambda: guide.points(stations)),
            _once(lambda: _by_kurbopy(kurbo, stations)),
            _once(lambda: [peer.ilength(s) for s in stations[:ASKED_OF_SVGPATHTOOLS].tolist()])
            * (QUERIES / ASKED_OF_SVGPATHTOOLS),
        )
        for _ in range(ROUNDS)
    ]
    ours, by_kurbo, by_svg = (statistics.median(each) for each in zip(*times, strict=True))
    print(
        f"{name:>20} {ours:8.1f} {by_kurbo:8.0f} {by_kurbo / ours:6.0f}× "
        f"{by_svg:11.0f} {by_svg / ours:7.0f}×"
    )


def _cubic(segment: object) -> tuple[complex, complex, complex, complex]:
    assert isinstance(segment, LineSegment | CubicSegment | QuadraticSegment | ArcSegment)
    if isinstance(segment, CubicSegment):
        a, b, c, d = (complex(*point) for point in segment)
        return a, b, c, d
    assert isinstance(segment, LineSegment)
    a, d = (complex(*point) for point in segment)
    return a, a + (d - a) / 3, d - (d - a) / 3, d


def _kurbo(cubic: tuple[complex, ...]) -> kurbopy.CubicBez:
    return kurbopy.CubicBez(*(kurbopy.Point(p.real, p.imag) for p in cubic))


def _by_kurbopy(segments: list[kurbopy.CubicBez], stations: np.ndarray) -> list[object]:
    ends = np.cumsum([segment.arclen(1e-9) for segment in segments]).tolist()
    found: list[object] = []
    for station in stations.tolist():
        index = min(bisect.bisect_left(ends, station), len(segments) - 1)
        before = ends[index - 1] if index else 0.0
        segment = segments[index]
        found.append(segment.eval(segment.inv_arclen(station - before, 1e-9)))
    return found


def _once(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return (time.perf_counter() - start) * 1e3


if __name__ == "__main__":
    main()
