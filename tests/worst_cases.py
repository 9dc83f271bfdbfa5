"""The worst pieces that are known, each in a process of its own with a bound of memory.

`python -m tests.worst_cases NAME` makes all of one: layout, scene, proof. Prints a line of JSON:
the field and reason where it was refused, how much it grew, and how much work was counted:
points of curves that were asked for, and areas that were joined, parted or offset.
"""

from __future__ import annotations

import json
import logging
import os
import sys
from collections import Counter
from collections.abc import Callable
from typing import Any
from unittest.mock import patch

import numpy as np

from tests.makings import document
from ulvent.core.base.errors import PieceError
from ulvent.core.curves.parametric import Parametric
from ulvent.core.shapes import Region
from ulvent.core.workshop import Workshop
from ulvent.crew.inside import bound_memory, own_bytes
from ulvent.shipped_faces import shipped_face
from ulvent.web.scene import Painting

MOST_BYTES = 300_000_000
WORDS = "QUILLMERE ORCHARD AND OLD RUSSET PEARS "


def _lettering(count: int, **choices: Any) -> dict[str, Any]:
    text = (WORDS * 60)[:count]
    return {"id": "t", "guide": "g", "face": "lato-bold", "height": 6, "text": text} | choices


def _piece(guide: dict[str, Any], *letterings: dict[str, Any], **more: Any) -> dict[str, Any]:
    return document(guides=[{"id": "g", **guide}], letterings=list(letterings), **more)


def _spiral() -> dict[str, Any]:
    return {"kind": "spiral", "inner": 60, "gain": 14, "turns": 60}


def traced(edges: int) -> str:
    """An outline as a tracing program gives it: many short edges that wander a little."""
    chance = np.random.default_rng(1)
    at = np.linspace(0.0, 2.0 * np.pi, edges, endpoint=False)
    radius = 60.0 + 4.0 * np.sin(5.0 * at) + chance.normal(0.0, 0.05, edges)
    points = np.column_stack([radius * np.cos(at), radius * np.sin(at)])
    return "M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in points) + "Z"


def _crossing_cubics(count: int) -> str:
    chance = np.random.default_rng(2)
    points = chance.uniform(-80.0, 80.0, (count, 6))
    return "M0 0" + "".join("C" + " ".join(f"{v:.2f}" for v in row) for row in points)


def _levels(count: int) -> dict[str, Any]:
    base = {"id": "p0", "kind": "path", "d": "M0 0C40 60 80 -60 120 0C160 60 200 40 240 0"}
    more = [
        {"id": f"p{n}", "kind": "parallel", "guide": f"p{n - 1}", "distance": 2.0}
        for n in range(1, count + 1)
    ]
    return document(guides=[base, *more], letterings=[_lettering(20, guide=f"p{count}")])


CASES: dict[str, Callable[[], dict[str, Any]]] = {
    "fifteen parallels, each of the last": lambda: _levels(15),
    "a traced outline of 5,000 edges with a standoff": lambda: _piece(
        {"kind": "path", "d": traced(5000)}, _lettering(60, standoff=3)
    ),
    "a hundred crossing cubics with a standoff": lambda: _piece(
        {"kind": "path", "d": _crossing_cubics(100)}, _lettering(60, standoff=3)
    ),
    "a superellipse of exponent 40": lambda: _piece(
        {"kind": "superellipse", "width": 120, "height": 80, "exponent": 40},
        _lettering(60, standoff=3),
    ),
    "500 letters with bridges, joined": lambda: _piece(
        _spiral(), _lettering(500, prepare={"join": {"over": 0}, "bridges": {"width": 1}})
    ),
    "eight borders on 200 letters": lambda: _piece(
        _spiral(),
        _lettering(200, prepare={"borders": [{"distance": 0.5 * n} for n in range(1, 9)]}),
    ),
    "a proof of 2,000 letters": lambda: _piece(_spiral(), _lettering(2000)),
    "500 letters that turns lie clear of": lambda: _piece(
        _spiral(), _lettering(500, fit={"kind": "height", "within": ["turns"]})
    ),
    "repeats of a tiny pitch": lambda: _piece(
        {"kind": "circle", "diameter": 90000}, _lettering(40, repeat={"pitch": 0.01})
    ),
    "laps of a tiny pitch": lambda: _piece(
        {"kind": "circle", "diameter": 9000}, _lettering(40, laps={"pitch": 0.01})
    ),
    "filling with a tiny pitch": lambda: _piece(
        {"kind": "circle", "diameter": 9000},
        _lettering(40, height=0.2, fill={"way": "lines", "again": True, "pitch": 0.05}),
    ),
    "dials of 720 long labels": lambda: _piece(
        {"kind": "circle", "diameter": 900},
        *(
            _lettering(0, id=f"t{n}", height=2,
                       dial={"labels": {"kind": "list", "words": ["Q" * 80] * 720}})
            for n in range(3)
        ),
    ),
    "hatching of a tiny pitch": lambda: _piece(
        _spiral(),
        _lettering(40, height=60, prepare={"strokes": {"kind": "hatch", "pitch": 0.001}}),
    ),
    "a mark of 190,000 characters": lambda: _piece(
        {"kind": "circle", "diameter": 200},
        _lettering(20, ends={"kind": "outline", "d": _long_mark()}),
    ),
}  # fmt: skip


def _made(name: str) -> dict[str, Any]:
    """A case; those of so many letters are made with other numbers of them as well."""
    if name in CASES:
        return CASES[name]()
    count = int("".join(filter(str.isdigit, name)))
    prepare = {"join": {"over": 0}, "bridges": {"width": 1}} if "bridges" in name else None
    return _piece(_spiral(), _lettering(count, prepare=prepare))


def _long_mark() -> str:
    return "M0 0" + "".join(f"L{n % 97} {n % 89}" for n in range(24_000)) + "Z"


class Counting:
    """Counts work while it is done."""

    def __init__(self) -> None:
        self.points = 0
        self.areas: Counter[str] = Counter()

    def __enter__(self) -> Counting:
        frames, counting = Parametric._frames, self

        def counted_frames(curve: Parametric, stations: Any) -> Any:
            counting.points += len(stations)
            return frames(curve, stations)

        self._patches = [patch.object(Parametric, "_frames", counted_frames)]
        for name in ("minus", "meet", "offset"):
            self._patches.append(patch.object(Region, name, self._counted(name)))
        for one in self._patches:
            one.start()
        return self

    def __exit__(self, *_: object) -> None:
        for one in self._patches:
            one.stop()

    def _counted(self, name: str) -> Callable[..., Region]:
        plain = getattr(Region, name)

        def counted(region: Region, *args: Any, **more: Any) -> Region:
            self.areas[name] += 1
            made: Region = plain(region, *args, **more)
            return made

        return counted


def main() -> None:
    logging.disable(logging.CRITICAL)
    shipped_face("lato-bold").shape(WORDS)
    before = own_bytes(os.getpid())
    bound_memory(MOST_BYTES)
    told: dict[str, Any] = {"field": "", "reason": ""}
    with Counting() as counting:
        try:
            work = Workshop(shipped_face).of_document(_made(sys.argv[1]))
            Painting(work.layout, "t").scene(work.findings).model_dump_json()
            _ = work.proof
        except PieceError as error:
            told = vars(error.problems[0])
    grown = round((own_bytes(os.getpid()) - before) / 1e6)
    areas = sum(counting.areas.values())
    print(json.dumps({**told, "grown_mb": grown, "points": counting.points, "areas": areas}))


if __name__ == "__main__":
    main()
