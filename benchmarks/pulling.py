"""The server's share of a pull: from the text of a request to the texts of its answers.

    .venv/bin/python -m benchmarks.pulling

What the live channel does for each move of a pointer, without socket and page: a request read,
its document found, the act performed, the piece laid out and painted, the answers written. The
page names its document by a hash; beside that stands the same with the document sent along each
time, as a page has to that does not know what the server knows. Both are done in turns in one
run, so that a machine that changes its clock changes both alike. Milliseconds are medians: of
what moves, and of that with the whole scene after it. A ratio above 1 says that naming is faster.
"""

from __future__ import annotations

import json
import math
import time
from typing import Any

import numpy as np
from sqlalchemy import create_engine

from ulvent.bench import Bench
from ulvent.store.added_faces import Faces
from ulvent.web.live_answers import replies

MOVES = 100
LETTERS = 60
POINTS = 40
WORDS = "QUILLMEREORCHARDAUTUMNFAIRPRESSEDBYHANDINTHEOLDBARNNEARLOWER"


def main() -> None:
    print(f"{'':44}{'what moves':>20}{'and the scene':>20}")
    for name, piece, act in cases():
        named, sent = pulled(piece, act)
        ratios = np.median(sent, axis=0) / np.median(named, axis=0)
        moves, scene = np.median(named, axis=0)
        print(f"{name:44}{moves:10.1f} ms × {ratios[0]:4.2f}{scene:10.1f} ms × {ratios[1]:4.2f}")


def cases() -> list[tuple[str, dict[str, Any], dict[str, Any]]]:
    """Pieces, and the act of which each is pulled; `end` of the act is where the pointer is."""
    wave = {"id": "g", "kind": "wave", "length": 120, "height": 30, "waves": LETTERS / 12}
    even = {"spacing": "even", "height": 6, "at": 0.5, "at_in": "share", "align": "centre"}
    step = 9.0 * LETTERS / POINTS
    nodes = [{"at": [step * i, 0.8 * step * math.sin(1.1 * i)]} for i in range(POINTS)]
    drawn = {"id": "g", "kind": "drawn", "nodes": nodes}
    x, y = nodes[POINTS // 2]["at"]
    ring = {"id": "g", "kind": "circle", "diameter": 240, "start": 90, "turn": "clockwise"}
    fit = {"spacing": "even", "fit": {"kind": "height", "margin": 20}}
    return [
        (f"{LETTERS} letters slid along a wave, even gaps", document(wave, **even),
         {"act": "slide-after", "lettering": "x", "start": [0, 0]}),
        (f"a point of {POINTS} pulled", document(drawn, height=10),
         {"act": "pull", "guide": "g", "grip": f"node:{POINTS // 2}", "start": [x, -y]}),
        ("the same on a ring that is pulled, as high as fit", document(ring, **fit),
         {"act": "pull", "guide": "g", "grip": "whole", "start": [0, 0]}),
    ]  # fmt: skip


def document(guide: dict[str, Any], **choices: Any) -> dict[str, Any]:
    lettering = {"id": "x", "guide": "g", "text": WORDS[:LETTERS], "face": "lato-bold"}
    return {"ulvent": 1, "guides": [guide], "letterings": [{**lettering, "height": 8, **choices}]}


def pulled(piece: dict[str, Any], act: dict[str, Any]) -> tuple[np.ndarray, np.ndarray]:
    """(moves, 2) ms until what moves and the whole scene are answered: named, and sent."""
    bench = Bench.over(Faces(create_engine("postgresql+psycopg://")))
    shapes: set[str] = set()
    opened = json.loads(answered(bench, shapes, {"piece": piece})[-1][1])
    start = act["start"]
    took: dict[str, list[list[float]]] = {"named": [], "sent": []}
    for move in range(1, MOVES + 1):
        doing = {**act, "end": [start[0] + 0.11 * move, start[1] + 0.13 * move]}
        for way, begin in (("named", {"base": opened["hash"]}), ("sent", {"piece": piece})):
            # Pulled a little farther the second time: nothing of it has been made yet.
            doing["end"] = [doing["end"][0] + 0.01, doing["end"][1]]
            found = answered(bench, shapes, {**begin, "acts": [doing], "chosen": "x", "hold": True})
            took[way].append([at for at, _ in found])
    return np.array(took["named"]), np.array(took["sent"])


def answered(bench: Bench, shapes: set[str], request: dict[str, Any]) -> list[tuple[float, str]]:
    """The answers to a request, each with the ms until it is written; `shapes` were sent before."""
    text = json.dumps({"sequence": 1, **request})
    begun = time.perf_counter()
    found = [
        (1e3 * (time.perf_counter() - begun), answer) for answer, _ in replies(text, shapes, bench)
    ]
    assert '"scene":null' not in found[-1][1][:400], found[-1][1][:400]
    return found


if __name__ == "__main__":
    main()
