"""Runs: putting lines in order, a run from piece to bytes, and its rehearsal on the screen.

    .venv/bin/python -m benchmarks.runs [--page]

*Order*: 2,000 rings scattered over a sheet. Seconds and idle length of ours, of the way to the
nearest, and of a plain 2-opt in Python over the same first points (one that stops when a whole
round gains nothing); beside them a lower bound: the least tree that spans all rings and the
machine's zero, each ring taken for the circle that it is.

*A run*: 60 letters with even gaps, from the prepared piece to the bytes of each format, as a share
of the time of its proof, both from the same layout.

*Rehearsal* (`--page`): ten thousand lines in headless Chromium with software rendering, scrubbed
forward and back; frames painted a second.
"""

from __future__ import annotations

import json
import math
import sys
import time
import urllib.request
from collections.abc import Callable
from typing import Any

import numpy as np
from playwright.sync_api import sync_playwright
from scipy.sparse import csr_matrix
from scipy.sparse.csgraph import minimum_spanning_tree
from scipy.spatial import cKDTree

from tests.browser.chromium import EXECUTABLE, OPTIONS
from tests.makings import document, workpiece
from tests.running import RunningUlvent, remove, temporary_folder
from ulvent.core.outlines import Polyline
from ulvent.core.runs.nesting import Line
from ulvent.core.runs.order import ordered
from ulvent.formats.run_out import RUN_FORMATS

SHEET = 2000.0
COUNT = 2000
RADIUS = 8.0
HOME = np.zeros(2)
WORDS = "QUILLMEREORCHARDAUTUMNFAIRPRESSEDBYHANDINTHEOLDBARNNEARLOWER"


