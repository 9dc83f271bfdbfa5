"""Loose lines of a file made outlines: files often hold a contour as single lines and arcs."""

from __future__ import annotations

import math
from collections.abc import Iterable

from ezdxf.edgeminer import Deposit, find_simple_chain, make_edge

from ulvent.core.curves import Segment
from ulvent.core.outlines import TOUCHING, FileOutline, ends_of, in_line


def joined_ends(lines: Iterable[list[Segment]]) -> list[FileOutline]:
    """Lines in any order and direction; where just two ends touch, they are one outline.

    Outlines come in the order of their first lines, and run the way those do. Where more than
    two ends meet, nothing is guessed; lines that are closed stand by themselves.
    """
    rest = [line for line in lines if line]
    loose = [index for index, line in enumerate(rest) if math.dist(*ends_of(line)) > TOUCHING]
    edges = {index: make_edge(*ends_of(rest[index]), payload=index) for index in loose}
    # There is no deposit of nothing.
    deposit = Deposit(list(edges.values()), gap_tol=TOUCHING) if edges else None
    found: list[FileOutline] = []
    used: set[int] = set()
    for index in range(len(rest)):
        if index in used:
            continue
        mine = [index]
        if deposit and index in edges:
            chain = [edge.payload for edge in find_simple_chain(deposit, edges[index])]
            mine = _left_of(chain, index, used)
        used.update(mine)
        found.append(in_line([rest[one] for one in mine]))
    return found


def _left_of(chain: list[int], index: int, used: set[int]) -> list[int]:
    """What is left of a chain round one of its lines.

    Ends touch that are near enough, so that the first of three in a row may touch the second
    and not the third: what is a chain from one line on may be another one from the next.
    """
    at = chain.index(index)
    begin = max((k + 1 for k in range(at) if chain[k] in used), default=0)
    end = next((k for k in range(at, len(chain)) if chain[k] in used), len(chain))
    return chain[begin:end]
