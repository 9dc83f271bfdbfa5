"""Splitting words into runs of one direction, by the Unicode bidirectional algorithm.

The levels come from python-bidi (UAX 9); this module only groups them into runs
and puts the runs into the order in which they stand (rule L2).
"""

from __future__ import annotations

from dataclasses import dataclass

from bidi import algorithm

_FIRST_OTHER_WAY = "\u0590"
"""Below this, Unicode has no letter that runs right to left and no mark of direction."""


@dataclass(frozen=True)
class Run:
    """A stretch `text[start:end]` of one direction."""

    start: int
    end: int
    right_to_left: bool


def visual_runs(text: str) -> list[Run]:
    """Runs of `text` from left to right as they stand."""
    if text and max(text) < _FIRST_OTHER_WAY:
        return [Run(0, len(text), False)]
    levels = _levels(text)
    runs: list[tuple[int, int, int]] = []
    for index, level in enumerate(levels):
        if runs and runs[-1][2] == level:
            runs[-1] = (runs[-1][0], index + 1, level)
        else:
            runs.append((index, index + 1, level))
    # Rule L2: from the highest level down to the lowest odd one, reverse what is at or above it.
    for floor in range(max(levels, default=0), 0, -1):
        at = 0
        while at < len(runs):
            end = at
            while end < len(runs) and runs[end][2] >= floor:
                end += 1
            runs[at:end] = runs[at:end][::-1]
            at = max(end, at + 1)
    return [Run(start, end, level % 2 == 1) for start, end, level in runs]


def _levels(text: str) -> list[int]:
    """The embedding level of each character."""
    base = algorithm.get_base_level(text)
    storage = algorithm.get_empty_storage()
    storage["base_level"], storage["base_dir"] = base, ("L", "R")[base]
    algorithm.get_embedding_levels(text, storage)
    for index, character in enumerate(storage["chars"]):
        character["index"] = index
    algorithm.explicit_embed_and_overrides(storage)
    algorithm.resolve_weak_types(storage)
    algorithm.resolve_neutral_types(storage, False)
    algorithm.resolve_implicit_levels(storage, False)
    known = {character["index"]: character["level"] for character in storage["chars"]}
    # Characters that rule X9 drops (joiners, marks of direction) go with the one before them.
    levels: list[int] = []
    for index in range(len(text)):
        levels.append(known.get(index, levels[-1] if levels else base))
    return levels