def rings(count: int) -> list[Line]:
    """Rings that do not touch, at random places of a grid."""
    pick = np.random.default_rng(5)
    side = math.ceil(math.sqrt(2 * count))
    cells = pick.choice(side * side, count, replace=False)
    angles = np.linspace(0.0, 2.0 * math.pi, 24, endpoint=False)
    ring = RADIUS * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    apart = SHEET / side
    places = np.stack([cells % side, cells // side], axis=1) * apart
    places = places + pick.uniform(RADIUS, apart - RADIUS, (count, 2))
    return [Line(ring + at, True, index, "") for index, at in enumerate(places)]


def idle_of(lines: list[Line]) -> float:
    at, length = HOME, 0.0
    for one in ordered(lines, HOME):
        begin = Polyline(lines[one.index].points, True).walk().at(np.array([one.station]))[0]
        length += float(np.hypot(*(begin - at)))
        at = begin
    return length


def to_the_nearest(points: np.ndarray) -> list[int]:
    left = set(range(len(points)))
    at, order = HOME, []
    while left:
        nearest = min(left, key=lambda index: math.dist(points[index], at))
        left.remove(nearest)
        order.append(nearest)
        at = points[nearest]
    return order


def plain_two_opt(points: np.ndarray, order: list[int]) -> list[int]:
    """Reverses stretches while that shortens the way, as a first course of algorithms has it."""
    places = [(0.0, 0.0), *(tuple(points[index]) for index in order)]
    tour = list(range(len(places)))
    gained = True
    while gained:
        gained = False
        for i in range(len(tour) - 2):
            a, b = places[tour[i]], places[tour[i + 1]]
            ab = math.dist(a, b)
            for j in range(i + 2, len(tour)):
                c = places[tour[j]]
                ac = math.dist(a, c)
                d = places[tour[j + 1]] if j + 1 < len(tour) else None
                before = ab + (math.dist(c, d) if d else 0.0)
                after = ac + (math.dist(b, d) if d else 0.0)
                if after < before - 1e-9:
                    tour[i + 1 : j + 1] = reversed(tour[i + 1 : j + 1])
                    b = places[tour[i + 1]]
                    ab = math.dist(a, b)
                    gained = True
    return [order[index - 1] for index in tour[1:]]


def length_of(points: np.ndarray, order: list[int]) -> float:
    way = np.concatenate([HOME[None], points[order]])
    return float(np.hypot(*np.diff(way, axis=0).T).sum())


def lower_bound(lines: list[Line]) -> float:
    """The least tree that spans all rings and the zero: every way spans them too."""
    middles = np.array([HOME, *(line.points.mean(axis=0) for line in lines)])
    apart, index = cKDTree(middles).query(middles, k=40)
    rows = np.repeat(np.arange(len(middles)), 39)
    columns = index[:, 1:].ravel()
    gap = apart[:, 1:].ravel() - RADIUS * ((rows > 0).astype(float) + (columns > 0))
    graph = csr_matrix((np.maximum(gap, 1e-9), (rows, columns)), shape=(len(middles),) * 2)
    return float(minimum_spanning_tree(graph).sum())


def timed(do: Callable[[], Any]) -> tuple[float, Any]:
    begun = time.process_time()
    made = do()
    return time.process_time() - begun, made


def order() -> None:
    lines = rings(COUNT)
    points = np.array([line.points[0] for line in lines])
    ours, idle = timed(lambda: idle_of(lines))
    nearest_seconds, nearest = timed(lambda: to_the_nearest(points))
    plain, two = timed(lambda: plain_two_opt(points, nearest))
    bound = lower_bound(lines)
    print(f"order of {COUNT} rings: {ours:.1f} s, idle {idle / 1000:.2f} m")
    print(
        f"  way to the nearest: {nearest_seconds:.1f} s, {length_of(points, nearest) / 1000:.2f} m"
    )
    print(f"  plain 2-opt: {plain:.1f} s, {length_of(points, two) / 1000:.2f} m")
    print(f"  lower bound {bound / 1000:.2f} m: ours is {idle / bound:.2f} times that")
    print(f"  ours takes {ours / (nearest_seconds + plain):.2f} of the plain one's time")


def a_run() -> None:
    words = {"id": "t", "guide": "ring", "text": WORDS, "face": "lato-bold", "height": 12,
             "spacing": "even"}  # fmt: skip
    ring = {"id": "ring", "kind": "circle", "diameter": 300}
    made = document(guides=[ring], letterings=[words], blank={"kind": "disc", "diameter": 340})
    for _ in range(2):  # the first time imports what is needed
        work = workpiece(made)
        assert work.groups
        run, _ = timed(lambda work=work: work.run)
        writing = {
            name: timed(lambda one=one, work=work: one.write(work.run))[0]
            for name, one in RUN_FORMATS.items()
        }
        proof, _ = timed(lambda work=work: work.proof)
    print(f"60 letters: run {run:.3f} s, proof {proof:.3f} s")
    for name, seconds in writing.items():
        print(f"  {name}: {seconds:.3f} s; run and file {(run + seconds) / proof:.2f} of a proof")


def page() -> None:
    """Two dials of 4,800 ticks and a hundred figures each, scrubbed."""
    folder = temporary_folder()
    server = RunningUlvent(folder, "--empty").wait_until_ready()
    try:
        ticks = {"major": {"length": 4}, "minor": {"length": 2}, "parts": 48}
        labels = {"kind": "figures", "first": 1, "last": 100}
        dial = {"id": "d", "guide": "r", "face": "hershey-sans", "height": 2, "text": "",
                "dial": {"labels": labels, "ticks": ticks}}  # fmt: skip
        rings = [{"id": f"r{n}", "kind": "circle", "diameter": 2000 + 20 * n} for n in range(2)]
        letterings = [{**dial, "id": f"d{n}", "guide": f"r{n}"} for n in range(2)]
        piece = document(guides=rings, letterings=letterings, blank=None)
        body = json.dumps({"piece": piece}).encode()
        request = urllib.request.Request(
            f"{server.address}/api/pieces", body, {"Content-Type": "application/json"}
        )
        with urllib.request.urlopen(request) as answer:
            made = json.load(answer)
        with sync_playwright() as play:
            browser = play.chromium.launch(executable_path=EXECUTABLE, args=OPTIONS)
            shown = browser.new_page(viewport={"width": 1280, "height": 800})
            shown.goto(f"{server.address}/pieces/{made['id']}/run")
            scale = shown.get_by_label("Time of the run")
            scale.wait_for(timeout=120_000)
            found = shown.evaluate(SCRUB)
            lines = shown.locator(".words p").inner_text()
            browser.close()
        print(f"rehearsal ({lines}): {found['frames'] / found['seconds']:.0f} frames a second")
        print(f"  the longest between two frames {found['worst']:.0f} ms")
    finally:
        server.stop()
        remove(folder)


SCRUB = """
() => new Promise((done) => {
  const scale = document.querySelector('input[type=range]');
  const end = Number(scale.max);
  const begun = performance.now();
  let frames = 0, last = begun, worst = 0;
  const step = (now) => {
    worst = Math.max(worst, now - last);
    last = now;
    frames += 1;
    const t = (now - begun) / 1000;
    if (t > 6) { done({ frames, seconds: t, worst }); return; }
    scale.value = String(end * (0.5 - 0.5 * Math.cos(2 * t)));
    scale.dispatchEvent(new Event('input', { bubbles: true }));
    requestAnimationFrame(step);
  };
  requestAnimationFrame(step);
})
"""


def main() -> None:
    if "--page" in sys.argv:
        page()
    else:
        order()
        a_run()


if __name__ == "__main__":
    main()
