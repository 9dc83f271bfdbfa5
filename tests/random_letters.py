"""Random letters of all shipped faces in thread, in a process of their own.

`python -W error -m tests.random_letters LETTERS [SEED]`. Prints a line of JSON: how many letters
were sewn, the most processor time of one, and what went wrong, by its kind, each with the first
seed that met it.
"""

from __future__ import annotations

import json
import random
import string
import sys
import time
from typing import Any

import numpy as np

from tests.fuzzing import told
from tests.makings import document, workpiece
from ulvent.core.stitches.embroidery import LONGEST
from ulvent.shipped_faces import catalogue

LETTERS = string.ascii_letters + string.digits + "&?!ßéøÅŁ@%§¶½ﬁæ€*+#ﻫשनदੱ⁂"
STITCHES = ("auto", "auto", "satin", "satin", "rows", "run", "bean", "edge", "applique", "quilted")


def piece(seed: int, faces: list[str]) -> dict[str, Any]:
    """One to three letters with figures such as a maker may type."""
    pick = random.Random(seed)
    text = "".join(pick.choice(LETTERS) for _ in range(pick.choice([1, 1, 1, 2, 3])))
    guide = pick.choice([
        {"id": "g", "kind": "line", "length": 800},
        {"id": "g", "kind": "circle", "diameter": pick.choice([40, 200])},
    ])  # fmt: skip
    words = {"id": "t", "guide": "g", "text": text, "face": pick.choice(faces),
             "height": pick.choice([3, 6, 8, 12, 20, 40, 60, 120])}  # fmt: skip
    sewing = {
        "cloth": pick.choice(["woven-cotton", "knit", "felt", "canvas", "towelling"]),
        "thread": pick.choice(["40", "60", "quilting"]),
        "underlay": pick.choice(["auto", "none", "centre", "edge", "zigzag"]),
        "order": pick.choice(["along", "centre"]),
        "spacing": pick.choice([None, None, 0.25, 1.0]),
        "letterings": [{"of": "t", "stitch": pick.choice(STITCHES),
                        "angle": pick.uniform(-400, 400),
                        "width": pick.choice([None, 1.5, 4.0])}],
    }  # fmt: skip
    return document(guides=[guide], letterings=[words], blank=None, sewing=sewing)


def main() -> None:
    count, *seed = map(int, sys.argv[1:])
    faces = [*catalogue()]
    sewn = 0
    slowest = (0.0, 0)
    wrong: dict[str, tuple[int, int]] = {}
    number = seed[0] if seed else 0
    while sewn < count:
        number += 1
        made = piece(number, faces)
        started = time.process_time()
        try:
            for what in _looked_at(made):
                wrong[what] = wrong.get(what, (0, number))[0] + 1, wrong.get(what, (0, number))[1]
        except Exception as error:  # noqa: BLE001  all of them are what is looked for
            what = told(error)
            wrong[what] = wrong.get(what, (0, number))[0] + 1, wrong.get(what, (0, number))[1]
        sewn += len(made["letterings"][0]["text"])
        slowest = max(slowest, (round(time.process_time() - started, 2), number))
    print(json.dumps({"sewn": sewn, "slowest": slowest, "wrong": wrong}))


def _looked_at(made: dict[str, Any]) -> list[str]:
    """What is wrong with a piece in thread."""
    work = workpiece(made)
    found = work.embroidery
    wrong = []
    inked = bool(work.groups) and any(group.cut or group.lines for group in work.groups)
    if inked and not found.sewn:
        wrong.append("ink is there, and nothing is sewn")
    for one in found.sewn:
        if not np.isfinite(one.points).all():
            wrong.append("a needle point is nowhere")
        steps = np.hypot(*np.diff(one.points, axis=0).T)
        if len(steps) and steps.max() > LONGEST + 1e-6:
            wrong.append("a stitch is too long")
        if len(one.points) != len(one.thread.what):
            wrong.append("stitches are not all told apart")
    return wrong


if __name__ == "__main__":
    main()
